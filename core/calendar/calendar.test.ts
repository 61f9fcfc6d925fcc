import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { planOf } from '../schedule/plan'
import { addDays } from '../schedule/days'
import { applyChanges, type Change, type Topic, type Tree } from '../tree'
import { seed } from '../../tests/rolled'
import { entryMoved } from './move'
import {
  calendarOf,
  type CalendarEntry,
  isMovable,
  listOfMonth,
  monthAfter,
  turnsOf,
  weekOf,
  weeksOfMonth,
} from './calendar'

const grown = (...list: [string, Partial<Topic>][]): Tree => {
  const tree = seed()
  applyChanges(
    tree,
    list.map(([topic, content], i): Change => ({ op: 'add', topic, parent: 'a', order: `b${i}`, with: content })),
  )
  return tree
}
const asked = { plan: null, today: '2027-01-11', zone: 'Europe/Copenhagen', only: null, hidden: () => false }
const told = (entries: readonly CalendarEntry[]): string[] =>
  entries.map(
    ({ id, kind, from, to, time }) => `${id} ${kind} ${from}${to === from ? '' : ` ${to}`}${time ? ` ${time}` : ''}`,
  )
const meeting = (day: string, time: string, zone: string, minutes: number): Partial<Topic> => ({
  meeting: [
    { id: 'begins', kind: 'begins', day, time, zone },
    { id: 'slot', kind: 'slot', minutes },
  ] as never,
})

describe('a calendar', () => {
  it('has typed days as they were typed, milestones, and what is known by one day alone', () => {
    const tree = grown(
      ['move', { start: '2027-02-01', due: '2027-02-05' }],
      ['permit', { due: '2027-01-04' }],
      ['oak', { start: '2027-02-01' }],
      ['open', { start: '2027-03-01', due: '2027-03-01', duration: 0 }],
      ['back', { start: '2027-03-09', due: '2027-03-02' }],
      ['words', {}],
    )
    const entries = calendarOf(tree, asked)
    expect(told(entries)).toEqual([
      'permit due 2027-01-04',
      'move task 2027-02-01 2027-02-05',
      'oak start 2027-02-01',
      'open milestone 2027-03-01',
      // One that ends before it begins stands on the day it has to be done.
      'back task 2027-03-02',
    ])
    expect(entries.map(({ late }) => late)).toEqual([true, false, false, false, false])
  })

  it('tells meetings in the zone of whoever looks, over midnight on both days', () => {
    const tree = grown(
      ['here', meeting('2027-03-02', '14:00', 'Europe/Copenhagen', 60)],
      ['far', meeting('2027-03-02', '14:00', 'America/New_York', 300)],
      ['gap', meeting('2027-03-28', '02:30', 'Europe/Copenhagen', 30)],
    )
    expect(told(calendarOf(tree, asked))).toEqual([
      'here meeting 2027-03-02 14:00',
      'far meeting 2027-03-02 2027-03-03 20:00',
      // The hour that is left out: as far into the time after it.
      'gap meeting 2027-03-28 03:30',
    ])
    expect(told(calendarOf(tree, { ...asked, zone: 'Pacific/Auckland' }))[0]).toBe('here meeting 2027-03-03 02:00')
  })

  it('has the days that the plan computed, where there is one', () => {
    const tree = grown(
      ['permit', { duration: 4 }],
      ['lift', { duration: 3, waits: [{ id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' }] }],
    )
    applyChanges(tree, [
      { op: 'tree', field: 'planFrom', value: '2027-01-11' },
      { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    ])
    const plan = planOf(tree, '2027-01-11')
    expect(told(calendarOf(tree, { ...asked, plan: plan as never }))).toEqual([
      'permit task 2027-01-11 2027-01-14',
      'lift task 2027-01-15 2027-01-19',
    ])
  })

  it('has the turns to come of what comes again, from day to day; they stay where the rule puts them', () => {
    const again = { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-02-01' }
    const tree = grown(
      ['alarm', { due: '2027-02-08', again }],
      ['done', { due: '2027-02-08', again, done: 100 }],
      ['none', { again }],
    )
    const turns = turnsOf(tree, asked, '2027-02-01', '2027-02-28')
    expect(told(turns)).toEqual(['alarm turn 2027-02-15', 'alarm turn 2027-02-22'])
    expect(told(calendarOf(tree, asked)).filter(one => one.startsWith('alarm'))).toEqual(['alarm due 2027-02-08'])
    expect([entryMoved(tree, turns[0]!, 3), isMovable(tree, turns[0]!)]).toEqual([[], false])
    expect(turnsOf(tree, { ...asked, hidden: id => id === 'alarm' }, '2027-02-01', '2027-02-28')).toEqual([])
  })

  it('is moved by days: typed days both, a meeting in its own zone, over a change of daylight saving too', () => {
    const tree = grown(
      ['move', { start: '2027-02-01', due: '2027-02-05' }],
      ['far', meeting('2027-03-12', '22:00', 'America/New_York', 60)],
    )
    for (const entry of calendarOf(tree, asked)) applyChanges(tree, entryMoved(tree, entry, 3))
    // New York's clocks go on on 14 March 2027, Copenhagen's a fortnight later: from six hours apart to five.
    expect(told(calendarOf(tree, asked))).toEqual(['move task 2027-02-04 2027-02-08', 'far meeting 2027-03-16 03:00'])
  })

  it('a month is listed by days; what began before stands on its first, and what is too much is counted', () => {
    const tree = grown(
      ['move', { start: '2027-01-28', due: '2027-02-05' }],
      ['permit', { due: '2027-02-03' }],
      ['lift', { due: '2027-02-03' }],
      ['later', { due: '2027-03-01' }],
    )
    const entries = calendarOf(tree, asked)
    const read = (most: number) => {
      const { days, more } = listOfMonth(entries, '2027-02-14', most)
      return [...days.map(one => `${one.day} ${one.entries.map(({ id }) => id).join(' ')}`), more]
    }
    expect(read(9)).toEqual(['2027-02-01 move', '2027-02-03 permit lift', 0])
    expect(read(2)).toEqual(['2027-02-01 move', '2027-02-03 permit', 1])
  })

  it('a month is told in whole weeks, from the day on which the person’s begin', () => {
    // Source: CLDR, weeks begin on Sunday in the United States and on Monday in Denmark. February 2027 has four weeks from a Monday on.
    expect(weeksOfMonth('2027-02', 'da-DK')).toEqual(['2027-02-01', '2027-02-08', '2027-02-15', '2027-02-22'])
    expect(weeksOfMonth('2027-02', 'en-US')).toEqual([
      ...['2027-01-31', '2027-02-07', '2027-02-14', '2027-02-21', '2027-02-28'],
    ])
    expect([monthAfter('2027-12-31', 1), monthAfter('2027-01-15', -1), monthAfter('2027-01-31', 13)]).toEqual([
      ...['2028-01-01', '2026-12-01', '2028-02-01'],
    ])
  })

  it('law: in a week nothing lies over anything else, all of it is there, and there are no more lines than needed', () => {
    const stretch = fc.tuple(fc.integer({ min: -5, max: 9 }), fc.nat(9)).map(([from, days]): CalendarEntry => {
      const first = addDays('2027-02-01', from)
      return {
        ...{ id: 't', kind: 'task', from: first, to: addDays(first, days), time: null, ends: null },
        ...{ computed: false, done: false, late: false },
      }
    })
    fc.assert(
      fc.property(fc.array(stretch, { maxLength: 20 }), list => {
        const entries = [...list].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0))
        const { pieces, lines } = weekOf(entries, '2027-02-01')
        const days = Array.from({ length: 7 }, (_, i) => pieces.filter(({ from, to }) => from <= i && to >= i))
        for (const there of days) expect(new Set(there.map(({ line }) => line)).size).toBe(there.length)
        expect(lines).toBe(Math.max(0, ...days.map(({ length }) => length)))
        expect(pieces.length).toBe(list.filter(({ from, to }) => from <= '2027-02-07' && to >= '2027-02-01').length)
      }),
    )
  })
})
