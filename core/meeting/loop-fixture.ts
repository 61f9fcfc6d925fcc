import { applyChanges, BLANK, type BriefPart, childrenOf, emptyTree, topicOf, type Tree } from '../tree'
import { layOut } from './agenda'
import { plannedOf } from './planned'
import { findingsOf } from './readiness'
import { capture } from './record'
import { moveOn } from './running'

/*
 * The demo's third coordination meeting, planned and held, for the tests of the loop.
 */

export const nameOf = (id: string): string =>
  ({ ines: 'Ines Brandt', rana: 'Rana Tahiri', oskar: 'Oskar Moreau' })[id] ?? 'Somebody'
let made = 0
export const newId = (): string => `n${made++}`
export const line = (
  id: string,
  order: string,
  title: string,
  part: Partial<Extract<BriefPart, { kind: 'line' }>> = {},
): BriefPart => ({
  id,
  kind: 'line',
  order,
  title,
  intent: 'decide',
  minutes: 20,
  floor: null,
  owner: 'oskar',
  serves: [],
  pattern: [],
  ...part,
})

export function meetingTree(): Tree {
  made = 0
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Coordination meetings' })
  const parts: BriefPart[] = [
    { id: 'why', kind: 'why', text: 'Decide who moves us.' },
    { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'Europe/Copenhagen' },
    { id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', closed: ['2027-03-16'] },
    { id: 'm1', kind: 'must', order: 'a0', text: 'Which removal firm' },
    { id: 'p1', kind: 'person', user: 'ines', mail: null, name: '', needed: true, role: 'chair' },
    { id: 'p2', kind: 'person', user: 'oskar', mail: null, name: '', needed: true, role: null },
    { id: 'p3', kind: 'person', user: null, mail: 'joiner@oak.example', name: 'The joiner', needed: false, role: null },
    line('l1', 'a1', 'Two offers', { serves: ['m1'], pattern: ['Report', 'Options'] }),
    line('l2', 'a2', 'Neighbours', { intent: 'discuss', minutes: 10, owner: 'rana' }),
  ]
  applyChanges(tree, [
    { op: 'add', topic: 'm', parent: 'c', order: 'a0', with: { title: 'Meeting 3', meeting: parts } },
  ])
  return tree
}
export const titles = (tree: Tree, id: string): string[] =>
  childrenOf(tree, id).map(child => topicOf(tree, child).title)
export const findings = (tree: Tree): string[] =>
  findingsOf(plannedOf(tree, 'm', { nameOf, lead: 'ines', elsewhere: new Map(), closed: new Set(), reading: {} })).map(
    ({ kind }) => kind,
  )

export const START = Date.parse('2027-03-02T13:02:00Z')
export const minute = 60_000

/** Begun at 14:02; 26 minutes on the first item, 6 on the second. */
export function held(tree: Tree): Tree {
  applyChanges(tree, layOut(tree, 'm'))
  const go = (to: 'begin' | 'next' | 'end', from: number | null, at: number): void => {
    const moved = moveOn(tree, 'm', { to }, from, START + at * minute, 'ines', 7)
    if (moved.kind !== 'moved') throw new Error(moved.kind)
    applyChanges(tree, moved.changes)
  }
  const said = { by: 'rana', name: 'Rana Tahiri', at: START + 10 * minute }
  go('begin', null, 0)
  applyChanges(tree, capture(tree, 'l1', 'decision', { title: 'Two Rivers moves us' }, said, () => 'd1').changes)
  applyChanges(
    tree,
    capture(tree, 'l1', 'action', { title: 'Sign the offer', people: ['oskar'], due: '2027-03-05' }, said, () => 'a1')
      .changes,
  )
  go('next', 1, 26)
  applyChanges(tree, capture(tree, 'l2', 'question', { title: 'Who holds the keys?' }, said, () => 'q1').changes)
  applyChanges(tree, capture(tree, 'm', 'parked', { title: 'Late opening' }, said, () => 'k1').changes)
  go('next', 2, 32)
  go('end', 3, 33)
  return tree
}
