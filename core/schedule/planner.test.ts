import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Planning } from '../derive/planning'
import { applyChanges, type Change, type Topic, touchedBy, type Tree } from '../tree'
import { seed } from '../../tests/rolled'
import { type Plan, Planner, planOf } from './plan'

const TODAY = '2027-01-20'
const DAYS = ['2027-01-04', '2027-01-11', '2027-01-15', '2027-01-20', '2027-01-23', '2027-02-01', '2027-03-08'] as const

/** A tree of tasks, some of them in branches of branches, that wait for earlier and later ones. */
const TASKS = Array.from({ length: 14 }, (_, i) => `t${i}`)
function begun(waits: readonly (readonly [number, number, number])[]): Tree {
  const tree = seed()
  applyChanges(tree, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree-put', set: 'exceptions', member: { id: '2027-01-21', kind: 'closed', name: '' } },
    ...TASKS.map((topic, i): Change => ({
      op: 'add',
      topic,
      // Every fifth holds those that follow it.
      parent: i % 5 === 0 ? 'a' : TASKS[i - (i % 5)]!,
      order: `b${String(i).padStart(2, '0')}V`,
      with: { title: topic, duration: 1 + (i % 3) },
    })),
    ...waits.map(([by, on, kind], i): Change => ({
      op: 'put',
      topic: TASKS[by % TASKS.length]!,
      set: 'waits',
      member: {
        id: `w${i}`,
        on: TASKS[on % TASKS.length]!,
        kind: (['FS', 'SS', 'FF', 'SF'] as const)[kind % 4]!,
        lag: (kind % 7) - 2,
        days: kind % 3 === 0 ? 'calendar' : 'working',
      },
    })),
  ])
  return tree
}

const day = fc.option(fc.constantFrom(...DAYS))
const rolled: Readonly<Record<string, fc.Arbitrary<unknown>>> = {
  start: day,
  due: day,
  began: day,
  ended: day,
  startMeans: fc.constantFrom('not-before', 'fixed'),
  dueMeans: fc.constantFrom('deadline', 'not-after'),
  duration: fc.option(fc.integer({ min: 0, max: 12 }).map(n => n / 2)),
  estimate: fc.option(fc.constant({ best: 1, likely: 4, worst: 9 })),
  effort: fc.option(fc.integer({ min: 0, max: 40 })),
  done: fc.option(fc.constantFrom(0, 25, 50, 100)),
  left: fc.option(fc.integer({ min: 0, max: 5 })),
  title: fc.constantFrom('a', 'b'),
}
const edit: fc.Arbitrary<Change> = fc
  .tuple(fc.constantFrom(...TASKS), fc.constantFrom(...Object.keys(rolled)))
  .chain(([topic, field]) => rolled[field]!.map(value => ({ op: 'set', topic, field, value }) as Change))
const waits = fc.array(fc.tuple(fc.nat(13), fc.nat(13), fc.nat(27)), { maxLength: 20 })

const plain = (plan: Plan): unknown => ({
  ...plan,
  calendar: null,
  tasks: [...plan.tasks],
  branches: [...plan.branches].sort(([a], [b]) => (a < b ? -1 : 1)),
})

describe('a plan that goes along with its tree', () => {
  it('law: after any edits of what is said of tasks it is as one made afresh, and the one before stays as it was', () => {
    let followed = 0
    fc.assert(
      fc.property(waits, fc.array(fc.array(edit, { minLength: 1, maxLength: 4 }), { maxLength: 8 }), (tied, rounds) => {
        const tree = begun(tied)
        let planner = Planner.of(tree, TODAY)
        if (typeof planner === 'string') return
        for (const changes of rounds) {
          const before = new Map(tree.topics)
          const kept = planner.plan
          const told = JSON.stringify(plain(kept))
          applyChanges(tree, changes)
          const touched = changes.map(change => (change as { topic: string }).topic)
          if (planner.follow(touched, id => before.get(id))) followed++
          else planner = Planner.of(tree, TODAY) as Planner
          expect(plain(planner.plan)).toEqual(plain(planOf(tree, TODAY) as Plan))
          expect(JSON.stringify(plain(kept))).toBe(told)
        }
      }),
      { numRuns: 250 },
    )
    expect(followed).toBeGreaterThan(400)
  })

  it('law: so does the one that the desk keeps, whoever asks in between, also after undo, moves and another calendar', () => {
    const other: fc.Arbitrary<Change> = fc.oneof(
      { weight: 8, arbitrary: edit },
      fc.constantFrom<Change[]>(
        { op: 'tree', field: 'dayHours', value: 6 },
        { op: 'tree', field: 'statusDay', value: '2027-01-15' },
        { op: 'remove', topic: 't6' },
        { op: 'restore', topic: 't6' },
        { op: 'place', topic: 't3', parent: 't10', order: 'c0' },
        { op: 'set', topic: 't1', field: 'tray', value: true },
      ),
      fc
        .tuple(fc.nat(13), fc.nat(13))
        .map(([by, on]): Change => ({
          ...{ op: 'put', topic: TASKS[by]!, set: 'waits' },
          member: { id: 'new', on: TASKS[on]!, kind: 'FS', lag: 0, days: 'working' },
        })),
    )
    fc.assert(
      fc.property(waits, fc.array(fc.tuple(other, fc.boolean()), { maxLength: 16 }), (tied, steps) => {
        const tree = begun(tied)
        const planning = new Planning(
          () => tree,
          () => TODAY,
        )
        planning.get()
        for (const [change, asks] of steps) {
          planning.changed(touchedBy(applyChanges(tree, [change])))
          if (asks) expect(told(planning.get())).toEqual(told(planOf(tree, TODAY)))
        }
        expect(told(planning.get())).toEqual(told(planOf(tree, TODAY)))
      }),
      { numRuns: 250 },
    )
  })

  it('knows when it can’t: what waits for what, where a topic stands, and what is no task any more', () => {
    const tree = begun([])
    const planner = Planner.of(tree, TODAY) as Planner
    const can = (change: Change): boolean => {
      const before: ReadonlyMap<string, Topic> = new Map(tree.topics)
      applyChanges(tree, [change])
      return planner.follow([(change as { topic: string }).topic], id => before.get(id))
    }
    expect(can({ op: 'set', topic: 't1', field: 'duration', value: 7 })).toBe(true)
    expect(can({ op: 'set', topic: 't1', field: 'title', value: 'new' })).toBe(true)
    expect(can({ op: 'set', topic: 't1', field: 'duration', value: null })).toBe(false)
    expect(
      can({
        ...{ op: 'put', topic: 't2', set: 'waits' },
        member: { id: 'w', on: 't3', kind: 'FS', lag: 0, days: 'working' },
      } as Change),
    ).toBe(false)
    expect(can({ op: 'place', topic: 't2', parent: 't10', order: 'c0' })).toBe(false)
    expect(can({ op: 'remove', topic: 't3' })).toBe(false)
  })
})

const told = (plan: ReturnType<typeof planOf>): unknown => (typeof plan === 'string' ? plan : plain(plan))
