import ICAL from 'ical.js'
import ical from 'node-ical'
import { expect, it } from 'vitest'
import { planOf } from '../schedule/plan'
import { toldPlan } from '../schedule/told'
import { applyChanges, type Change } from '../tree'
import { seed } from '../../tests/rolled'
import { writePlanCalendar } from './plan-calendar'

const tree = seed()
applyChanges(tree, [
  { op: 'tree', field: 'planFrom', value: '2027-01-11' },
  { op: 'tree', field: 'statusDay', value: '2027-01-11' },
  ...(
    [
      ['permit', { title: 'Permit; by, post\nand hand', duration: 4, priority: 1 }],
      ['lift', { title: 'Lift', duration: 1, done: 0 }],
      ['open', { title: 'Opening', duration: 0 }],
    ] as const
  ).map(([topic, content], i): Change => ({ op: 'add', topic, parent: 'a', order: `b${i}`, with: content })),
  ...(
    [
      ['lift', 'permit', 'FS', 3, 'calendar'],
      ['open', 'lift', 'FS', 1, 'working'],
    ] as const
  ).map(([topic, on, kind, lag, days]): Change => ({
    op: 'put',
    topic,
    set: 'waits',
    member: { id: `w-${on}`, on, kind, lag, days },
  })),
])
const plan = planOf(tree, '2027-01-11')
if (typeof plan === 'string') throw new Error(plan)
const text = writePlanCalendar(tree, toldPlan(tree, plan, null), 'tree', Date.UTC(2027, 0, 11))

it('tells tasks as to-dos with their planned days, milestones as events, and what waits for what (RFC 9253)', () => {
  const calendar = new ICAL.Component(ICAL.parse(text) as ConstructorParameters<typeof ICAL.Component>[0])
  const [permit, lift] = calendar.getAllSubcomponents('vtodo')
  const said = (one: ICAL.Component | undefined, name: string): string => String(one?.getFirstPropertyValue(name))
  expect([said(permit, 'dtstart'), said(permit, 'duration'), said(permit, 'priority')]).toEqual([
    '2027-01-11',
    'P4D',
    '1',
  ])
  // Thursday's end, three days of the calendar: Sunday; so Monday.
  expect([said(lift, 'dtstart'), said(lift, 'duration'), said(lift, 'status')]).toEqual([
    ...['2027-01-18', 'P1D', 'NEEDS-ACTION'],
  ])
  expect(lift!.getFirstProperty('related-to')!.toICALString()).toBe(
    'RELATED-TO;RELTYPE=FINISHTOSTART;GAP=P3D:tree.permit@sun-porch',
  )
  const open = calendar.getFirstSubcomponent('vevent')!
  expect([said(open, 'dtstart'), said(open, 'dtend')]).toEqual(['2027-01-19', '2027-01-20'])
  expect(open.getFirstProperty('related-to')!.getParameter('gap')).toBeUndefined()
})

it('tells times of day where both ends have one, with the zone’s rules; a milestone at a time takes none', () => {
  const timed = seed()
  const day = '2027-06-05'
  const both = { start: day, due: day, startTime: '07:30', dueTime: '08:15', duration: 1 }
  const list: readonly [string, Record<string, unknown>][] = [
    ['van', both],
    ['doors', { ...both, dueTime: null }],
    ['ribbon', { due: day, dueTime: '10:00', duration: 0, startMeans: 'fixed', start: day }],
    ['night', { start: day, startTime: '22:00', due: '2027-06-06', dueTime: '02:00', duration: 2 }],
    ['paint', { start: day, startTime: '09:00', due: '2027-06-06', duration: 2 }],
  ]
  applyChanges(timed, [
    { op: 'tree', field: 'planFrom', value: day },
    { op: 'tree', field: 'weekdays', value: [1, 2, 3, 4, 5, 6, 7] },
    { op: 'tree', field: 'zone', value: 'Europe/Lisbon' },
    ...list.map(([topic, content], i): Change => ({
      op: 'add',
      topic,
      parent: 'a',
      order: `b${i}`,
      with: { title: topic, ...content },
    })),
  ])
  const made = planOf(timed, '2027-06-01')
  if (typeof made === 'string') throw new Error(made)
  const calendar = new ICAL.Component(
    ICAL.parse(writePlanCalendar(timed, toldPlan(timed, made, null), 'tree', 0)) as ConstructorParameters<
      typeof ICAL.Component
    >[0],
  )
  const said = calendar
    .getAllSubcomponents()
    .filter(({ name }) => name !== 'vtimezone')
    .map(one => [
      one.getFirstPropertyValue('summary'),
      ...['dtstart', 'due', 'dtend', 'duration'].map(name => one.getFirstProperty(name)?.toICALString() ?? null),
    ])
  expect(said).toEqual([
    ['van', 'DTSTART;TZID=Europe/Lisbon:20270605T073000', 'DUE;TZID=Europe/Lisbon:20270605T081500', null, null],
    ['doors', 'DTSTART;TZID=Europe/Lisbon:20270605T073000', null, null, null],
    ['ribbon', 'DTSTART;TZID=Europe/Lisbon:20270605T100000', null, null, null],
    ['night', 'DTSTART;TZID=Europe/Lisbon:20270605T220000', 'DUE;TZID=Europe/Lisbon:20270606T020000', null, null],
    ['paint', 'DTSTART;VALUE=DATE:20270605', null, null, 'DURATION:P2D'],
  ])
  expect(calendar.getAllSubcomponents('vtimezone')).toHaveLength(1)
  // Lisbon is an hour ahead of UTC in June (IANA's rules, by the platform's own data).
  const start = calendar.getFirstSubcomponent('vtodo')!.getFirstPropertyValue('dtstart') as ICAL.Time
  start.zone = new ICAL.Timezone(calendar.getFirstSubcomponent('vtimezone')!)
  expect(new Date(start.toUnixTime() * 1000).toISOString()).toBe('2027-06-05T06:30:00.000Z')
})

it('is read by another library with the same words and days, lines no longer than 75 octets', () => {
  const found = Object.values(ical.sync.parseICS(text)) as { type: string; summary?: string; start?: Date }[]
  expect(found.filter(({ type }) => type === 'VTODO').map(({ summary }) => summary)).toEqual([
    'Permit; by, post and hand',
    'Lift',
  ])
  expect(found.find(({ type }) => type === 'VEVENT')!.summary).toBe('Opening')
  for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
})

it('a task that comes again has the days on which its turns to come begin, as far before each as this one', () => {
  const again = { rule: 'FREQ=MONTHLY;BYMONTHDAY=15', from: '2027-01-15' }
  const coming = seed()
  applyChanges(coming, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    {
      op: 'add',
      topic: 'alarm',
      parent: 'a',
      order: 'b0',
      with: { title: 'Alarm', duration: 2, due: '2027-01-15', again },
    },
  ])
  const plan = planOf(coming, '2027-01-11')
  if (typeof plan === 'string') throw new Error(plan)
  const made = writePlanCalendar(coming, toldPlan(coming, plan, null), 'tree', 0)
  const [alarm] = new ICAL.Component(
    ICAL.parse(made) as ConstructorParameters<typeof ICAL.Component>[0],
  ).getAllSubcomponents('vtodo')
  expect(String(alarm!.getFirstPropertyValue('dtstart'))).toBe('2027-01-11')
  // 15 May 2027 is a Saturday: its turn is on the Monday after it, and begins on the 13th as the others on the 11th.
  const begun = alarm!.getFirstProperty('rdate')!.getValues().map(String)
  expect(begun.slice(0, 4)).toEqual(['2027-02-11', '2027-03-11', '2027-04-11', '2027-05-13'])
  // A year ahead; that of 15 January 2028, a Saturday too, is a day beyond it.
  expect(begun.length).toBe(11)
})
