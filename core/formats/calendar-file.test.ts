import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { treeFromFile } from '../../server/trees/import'
import { planOf } from '../schedule/plan'
import { toldPlan } from '../schedule/told'
import { allTopics, applyChanges, type Change, childrenOf, noteWords, topicOf } from '../tree'
import { seed } from '../../tests/rolled'
import { readCalendarFile } from './calendar-file'
import { writeCalendar } from './icalendar'
import { writePlanCalendar } from './plan-calendar'

const file = (...lines: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n')
const event = (...lines: string[]): string[] => [
  'BEGIN:VEVENT',
  'UID:e',
  'DTSTAMP:20270101T000000Z',
  ...lines,
  'END:VEVENT',
]
const todo = (uid: string, ...lines: string[]): string[] => [
  'BEGIN:VTODO',
  `UID:${uid}`,
  'DTSTAMP:20270101T000000Z',
  ...lines,
  'END:VTODO',
]
const only = (text: string) => readCalendarFile(text).items[0]!

describe('a calendar file as a tree', () => {
  it('a meeting keeps its time on the wall, place, length and rule', () => {
    // The recurring event of RFC 5545, section 3.8.5.3, “every other week”, cut to one weekday; the zone by its name.
    const { title, details } = only(
      file(
        ...event(
          'DTSTART;TZID=America/New_York:19970902T090000',
          'DTEND;TZID=America/New_York:19970902T103000',
          'RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=TU',
          'EXDATE;TZID=America/New_York:19970916T090000',
          'SUMMARY:Coordination\\, every other week',
          'LOCATION:Tannery\\; yard',
          'DESCRIPTION:Bring the plan.\\nAnd the keys.',
          'URL:https://tannery.porch.example/plan',
        ),
      ),
    )
    expect(title).toBe('Coordination, every other week')
    expect(details?.meeting).toEqual([
      { id: 'begins', kind: 'begins', day: '1997-09-02', time: '09:00', zone: 'America/New_York' },
      { id: 'slot', kind: 'slot', minutes: 90 },
      { id: 'where', kind: 'where', text: 'Tannery; yard' },
      { id: 'rule', kind: 'rule', rule: expect.stringMatching(/INTERVAL=2/), closed: ['1997-09-16'] },
    ])
    expect(noteWords(details!.note!)).toBe('Bring the plan.\nAnd the keys.')
    expect(details?.links).toEqual([{ id: 'calendar', url: 'https://tannery.porch.example/plan', title: '' }])
  })

  it('a zone of the file’s own is read by its rules, UTC in the calendar’s zone; a time without a zone is the calendar’s', () => {
    const own = [
      'BEGIN:VTIMEZONE',
      'TZID:Own Time',
      'BEGIN:STANDARD',
      'DTSTART:19700101T000000',
      'TZOFFSETFROM:+0300',
      'TZOFFSETTO:+0300',
      'END:STANDARD',
      'END:VTIMEZONE',
    ]
    const begins = (...lines: string[]) =>
      (only(file('X-WR-TIMEZONE:Europe/Copenhagen', ...own, ...event(...lines))).details?.meeting ?? [])[0]
    expect(begins('DTSTART;TZID=Own Time:20270701T120000')).toMatchObject({ time: '11:00', zone: 'Europe/Copenhagen' })
    expect(begins('DTSTART:20270701T120000Z')).toMatchObject({ time: '14:00', zone: 'Europe/Copenhagen' })
    expect(begins('DTSTART:20270701T120000')).toMatchObject({ time: '12:00', zone: 'Europe/Copenhagen' })
    expect(begins('DTSTART;TZID=Nobody’s:20270701T120000')).toMatchObject({ time: '12:00' })
  })

  it('whole days run up to the day before their end (RFC 5545, section 3.6.1)', () => {
    // The example of that section: a stay of eleven days.
    const days = (...lines: string[]) => only(file(...event(...lines))).details
    expect(days('DTSTART;VALUE=DATE:20070628', 'DTEND;VALUE=DATE:20070709')).toMatchObject({
      start: '2007-06-28',
      due: '2007-07-08',
    })
    expect(days('DTSTART;VALUE=DATE:20070628')).toMatchObject({ start: '2007-06-28', due: '2007-06-28' })
    expect(days('DTSTART;VALUE=DATE:20070628', 'DURATION:P2D')).toMatchObject({ due: '2007-06-29' })
  })

  it('to-dos are tasks, one below another, waiting for one another; a circle isn’t closed', () => {
    const { items } = readCalendarFile(
      file(
        ...todo('move', 'SUMMARY:Move', 'DUE;VALUE=DATE:20270301', 'PRIORITY:1'),
        ...todo('books', 'SUMMARY:Books', 'RELATED-TO:move', 'PERCENT-COMPLETE:40', 'PRIORITY:9'),
        ...todo('lift', 'SUMMARY:Lift', 'STATUS:COMPLETED', 'RELATED-TO;RELTYPE=FINISHTOSTART;GAP=P3D:books'),
        ...todo('loop', 'SUMMARY:Loop', 'RELATED-TO;RELTYPE=STARTTOSTART:lift'),
        ...todo('own', 'SUMMARY:Own', 'RELATED-TO:own', 'PRIORITY:0'),
        ...todo('a', 'SUMMARY:A', 'RELATED-TO:b', 'RELATED-TO;RELTYPE=FINISHTOSTART:b'),
        ...todo('b', 'SUMMARY:B', 'RELATED-TO:a', 'RELATED-TO;RELTYPE=FINISHTOSTART:a'),
      ),
    )
    const [move, lift, loop, own, b] = items
    expect(items.map(({ title }) => title)).toEqual(['Move', 'Lift', 'Loop', 'Own', 'B'])
    expect(move!.details).toMatchObject({ due: '2027-03-01', done: 0, priority: 1 })
    expect(move!.children).toMatchObject([{ title: 'Books', details: { done: 40, priority: 5 } }])
    expect(lift!.details).toMatchObject({
      done: 100,
      waits: [{ on: move!.children[0]!.from, kind: 'FS', lag: 3, days: 'calendar' }],
    })
    expect(loop!.details?.waits).toMatchObject([{ on: lift!.from, kind: 'SS', lag: 0 }])
    expect(own!.details).not.toHaveProperty('priority')
    expect(b).toMatchObject({ title: 'B', children: [{ title: 'A', details: { waits: [{ on: b!.from }] } }] })
    expect(b!.details).not.toHaveProperty('waits')
  })

  it('to-dos have their times of day, on the wall that they were written for', () => {
    const { items } = readCalendarFile(
      file(
        ...todo(
          'a',
          'SUMMARY:Van',
          'DTSTART;TZID=Europe/Lisbon:20270605T073000',
          'DUE;TZID=Europe/Lisbon:20270605T081500',
        ),
        ...todo('b', 'SUMMARY:Floating', 'DUE:20270605T081500'),
        ...todo('c', 'SUMMARY:Length', 'DTSTART:20270605T220000', 'DURATION:PT4H'),
        ...todo('d', 'SUMMARY:Universal', 'DUE:20270605T233000Z'),
        ...todo('e', 'SUMMARY:Day', 'DTSTART;VALUE=DATE:20270605', 'DURATION:P1D'),
      ),
    )
    expect(
      items.map(({ title, details }) => [title, details?.start, details?.startTime, details?.due, details?.dueTime]),
    ).toEqual([
      ['Van', '2027-06-05', '07:30', '2027-06-05', '08:15'],
      ['Floating', undefined, undefined, '2027-06-05', '08:15'],
      ['Length', '2027-06-05', '22:00', '2027-06-06', '02:00'],
      ['Universal', undefined, undefined, '2027-06-05', '23:30'],
      ['Day', '2027-06-05', undefined, '2027-06-05', undefined],
    ])
  })

  it('to-dos that come again do so here, where the rule is one that tasks have', () => {
    const { items, left } = readCalendarFile(
      file(
        ...todo('a', 'SUMMARY:Alarm', 'DUE;VALUE=DATE:20270301', 'RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=MO;WKST=MO'),
        ...todo('b', 'SUMMARY:Rent', 'DTSTART;VALUE=DATE:20270301', 'DURATION:P1D', 'RRULE:FREQ=MONTHLY;BYMONTHDAY=1'),
        ...todo('c', 'SUMMARY:Three times', 'DUE;VALUE=DATE:20270301', 'RRULE:FREQ=DAILY;COUNT=3'),
        ...todo('d', 'SUMMARY:No day', 'RRULE:FREQ=DAILY'),
        ...todo('e', 'SUMMARY:But one', 'DUE;VALUE=DATE:20270301', 'RRULE:FREQ=DAILY', 'EXDATE;VALUE=DATE:20270302'),
      ),
    )
    expect(items.map(({ details }) => details?.again)).toEqual([
      { rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', from: '2027-03-01' },
      { rule: 'FREQ=MONTHLY;BYMONTHDAY=1', from: '2027-03-01' },
      undefined,
      undefined,
      { rule: 'FREQ=DAILY', from: '2027-03-01' },
    ])
    expect(Object.fromEntries(left)).toEqual({ repeat: 3 })
  })

  it('says what stayed behind', () => {
    const { left, items, title } = readCalendarFile(
      file(
        'X-WR-CALNAME:Library',
        ...event('DTSTART:20270701T120000Z', 'SUMMARY:Held', 'ATTENDEE:mailto:a@porch.example', 'RRULE:FREQ=YEARLY'),
        ...event('DTSTART:20270701T120000Z', 'SUMMARY:Off', 'STATUS:CANCELLED'),
        ...event('DTSTART:20270708T120000Z', 'SUMMARY:Held', 'RECURRENCE-ID:20270701T120000Z'),
        'BEGIN:VJOURNAL',
        'UID:j',
        'END:VJOURNAL',
        ...todo('t', 'SUMMARY:Keys'),
      ),
    )
    expect(title).toBe('Library')
    expect(Object.fromEntries(left)).toEqual({ person: 1, repeat: 2, cancelled: 1, entry: 1 })
    expect(items).toMatchObject([
      { title: 'Meetings', children: [{ title: 'Held' }] },
      { title: 'Tasks', children: [{ title: 'Keys', details: { done: 0 } }] },
    ])
  })

  it('reads what is written here: a person’s calendar, and a plan with what waits for what', async () => {
    const text = writeCalendar(
      [
        {
          uid: 'm1',
          sequence: 0,
          title: 'Coordination',
          text: 'Why',
          where: 'Yard',
          start: Date.UTC(2027, 2, 27, 8, 30),
          minutes: 60,
          zone: 'Europe/Copenhagen',
          organizer: { mail: 'ines@porch.example', name: 'Ines' },
          people: [],
          rule: { every: 'month', interval: 1, nth: -1, on: 'SA' },
          stamp: 0,
          cancelled: false,
        },
      ],
      [{ uid: 't1', title: 'Keys', text: '', due: '2027-03-01', done: 25, priority: 3, stamp: 0 }],
    )
    const [meetings, tasks] = readCalendarFile(text).items
    expect(meetings!.children[0]!.details?.meeting).toMatchObject([
      { day: '2027-03-27', time: '09:30', zone: 'Europe/Copenhagen' },
      { minutes: 60 },
      { text: 'Yard' },
      { rule: expect.stringContaining('BYDAY=-1SA') },
    ])
    expect(tasks!.children[0]).toMatchObject({ title: 'Keys', details: { due: '2027-03-01', done: 25, priority: 3 } })

    const tree = seed()
    const add = (topic: string, more: object): Change => ({ op: 'add', topic, parent: 'a', order: 'a1', with: more })
    applyChanges(tree, [
      { op: 'tree', field: 'planFrom', value: '2027-01-11' },
      add('permit', { title: 'Permit', duration: 4 }),
      add('lift', { title: 'Lift', duration: 2 }),
      {
        op: 'put',
        topic: 'lift',
        set: 'waits',
        member: { id: 'w', on: 'permit', kind: 'FS', lag: 2, days: 'calendar' },
      },
    ])
    const plan = planOf(tree, '2027-01-11')
    if (typeof plan === 'string') throw new Error(plan)
    const told = writePlanCalendar(tree, toldPlan(tree, plan, null), 'tree', 0)
    const { tree: back } = await treeFromFile('calendar', 'plan.ics', told)
    const titled = (title: string) => [...allTopics(back)].find(topic => topic.title === title)!
    expect(titled('Permit')).toMatchObject({ start: '2027-01-11', due: '2027-01-14' })
    expect(titled('Lift').waits).toMatchObject([{ on: titled('Permit').id, kind: 'FS', lag: 2 }])
    expect(childrenOf(back, back.centre).length).toBeGreaterThan(0)
    expect(topicOf(back, back.centre).title).toBe('plan')
  })

  it('refuses in words what is no calendar, is empty, broken or too deep', () => {
    for (const text of ['', 'x', 'BEGIN:VCALENDAR', file(), file('BEGIN:VJOURNAL', 'END:VJOURNAL')])
      expect(() => readCalendarFile(text)).toThrow(/Nothing was changed/)
    for (const never of ['20270230T090000', '20270301T990000', '20270301T096100', ';VALUE=DATE:20270230'])
      expect(() => readCalendarFile(file(...event(`DTSTART${never.startsWith(';') ? '' : ':'}${never}`)))).toThrow(
        /Nothing was changed/,
      )
    const deep = Array.from({ length: 2000 }, (_, i) => todo(`t${i}`, 'SUMMARY:x', `RELATED-TO:t${i - 1}`)).flat()
    expect(() => readCalendarFile(file(...deep))).toThrow(/Nothing was changed/)
    expect(ICAL.foldLength).toBe(74)
  })
})
