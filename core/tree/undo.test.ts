import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  invertOver,
  isLive,
  moveTo,
  type Patch,
  plantAt,
  removeAll,
  toOutline,
  type Tree,
} from './index'

function grown(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [
    { op: 'add', topic: 'fit', parent: 'centre', order: 'a0', with: { title: 'Fit-out' } },
    { op: 'add', topic: 'books', parent: 'centre', order: 'a1', with: { title: 'Books' } },
    { op: 'add', topic: 'lift', parent: 'fit', order: 'a0', with: { title: 'Lift' } },
  ])
  return tree
}
const make = (tree: Tree, changes: readonly Change[]): { changes: readonly Change[]; patches: readonly Patch[] } => ({
  changes,
  patches: applyChanges(tree, changes),
})

describe('undo over others’ work', () => {
  it('a topic that somebody has put work into stays, and so does all above it', () => {
    const tree = grown()
    const { changes, patches } = make(tree, [
      { op: 'add', topic: 'paint', parent: 'fit', order: 'a5', with: { title: 'Paint' } },
      { op: 'add', topic: 'walls', parent: 'paint', order: 'a0' },
      { op: 'add', topic: 'doors', parent: 'paint', order: 'a1' },
    ])
    applyChanges(tree, [{ op: 'set', topic: 'walls', field: 'due', value: '2027-05-12' }])
    const undoing = invertOver(tree, changes, patches, id => id === 'walls')
    expect(undoing).toEqual({
      changes: [{ op: 'remove', topic: 'doors' }],
      stays: [
        { topic: 'walls', why: 'worked' },
        { topic: 'paint', why: 'worked' },
      ],
    })
  })
  it('a topic that stays keeps what the same edit said of it', () => {
    const tree = grown()
    const { changes, patches } = make(tree, [
      { op: 'add', topic: 'paint', parent: 'fit', order: 'a5' },
      { op: 'set', topic: 'paint', field: 'title', value: 'Paint' },
    ])
    applyChanges(tree, [{ op: 'put', topic: 'paint', set: 'markers', member: 'risk' }])
    expect(invertOver(tree, changes, patches, id => id === 'paint')).toEqual({
      changes: [],
      stays: [{ topic: 'paint', why: 'worked' }],
    })
  })
  it('a topic that somebody hung under ours keeps ours', () => {
    const tree = grown()
    const { changes, patches } = make(tree, [{ op: 'add', topic: 'paint', parent: 'fit', order: 'a5' }])
    applyChanges(tree, [{ op: 'add', topic: 'theirs', parent: 'paint', order: 'a0' }])
    expect(invertOver(tree, changes, patches, id => id === 'theirs')).toEqual({
      changes: [],
      stays: [{ topic: 'paint', why: 'worked' }],
    })
  })
  it('a branch isn’t put back where nobody would see it', () => {
    const tree = grown()
    const { changes, patches } = make(tree, moveTo(tree, ['lift'], { parent: 'books', index: 0 }).changes)
    applyChanges(tree, [{ op: 'remove', topic: 'fit' }])
    const undoing = invertOver(tree, changes, patches)
    expect(undoing.stays).toEqual([{ topic: 'lift', why: 'gone' }])
    applyChanges(tree, undoing.changes)
    expect(isLive(tree, 'lift')).toBe(true)
  })
  it('whatever others do, undo of one’s own adds never hides what they added or changed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(9), fc.nat(2)), { minLength: 1, maxLength: 12 }),
        fc.array(fc.tuple(fc.nat(20), fc.nat(2)), { maxLength: 8 }),
        (mine, theirs) => {
          const tree = grown()
          const at = (n: number): string => [...tree.topics.keys()][n % tree.topics.size]!
          let made = 0
          const changes: Change[] = []
          const patches: Patch[] = []
          for (const [under] of mine) {
            const step = addAt(tree, { parent: at(under), index: 0 }, () => `m${made++}`)
            changes.push(...step.changes)
            patches.push(...applyChanges(tree, step.changes))
          }
          const foreign = new Set<string>()
          for (const [where, what] of theirs) {
            const step: readonly Change[] =
              what === 0
                ? addAt(tree, { parent: at(where), index: 0 }, () => `t${made++}`).changes
                : what === 1
                  ? [{ op: 'set', topic: at(where), field: 'title', value: `by them ${where}` }]
                  : [{ op: 'put', topic: at(where), set: 'markers', member: 'risk' }]
            applyChanges(tree, step)
            for (const change of step) foreign.add((change as { topic: string }).topic)
          }
          applyChanges(tree, invertOver(tree, changes, patches, id => foreign.has(id)).changes)
          for (const id of foreign) expect(isLive(tree, id)).toBe(true)
          for (const change of changes)
            if (change.op === 'add' && isLive(tree, change.topic))
              expect(
                [change.topic, ...[...tree.topics.values()].map(topic => topic.id)].some(id => foreign.has(id)),
              ).toBe(true)
        },
      ),
      { numRuns: 400 },
    )
  })
})

describe('what says something is copied', () => {
  it('a done, a length and a place of 0 travel; blank doesn’t', () => {
    const tree = grown()
    applyChanges(tree, [
      { op: 'set', topic: 'lift', field: 'done', value: 0 },
      { op: 'set', topic: 'lift', field: 'duration', value: 0 },
      { op: 'set', topic: 'lift', field: 'x', value: 0 },
      { op: 'set', topic: 'lift', field: 'y', value: 0 },
    ])
    const [copied] = toOutline(tree, 'fit').children
    expect(copied!.details).toEqual({ done: 0, duration: 0, x: 0, y: 0 })
    expect(toOutline(tree, 'books').details).toBeUndefined()
    const step = plantAt(
      tree,
      [{ title: 'Above', children: [copied!] }],
      { parent: 'books', index: 0 },
      (() => {
        let n = 0
        return () => `new${n++}`
      })(),
    )
    applyChanges(tree, step.changes)
    expect(tree.topics.get('new1')).toMatchObject({ done: 0, duration: 0, x: 0, y: 0 })
    expect(removeAll(tree, ['new0']).made).toEqual(['new0'])
  })
})
