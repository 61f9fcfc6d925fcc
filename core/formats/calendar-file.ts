import ICAL from 'ical.js'
import { checkSize, Unreadable } from '../capture/nested'
import { readRule } from '../meeting/recurrence'
import { isZone, wallTime } from '../meeting/zones'
import { type Again, readRhythm, writeRhythm } from '../tree/again'
import { LIMITS } from '../tree/limits'
import type { BriefPart } from '../tree/meeting'
import { plainNote } from '../tree/note'
import type { OutlineItem } from '../tree/outline'
import { MOST_LAG, type Wait } from '../tree/plan'
import { calendarsIn, clean, NO_CALENDAR } from './icalendar'

/** What of a calendar has no place in a tree. */
export type CalendarLeft = 'person' | 'repeat' | 'cancelled' | 'entry'

/** What a calendar file holds, as branches, and how much of it stayed behind. */
export interface CalendarFile {
  /** The calendar's own name; '' when it has none. */
  readonly title: string
  readonly items: readonly OutlineItem[]
  readonly left: ReadonlyMap<CalendarLeft, number>
}

interface Growing {
  readonly title: string
  readonly from: string
  readonly details: Record<string, unknown>
  readonly children: Growing[]
}

const MOST_MINUTES = 1440
const MOST_TITLE = 1000

/**
 * Meetings and to-dos of a calendar file (RFC 5545) as branches: events with a time of day as meetings with their place, day, time,
 * zone, length and rule; events of whole days with start and due date; to-dos as tasks, one below the one that it's part of, waiting
 * for what it waits for (RFC 9253). Descriptions are notes, addresses links. Who was invited stays behind: people of a tree have
 * accounts in it. Throws `Unreadable` for what is no calendar, is broken or holds neither.
 */
export function readCalendarFile(text: string): CalendarFile {
  const calendars = calendarsIn(text).filter(({ name }) => name === 'vcalendar')
  try {
    return read(calendars)
  } catch (error) {
    if (error instanceof Unreadable) throw error
    // Values are read when they're asked for: a day that is none, a length that is no length.
    throw new Unreadable(NO_CALENDAR)
  }
}

function read(calendars: readonly ICAL.Component[]): CalendarFile {
  const left = new Map<CalendarLeft, number>()
  const leave = (what: CalendarLeft, count = 1): void => {
    if (count > 0) left.set(what, (left.get(what) ?? 0) + count)
  }
  const [meetings, days, tasks]: [Growing[], Growing[], Growing[]] = [[], [], []]
  for (const calendar of calendars) {
    const zone = zoneOf(calendar.getFirstPropertyValue('x-wr-timezone'))
    const zones = calendarZones(calendar)
    const known = new Map<string, { item: Growing; part: ICAL.Component }>()
    let count = 0
    for (const part of calendar.getAllSubcomponents()) {
      if (part.name === 'vtimezone') continue
      if (part.name !== 'vevent' && part.name !== 'vtodo') {
        leave('entry')
        continue
      }
      // One turn of a series that is another, and what was called off, are told of no topic.
      if (part.getFirstProperty('recurrence-id')) {
        leave('repeat')
        continue
      }
      if (wordsOf(part, 'status').toUpperCase() === 'CANCELLED') {
        leave('cancelled')
        continue
      }
      checkTimes(part)
      leave('person', part.getAllProperties('attendee').length)
      const item: Growing = {
        title: wordsOf(part, 'summary').replace(/\s+/g, ' ').slice(0, MOST_TITLE) || 'untitled',
        from: `c${calendars.indexOf(calendar)}-${count++}`,
        details: saidOf(part),
        children: [],
      }
      if (part.name === 'vtodo') {
        Object.assign(item.details, taskOf(part, zone, zones))
        const again = againOf(part, item.details.due)
        if (again) item.details.again = again
        // Single days that the rule leaves out or adds are the working calendar's to say here.
        if (again ? part.getFirstProperty('exdate') || part.getFirstProperty('rdate') : part.getFirstProperty('rrule'))
          leave('repeat')
        const uid = wordsOf(part, 'uid')
        if (uid && !known.has(uid)) known.set(uid, { item, part })
        tasks.push(item)
        continue
      }
      const start = part.getFirstPropertyValue('dtstart')
      if (!(start instanceof ICAL.Time)) {
        leave('entry')
        continue
      }
      if (start.isDate) {
        Object.assign(item.details, { start: isoOf(start), due: lastDayOf(part, start) })
        if (part.getFirstProperty('rrule') || part.getFirstProperty('rdate')) leave('repeat')
        days.push(item)
      } else {
        const { parts, isWhole } = meetingOf(part, start, zone, zones)
        item.details.meeting = parts
        if (!isWhole) leave('repeat')
        meetings.push(item)
      }
    }
    for (const { item, part } of known.values()) relate(item, part, known, tasks)
  }
  const groups: readonly (readonly [string, Growing[]])[] = [
    ['Meetings', meetings.sort((a, b) => (beginOf(a) < beginOf(b) ? -1 : 1))],
    ['Days', days.sort((a, b) => (String(a.details.start) < String(b.details.start) ? -1 : 1))],
    ['Tasks', tasks],
  ]
  const found = groups.filter(([, items]) => items.length > 0)
  if (found.length === 0)
    throw new Unreadable('There is neither a meeting nor a to-do in this calendar. Nothing was changed.')
  const items = found.length === 1 ? found[0]![1] : found.map(([title, children]) => ({ title, children }))
  checkSize(items as readonly OutlineItem[])
  return {
    title:
      calendars
        .map(one => wordsOf(one, 'x-wr-calname'))
        .find(Boolean)
        ?.slice(0, MOST_TITLE) ?? '',
    items: items as readonly OutlineItem[],
    left,
  }
}

function wordsOf(part: ICAL.Component, name: string): string {
  const value = part.getFirstPropertyValue(name)
  return typeof value === 'string' ? clean(value).toWellFormed().trim() : ''
}

const isoOf = ({ year, month, day }: ICAL.Time): string =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
const dayIn = (value: unknown): string | null => (value instanceof ICAL.Time ? isoOf(value) : null)

/** The library takes 30 February for 2 March. What a file says must be a day and a time that there are. */
function checkTimes(part: ICAL.Component): void {
  for (const name of ['dtstart', 'dtend', 'due'])
    for (const property of part.getAllProperties(name)) {
      const [, day, hour, minute] = /^(\d{4}-\d\d-\d\d)(?:T(\d\d):(\d\d))?/.exec(String(property.jCal[3])) ?? []
      const at = new Date(`${day ?? ''}T00:00Z`)
      if (
        Number.isNaN(at.getTime()) ||
        at.toISOString().slice(0, 10) !== day ||
        !(Number(hour ?? 0) < 24) ||
        !(Number(minute ?? 0) < 60)
      )
        throw new Unreadable(NO_CALENDAR)
    }
}

/** What both kinds say: a description, an address. */
function saidOf(part: ICAL.Component): Record<string, unknown> {
  const note = plainNote(wordsOf(part, 'description').slice(0, LIMITS.title * 5))
  const url = wordsOf(part, 'url')
  return {
    ...(note ? { note } : {}),
    ...(/^https?:\/\/\S{1,1990}$/i.test(url) ? { links: [{ id: 'calendar', url, title: '' }] } : {}),
  }
}

/** A to-do's days, how far and how urgent it is. Ours runs from 1 to 5, iCalendar's from 1 to 9, 0 for none. */
function taskOf(
  part: ICAL.Component,
  home: string,
  zones: ReadonlyMap<string, ICAL.Timezone>,
): Record<string, unknown> {
  // A time of day is that of the wall it was written for.
  const momentIn = (value: unknown, tzid: unknown): { readonly day: string; readonly time: string | null } | null =>
    !(value instanceof ICAL.Time)
      ? null
      : value.isDate
        ? { day: isoOf(value), time: null }
        : wallOf(value, typeof tzid === 'string' ? tzid : '', home, zones)
  const begins = part.getFirstPropertyValue('dtstart')
  const zoneAt = (name: string): unknown => part.getFirstProperty(name)?.getParameter('tzid')
  const start = momentIn(begins, zoneAt('dtstart'))
  const length = part.getFirstPropertyValue('duration')
  let due = momentIn(part.getFirstPropertyValue('due'), zoneAt('due'))
  if (due === null && begins instanceof ICAL.Time && length instanceof ICAL.Duration) {
    const end = begins.clone()
    end.addDuration(length)
    due = begins.isDate ? { day: lastDayOf(part, begins), time: null } : momentIn(end, zoneAt('dtstart'))
  }
  const priority = Number(part.getFirstPropertyValue('priority') ?? 0)
  const said = Number(part.getFirstPropertyValue('percent-complete') ?? 0)
  const isDone = wordsOf(part, 'status').toUpperCase() === 'COMPLETED' || part.getFirstProperty('completed') !== null
  return {
    ...(start ? { start: start.day, ...(start.time ? { startTime: start.time } : {}) } : {}),
    ...(due ? { due: due.day, ...(due.time ? { dueTime: due.time } : {}) } : {}),
    done: isDone ? 100 : Math.min(100, Math.max(0, Math.round(said) || 0)),
    ...(priority >= 1 && priority <= 9 ? { priority: Math.ceil(priority / 2) } : {}),
  }
}

/** How a to-do comes again, from the day it's due; null where it doesn't, or not as one of ours can. */
function againOf(part: ICAL.Component, due: unknown): Again | null {
  const told = part.getFirstPropertyValue('rrule')
  const rhythm = told instanceof ICAL.Recur ? readRhythm(told.toString()) : null
  return rhythm && typeof due === 'string' ? { rule: writeRhythm(rhythm), from: due } : null
}

/** The last day of an event of whole days: its end isn't one of them (RFC 5545, section 3.6.1). */
function lastDayOf(part: ICAL.Component, start: ICAL.Time): string {
  const [end, length] = [part.getFirstPropertyValue('dtend'), part.getFirstPropertyValue('duration')]
  const last = (end instanceof ICAL.Time ? end : start).clone()
  if (!(end instanceof ICAL.Time) && length instanceof ICAL.Duration) last.addDuration(length)
  last.isDate = true
  if (last.compare(start) > 0) last.adjust(-1, 0, 0, 0)
  return isoOf(last)
}

/** The zones that a calendar brings along, by their names. */
function calendarZones(calendar: ICAL.Component): ReadonlyMap<string, ICAL.Timezone> {
  return new Map(
    calendar.getAllSubcomponents('vtimezone').map(component => {
      const tzid = wordsOf(component, 'tzid')
      return [tzid, new ICAL.Timezone({ component, tzid })]
    }),
  )
}
const zoneOf = (said: unknown): string => (typeof said === 'string' && isZone(said) ? said : 'UTC')

/** What a meeting of ours says of an event; not whole where its series can't be told as one of ours. */
function meetingOf(
  part: ICAL.Component,
  start: ICAL.Time,
  home: string,
  zones: ReadonlyMap<string, ICAL.Timezone>,
): { readonly parts: BriefPart[]; readonly isWhole: boolean } {
  const tzid = String(part.getFirstProperty('dtstart')?.getParameter('tzid') ?? '')
  const { day, time, zone } = wallOf(start, tzid, home, zones)
  const where = wordsOf(part, 'location').slice(0, 1000)
  const told = part.getFirstPropertyValue('rrule')
  const rule = told instanceof ICAL.Recur ? readRule(told.toString()) : null
  const closed = part
    .getAllProperties('exdate')
    .flatMap(property => property.getValues() as unknown[])
    .flatMap(value => dayIn(value) ?? [])
    .slice(0, 200)
  return {
    parts: [
      { id: 'begins', kind: 'begins', day, time, zone },
      { id: 'slot', kind: 'slot', minutes: minutesOf(part, start) },
      ...(where ? [{ id: 'where', kind: 'where', text: where } as const] : []),
      ...(rule && told ? [{ id: 'rule', kind: 'rule', rule: told.toString(), closed } as const] : []),
    ],
    isWhole: (told === null || rule !== null) && !part.getFirstProperty('rdate'),
  }
}

function minutesOf(part: ICAL.Component, start: ICAL.Time): number {
  const [end, length] = [part.getFirstPropertyValue('dtend'), part.getFirstPropertyValue('duration')]
  const seconds =
    end instanceof ICAL.Time
      ? end.subtractDate(start).toSeconds()
      : length instanceof ICAL.Duration
        ? length.toSeconds()
        : 3600
  return Math.max(1, Math.min(MOST_MINUTES, Math.round(seconds / 60) || 60))
}

/**
 * When an event begins, as it stands on the wall: in its own zone where that is known by its name, else in the calendar's, by the rules
 * that the file brings along. A time without a zone is one of the calendar's (RFC 5545, section 3.3.5, form 1).
 */
function wallOf(
  start: ICAL.Time,
  tzid: string,
  home: string,
  zones: ReadonlyMap<string, ICAL.Timezone>,
): { readonly day: string; readonly time: string; readonly zone: string } {
  const day = isoOf(start)
  const clock = `${String(start.hour).padStart(2, '0')}:${String(start.minute).padStart(2, '0')}`
  const isUtc = start.zone === ICAL.Timezone.utcTimezone
  if (!isUtc && isZone(tzid)) return { day, time: clock, zone: tzid }
  const rules = isUtc ? ICAL.Timezone.utcTimezone : zones.get(tzid)
  if (!rules) return { day, time: clock, zone: home }
  const there = start.clone()
  there.zone = rules
  return { ...wallTime(there.toUnixTime() * 1000, home), zone: home }
}

const beginOf = ({ details }: Growing): string => {
  const begins = (details.meeting as BriefPart[]).find(one => one.kind === 'begins')
  return begins?.kind === 'begins' ? `${begins.day}T${begins.time}` : ''
}

const KINDS: Readonly<Record<string, Wait['kind']>> = {
  FINISHTOSTART: 'FS',
  STARTTOSTART: 'SS',
  FINISHTOFINISH: 'FF',
  STARTTOFINISH: 'SF',
}

/** Puts a to-do below the one it's part of, and lets it wait for what it waits for. What would be a circle stays as it was. */
function relate(
  item: Growing,
  part: ICAL.Component,
  known: ReadonlyMap<string, { readonly item: Growing }>,
  top: Growing[],
): void {
  const waits: Wait[] = []
  // Filled as it goes, so that a circle is seen as soon as it would close.
  item.details.waits = waits
  for (const related of part.getAllProperties('related-to')) {
    const other = known.get(String(related.getFirstValue()))?.item
    if (!other || other === item) continue
    const type = String(related.getParameter('reltype') ?? 'PARENT').toUpperCase()
    const kind = KINDS[type]
    if (kind) {
      const gap = related.getParameter('gap')
      const lag = typeof gap === 'string' && gap ? ICAL.Duration.fromString(gap).toSeconds() / 86_400 : 0
      const isFit = Math.abs(lag) <= MOST_LAG && waits.length < 100 && !waits.some(({ on }) => on === other.from)
      if (isFit && !waitsFor(other, item, known))
        waits.push({ id: `w${waits.length}`, on: other.from, kind, lag, days: 'calendar' })
    } else if (type === 'PARENT' && top.includes(item) && !holds(item, other)) {
      top.splice(top.indexOf(item), 1)
      other.children.push(item)
    }
  }
  if (waits.length === 0) delete item.details.waits
}

/** Whether one waits for another, by however many between them. */
function waitsFor(one: Growing, other: Growing, known: ReadonlyMap<string, { readonly item: Growing }>): boolean {
  const byFrom = new Map(Array.from(known.values(), ({ item }) => [item.from, item]))
  const seen = new Set<Growing>()
  const open = [one]
  for (let at = open.pop(); at; at = open.pop()) {
    if (at === other) return true
    if (seen.has(at)) continue
    seen.add(at)
    for (const { on } of (at.details.waits ?? []) as Wait[]) open.push(byFrom.get(on)!)
  }
  return false
}

function holds(above: Growing, item: Growing): boolean {
  const open = [...above.children]
  for (let at = open.pop(); at; at = open.pop()) {
    if (at === item) return true
    open.push(...at.children)
  }
  return false
}
