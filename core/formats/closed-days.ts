import ICAL from 'ical.js'
import { Unreadable } from '../capture/nested'
import { addDays } from '../schedule/days'
import { LIMITS } from '../tree/limits'
import { calendarsIn } from './icalendar'

/** A day on which nobody works, and why. */
export interface ClosedDay {
  /** ISO 8601. */
  readonly day: string
  readonly name: string
}

/** Turns of one rule that are looked through at most: daily for a dozen years. */
const MOST_TURNS = 5000
/** Days of one event at most: a closed year. */
const MOST_STRETCH = 366

/**
 * The days that the all-day events of a calendar file name, within two days (ISO 8601, both included), in their order, each once.
 * Events with a time of day aren't closed days, nor is what was cancelled. Repeating events are followed (RFC 5545, section 3.8.5).
 * Throws `Unreadable` for what is no calendar, has no such day, or more than a tree may have.
 */
export function readClosedDays(text: string, from: string, until: string): ClosedDay[] {
  const calendars = calendarsIn(text).filter(({ name }) => name === 'vcalendar')
  try {
    return daysIn(
      calendars.flatMap(calendar => calendar.getAllSubcomponents('vevent')),
      from,
      until,
    )
  } catch (error) {
    if (error instanceof Unreadable) throw error
    // Values are read when they're asked for: a day that is none, a rule that can't be followed.
    throw new Unreadable('This calendar file is broken. Nothing was changed.')
  }
}

function daysIn(events: readonly ICAL.Component[], from: string, until: string): ClosedDay[] {
  const found = new Map<string, string>()
  for (const event of events) {
    if (String(event.getFirstPropertyValue('status') ?? '').toUpperCase() === 'CANCELLED') continue
    const start = event.getFirstPropertyValue('dtstart')
    if (!(start instanceof ICAL.Time) || !start.isDate) continue
    const name = String(event.getFirstPropertyValue('summary') ?? '')
      .replace(/\s+/g, ' ')
      .trim()
      .toWellFormed()
      .slice(0, 200)
    const days = stretchOf(event, start)
    for (const day of turnsOf(event, start, addDays(from, -days), until))
      for (let i = 0; i < days; i++) {
        const at = addDays(day, i)
        if (at < from || at > until || found.has(at)) continue
        found.set(at, name)
        if (found.size > LIMITS.exceptions)
          throw new Unreadable(`This calendar closes more than ${LIMITS.exceptions} days. Nothing was changed.`)
      }
  }
  if (found.size === 0)
    throw new Unreadable('This calendar file has no all-day event in the coming years. Nothing was changed.')
  return Array.from(found, ([day, name]) => ({ day, name })).sort((a, b) => (a.day < b.day ? -1 : 1))
}

const isoOf = ({ year, month, day }: ICAL.Time): string =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`

/** How many days an event takes: up to the day of its end, which isn't one of them; one without (RFC 5545, section 3.6.1). */
function stretchOf(event: ICAL.Component, start: ICAL.Time): number {
  const end = event.getFirstPropertyValue('dtend')
  const length = event.getFirstPropertyValue('duration')
  const days =
    end instanceof ICAL.Time
      ? Math.round(end.subtractDate(start).toSeconds() / 86_400)
      : length instanceof ICAL.Duration
        ? Math.round(length.toSeconds() / 86_400)
        : 1
  return Math.max(1, Math.min(MOST_STRETCH, days))
}

/** The days on which an event begins, as far as they may matter. */
function turnsOf(event: ICAL.Component, start: ICAL.Time, from: string, until: string): string[] {
  if (!event.getFirstProperty('rrule') && !event.getFirstProperty('rdate')) return [isoOf(start)]
  const rule = event.getFirstPropertyValue('rrule')
  // A day that a year or month hasn't is left out (RFC 5545, section 3.3.10); the library takes the next one.
  const plain = rule instanceof ICAL.Recur && Object.keys(rule.parts).length === 0 ? rule.freq : ''
  const exists = (at: ICAL.Time): boolean =>
    plain === 'YEARLY' ? at.month === start.month && at.day === start.day : plain !== 'MONTHLY' || at.day === start.day
  const turns: string[] = []
  const going = new ICAL.RecurExpansion({ component: event, dtstart: start })
  for (let turn = 0; turn < MOST_TURNS; turn++) {
    const next = going.next() as ICAL.Time | null
    if (!next) break
    const day = isoOf(next)
    if (day > until) break
    if (day >= from && exists(next)) turns.push(day)
  }
  return turns
}
