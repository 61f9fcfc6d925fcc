import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  chosenHue,
  emptyTree,
  fromSnapshot,
  moveTo,
  removeAll,
  toSnapshot,
  topicOf,
  type Tree,
  withBranchHues,
  wornHues,
} from './index'

function move(): { tree: Tree; make: (title: string, parent?: string, hue?: number) => void; hues: () => object } {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  const hues = (): object =>
    Object.fromEntries([...tree.topics.values()].flatMap(({ id, branchHue }) => (id === 'c' ? [] : [[id, branchHue]])))
  return {
    tree,
    hues,
    make: (title, parent = 'c', branchHue) =>
      applyChanges(
        tree,
        withBranchHues(
          tree,
          addAt(tree, { parent, index: 99 }, () => title, { title, ...(branchHue === undefined ? {} : { branchHue }) })
            .changes,
        ),
      ),
  }
}

describe('the colour of a branch', () => {
  it('is chosen when it’s made, the one used least, and stays wherever it stands', () => {
    const { tree, make, hues } = move()
    for (const title of ['Fit-out', 'Books', 'People']) make(title)
    expect(hues()).toEqual({ 'Fit-out': 0, Books: 1, People: 2 })
    applyChanges(tree, withBranchHues(tree, moveTo(tree, ['People'], { parent: 'c', index: 0 }).changes))
    expect(hues()).toEqual({ 'Fit-out': 0, Books: 1, People: 2 })
    applyChanges(tree, removeAll(tree, ['Books']).changes)
    make('Money')
    expect(topicOf(tree, 'Money').branchHue).toBe(1)
  })
  it('counts those that somebody chose, and begins again when all are in use', () => {
    const { tree, make, hues } = move()
    make('Fit-out')
    applyChanges(tree, [{ op: 'set', topic: 'Fit-out', field: 'hue', value: '4' }])
    for (let i = 0; i < 9; i++) make(`b${i}`)
    expect(Object.values(hues())).toEqual([0, 0, 1, 2, 3, 5, 6, 7, 8, 9])
    make('eleventh')
    expect(topicOf(tree, 'eleventh').branchHue).toBe(0)
  })
  it('comes with becoming a main branch, and waits while it stands under another', () => {
    const { tree, make, hues } = move()
    for (const title of ['Fit-out', 'Books']) make(title)
    make('Lift', 'Fit-out')
    expect(topicOf(tree, 'Lift').branchHue).toBeNull()
    applyChanges(tree, withBranchHues(tree, moveTo(tree, ['Lift'], { parent: 'c', index: 9 }).changes))
    applyChanges(tree, withBranchHues(tree, moveTo(tree, ['Books'], { parent: 'Lift', index: 0 }).changes))
    make('Money')
    applyChanges(tree, withBranchHues(tree, moveTo(tree, ['Books'], { parent: 'c', index: 0 }).changes))
    expect(hues()).toEqual({ 'Fit-out': 0, Lift: 2, Books: 1, Money: 1 })
  })
  it('is worn and counted by branches that were given none, as those made outside a browser', () => {
    const { tree, make } = move()
    make('Fit-out')
    for (const title of ['Books', 'People'])
      applyChanges(tree, addAt(tree, { parent: 'c', index: 0 }, () => title, { title }).changes)
    expect([...wornHues(tree)]).toEqual([
      ['People', 1],
      ['Books', 2],
      ['Fit-out', 0],
    ])
    make('Money')
    expect(topicOf(tree, 'Money').branchHue).toBe(3)
    expect(['c', 'Books', 'Fit-out'].map(id => chosenHue(tree, id, wornHues(tree)))).toEqual([null, '2', '0'])
  })
  it('travels with a copy where it isn’t worn yet', () => {
    const { make, hues } = move()
    make('Fit-out', 'c', 6)
    make('Fit-out again', 'c', 6)
    expect(hues()).toEqual({ 'Fit-out': 6, 'Fit-out again': 0 })
  })
  it('is given to branches of earlier trees by the place they had', () => {
    const { tree, make } = move()
    for (const title of ['Fit-out', 'Books']) make(title)
    const { format: _, ...snapshot } = toSnapshot(tree)
    const old = { ...snapshot, topics: snapshot.topics.map(({ branchHue: __, ...topic }) => topic) }
    expect([...fromSnapshot(old as never).topics.values()].map(({ branchHue }) => branchHue)).toEqual([null, 0, 1])
  })
})
