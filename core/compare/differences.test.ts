import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  fromSnapshot,
  isLive,
  lastChild,
  removeAll,
  toSnapshot,
  type Tree,
} from '../tree'
import { differencesOf } from './differences'

const copyOf = (tree: Tree): Tree => fromSnapshot(toSnapshot(tree))
function grow(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent] of [
    ['fit', 'c'],
    ['shelves', 'fit'],
    ['lift', 'fit'],
    ['books', 'c'],
    ['crates', 'books'],
  ] as const)
    applyChanges(tree, addAt(tree, lastChild(tree, parent), () => id, { title: id }).changes)
  return tree
}
const told = (before: Tree, after: Tree): string[] =>
  differencesOf(before, after).map(({ kind, id }) => `${kind} ${id}`)

describe('the differences between two states of a tree', () => {
  it('are none between a tree and its copy, however it was loaded', () => {
    const tree = grow()
    expect(told(tree, copyOf(tree))).toEqual([])
  })
  it.each<[string, Change[], string[]]>([
    ['a title', [{ op: 'set', topic: 'lift', field: 'title', value: 'Lift, ordered' }], ['changed lift']],
    ['a member of a set', [{ op: 'put', topic: 'lift', set: 'people', member: 'oskar' }], ['changed lift']],
    ['another parent', [{ op: 'place', topic: 'lift', parent: 'books', order: 'a9' }], ['moved lift']],
    [
      'another parent and another title',
      [
        { op: 'place', topic: 'lift', parent: 'books', order: 'a9' },
        { op: 'set', topic: 'lift', field: 'due', value: '2027-03-01' },
      ],
      ['moved lift', 'changed lift'],
    ],
    ['order alone', [{ op: 'place', topic: 'lift', parent: 'fit', order: 'Zz' }], []],
    [
      'where it stands by hand, and its fold',
      [
        { op: 'set', topic: 'lift', field: 'x', value: 5 },
        { op: 'set', topic: 'fit', field: 'folded', value: true },
      ],
      [],
    ],
    [
      'a branch that goes takes each of its topics along',
      [{ op: 'remove', topic: 'fit' }],
      ['removed fit', 'removed shelves', 'removed lift'],
    ],
    [
      'made and gone again',
      [
        { op: 'add', topic: 'n', parent: 'c', order: 'b0V', with: { title: 'n' } },
        { op: 'remove', topic: 'n' },
      ],
      [],
    ],
    [
      'set and set back',
      [
        { op: 'set', topic: 'lift', field: 'title', value: 'x' },
        { op: 'set', topic: 'lift', field: 'title', value: 'lift' },
      ],
      [],
    ],
  ])('%s', (_, changes, expected) => {
    const tree = grow()
    const before = copyOf(tree)
    applyChanges(tree, changes)
    expect(told(before, tree).sort()).toEqual([...expected].sort())
  })
  it('count a change of order alone where it’s asked for, as the one topic that explains it', () => {
    const tree = grow()
    applyChanges(tree, addAt(tree, lastChild(tree, 'fit'), () => 'ramp', { title: 'ramp' }).changes)
    const before = copyOf(tree)
    applyChanges(tree, [{ op: 'place', topic: 'shelves', parent: 'fit', order: 'b0V' }])
    expect(differencesOf(before, tree, { order: true }).map(({ kind, id }) => `${kind} ${id}`)).toEqual([
      'moved shelves',
    ])
  })
  it('name the path, the fields and what a title was', () => {
    const tree = grow()
    const before = copyOf(tree)
    applyChanges(tree, [
      { op: 'set', topic: 'lift', field: 'title', value: 'Lift, ordered' },
      { op: 'set', topic: 'lift', field: 'done', value: 40 },
      { op: 'set', topic: 'fit', field: 'title', value: 'Fit-out' },
      { op: 'remove', topic: 'crates' },
    ])
    expect(differencesOf(before, tree)).toEqual([
      { id: 'fit', kind: 'changed', title: 'Fit-out', path: ['Move'], fields: ['title'], was: 'fit' },
      {
        id: 'lift',
        kind: 'changed',
        title: 'Lift, ordered',
        path: ['Move', 'Fit-out'],
        fields: ['title', 'done'],
        was: 'lift',
      },
      { id: 'crates', kind: 'removed', title: 'crates', path: ['Move', 'books'], fields: [], was: null },
    ])
  })
  it('turn round with the two states: what came goes, what went comes, the rest changes or moves either way', () => {
    const step = fc.record({
      what: fc.constantFrom('add', 'remove', 'place', 'title'),
      at: fc.nat({ max: 30 }),
      to: fc.nat({ max: 30 }),
    })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 15 }), steps => {
        const tree = grow()
        const before = copyOf(tree)
        steps.forEach(({ what, at, to }, n) => {
          const live = [...tree.topics.keys()].filter(id => isLive(tree, id))
          const [topic, other] = [live[at % live.length]!, live[to % live.length]!]
          const changes =
            what === 'add'
              ? addAt(tree, lastChild(tree, topic), () => `n${n}`, { title: `n${n}` }).changes
              : what === 'remove'
                ? removeAll(tree, [topic]).changes
                : what === 'title'
                  ? [{ op: 'set' as const, topic, field: 'title' as const, value: `t${n}` }]
                  : [{ op: 'place' as const, topic, parent: other, order: `a${n}V` }]
          try {
            applyChanges(tree, changes)
          } catch {
            /* a loop, or the centre */
          }
        })
        const kinds = (from: Tree, to: Tree, kind: string): string[] =>
          differencesOf(from, to)
            .filter(one => one.kind === kind)
            .map(({ id }) => id)
            .sort()
        expect(kinds(before, tree, 'added')).toEqual(kinds(tree, before, 'removed'))
        expect(kinds(before, tree, 'removed')).toEqual(kinds(tree, before, 'added'))
        expect(kinds(before, tree, 'moved')).toEqual(kinds(tree, before, 'moved'))
        expect(kinds(before, tree, 'changed')).toEqual(kinds(tree, before, 'changed'))
      }),
    )
  })
})
