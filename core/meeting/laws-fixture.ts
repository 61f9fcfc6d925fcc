import { generateNKeysBetween } from 'fractional-indexing'
import fc from 'fast-check'
import { applyChanges, BLANK, type BriefPart, emptyTree, fromSnapshot, toSnapshot, type Tree } from '../tree'

/* Meetings that nobody thought of, for the laws of meetings. */

export const MINUTE = 60_000
export const line = fc.record({
  title: fc.string({ maxLength: 12 }),
  minutes: fc.option(fc.integer({ min: 1, max: 90 })),
  owner: fc.constantFrom(null, 'ines', 'oskar'),
  pattern: fc.subarray(['Report', 'Concerns', 'Options', 'Facts']),
})
export type Line = typeof line extends fc.Arbitrary<infer T> ? T : never

export function treeWith(lines: readonly Line[]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Meetings' })
  const orders = generateNKeysBetween(null, null, lines.length)
  const parts: BriefPart[] = lines.map(({ title, minutes, owner, pattern }, i) => ({
    id: `l${i}`,
    kind: 'line',
    order: orders[i]!,
    title,
    intent: 'discuss',
    minutes,
    floor: null,
    owner,
    serves: [],
    pattern: [...pattern],
  }))
  applyChanges(tree, [
    {
      op: 'add',
      topic: 'm',
      parent: 'c',
      order: 'a0',
      with: {
        title: 'Meeting 1',
        meeting: [
          { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'Europe/Copenhagen' },
          { id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;BYDAY=TU', closed: [] },
          ...parts,
        ],
      },
    },
  ])
  return tree
}
export const picture = (tree: Tree): string =>
  JSON.stringify([...toSnapshot(tree).topics].sort((a, b) => (a.id < b.id ? -1 : 1)))
export const copyOf = (tree: Tree): Tree => fromSnapshot(toSnapshot(tree))
export const lists = fc.array(line, { minLength: 1, maxLength: 8 })
export const START = Date.parse('2027-03-02T13:00:00Z')
