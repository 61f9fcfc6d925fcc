import fc from 'fast-check'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { readRhythm, type Rhythm, writeRhythm } from '../tree/again'
import {
  applyChanges,
  type Change,
  fromSnapshot,
  invertOver,
  type Topic,
  topicOf,
  toSnapshot,
  type Tree,
} from '../tree'
import { seed } from '../../tests/rolled'
import { addDays } from './days'
import { loadOf } from './load'
import { planOf } from './plan'
import { daysOffOf, EVERY_DAY, finished, turnAfter, turnsAfter, turnsAhead } from './turns'

const first = (count: number, rule: string, from: string, after = addDays(from, -1), off = EVERY_DAY): string[] => {
  const days: string[] = []
  for (const day of turnsAfter({ rule, from }, after, off)) {
    if (days.length === count) break
    days.push(day)
  }
  return days
}
const grown = (content: Partial<Topic>, ...more: Change[]): Tree => {
  const tree = seed()
  applyChanges(tree, [{ op: 'add', topic: 'water', parent: 'a', order: 'b0', with: content }, ...more])
  return tree
}
const weekly = { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-03-01' }
const water = (tree: Tree): Topic => topicOf(tree, 'water')

describe('a rule is read', () => {
  // Source: RFC 5545, section 3.8.5.3, whose examples these are (dates recalled from memory, in 1997 as there).
  it.each([
    ['FREQ=DAILY;INTERVAL=10', '1997-09-02', ['1997-09-02', '1997-09-12', '1997-09-22', '1997-10-02']],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH', '1997-09-02', ['1997-09-02', '1997-09-04', '1997-09-16', '1997-09-18']],
    ['FREQ=MONTHLY;BYDAY=1FR', '1997-09-05', ['1997-09-05', '1997-10-03', '1997-11-07', '1997-12-05']],
    ['FREQ=MONTHLY;BYDAY=-2MO', '1997-09-22', ['1997-09-22', '1997-10-20', '1997-11-17', '1997-12-22']],
    ['FREQ=MONTHLY;BYMONTHDAY=-1', '1997-09-30', ['1997-09-30', '1997-10-31', '1997-11-30', '1997-12-31']],
    ['FREQ=MONTHLY;BYMONTHDAY=31', '1997-10-31', ['1997-10-31', '1997-12-31', '1998-01-31', '1998-03-31']],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', '1996-02-29', ['1996-02-29', '2000-02-29', '2004-02-29', '2008-02-29']],
    ['FREQ=WEEKLY;BYDAY=TU;UNTIL=19970916', '1997-09-02', ['1997-09-02', '1997-09-09', '1997-09-16']],
  ])('%s from %s', (rule, from, days) => {
    expect(first(4, rule, from)).toEqual(days)
  })

  it.each([
    '',
    'FREQ=SECONDLY',
    'FREQ=DAILY;COUNT=3',
    'FREQ=DAILY;BYDAY=MO',
    'FREQ=WEEKLY',
    'FREQ=WEEKLY;BYDAY=MO,XX',
    'FREQ=WEEKLY;BYDAY=MO,MO',
    'FREQ=WEEKLY;BYDAY=MO;WKST=SU',
    'FREQ=MONTHLY;BYDAY=6MO',
    'FREQ=MONTHLY;BYMONTHDAY=0',
    'FREQ=MONTHLY;BYMONTHDAY=32',
    'FREQ=MONTHLY;BYMONTHDAY=1;BYDAY=1MO',
    'FREQ=YEARLY;BYMONTH=13;BYMONTHDAY=1',
    'FREQ=DAILY;INTERVAL=0',
    'FREQ=DAILY;INTERVAL=1e3',
    'FREQ=DAILY;FREQ=DAILY',
    'FREQ=DAILY;UNTIL=20270230',
    'FREQ=DAILY=DAILY',
  ])('“%s” is none that tasks have', rule => {
    expect(readRhythm(rule)).toBeNull()
  })

  const often = { interval: fc.integer({ min: 1, max: 7 }), until: fc.constant(null) }
  const DAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const
  const rhythm: fc.Arbitrary<Rhythm> = fc.oneof(
    fc.record({ every: fc.constant('day' as const), ...often }),
    fc.record({ every: fc.constant('week' as const), on: fc.subarray([...DAYS], { minLength: 1 }), ...often }),
    fc.record({ every: fc.constant('month' as const), day: fc.constantFrom(-1, 1, 15, 28, 29, 30, 31), ...often }),
    fc.record({
      every: fc.constant('month' as const),
      which: fc.constantFrom(1, 2, 3, 4, 5, -1, -2, -3),
      on: fc.constantFrom(...DAYS),
      ...often,
    }),
    fc
      .record({
        every: fc.constant('year' as const),
        month: fc.integer({ min: 1, max: 12 }),
        day: fc.integer({ min: 1, max: 31 }),
        ...often,
      })
      // ical.js gives up on a day that no such month has.
      .filter(({ month, day }) => day <= [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1]!),
  ) as fc.Arbitrary<Rhythm>

  it('law: its days are those that ical.js finds, wherever one begins to look', () => {
    fc.assert(
      fc.property(rhythm, fc.integer({ min: 0, max: 3000 }), fc.integer({ min: -3, max: 900 }), (one, n, ahead) => {
        const rule = writeRhythm(one)
        // From a day that fits: ical.js takes no other first day.
        const near = addDays('2024-01-01', n)
        const from = turnAfter({ rule, from: near }, near, EVERY_DAY)!
        const after = addDays(from, ahead)
        const theirs: string[] = []
        const iterator = ICAL.Recur.fromString(rule).iterator(ICAL.Time.fromDateString(from))
        for (let day = iterator.next(); day && theirs.length < 4; day = iterator.next())
          if (day.toString() > from && day.toString() > after) theirs.push(day.toString())
        expect(
          first(5, rule, from, after)
            .filter(day => day !== from)
            .slice(0, 4),
        ).toEqual(theirs)
      }),
      { numRuns: 1000 },
    )
  })

  it('law: what is written is read as the same rhythm', () => {
    fc.assert(
      fc.property(rhythm, one => {
        expect(readRhythm(writeRhythm(one))).toEqual(one)
      }),
    )
  })
})

describe('days off', () => {
  const off = daysOffOf(
    grown(
      {},
      { op: 'tree-put', set: 'exceptions', member: { id: '2027-03-29', kind: 'closed', name: 'Easter Monday' } },
    ).fields,
  )
  it('of days and of weekdays, a turn on one is left out', () => {
    // 26 March 2027 is a Friday, 29 March Easter Monday (from the tables of Easter in common use).
    expect(first(3, 'FREQ=DAILY', '2027-03-26', '2027-03-26', off)).toEqual(['2027-03-30', '2027-03-31', '2027-04-01'])
    expect(first(2, weekly.rule, '2027-03-22', '2027-03-22', off)).toEqual(['2027-04-05', '2027-04-12'])
    // Who asks for a Saturday means it.
    expect(first(2, 'FREQ=WEEKLY;BYDAY=SA', '2027-03-27', '2027-03-26', off)).toEqual(['2027-03-27', '2027-04-03'])
  })
  it('a date goes on to the next working day, and the rule stays where it was', () => {
    // 27 February and 27 March 2027 are Saturdays.
    expect(first(3, 'FREQ=MONTHLY;BYMONTHDAY=27', '2027-02-26', '2027-02-26', off)).toEqual([
      ...['2027-03-01', '2027-03-30', '2027-04-27'],
    ])
    expect(first(1, 'FREQ=MONTHLY;BYMONTHDAY=27', '2027-02-26', '2027-03-29', off)).toEqual(['2027-03-30'])
  })
  it('a calendar without any day, and a rule whose every day is one, end the looking', () => {
    const tree = grown({}, { op: 'tree', field: 'weekdays', value: [] })
    expect(first(2, 'FREQ=DAILY', '2027-03-26', '2027-03-26', daysOffOf(tree.fields))).toEqual([
      '2027-03-27',
      '2027-03-28',
    ])
    const never = { ...EVERY_DAY, isWorking: () => false }
    expect(turnAfter({ rule: 'FREQ=DAILY', from: '2027-03-26' }, '2027-03-26', never)).toBeNull()
  })
})

describe('a turn is finished', () => {
  const done = (tree: Tree, today: string, by: string | null = 'ines'): Change[] => {
    const changes = finished(tree, water(tree), today, by)
    applyChanges(tree, changes)
    return changes
  }
  it('and the next one stands there, open, with its start as far before and its checklist anew', () => {
    const tree = grown({
      ...{ again: weekly, start: '2027-02-26', due: '2027-03-01', done: 40, began: '2027-02-26', left: 1 },
      checks: [
        { id: 'k', order: 'a0', text: 'Fill the can', done: true, due: null, priority: null },
        { id: 'l', order: 'a1', text: 'Ferns first', done: false, due: null, priority: null },
      ],
    })
    done(tree, '2027-02-28')
    expect(water(tree)).toMatchObject({ start: '2027-03-05', due: '2027-03-08', done: 0, began: null, left: null })
    expect(water(tree).checks.map(check => check.done)).toEqual([false, false])
    expect(water(tree).turns).toEqual([{ id: '2027-03-01', on: '2027-02-28', by: 'ines' }])
    done(tree, '2027-03-08', null)
    expect(water(tree).due).toBe('2027-03-15')
    expect(water(tree).turns.map(turn => turn.id)).toEqual(['2027-03-01', '2027-03-08'])
  })

  it('late: what was missed meanwhile isn’t asked for, what is due today is', () => {
    const tree = grown({ again: weekly, due: '2027-03-01' })
    done(tree, '2027-03-22')
    expect(water(tree).due).toBe('2027-03-22')
    // Without a progress it had none to take back.
    expect(water(tree).done).toBeNull()
    done(tree, '2027-03-22')
    expect(water(tree).due).toBe('2027-03-29')
  })

  it('a turn that was put off doesn’t move the rule', () => {
    const tree = grown({ again: weekly, due: '2027-03-03' })
    done(tree, '2027-03-03')
    expect(water(tree).due).toBe('2027-03-08')
  })

  it('the last makes it done; without a rule or a day it’s done as any other', () => {
    const tree = grown({ again: { ...weekly, rule: `${weekly.rule};UNTIL=20270308` }, due: '2027-03-08' })
    done(tree, '2027-03-08')
    expect(water(tree)).toMatchObject({ due: '2027-03-08', done: 100 })
    expect(finished(tree, water(tree), '2027-03-08', 'ines').filter(({ op }) => op === 'set')).toEqual([])
    for (const content of [{ due: '2027-03-01' }, { again: weekly }])
      expect(done(grown(content), '2027-03-01')).toEqual([{ op: 'set', topic: 'water', field: 'done', value: 100 }])
  })

  it('by two at once finishes one; taken back, all is as it was', () => {
    const tree = grown({ again: weekly, due: '2027-03-01', done: 0 })
    const before = toSnapshot(tree)
    const [one, other] = ['ines', 'rana'].map(by => finished(tree, water(tree), '2027-03-01', by))
    const patches = applyChanges(tree, one!)
    const both = fromSnapshot(toSnapshot(tree))
    applyChanges(both, other!)
    expect(water(both)).toMatchObject({ due: '2027-03-08', turns: [{ id: '2027-03-01', by: 'rana' }] })
    applyChanges(tree, invertOver(tree, one!, patches, () => false).changes)
    expect(toSnapshot(tree)).toEqual(before)
  })

  it('four hundred turns are remembered, the oldest make room', () => {
    const tree = grown({ again: { rule: 'FREQ=DAILY', from: '2027-03-01' }, due: '2027-03-01' })
    for (let i = 0; i < 410; i++) done(tree, water(tree).due!)
    expect(water(tree).turns.length).toBe(400)
    expect(water(tree).turns.some(turn => turn.id === '2027-03-01')).toBe(false)
  })

  it('law: it comes nearer to the end of time, never back, and never on a day that is over', () => {
    fc.assert(
      fc.property(fc.integer({ min: -40, max: 400 }), fc.integer({ min: 0, max: 60 }), (late, ahead) => {
        const due = addDays('2027-03-01', ahead)
        const tree = grown({ again: weekly, due })
        const today = addDays(due, late)
        done(tree, today)
        expect(water(tree).due! > due && water(tree).due! >= today).toBe(true)
      }),
    )
  })
})

it('turns ahead count in the load, each with the whole work, and end where one asks', () => {
  const tree = grown(
    { again: weekly, due: '2027-03-01', duration: 1, effort: 2, people: ['ines'] },
    { op: 'tree', field: 'planFrom', value: '2027-03-01' },
    { op: 'tree', field: 'statusDay', value: '2027-03-01' },
  )
  expect(turnsAhead(water(tree), '2027-03-31', EVERY_DAY)).toEqual([
    ...['2027-03-08', '2027-03-15', '2027-03-22', '2027-03-29'],
  ])
  expect(turnsAhead(water(tree), '2027-03-31', EVERY_DAY, { from: '2027-03-20', most: 1 })).toEqual(['2027-03-22'])
  const plan = planOf(tree, '2027-03-01')
  const { weeks, rows } = loadOf(tree, plan as never)
  expect(weeks.length).toBe(13)
  expect(rows).toMatchObject([{ person: 'ines' }])
  expect(rows[0]!.cells.map(({ hours }) => hours)).toEqual(Array.from({ length: 13 }, () => 2))
})
