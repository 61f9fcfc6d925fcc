import { expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  type Change,
  emptyTree,
  fromElsewhere,
  toOutline,
  topicOf,
  type Tree,
} from '../tree'
import type { Elsewhere, Wait } from '../tree/plan'
import { refuseCircles } from '../tree/waits'
import { chancesOf } from './chances'
import { evenOut } from './even-out'
import { type Plan, planOf } from './plan'
import { becauseInWords, brokenInWords } from './plan-words'
import { daysOfTopic } from './told'

/* What waits for topics of other trees goes by what is known of them, and by nothing else. */

const GRANT: Elsewhere = {
  tree: 'council',
  title: 'Grant',
  treeTitle: 'Council',
  start: '2027-01-13',
  finish: '2027-01-20',
  state: 'open',
  asked: 1_799_000_000_000,
}
/** A plan from Monday 11 January 2027: the lift, two days, waits for the grant; the books, three, for nobody. */
function grown(wait: Partial<Wait> = {}, known: Partial<Elsewhere> = {}): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
  const waits: Wait[] = [
    { id: 'w', on: 'grant', elsewhere: { ...GRANT, ...known }, kind: 'FS', lag: 0, days: 'working', ...wait },
  ]
  for (const [id, more] of [
    ['lift', { duration: 2, waits, people: ['ines'] }],
    ['books', { duration: 3, people: ['ines'] }],
  ] as const)
    applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { title: id, ...more }).changes)
  return tree
}
function plan(tree: Tree, today = '2027-01-11'): Plan {
  const made = planOf(tree, today)
  if (typeof made === 'string') throw new Error(made)
  return made
}
const speaker = { titleOf: (id: string) => id, day: (iso: string) => iso }
const span = (made: Plan, id: string): string => `${made.tasks.get(id)!.start} ${made.tasks.get(id)!.finish}`

it.each([
  // It ends on Wednesday the 20th.
  ['FS', 0, 'working', '2027-01-21 2027-01-22'],
  ['FS', 2, 'working', '2027-01-25 2027-01-26'],
  ['FS', 3, 'calendar', '2027-01-25 2027-01-26'],
  ['FS', -1, 'working', '2027-01-20 2027-01-21'],
  // It begins on Wednesday the 13th.
  ['SS', 0, 'working', '2027-01-13 2027-01-14'],
  ['FF', 0, 'working', '2027-01-19 2027-01-20'],
  ['SF', 1, 'working', '2027-01-12 2027-01-13'],
] as const)('%s with %i %s days', (kind, lag, days, expected) => {
  const made = plan(grown({ kind, lag, days }))
  expect(span(made, 'lift')).toBe(expected)
  expect(made.broken).toEqual([])
  expect(becauseInWords(made.tasks.get('lift')!.because, made.tasks.get('lift')!, speaker)).toContain(
    'waits for “Grant” of “Council”',
  )
})

it('the plan’s end is its own: what lies in another tree doesn’t put it off, and floats nothing', () => {
  // Sixty days of lead: the grant ends long after all of it.
  const made = plan(grown({ lag: -60 }, { finish: '2027-06-30' }))
  expect(made.finish! < '2027-06-01').toBe(true)
  const alone = plan(grown({ kind: 'SF', lag: -400 }, { start: '2028-06-30', finish: '2028-06-30' }))
  expect(alone.finish).toBe('2027-01-13')
  expect(alone.tasks.get('books')!.critical).toBe(true)
  expect(alone.tasks.get('lift')!.totalFloat).toBe(1)
})

it('what was done there before the plan begins holds nothing; what isn’t done there yet holds, also past its day', () => {
  const done = plan(grown({}, { finish: '2026-12-01', start: null, state: 'done' }))
  expect(span(done, 'lift')).toBe('2027-01-11 2027-01-12')
  expect(done.tasks.get('lift')!.state).toBe('ready')
  const late = plan(grown({}, { finish: '2026-12-01', start: null, state: 'begun' }))
  expect(late.tasks.get('lift')!.state).toBe('waiting')
  expect(plan(grown({ kind: 'SS' }, { start: '2026-12-01', state: 'begun' })).tasks.get('lift')!.state).toBe('ready')
})

it('what has no date there is said as broken, and binds nothing', () => {
  const made = plan(grown({}, { start: null, finish: null }))
  expect(span(made, 'lift')).toBe('2027-01-11 2027-01-12')
  expect(made.broken.map(one => brokenInWords(one, speaker))).toEqual([
    '“lift” waits for “Grant” of “Council”, of which no date is known yet. Look again once it has one.',
  ])
  // Where only its start is known, that is what counts.
  expect(span(plan(grown({}, { finish: null })), 'lift')).toBe('2027-01-14 2027-01-15')
})

it('a fixed date before it is said as contradicted', () => {
  const tree = grown()
  applyChanges(tree, [
    { op: 'set', topic: 'lift', field: 'start', value: '2027-01-12' },
    { op: 'set', topic: 'lift', field: 'startMeans', value: 'fixed' },
  ])
  expect(plan(tree).broken).toMatchObject([{ by: 'lift', why: 'fixed' }])
})

it('a branch waits as a whole, and chances and evening out go by it', () => {
  const tree = grown()
  applyChanges(tree, addAt(tree, { parent: 'lift', index: 0 }, () => 'shaft', { title: 'shaft', duration: 1 }).changes)
  applyChanges(tree, addAt(tree, { parent: 'lift', index: 1 }, () => 'cab', { title: 'cab', duration: 4 }).changes)
  const made = plan(tree)
  expect(span(made, 'shaft')).toBe('2027-01-21 2027-01-21')
  expect(span(made, 'cab')).toBe('2027-01-21 2027-01-26')
  const run = chancesOf(tree, '2027-01-11', { rounds: 100, seed: 1, shape: 'beta' })
  let step = run.next()
  while (!step.done) step = run.next()
  expect(step.value).toMatchObject({ days: { sure: '2027-01-26' } })
  // The grant ends on Tuesday, the books keep Ines until Wednesday: the lift makes way by the day that they share.
  const even = evenOut(grown({}, { finish: '2027-01-12' }), '2027-01-11')!
  expect(even.moved).toEqual([{ topic: 'lift', from: '2027-01-13', to: '2027-01-14' }])
})

it('it goes along to a third tree and is no circle here, though a topic there is called as one here', () => {
  const tree = grown({ on: 'lift' })
  const put = (member: Wait): Change => ({ op: 'put', topic: 'lift', set: 'waits', member })
  expect(() => refuseCircles(tree, [put(topicOf(tree, 'lift').waits[0]!)])).not.toThrow()
  expect(plan(tree).broken).toEqual([])
  const [item] = fromElsewhere([toOutline(tree, 'lift')], 'here')
  expect(item!.details!.waits).toEqual(topicOf(tree, 'lift').waits)
})

it('the days of a topic are those of its plan, a branch’s from its first to its last; without a plan as they were typed', () => {
  const tree = grown()
  applyChanges(tree, addAt(tree, { parent: 'lift', index: 0 }, () => 'shaft', { title: 'shaft', done: 100 }).changes)
  applyChanges(tree, addAt(tree, { parent: 'lift', index: 1 }, () => 'cab', { title: 'cab', duration: 4 }).changes)
  const made = plan(tree)
  expect(daysOfTopic(tree, made, 'cab')).toEqual({ start: '2027-01-21', finish: '2027-01-26', state: 'open' })
  expect(daysOfTopic(tree, made, 'lift')).toMatchObject({ finish: '2027-01-26', state: 'begun' })
  applyChanges(tree, [
    { op: 'set', topic: 'books', field: 'due', value: '2027-02-01' },
    { op: 'set', topic: 'books', field: 'done', value: 40 },
  ])
  expect(daysOfTopic(tree, null, 'books')).toEqual({ start: null, finish: '2027-02-01', state: 'begun' })
})
