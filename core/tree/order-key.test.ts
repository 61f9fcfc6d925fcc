import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readJson } from '../formats/json'
import {
  addAt,
  applyChanges,
  BLANK,
  changeSchema,
  childrenOf,
  emptyTree,
  isOrderKey,
  keysAt,
  movedLine,
  moveTo,
} from './index'

describe('order keys', () => {
  it('ten thousand topics put in at one place keep short keys, their order, and what the door accepts', () => {
    const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
    applyChanges(tree, [
      { op: 'add', topic: 'first', parent: 'centre', order: 'a0' },
      { op: 'add', topic: 'last', parent: 'centre', order: 'a1' },
    ])
    let longest = 0
    let renewed = 0
    for (let i = 0; i < 10_000; i++) {
      const { changes } = addAt(tree, { parent: 'centre', index: 1 }, () => `t${i}`)
      renewed += changes.length - 1
      for (const change of changes) if ('order' in change) longest = Math.max(longest, change.order.length)
      if (i % 500 === 0) for (const change of changes) expect(changeSchema.safeParse(change).success).toBe(true)
      applyChanges(tree, changes)
    }
    expect(longest).toBeLessThan(60)
    expect(renewed).toBeLessThan(20_000)
    expect(childrenOf(tree, 'centre')).toEqual([
      'first',
      ...Array.from({ length: 10_000 }, (_, i) => `t${9999 - i}`),
      'last',
    ])
  })

  it('newcomers and whoever steps aside stand where they should, whatever keys were there', () => {
    const key = fc.oneof(
      fc.constantFrom('a0', 'a1', 'a0V', 'Zz', 'a00001', `a0${'V'.repeat(120)}`, `a0${'V'.repeat(121)}`),
      fc.nat(60).map(n => keysAt([], 0, n + 1).keys[n]!),
    )
    fc.assert(
      fc.property(
        fc.array(key, { maxLength: 40 }),
        fc.nat(40),
        fc.integer({ min: 1, max: 5 }),
        (given, index, count) => {
          const orders = [...given].sort()
          const at = Math.min(index, orders.length)
          const { keys, aside } = keysAt(orders, at, count)
          const all = [
            ...orders.slice(0, at).map((order, i) => aside.get(i) ?? order),
            ...keys,
            ...orders.slice(at).map((order, i) => aside.get(at + i) ?? order),
          ]
          expect(keys).toHaveLength(count)
          for (const one of keys) expect(isOrderKey(one)).toBe(true)
          for (const one of keys) expect(one.length).toBeLessThanOrEqual(60)
          // Around the newcomers the order is strict; ties further off are left to the ids, as before.
          for (let i = Math.max(1, at); i <= Math.min(all.length - 1, at + count); i++)
            expect(all[i - 1]! < all[i]!).toBe(true)
          expect(all).toEqual([...all].sort())
        },
      ),
      { numRuns: 2000 },
    )
  })

  it('lines go up and down for ever', () => {
    let list = ['a', 'b', 'c'].map((id, i) => ({ id, order: `a${i}` }))
    for (let i = 0; i < 5000; i++) {
      for (const one of movedLine(list, 'b', i % 2 === 0 ? -1 : 1))
        list = list.map(other => (other.id === one.id ? one : other))
      list.sort((x, y) => (x.order < y.order ? -1 : 1))
      expect(list.map(one => one.id).join('')).toBe(i % 2 === 0 ? 'bac' : 'abc')
    }
    expect(Math.max(...list.map(one => one.order.length))).toBeLessThan(60)
    expect(movedLine(list, 'a', -1)).toEqual([])
  })

  it('a bad key in a file is refused by name', () => {
    const file = (order: string): string =>
      JSON.stringify({
        format: 'sun-porch-tree',
        version: 1,
        tree: {
          centre: 'c',
          fields: {},
          topics: [
            { id: 'c', parent: null, order: 'a0' },
            { id: 't', parent: 'c', order },
          ],
        },
      })
    expect(readJson(file('a1')).tree.topics.size).toBe(2)
    for (const bad of ['zzz', 'a0V0', '!']) expect(() => readJson(file(bad))).toThrow(`“${bad}” isn’t an order key`)
    expect(moveTo(readJson(file('a1')).tree, ['t'], { parent: 'c', index: 0 }).made).toEqual(['t'])
  })
})
