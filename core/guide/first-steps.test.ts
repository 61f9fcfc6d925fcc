import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Change, moveAlong, type Tree } from '../tree'
import { FIRST_STEPS, isDone, seenIn } from './first-steps'

const fresh = (): Tree => emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'My first tree' })
const add = (tree: Tree, id: string, parent = 'c'): void =>
  void applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id }).changes)
const set = (field: string, value: unknown): Change => ({ op: 'set', topic: 'a', field, value }) as Change

describe('first steps', () => {
  it('are said for keys and for thumbs, and a thumb is told of buttons alone', () => {
    for (const { words, thumb } of FIRST_STEPS) {
      expect(words).toMatch(/\{[\w-]+\}/)
      // Words on buttons begin with a capital; names of actions don't.
      for (const [, name] of thumb.matchAll(/\{([\w-]+)\}/g)) expect(name).toMatch(/^(?:[A-Z][a-z]+|me)$/)
    }
  })

  it('are done one after the other by real acts, and none by the act of another', () => {
    const tree = fresh()
    let from = seenIn(tree)
    const done = (undone = false): string[] =>
      FIRST_STEPS.filter(({ id }) => isDone(id, from, seenIn(tree), undone)).map(({ id }) => id)
    const after = (what: () => void, wanted: string[]): void => {
      from = seenIn(tree)
      what()
      expect(done()).toEqual(wanted)
    }
    expect(done()).toEqual([])
    after(() => applyChanges(tree, [{ op: 'set', topic: 'c', field: 'title', value: 'Move' }]), ['name'])
    after(() => ['a', 'b'].forEach(id => add(tree, id)), [])
    after(() => ['d', 'e', 'f'].forEach(id => add(tree, id)), ['pour'])
    after(() => add(tree, 'under', 'a'), ['nest'])
    after(() => applyChanges(tree, moveAlong(tree, ['b'], 1).changes), ['move'])
    after(() => applyChanges(tree, [{ op: 'put', topic: 'a', set: 'markers', member: 'decision' }]), ['mark'])
    after(() => applyChanges(tree, [{ op: 'put', topic: 'a', set: 'people', member: 'ines' }]), ['give'])
    after(() => applyChanges(tree, [set('due', '2027-01-01')]), [])
    expect(done(true)).toEqual(['undo'])
  })
  it('don’t count an empty name', () => {
    const tree = fresh()
    const from = seenIn(tree)
    applyChanges(tree, [{ op: 'set', topic: 'c', field: 'title', value: '  ' }])
    expect(isDone('name', from, seenIn(tree), false)).toBe(false)
  })
})
