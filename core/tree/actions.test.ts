import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  childrenOf,
  emptyTree,
  indent,
  insertBelow,
  invertOver,
  memberKey,
  moveAlong,
  moveTo,
  numbering,
  numberOf,
  outdent,
  pathTo,
  removeAll,
  Replica,
  setAll,
  type Step,
  toggleMember,
  topmost,
  toSnapshot,
  type Tree,
  wrapIn,
} from './index'

type Titles = [string, ...Titles[]]

function grow(...branches: Titles[]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  const add = (parent: string, [title, ...below]: Titles): void => {
    const step = addAt(tree, { parent, index: Infinity }, () => title, { title })
    applyChanges(tree, step.changes)
    below.forEach(child => add(title, child))
  }
  branches.forEach(branch => add('centre', branch))
  return tree
}

const seen = (tree: Tree, id = 'centre'): Titles[] =>
  childrenOf(tree, id).map(child => [tree.topics.get(child)!.title, ...seen(tree, child)])
const run = (tree: Tree, step: Step): Titles[] => {
  applyChanges(tree, step.changes)
  return seen(tree)
}
let made = 0
const newId = (): string => `new${made++}`

describe('what people do to a tree', () => {
  const start = (): Tree => grow(['A', ['A1'], ['A2'], ['A3']], ['B', ['B1', ['B1a']]], ['C'])

  it('moves a selection together, in reading order, past its neighbour', () => {
    const tree = start()
    expect(run(tree, moveAlong(tree, ['A3', 'A2'], -1))[0]).toEqual(['A', ['A2'], ['A3'], ['A1']])
    expect(run(tree, moveAlong(tree, ['A2', 'A3'], 1))[0]).toEqual(['A', ['A1'], ['A2'], ['A3']])
    expect(moveAlong(tree, ['A1'], -1).changes).toEqual([])
    expect(moveAlong(tree, ['A1', 'B1'], 1).changes).toEqual([])
  })

  it('goes in under the sibling before, unfolding it, and out after the parent', () => {
    const tree = start()
    applyChanges(tree, setAll(tree, ['A1'], 'folded', true).changes)
    expect(run(tree, indent(tree, ['A2', 'A3']))[0]).toEqual(['A', ['A1', ['A2'], ['A3']]])
    expect(tree.topics.get('A1')!.folded).toBe(false)
    expect(run(tree, outdent(tree, ['A2']))[0]).toEqual(['A', ['A1', ['A3']], ['A2']])
    expect(indent(tree, ['A']).changes).toEqual([])
    expect(outdent(tree, ['A']).changes).toEqual([])
  })

  it('a branch travels whole, and a topic inside another selected one travels with it', () => {
    const tree = start()
    expect(topmost(tree, ['B1a', 'B', 'A2'])).toEqual(['A2', 'B'])
    expect(run(tree, moveTo(tree, ['B1a', 'B', 'A2'], { parent: 'C', index: 0 }))).toEqual([
      ['A', ['A1'], ['A3']],
      ['C', ['A2'], ['B', ['B1', ['B1a']]]],
    ])
    expect(moveTo(tree, ['C'], { parent: 'B1a', index: 0 }).changes).toEqual([])
  })

  it('puts a new parent around many, and a new topic between one and its children', () => {
    const tree = start()
    expect(run(tree, wrapIn(tree, ['A2', 'A3'], newId))[0]).toEqual(['A', ['A1'], ['', ['A2'], ['A3']]])
    expect(run(tree, insertBelow(tree, 'B', newId))[1]).toEqual(['B', ['', ['B1', ['B1a']]]])
    expect(wrapIn(tree, ['centre'], newId).changes).toEqual([])
  })

  it('removes branches, never the centre', () => {
    const tree = start()
    expect(run(tree, removeAll(tree, ['centre', 'A', 'A1', 'C']))).toEqual([['B', ['B1', ['B1a']]]])
    expect(removeAll(tree, ['centre']).changes).toEqual([])
  })

  it('finds room between two siblings that chose the same key', () => {
    const tree = start()
    const { order } = tree.topics.get('A2')!
    applyChanges(tree, [{ op: 'add', topic: 'twin', parent: 'A', order, with: { title: 'twin' } }])
    const before = [...childrenOf(tree, 'A')]
    const step = addAt(tree, { parent: 'A', index: 2 }, () => 'between', { title: 'between' })
    applyChanges(tree, step.changes)
    expect(childrenOf(tree, 'A')).toEqual([before[0], before[1], 'between', before[2], before[3]])
  })

  it('gives a marker to all that lack it, or takes it from all', () => {
    const tree = start()
    applyChanges(tree, toggleMember(tree, ['A1'], 'markers', 'idea').changes)
    applyChanges(tree, toggleMember(tree, ['A1', 'A2'], 'markers', 'idea').changes)
    expect(['A1', 'A2'].map(id => tree.topics.get(id)!.markers)).toEqual([['idea'], ['idea']])
    applyChanges(tree, toggleMember(tree, ['A1', 'A2'], 'markers', 'idea').changes)
    expect(['A1', 'A2'].map(id => tree.topics.get(id)!.markers)).toEqual([[], []])
    expect(memberKey({ id: 'l', url: 'https://tannery.example', title: '' })).toBe('l')
  })

  it('numbers as they are said aloud, and anew when topics move', () => {
    const tree = start()
    expect([numberOf(tree, 'B1a'), numberOf(tree, 'centre')]).toEqual(['2.1.1', ''])
    applyChanges(tree, moveTo(tree, ['B'], { parent: 'centre', index: 0 }).changes)
    expect(numbering(tree).get('B1a')).toBe('1.1.1')
    expect(pathTo(tree, 'B1a').map(topic => topic.id)).toEqual(['centre', 'B', 'B1', 'B1a'])
  })
})

describe('undo over what others did', () => {
  it('takes back what is still one’s own and leaves the rest', () => {
    const tree = grow(['A'], ['B'])
    const mine = new Replica(tree, 0)
    const { item } = mine.make({
      id: 'e',
      changes: [...setAll(tree, ['A', 'B'], 'title', 'mine').changes, ...setAll(tree, ['A'], 'done', 50).changes],
    })
    mine.receive([
      { id: 'e', number: 1, changes: item.edit.changes },
      { id: 'o', number: 2, changes: [{ op: 'set', topic: 'B', field: 'title', value: 'theirs' }] },
    ])
    expect(invertOver(tree, item.edit.changes, item.patches!).changes).toEqual([
      { op: 'set', topic: 'A', field: 'done', value: null },
      { op: 'set', topic: 'A', field: 'title', value: 'A' },
    ])
  })

  it('a topic made and then moved by somebody else still goes with undo; a move they moved on doesn’t come back', () => {
    const tree = grow(['A'], ['B'])
    const mine = new Replica(tree, 0)
    const added = mine.make({ id: 'e1', changes: addAt(tree, { parent: 'A', index: 0 }, () => 'n').changes }).item
    const moved = mine.make({ id: 'e2', changes: moveTo(tree, ['n'], { parent: 'B', index: 0 }).changes }).item
    mine.receive([
      { ...added.edit, number: 1 },
      { ...moved.edit, number: 2 },
      { id: 'o', number: 3, changes: [{ op: 'place', topic: 'n', parent: 'centre', order: 'Zz' }] },
    ])
    expect(invertOver(tree, moved.edit.changes, moved.patches!).changes).toEqual([])
    expect(invertOver(tree, added.edit.changes, added.patches!).changes).toEqual([{ op: 'remove', topic: 'n' }])
  })

  it('what waits can be looked past, and is untouched by it', () => {
    const tree = grow(['A'])
    const mine = new Replica(tree, 0)
    mine.make({ id: 'e', changes: setAll(tree, ['A'], 'title', 'waiting').changes })
    const before = JSON.stringify(toSnapshot(tree))
    expect(mine.confirmed(seen)).toEqual([['A']])
    expect(JSON.stringify(toSnapshot(tree))).toBe(before)
  })

  it('an own edit whose acknowledgement comes late stops waiting', () => {
    const tree = grow(['A'])
    const mine = new Replica(tree, 5)
    const { item } = mine.make({ id: 'e', changes: setAll(tree, ['A'], 'title', 'x').changes })
    mine.receive([{ ...item.edit, number: 3 }])
    expect(mine.waiting).toEqual([])
    expect(mine.receive([{ id: 'later', number: 9, changes: [] }])).toBe(false)
  })
})
