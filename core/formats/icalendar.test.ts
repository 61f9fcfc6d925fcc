import ical from 'node-ical'
import { describe, expect, it } from 'vitest'
import { type CalendarMeeting, readReplies, writeCalendar, writeInvitation } from './icalendar'

const meeting = (part: Partial<CalendarMeeting> = {}): CalendarMeeting => ({
  uid: 'm1@porch.example',
  sequence: 0,
  title: 'Coordination meeting',
  text: 'Why: decide who moves us.\nItems; “offers”, lorry',
  where: 'Drying loft, Bridge Street 4',
  start: Date.parse('2027-03-26T08:00Z'),
  minutes: 60,
  zone: 'Europe/Copenhagen',
  organizer: { mail: 'ines@porch.example', name: 'Ines "IB" Brandt' },
  people: [
    { mail: 'oskar@porch.example', name: 'Oskar Malm', part: 'needed', answer: 'needs-action' },
    { mail: 'lev@porch.example', name: 'Лев, Å', part: 'optional', answer: 'accepted' },
  ],
  rule: null,
  stamp: Date.parse('2027-03-01T12:00Z'),
  cancelled: false,
  ...part,
})
interface Read {
  uid: string
  start: Date
  end: Date
  summary: string
  description: string
  location: string
  sequence: string
  method: string
  status: string
  attendee: { params: Record<string, string>; val: string }[]
  type: string
}
const eventIn = (text: string): Read =>
  Object.values(ical.sync.parseICS(text)).find(one => (one as unknown as Read).type === 'VEVENT') as unknown as Read
const lines = (text: string): string[] => text.split('\r\n')

describe('an invitation', () => {
  it('reads back with another parser (node-ical) as it was written', () => {
    const read = eventIn(writeInvitation(meeting()))
    expect([read.start.toISOString(), read.end.toISOString()]).toEqual([
      '2027-03-26T08:00:00.000Z',
      '2027-03-26T09:00:00.000Z',
    ])
    expect([read.uid, read.summary, read.location, read.method, read.status]).toEqual([
      'm1@porch.example',
      'Coordination meeting',
      'Drying loft, Bridge Street 4',
      'REQUEST',
      'CONFIRMED',
    ])
    expect(read.description).toBe('Why: decide who moves us.\nItems; “offers”, lorry')
    expect(read.attendee.map(one => [one.val, one.params.ROLE, one.params.PARTSTAT])).toEqual([
      ['mailto:oskar@porch.example', 'REQ-PARTICIPANT', 'NEEDS-ACTION'],
      ['mailto:lev@porch.example', 'OPT-PARTICIPANT', 'ACCEPTED'],
    ])
  })
  it.each([
    ['before the clocks change', '2027-03-26T08:00Z', '20270326T090000'],
    ['after', '2027-03-29T07:00Z', '20270329T090000'],
    ['in autumn before', '2027-10-29T07:00Z', '20271029T090000'],
    ['and after', '2027-11-01T08:00Z', '20271101T090000'],
  ])('stands at nine on the wall %s, with the rules of its zone beside it', (_, start, wall) => {
    const text = writeInvitation(meeting({ start: Date.parse(start) }))
    expect(text).toContain(`DTSTART;TZID=Europe/Copenhagen:${wall}`)
    expect(eventIn(text).start.toISOString()).toBe(new Date(start).toISOString())
    // The changes of 2027 by Directive 2000/84/EC, written in the time on the wall just before.
    expect(text).toMatch(/BEGIN:DAYLIGHT\r\nDTSTART:20270328T020000\r\nTZOFFSETFROM:\+0100\r\nTZOFFSETTO:\+0200/)
    expect(text).toMatch(/BEGIN:STANDARD\r\nDTSTART:20271031T030000\r\nTZOFFSETFROM:\+0200\r\nTZOFFSETTO:\+0100/)
  })
  it('has lines of 75 octets at most that end in CRLF, and no control characters (RFC 5545, section 3.1)', () => {
    const text = writeInvitation(meeting({ title: 'Å'.repeat(300), text: 'a\r\nb\rc\u0007d' }))
    expect(text.endsWith('END:VCALENDAR\r\n')).toBe(true)
    for (const line of lines(text)) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    // eslint-disable-next-line no-control-regex -- the one that was put in
    expect(text.replace(/\r\n/g, '')).not.toMatch(/[\r\n\u0007]/)
    expect(eventIn(text).summary).toBe('Å'.repeat(300))
    expect(eventIn(text).description).toBe('a\nb\ncd')
  })
  it('is cancelled with the same UID and a higher SEQUENCE (RFC 5546, section 3.2.5)', () => {
    // RFC 5546, section 3.2.5: taking one off says CANCEL to them, with their address, a higher SEQUENCE, and no
    // STATUS, since the meeting stands. From memory.
    const off = lines(writeInvitation(meeting({ uninvited: true, sequence: 3 })))
    expect(off).toContain('METHOD:CANCEL')
    expect(off).toContain('SEQUENCE:3')
    expect(off.some(line => line.startsWith('STATUS'))).toBe(false)
    const text = writeInvitation(meeting({ cancelled: true, sequence: 2 }))
    for (const line of ['METHOD:CANCEL', 'STATUS:CANCELLED', 'SEQUENCE:2', 'UID:m1@porch.example'])
      expect(lines(text)).toContain(line)
  })
  it('of a series carries its rule', () => {
    expect(lines(writeInvitation(meeting({ rule: { every: 'week', interval: 2, on: 'FR' } })))).toContain(
      'RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=FR',
    )
  })
  it('of a zone without daylight saving has one rule', () => {
    expect(
      writeInvitation(meeting({ zone: 'Asia/Kolkata', start: Date.parse('2027-03-26T04:00Z') })).match(
        /BEGIN:(?:STANDARD|DAYLIGHT)/g,
      ),
    ).toEqual(['BEGIN:STANDARD'])
  })
})

describe('a calendar of one’s own', () => {
  it('has meetings and tasks, and no method', () => {
    const text = writeCalendar(
      [meeting()],
      [{ uid: 't1', title: 'Order oak', text: '', due: '2027-03-12', done: 40, priority: 1, stamp: 0 }],
    )
    expect(text).not.toContain('METHOD')
    for (const line of [
      'BEGIN:VTODO',
      'DUE;VALUE=DATE:20270312',
      'PERCENT-COMPLETE:40',
      'STATUS:IN-PROCESS',
      'PRIORITY:1',
    ])
      expect(lines(text)).toContain(line)
    expect(eventIn(text).uid).toBe('m1@porch.example')
  })
})

describe('a task at a time of day', () => {
  const task = { uid: 't1', title: 'Van', text: '', due: '2027-06-05', done: null, priority: null, stamp: 0 }
  const said = (more: Partial<Parameters<typeof writeCalendar>[1][number]>): string[] =>
    lines(writeCalendar([], [{ ...task, ...more }])).filter(line => /^(?:DTSTART|DUE|DURATION|EXDATE|TZID)/.test(line))
  const zone = 'Europe/Lisbon'

  it('is due in its zone, from when it begins where that is known; without a zone on the wall of whoever reads it', () => {
    expect(said({ time: '07:30' })).toEqual(['DUE:20270605T073000'])
    // Line by line: the zone’s name, its base and its changes, then the task.
    expect(said({ time: '08:15', begins: '07:30', zone }).filter(line => !/^DTSTART:/.test(line))).toEqual([
      ...['TZID:Europe/Lisbon', 'DTSTART;TZID=Europe/Lisbon:20270605T073000', 'DUE;TZID=Europe/Lisbon:20270605T081500'],
    ])
    // One that ends before it begins is due, and no more is said.
    expect(said({ time: '07:30', begins: '08:15' })).toEqual(['DUE:20270605T073000'])
    expect(said({ begins: '08:15' })).toEqual(['DUE;VALUE=DATE:20270605'])
  })

  it('that comes again does so at that time, its exceptions too', () => {
    const again = { rule: 'FREQ=DAILY', without: ['2027-06-10'], besides: [] }
    expect(said({ time: '07:30', again })).toEqual(['DTSTART:20270605T073000', 'EXDATE:20270610T073000'])
    expect(said({ again })).toEqual(['DTSTART;VALUE=DATE:20270605', 'DURATION:P1D', 'EXDATE;VALUE=DATE:20270610'])
  })
})

describe('the hour that comes twice', () => {
  it('a meeting that ends earlier on the wall than it begins has a length instead of an end', () => {
    // 31 October 2027, 02:30 summer time in Copenhagen, for 45 minutes: it ends at 02:15 winter time.
    const text = lines(
      writeInvitation(meeting({ start: Date.parse('2027-10-31T00:30:00Z'), minutes: 45, zone: 'Europe/Copenhagen' })),
    )
    expect(text).toContain('DURATION:PT45M')
    expect(text.some(line => line.startsWith('DTEND'))).toBe(false)
    expect(lines(writeInvitation(meeting())).some(line => line.startsWith('DTEND'))).toBe(true)
  })
})

describe('an answer', () => {
  // RFC 5546, section 4.2.2, a reply that accepts.
  const reply = [
    'BEGIN:VCALENDAR',
    'PRODID:-//Example/ExampleCalendarClient//EN',
    'METHOD:REPLY',
    'VERSION:2.0',
    'BEGIN:VEVENT',
    'ATTENDEE;PARTSTAT=ACCEPTED:mailto:b@example.com',
    'ORGANIZER:mailto:a@example.com',
    'UID:calsrv.example.com-873970198738777@example.com',
    'SEQUENCE:0',
    'REQUEST-STATUS:2.0;Success',
    'DTSTAMP:19970612T190000Z',
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n')
  it('is read as the standard’s example has it', () => {
    expect(readReplies(reply)).toEqual([
      {
        uid: 'calsrv.example.com-873970198738777@example.com',
        sequence: 0,
        mail: 'b@example.com',
        answer: 'accepted',
        comment: '',
        instead: null,
      },
    ])
    expect(
      readReplies(reply.replace('ACCEPTED', 'DECLINED').replace('SEQUENCE:0', 'SEQUENCE:3\r\nCOMMENT:Away\\, sorry')),
    ).toMatchObject([{ sequence: 3, answer: 'declined', comment: 'Away, sorry' }])
  })
  it('is for its sender alone, may be one of two calendars in the file, and somebody may be sent instead', () => {
    expect(() =>
      readReplies(reply.replace('ORGANIZER', 'ATTENDEE;PARTSTAT=DECLINED:mailto:c@example.com\r\nORGANIZER')),
    ).toThrow(/sender alone/)
    expect(readReplies(`${reply.replace('METHOD:REPLY', 'METHOD:PUBLISH')}${reply}`)).toHaveLength(1)
    expect(readReplies(`${reply}${reply.replace('b@example.com', 'c@example.com')}`).map(({ mail }) => mail)).toEqual([
      'b@example.com',
      'c@example.com',
    ])
    // RFC 5546, section 4.2.5: an answer that delegates.
    expect(
      readReplies(reply.replace('PARTSTAT=ACCEPTED', 'PARTSTAT=DELEGATED;DELEGATED-TO="mailto:e@example.com"')),
    ).toMatchObject([{ mail: 'b@example.com', answer: 'delegated', instead: 'e@example.com' }])
  })
  it.each([
    ['no calendar', 'hello', /isn’t a calendar/],
    ['a broken one', reply.slice(0, 150), /isn’t a calendar|no answer|nobody/],
    ['a request', reply.replace('REPLY', 'REQUEST'), /no answer/],
    ['one too large', `${reply}${'X-A:b\r\n'.repeat(100_000)}`, /half a megabyte/],
    ['one without anybody', reply.replace(/ATTENDEE.*\r\n/, ''), /nobody/],
    ['an address that isn’t one', reply.replace('b@example.com', 'nobody'), /nobody/],
  ])('that is %s is refused in words', (_, text, words) => expect(() => readReplies(text)).toThrow(words))
})
