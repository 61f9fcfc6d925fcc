import ICAL from 'ical.js'
import { Unreadable } from '../capture/nested'
import type { Answer } from '../tree/meeting'
import type { Rule } from '../meeting/recurrence'
import { writeRule } from '../meeting/recurrence'
import { offsetAt, transitionsOf, wallTime } from '../meeting/zones'

/*
 * Meetings and tasks as iCalendar (RFC 5545), invitations and answers as RFC 5546 has them: REQUEST, CANCEL, REPLY.
 * Times carry their zone, and the zone its rules as they are around the meeting, so that they're right on both sides of
 * a daylight-saving change.
 */

// Lines fold at 75 octets (RFC 5545, section 3.1), the line's own end not counted.
ICAL.foldLength = 74

const PRODUCT = '-//Sun Porch//Sun Porch 1//EN'
const MOST_BYTES = 500_000
export const NO_CALENDAR = 'This isn’t a calendar file, or it is broken. Nothing was changed.'
const YEAR_MS = 366 * 86_400_000

export interface CalendarPerson {
  readonly mail: string
  readonly name: string
  readonly part: 'chair' | 'needed' | 'optional'
  readonly answer: Answer
}

export interface CalendarMeeting {
  /** The same as long as the meeting is the same. */
  readonly uid: string
  /** Raised with every change that people must hear of. */
  readonly sequence: number
  readonly title: string
  readonly text: string
  readonly where: string
  /** Instants are milliseconds since 1970 UTC. */
  readonly start: number
  readonly minutes: number
  /** IANA name. */
  readonly zone: string
  readonly organizer: { readonly mail: string; readonly name: string }
  readonly people: readonly CalendarPerson[]
  readonly rule: Rule | null
  /** When this was written. */
  readonly stamp: number
  readonly cancelled: boolean
  /** True in what goes to people who aren't asked any more, while the meeting itself stands. */
  readonly uninvited?: boolean
}

/** How a to-do comes again in a calendar: its rule, and the days on which it differs from what the rule says. */
export interface Repeats {
  /** An RRULE value. */
  readonly rule: string
  /** Days of the rule on which there's no turn, and turns that the rule doesn't say, ISO 8601. */
  readonly without: readonly string[]
  readonly besides: readonly string[]
}

export interface CalendarTask {
  readonly uid: string
  readonly title: string
  readonly text: string
  /** The day by which it's to be done, ISO 8601. */
  readonly due: string | null
  /** The time of that day, and when it begins on it, where both are known; on the wall of a zone, or of whoever reads it. */
  readonly time?: string | null
  readonly begins?: string | null
  readonly zone?: string | null
  readonly done: number | null
  readonly priority: number | null
  readonly again?: Repeats | null
  readonly stamp: number
}

/** Control characters have no place in iCalendar text, and a bare CR ends lines for some readers. */
export function clean(text: string): string {
  // eslint-disable-next-line no-control-regex -- RFC 5545, section 3.1: CONTROL is these, without HTAB
  return text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0008\u000B-\u001F\u007F]/g, '')
}

function utc(instant: number): ICAL.Time {
  return ICAL.Time.fromJSDate(new Date(Math.floor(instant / 1000) * 1000), true)
}

function local(instant: number, zone: string): ICAL.Time {
  const { day, time } = wallTime(instant, zone)
  return ICAL.Time.fromDateTimeString(`${day}T${time}:00`)
}

const offset = (minutes: number): ICAL.UtcOffset => ICAL.UtcOffset.fromSeconds(Math.round(minutes * 60))

/** A zone's rules from a year before to some years after, each change by its own date. */
function timezone(zone: string, from: number, to: number): ICAL.Component {
  const component = new ICAL.Component('vtimezone')
  component.updatePropertyWithValue('tzid', zone)
  const begin = from - YEAR_MS
  const rules = transitionsOf(zone, begin, to + YEAR_MS)
  const first = rules[0]
  const observe = (kind: 'standard' | 'daylight', start: string, before: number, after: number): void => {
    const part = new ICAL.Component(kind)
    part.updatePropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(start))
    part.updatePropertyWithValue('tzoffsetfrom', offset(before))
    part.updatePropertyWithValue('tzoffsetto', offset(after))
    component.addSubcomponent(part)
  }
  const base = offsetAt(begin, zone)
  observe(first?.daylight === false ? 'daylight' : 'standard', '1970-01-01T00:00:00', base, base)
  // An onset is written in the time that was on the wall just before it (RFC 5545, section 3.6.5).
  for (const { at, from: before, to: after, daylight } of rules)
    observe(
      daylight ? 'daylight' : 'standard',
      new Date(at + before * 60_000).toISOString().slice(0, 19),
      before,
      after,
    )
  return component
}

export function calendar(method: string | null): ICAL.Component {
  const component = new ICAL.Component('vcalendar')
  component.updatePropertyWithValue('prodid', PRODUCT)
  component.updatePropertyWithValue('version', '2.0')
  if (method) component.updatePropertyWithValue('method', method)
  return component
}

function person(name: 'organizer' | 'attendee', { mail, name: called }: { mail: string; name: string }): ICAL.Property {
  const property = new ICAL.Property(name)
  property.setParameter('cn', clean(called).replace(/["\n]/g, "'"))
  property.setValue(`mailto:${mail}`)
  return property
}

const ROLES: Record<CalendarPerson['part'], string> = {
  chair: 'CHAIR',
  needed: 'REQ-PARTICIPANT',
  optional: 'OPT-PARTICIPANT',
}

function event(meeting: CalendarMeeting): ICAL.Component {
  const component = new ICAL.Component('vevent')
  const timed = (name: string, instant: number): void => {
    const property = new ICAL.Property(name)
    property.setParameter('tzid', meeting.zone)
    property.setValue(local(instant, meeting.zone))
    component.addProperty(property)
  }
  component.updatePropertyWithValue('uid', meeting.uid)
  component.updatePropertyWithValue('sequence', meeting.sequence)
  component.updatePropertyWithValue('dtstamp', utc(meeting.stamp))
  timed('dtstart', meeting.start)
  const end = meeting.start + meeting.minutes * 60_000
  // In the hour that comes twice the wall may stand earlier at the end than at the beginning: then its length says when
  // it ends (RFC 5545, section 3.8.2.5).
  if (offsetAt(end, meeting.zone) === offsetAt(meeting.start, meeting.zone)) timed('dtend', end)
  else component.updatePropertyWithValue('duration', ICAL.Duration.fromSeconds(meeting.minutes * 60))
  component.updatePropertyWithValue('summary', clean(meeting.title).replace(/\n/g, ' '))
  if (meeting.text) component.updatePropertyWithValue('description', clean(meeting.text))
  if (meeting.where) component.updatePropertyWithValue('location', clean(meeting.where))
  if (meeting.rule) component.updatePropertyWithValue('rrule', ICAL.Recur.fromString(writeRule(meeting.rule)))
  // Taking single people off says nothing of the meeting's own state (RFC 5546, section 3.2.5; from memory).
  if (!meeting.uninvited) component.updatePropertyWithValue('status', meeting.cancelled ? 'CANCELLED' : 'CONFIRMED')
  component.addProperty(person('organizer', meeting.organizer))
  for (const one of meeting.people) {
    const attendee = person('attendee', one)
    attendee.setParameter('role', ROLES[one.part])
    attendee.setParameter('partstat', one.answer.toUpperCase())
    if (one.answer === 'needs-action') attendee.setParameter('rsvp', 'TRUE')
    component.addProperty(attendee)
  }
  return component
}

/** The uid of a task in every calendar it's told in, so that whoever reads two of them has it once. */
export const taskUid = (treeId: string, topic: string): string => `${treeId}.${topic}@sun-porch`

/** What a to-do and an all-day event of a topic begin with. */
export function topicIn(kind: 'vtodo' | 'vevent', task: Pick<CalendarTask, 'uid' | 'title' | 'stamp'>): ICAL.Component {
  const component = new ICAL.Component(kind)
  component.updatePropertyWithValue('uid', task.uid)
  component.updatePropertyWithValue('dtstamp', utc(task.stamp))
  component.updatePropertyWithValue('summary', clean(task.title).replace(/\n/g, ' '))
  return component
}

/** How urgent a to-do is and how far. */
export function sayProgress(
  component: ICAL.Component,
  { priority, done }: Pick<CalendarTask, 'priority' | 'done'>,
): void {
  // Ours runs from 1 to 5, iCalendar's from 1 to 9 (RFC 5545, section 3.8.1.9).
  if (priority !== null) component.updatePropertyWithValue('priority', priority * 2 - 1)
  if (done !== null) component.updatePropertyWithValue('percent-complete', done)
  component.updatePropertyWithValue(
    'status',
    done === 100 ? 'COMPLETED' : (done ?? 0) > 0 ? 'IN-PROCESS' : 'NEEDS-ACTION',
  )
}

/** A day, with its time of day where it has one. */
const momentOf = (day: string, time: string | null): ICAL.Time =>
  time === null ? ICAL.Time.fromDateString(day) : ICAL.Time.fromDateTimeString(`${day}T${time}:00`)

/**
 * Says days under a name, with their time of day where they have one: in its zone, whose rules the calendar must then hold, or, where
 * none is known, on the wall of whoever reads it (RFC 5545, section 3.3.5, form 1).
 */
export function sayDays(
  component: ICAL.Component,
  name: 'dtstart' | 'dtend' | 'due' | 'exdate' | 'rdate',
  days: readonly string[],
  time: string | null,
  zone: string | null,
): void {
  if (days.length === 0) return
  const property = new ICAL.Property(name)
  property.resetType(time === null ? 'date' : 'date-time')
  if (time !== null && zone !== null) property.setParameter('tzid', zone)
  const values = days.map(day => momentOf(day, time))
  if (property.isMultiValue) property.setValues(values)
  else property.setValue(values[0]!)
  component.addProperty(property)
}

function todo({ due, time = null, begins = null, zone = null, ...task }: CalendarTask): ICAL.Component {
  const component = topicIn('vtodo', task)
  if (task.text) component.updatePropertyWithValue('description', clean(task.text))
  const runs = begins !== null && time !== null && begins < time
  if (due && (task.again || runs)) {
    // A rule counts from a start, and a due date must be later than the start.
    sayDays(component, 'dtstart', [due], runs ? begins : time, zone)
    if (runs) sayDays(component, 'due', [due], time, zone)
    // Without a time of day it's a day long from the day it's due on.
    else if (time === null) component.updatePropertyWithValue('duration', ICAL.Duration.fromSeconds(86_400))
    if (task.again) sayRepeats(component, task.again, runs ? begins : time, zone)
  } else if (due) sayDays(component, 'due', [due], time, zone)
  sayProgress(component, task)
  return component
}

/** That a to-do comes again (RFC 5545, sections 3.8.5.1 to 3.8.5.3), at the time of day and in the zone of its start. */
function sayRepeats(
  component: ICAL.Component,
  { rule, without, besides }: Repeats,
  time: string | null,
  zone: string | null,
): void {
  component.updatePropertyWithValue('rrule', ICAL.Recur.fromString(rule))
  sayDays(component, 'exdate', without, time, zone)
  sayDays(component, 'rdate', besides, time, zone)
}

export function finished(component: ICAL.Component): string {
  return `${component.toString().replace(/\r?\n$/, '')}\r\n`
}

/** What of a task needs the rules of a zone: the time of day when it's due. */
function timed({ due, time, zone, again }: CalendarTask): Timed[] {
  return due && time && zone ? [{ zone, start: Date.parse(`${due}T${time}Z`), rule: again ?? null }] : []
}

type Timed = { readonly zone: string; readonly start: number; readonly rule: unknown }

/** The rules of the zones that times are said in. Instants are ms since 1970 UTC; a day more or less makes no difference. */
export function withZones(component: ICAL.Component, meetings: readonly Timed[]): void {
  for (const zone of new Set(meetings.map(meeting => meeting.zone))) {
    const starts = meetings.filter(meeting => meeting.zone === zone).map(meeting => meeting.start)
    const years = meetings.some(meeting => meeting.zone === zone && meeting.rule) ? 5 : 1
    component.addSubcomponent(timezone(zone, Math.min(...starts), Math.max(...starts) + years * YEAR_MS))
  }
}

/** An invitation, or its cancelling, to be sent by mail. */
export function writeInvitation(meeting: CalendarMeeting): string {
  const component = calendar(meeting.cancelled || meeting.uninvited ? 'CANCEL' : 'REQUEST')
  withZones(component, [meeting])
  component.addSubcomponent(event(meeting))
  return finished(component)
}

/** A calendar to be read: somebody's meetings and tasks. */
export function writeCalendar(meetings: readonly CalendarMeeting[], tasks: readonly CalendarTask[]): string {
  const component = calendar(null)
  withZones(component, [...meetings, ...tasks.flatMap(timed)])
  for (const meeting of meetings) component.addSubcomponent(event(meeting))
  for (const task of tasks) component.addSubcomponent(todo(task))
  return finished(component)
}

export interface Reply {
  readonly uid: string
  readonly sequence: number
  readonly mail: string
  readonly answer: Answer
  readonly comment: string
  /** Who comes instead, of somebody who sends another. */
  readonly instead: string | null
}

const ANSWERS: Readonly<Record<string, Answer>> = {
  ACCEPTED: 'accepted',
  DECLINED: 'declined',
  TENTATIVE: 'tentative',
  'NEEDS-ACTION': 'needs-action',
  DELEGATED: 'delegated',
}

/** The calendar objects of a file. What is too large or broken is refused in words. */
export function calendarsIn(text: string): ICAL.Component[] {
  if (text.length > MOST_BYTES)
    throw new Unreadable('This calendar file is larger than half a megabyte. Nothing was changed.')
  type Parsed = ConstructorParameters<typeof ICAL.Component>[0]
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '')) as Parsed | Parsed[]
    // Several calendar objects in one stream come as a list (RFC 5545, section 3.4).
    return (Array.isArray(parsed[0]) ? (parsed as Parsed[]) : [parsed as Parsed]).map(one => new ICAL.Component(one))
  } catch {
    throw new Unreadable(NO_CALENDAR)
  }
}

/** Reads the answers in a calendar file of the method REPLY. Whatever else it is, it's refused in words. */
export function readReplies(text: string): Reply[] {
  const calendars = calendarsIn(text)
  const answers = calendars.filter(
    one => one.name === 'vcalendar' && String(one.getFirstPropertyValue('method') ?? '').toUpperCase() === 'REPLY',
  )
  if (answers.length === 0)
    throw new Unreadable('This calendar file holds no answer to an invitation. Nothing was changed.')
  const replies: Reply[] = []
  for (const one of answers.flatMap(calendar => calendar.getAllSubcomponents('vevent'))) {
    const uid = one.getFirstPropertyValue('uid')
    if (typeof uid !== 'string' || uid === '' || uid.length > 300) continue
    // An answer is for its sender alone (RFC 5546, section 3.2.3: exactly one ATTENDEE); one that speaks for several is
    // nobody's.
    const attendees = one.getAllProperties('attendee')
    if (attendees.length > 1)
      throw new Unreadable(
        'This answer names several people, and an answer is for its sender alone. Nothing was changed.',
      )
    for (const attendee of attendees) {
      const to = attendee.getParameter('delegated-to') as string | string[] | undefined
      const instead =
        /^mailto:([^\s@]+@[^\s@]+)$/i.exec(String(Array.isArray(to) ? to[0] : (to ?? '')))?.[1]?.toLowerCase() ?? null
      const mail = /^mailto:([^\s@]+@[^\s@]+)$/i.exec(String(attendee.getFirstValue()))?.[1]
      const answer = ANSWERS[String(attendee.getParameter('partstat') ?? 'NEEDS-ACTION').toUpperCase()]
      if (mail && answer)
        replies.push({
          uid,
          sequence: Number(one.getFirstPropertyValue('sequence') ?? 0) || 0,
          mail: mail.toLowerCase(),
          answer,
          comment: String(one.getFirstPropertyValue('comment') ?? '').slice(0, 1000),
          instead: answer === 'delegated' ? instead : null,
        })
    }
  }
  if (replies.length === 0) throw new Unreadable('This calendar file names nobody who answers. Nothing was changed.')
  return replies
}
