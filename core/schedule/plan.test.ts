import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, type Change, emptyTree, type Initial, type Tree } from '../tree'
import type { Wait } from '../tree/plan'
import { addDays } from './days'
import { type Plan, planOf } from './plan'
import { PlanClock } from './plan-clock'
import { USUAL_DAYS, WorkingCalendar } from './working-calendar'
import { answerPlan, owedInWords, type TaskTold } from './told'

type Given = Omit<Initial, 'waits'> & { readonly after?: readonly (string | Partial<Wait>)[] }
/** A tree whose plan begins on Monday 11 January 2027. */
function grow(topics: Record<string, readonly [parent: string, given?: Given]>, fields: readonly Change[] = []): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }, ...fields])
  for (const [id, [parent, { after = [], ...given } = {}]] of Object.entries(topics)) {
    const waits = after.map((one, i): Wait => ({
      id: `w${i}`,
      on: '',
      kind: 'FS',
      lag: 0,
      days: 'working',
      ...(typeof one === 'string' ? { on: one } : one),
    }))
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, waits, ...given }).changes)
  }
  return tree
}
function plan(tree: Tree, today = '2027-01-11'): Plan {
  const made = planOf(tree, today)
  if (typeof made === 'string') throw new Error(made)
  return made
}
const span = (made: Plan, id: string): string => {
  const one = made.tasks.get(id) ?? made.branches.get(id)!
  return `${one.start} ${one.finish}`
}
const set = (topic: string, field: string, value: unknown): Change => ({ op: 'set', topic, field, value }) as Change

describe('the plan of a tree', () => {
  it('is off until somebody switches it on', () => {
    const tree = grow({ a: ['c', { duration: 2 }] })
    applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: null }])
    expect(planOf(tree, '2027-01-11')).toBe('off')
  })

  it('steps over weekends and closed days, and works extra ones', () => {
    const tree = grow(
      {
        permit: ['c', { duration: 4 }],
        lift: ['c', { duration: 3, after: ['permit'] }],
        open: ['c', { duration: 0, after: ['lift'] }],
      },
      [
        { op: 'tree-put', set: 'exceptions', member: { id: '2027-01-18', kind: 'closed', name: '' } },
        { op: 'tree-put', set: 'exceptions', member: { id: '2027-01-23', kind: 'extra', name: '' } },
      ],
    )
    const made = plan(tree)
    // Monday to Thursday; Friday, Tuesday and Wednesday, since Monday is closed; the opening on the evening of that.
    expect(['permit', 'lift', 'open'].map(id => span(made, id))).toEqual([
      '2027-01-11 2027-01-14',
      '2027-01-15 2027-01-20',
      '2027-01-20 2027-01-20',
    ])
    expect(made.tasks.get('open')!.milestone).toBe(true)
    expect(made.finish).toBe('2027-01-20')
    applyChanges(tree, [set('lift', 'duration', 6)])
    expect(span(plan(tree), 'lift')).toBe('2027-01-15 2027-01-23')
  })

  it('what waited for something that is done can begin, though by days it follows tomorrow; with a lag it waits on', () => {
    const tree = grow({
      permit: ['c', { duration: 4 }],
      lift: ['c', { duration: 3, after: ['permit'] }],
      paint: ['c', { duration: 1, after: [{ on: 'permit', lag: 2 }] }],
    })
    const states = () => ['lift', 'paint'].map(id => plan(tree).tasks.get(id)!.state)
    expect(states()).toEqual(['waiting', 'waiting'])
    const owed = (): (string | null)[] =>
      (answerPlan(tree, plan(tree), { kind: 'tasks', topics: ['permit', 'lift', 'paint', 'gone'] }) as TaskTold[]).map(
        told => owedInWords(told, day => day),
      )
    expect(owed()).toEqual(['can start now', 'waits for “permit”', 'waits for “permit”, 2 working days after'])
    applyChanges(tree, [set('permit', 'done', 100)])
    expect(states()).toEqual(['ready', 'waiting'])
    expect(owed()).toEqual([null, 'can start now', 'waits for “permit”, 2 working days after'])
    applyChanges(tree, [set('lift', 'start', '2027-03-01')])
    expect(owed()[1]).toBe('from 2027-03-01')
  })

  it('says why each begins when it does', () => {
    const made = plan(
      grow({
        a: ['c', { duration: 2 }],
        b: ['c', { duration: 1, after: [{ on: 'a', lag: 2 }] }],
        later: ['c', { duration: 1, start: '2027-02-01' }],
        then: ['c', { duration: 1, start: '2027-01-12', startMeans: 'fixed', after: ['a'] }],
        going: ['c', { duration: 4, done: 50, began: '2027-01-08' }],
        over: ['c', { duration: 1, ended: '2027-01-08', began: '2027-01-07' }],
      }),
    )
    const why = (id: string): string => {
      const { because } = made.tasks.get(id)!
      return because.kind === 'waits' ? `waits for ${because.on}, ${because.wait.lag}` : because.kind
    }
    expect(['a', 'b', 'later', 'then', 'going', 'over'].map(why)).toEqual([
      'plan',
      'waits for a, 2',
      'not-before',
      'fixed',
      'happened',
      'happened',
    ])
    expect(span(made, 'b')).toBe('2027-01-15 2027-01-15')
    expect(made.broken.map(({ by, why }) => `${by} ${why}`)).toEqual(['then fixed'])
    // Two of four days are left, from the status date on.
    expect(span(made, 'going')).toBe('2027-01-08 2027-01-12')
    expect([span(made, 'over'), made.tasks.get('over')!.totalFloat]).toEqual(['2027-01-07 2027-01-08', null])
  })

  it('what isn’t done can’t lie before the status date', () => {
    const tree = grow({ a: ['c', { duration: 2, start: '2027-01-12' }], b: ['c', { duration: 1, after: ['a'] }] })
    const made = plan(tree, '2027-01-20')
    expect([span(made, 'a'), made.tasks.get('a')!.because.kind, span(made, 'b')]).toEqual([
      '2027-01-20 2027-01-21',
      'status',
      '2027-01-22 2027-01-22',
    ])
    applyChanges(tree, [{ op: 'tree', field: 'statusDay', value: '2027-01-11' }])
    expect(span(plan(tree, '2027-01-20'), 'a')).toBe('2027-01-12 2027-01-13')
  })

  it('a deadline only warns; “not after” turns float negative', () => {
    const tree = grow({ a: ['c', { duration: 5, due: '2027-01-13' }] })
    const [warned] = [plan(tree).tasks.get('a')!]
    expect([warned.late, warned.totalFloat]).toEqual([2, 0])
    applyChanges(tree, [set('a', 'dueMeans', 'not-after')])
    expect(plan(tree).tasks.get('a')!.totalFloat).toBe(-2)
    applyChanges(tree, [set('a', 'due', '2027-02-26')])
    expect(plan(tree).tasks.get('a')!.late).toBe(0)
  })

  it('lengths come from what was said: length, likely, start to due, hours among people, or a day that’s assumed', () => {
    const made = plan(
      grow({
        a: ['c', { duration: 2.5 }],
        b: ['c', { estimate: { best: 1, likely: 3, worst: 9 } }],
        d: ['c', { start: '2027-01-15', due: '2027-01-19' }],
        e: ['c', { effort: 24, people: ['ines', 'rana'] }],
        f: ['c', { people: ['ines'] }],
      }),
    )
    expect(['a', 'b', 'd', 'e', 'f'].map(id => made.tasks.get(id)!.length)).toEqual([2.5, 3, 3, 1.5, 1])
    expect([...made.tasks.values()].map(({ assumed }) => assumed)).toEqual([false, false, false, false, true])
    expect(span(made, 'a')).toBe('2027-01-11 2027-01-13')
  })

  it('a dependency of a branch or on one is one of every task in it', () => {
    const made = plan(
      grow({
        fit: ['c'],
        lamps: ['fit', { duration: 3 }],
        lift: ['fit', { duration: 5 }],
        move: ['c', { after: ['fit'] }],
        crates: ['move', { duration: 1 }],
        books: ['move', { duration: 4 }],
        tell: ['c', { duration: 1, after: [{ on: 'move', kind: 'SS', lag: 1 }] }],
      }),
    )
    expect(['crates', 'books', 'tell', 'fit', 'move', 'c'].map(id => span(made, id))).toEqual([
      '2027-01-18 2027-01-18',
      '2027-01-18 2027-01-21',
      '2027-01-19 2027-01-19',
      '2027-01-11 2027-01-15',
      '2027-01-18 2027-01-21',
      '2027-01-11 2027-01-21',
    ])
    expect(made.tasks.get('lamps')!.totalFloat).toBe(2)
    expect([...made.tasks].filter(([, one]) => one.critical).map(([id]) => id)).toEqual(['lift', 'books'])
    expect(made.branches.get('c')).toMatchObject({ tasks: 5, critical: true, totalFloat: 0 })
    expect([...made.tasks].map(([id, { state }]) => `${id} ${state}`)).toEqual([
      'lamps ready',
      'lift ready',
      'crates waiting',
      'books waiting',
      'tell waiting',
    ])
  })

  it('a dependency that can’t be kept to is shown as broken, and the rest is planned', () => {
    const made = plan(
      grow({
        a: ['c', { duration: 1, after: ['b', 'gone'] }],
        b: ['c', { duration: 2, after: ['a'] }],
        fit: ['c', { after: ['lift', 'words'] }],
        lift: ['fit', { duration: 2, after: ['fit', 'lift'] }],
        words: ['c'],
      }),
    )
    expect(made.broken.map(({ by, wait, why }) => `${by} on ${wait.on}: ${why}`).sort()).toEqual([
      'a on b: loop',
      'a on gone: gone',
      'b on a: loop',
      'fit on lift: within',
      'fit on words: nothing',
      'lift on fit: within',
      'lift on lift: within',
    ])
    expect([span(made, 'a'), span(made, 'b')]).toEqual(['2027-01-11 2027-01-11', '2027-01-11 2027-01-12'])
  })

  it('a lag in calendar days runs over weekends', () => {
    const of = (lag: number, days: Wait['days']): string =>
      span(
        plan(grow({ a: ['c', { duration: 4 }], b: ['c', { duration: 1, after: [{ on: 'a', lag, days }] }] })),
        'b',
      ).slice(0, 10)
    // Thursday evening and three days: Monday, whether the paint dries over the weekend or not …
    expect([of(3, 'calendar'), of(3, 'working'), of(1, 'calendar'), of(0, 'calendar'), of(-2, 'calendar')]).toEqual([
      '2027-01-18',
      '2027-01-20',
      '2027-01-18',
      '2027-01-15',
      '2027-01-13',
    ])
  })

  it('branches that wait for branches past all bounds are refused in words, and quickly', () => {
    const tree = grow({})
    const nest = (side: string): string[] => {
      const chain = Array.from({ length: 40 }, (_, i) => `${side}${i}`)
      chain.forEach((id, i) =>
        applyChanges(tree, addAt(tree, { parent: chain[i - 1] ?? 'c', index: Infinity }, () => id, {}).changes),
      )
      for (let i = 0; i < 600; i++)
        applyChanges(
          tree,
          addAt(tree, { parent: chain.at(-1)!, index: Infinity }, () => `${side}leaf${i}`, { duration: 1 }).changes,
        )
      return chain
    }
    const [left, right] = [nest('l'), nest('r')]
    applyChanges(
      tree,
      left.flatMap(topic =>
        right.map((on): Change => ({
          op: 'put',
          topic,
          set: 'waits',
          member: { id: on, on, kind: 'FS', lag: 0, days: 'working' },
        })),
      ),
    )
    expect(planOf(tree, '2027-01-11')).toBe('too-large')
  })

  it('no day to work on is said, not guessed', () => {
    const tree = grow({ a: ['c', { duration: 1 }] }, [{ op: 'tree', field: 'weekdays', value: [] }])
    expect(planOf(tree, '2027-01-11')).toBe('no-working-day')
  })
})

describe('laws of the plan’s clock', () => {
  const calendar = fc
    .record({
      weekdays: fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }),
      closed: fc.array(
        fc.integer({ min: -30, max: 60 }).map(n => addDays('2027-01-11', n)),
        { maxLength: 6 },
      ),
    })
    .map(one => new WorkingCalendar({ ...USUAL_DAYS, ...one }))
  it('lags in calendar days are monotone, and “earlier” is the last from which “later” reaches no further', () => {
    fc.assert(
      fc.property(
        calendar,
        fc.integer({ min: -3000, max: 6000 }),
        fc.integer({ min: -40, max: 40 }),
        fc.integer({ min: 1, max: 900 }),
        (made, minute, days, on) => {
          const clock = new PlanClock(made, '2027-01-11')
          expect(clock.later(minute + on, days)).toBeGreaterThanOrEqual(clock.later(minute, days))
          const back = clock.earlier(minute, days)
          expect(clock.later(back, days)).toBeLessThanOrEqual(minute)
          expect(clock.later(back + 1, days)).toBeGreaterThan(minute)
        },
      ),
      { numRuns: 300 },
    )
  })
})
