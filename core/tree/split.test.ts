import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  besideSlot,
  BLANK,
  type Change,
  childrenOf,
  emptyTree,
  evenSplit,
  fromSnapshot,
  giveSplits,
  lastChild,
  moveAlong,
  moveTo,
  plantAt,
  removeAll,
  sidesBelow,
  topicOf,
  type Tree,
  type TopicId,
  withSplits,
} from './index'

const fresh = (): Tree => emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
function make(tree: Tree, changes: readonly Change[]): void {
  applyChanges(tree, withSplits(tree, changes))
}
/** The order of the main branches, with a bar where the left side begins. */
function read(tree: Tree, parent: TopicId = 'centre'): string {
  const sides = sidesBelow(tree, parent)
  const ids = childrenOf(tree, parent)
  const right = sides.filter(side => side === 'right').length
  expect(sides).toEqual(ids.map((_, i) => (i < right ? 'right' : 'left')))
  return `${ids.slice(0, right).join('')}|${ids.slice(right).join('')}`
}
function grown(letters: string, right: number): Tree {
  const tree = fresh()
  ;[...letters].forEach((id, i) => {
    const side = i < right ? 'right' : 'left'
    applyChanges(tree, addAt(tree, { parent: 'centre', index: i, side }, () => id).changes)
  })
  return tree
}

describe('where the right side ends', () => {
  it('is as even as an order allows (every choice tried)', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 2, maxLength: 14 }), heights => {
        const off = (k: number): number => Math.abs(heights.reduce((sum, h, i) => sum + (i < k ? h : -h), 0))
        const best = Math.min(...Array.from({ length: heights.length - 1 }, (_, i) => off(i + 1)))
        expect(off(evenSplit(heights))).toBe(best)
      }),
    )
    expect([evenSplit([]), evenSplit([4]), evenSplit([1, 1, 1]), evenSplit([1, 1, 1, 1])]).toEqual([0, 1, 2, 2])
  })

  it('holds whoever is put where, on the side they were put, and nobody else changes sides', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 5 }),
        fc.array(fc.tuple(fc.nat(20), fc.nat(20), fc.nat(3)), { maxLength: 20 }),
        (right, steps) => {
          const tree = grown('abcde', right)
          let made = 0
          for (const [a, b, kind] of steps) {
            const ids = childrenOf(tree, 'centre')
            if (ids.length === 0) break
            const was = new Map(ids.map((id, i) => [id, sidesBelow(tree, 'centre')[i]]))
            const beside = ids[b % ids.length]!
            const slot = besideSlot(tree, beside, a % 2 ? 'after' : 'before')
            const moving = ids[a % ids.length]!
            const step =
              kind === 0
                ? addAt(tree, slot, () => `n${made++}`)
                : kind === 1
                  ? moveTo(tree, [moving], slot)
                  : kind === 2
                    ? plantAt(tree, [{ title: 'p', children: [] }], slot, () => `n${made++}`)
                    : removeAll(tree, [moving])
            if (kind === 1 && moving === beside) continue
            applyChanges(tree, step.changes)
            const coming = new Set(step.made)
            const sides = sidesBelow(tree, 'centre')
            childrenOf(tree, 'centre').forEach((id, i) => {
              expect(sides[i]).toBe(coming.has(id) && kind !== 3 ? slot.side : was.get(id))
            })
          }
        },
      ),
    )
  })

  it('is passed by who moves over it, in exchange for whoever is there', () => {
    const tree = grown('abcd', 2)
    expect(read(tree)).toBe('ab|cd')
    applyChanges(tree, moveAlong(tree, ['b'], 1).changes)
    expect(read(tree)).toBe('ac|bd')
    applyChanges(tree, moveAlong(tree, ['b'], -1).changes)
    expect(read(tree)).toBe('ab|cd')
    applyChanges(tree, moveAlong(tree, ['a'], 1).changes)
    expect(read(tree)).toBe('ba|cd')
  })

  it('stays while one side is at most half as tall again as the other: few change sides while a hundred topics are typed', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(2), { minLength: 100, maxLength: 100 }), ways => {
        const tree = fresh()
        let at: TopicId = 'centre'
        let changed = 0
        let was = new Map<TopicId, string>()
        ways.forEach((way, i) => {
          // As one types: on beside, one level in, or out again; out to a new main branch one time in twelve.
          const slot =
            i % 12 === 0 || at === 'centre'
              ? lastChild(tree, 'centre')
              : way === 1 && topicOf(tree, at).parent === 'centre'
                ? lastChild(tree, at)
                : topicOf(tree, at).parent === 'centre'
                  ? lastChild(tree, at)
                  : besideSlot(tree, at, 'after')
          make(tree, addAt(tree, slot, () => `t${i}`).changes)
          at = `t${i}`
          const sides = sidesBelow(tree, 'centre')
          const now = new Map(childrenOf(tree, 'centre').map((id, k) => [id, sides[k]!]))
          for (const [id, side] of was) if (now.get(id) !== side) changed++
          was = now
        })
        expect(changed).toBeLessThanOrEqual(5)
      }),
      { numRuns: 20 },
    )
  })

  it('mends what is uneven, of the centre and of a branch that stands on both sides of its own', () => {
    const tree = grown('abcd', 4)
    make(tree, addAt(tree, { parent: 'centre', index: 4 }, () => 'e').changes)
    expect(read(tree)).toBe('abc|de')
    applyChanges(tree, [{ op: 'set', topic: 'a', field: 'arrangement', value: 'both' }])
    for (const id of ['a1', 'a2', 'a3', 'a4']) make(tree, addAt(tree, lastChild(tree, 'a'), () => id).changes)
    expect(read(tree, 'a')).toBe('a1a2|a3a4')
    // Elsewhere nothing is stored.
    make(tree, addAt(tree, lastChild(tree, 'b'), () => 'b1').changes)
    expect(topicOf(tree, 'b').split).toBeNull()
  })

  it('is given to a tree that comes in', () => {
    const tree = fresh()
    for (const id of ['a', 'b', 'c', 'd'])
      applyChanges(tree, [{ op: 'add', topic: id, parent: 'centre', order: `a${id}` }])
    for (const id of ['a1', 'a2', 'a3']) applyChanges(tree, [{ op: 'add', topic: id, parent: 'a', order: `a${id}` }])
    giveSplits(tree)
    expect(read(tree)).toBe('a|bcd')
  })

  it('is found in a tree in which each main branch had a side of its own', () => {
    const topic = (id: string, order: string, side: string): object => ({ id, parent: 'centre', order, side })
    const tree = fromSnapshot({
      format: 3,
      centre: 'centre',
      fields: fresh().fields,
      topics: [
        { id: 'centre', parent: null, order: 'a0' },
        topic('a', 'a0', 'left'),
        topic('b', 'a1', 'right'),
        topic('c', 'a2', 'right'),
        topic('d', 'a3', 'right'),
      ],
    } as never)
    expect(read(tree)).toBe('abc|d')
    expect(topicOf(tree, 'a')).not.toHaveProperty('side')
  })
})
