import { z } from 'zod'
import { calendarDay, id } from './atoms'

/*
 * How a task comes again: a recurrence rule (RFC 5545, section 3.3.10) of the kinds that tasks need, and the turns that were done.
 * When its turns fall is reckoned in `core/schedule/turns.ts`.
 */

export const DAYS_OF_WEEK = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const
export type DayOfWeek = (typeof DAYS_OF_WEEK)[number]
/** Which of a month's weekdays, from its beginning or, below 0, from its end. */
export const WHICH = [1, 2, 3, 4, 5, -1, -2, -3] as const
export type Which = (typeof WHICH)[number]

/** How long, in days, weeks, months or years, at most lies between two turns. */
export const MOST_INTERVAL = 500

interface Often {
  /** Every how many days, weeks, months or years. */
  readonly interval: number
  /** The last day on which there may be a turn, ISO 8601; null: it goes on. */
  readonly until: string | null
}
export type Rhythm = Often &
  (
    | { readonly every: 'day' }
    /** On these days of the week, in the week's order. */
    | { readonly every: 'week'; readonly on: readonly DayOfWeek[] }
    /** On a day of the month: 1 to 31, or its last, -1. A month without that day has no turn. */
    | { readonly every: 'month'; readonly day: number }
    /** On the nth such weekday of the month. */
    | { readonly every: 'month'; readonly which: Which; readonly on: DayOfWeek }
    | { readonly every: 'year'; readonly month: number; readonly day: number }
  )

const FREQUENCIES = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' } as const

/** As an RRULE value. The same rhythm is always written in the same way. */
export function writeRhythm(rhythm: Rhythm): string {
  const { every, interval, until } = rhythm
  const parts = [`FREQ=${FREQUENCIES[every]}`]
  if (interval !== 1) parts.push(`INTERVAL=${interval}`)
  if (every === 'year') parts.push(`BYMONTH=${rhythm.month}`)
  if (every === 'week') parts.push(`BYDAY=${rhythm.on.join(',')}`)
  else if ('which' in rhythm) parts.push(`BYDAY=${rhythm.which}${rhythm.on}`)
  else if ('day' in rhythm) parts.push(`BYMONTHDAY=${rhythm.day}`)
  if (until !== null) parts.push(`UNTIL=${until.replaceAll('-', '')}`)
  return parts.join(';')
}

const PARTS = new Set(['FREQ', 'INTERVAL', 'BYDAY', 'BYMONTHDAY', 'BYMONTH', 'UNTIL', 'WKST'])

/** Reads an RRULE value of the kinds above; null for any other: what would mean something else isn't guessed at. */
export function readRhythm(text: string): Rhythm | null {
  const pairs = text
    .replace(/^RRULE:/i, '')
    .toUpperCase()
    .split(';')
    .map(part => part.split('='))
  const parts = new Map(pairs.map(([name = '', value = '']) => [name, value]))
  if (parts.size !== pairs.length || pairs.some(pair => pair.length !== 2 || !PARTS.has(pair[0]!))) return null
  if ((parts.get('WKST') ?? 'MO') !== 'MO') return null
  const whole = (name: string, from: number, to: number): number | null => {
    const value = parts.get(name) ?? ''
    return /^-?\d{1,4}$/.test(value) && Number(value) >= from && Number(value) <= to ? Number(value) : null
  }
  const interval = parts.has('INTERVAL') ? whole('INTERVAL', 1, MOST_INTERVAL) : 1
  const end = parts.get('UNTIL')
  const said = end === undefined ? null : /^(\d{4})(\d\d)(\d\d)(?:T\d{6}Z?)?$/.exec(end)
  const until = said ? `${said[1]}-${said[2]}-${said[3]}` : null
  if (interval === null || (end !== undefined && !calendarDay.safeParse(until).success)) return null
  const often = { interval, until }
  const byDay = parts.get('BYDAY')
  const only = (...names: string[]): boolean =>
    ['BYDAY', 'BYMONTHDAY', 'BYMONTH'].every(name => parts.has(name) === names.includes(name))
  const monthDay = whole('BYMONTHDAY', -1, 31) || null
  switch (parts.get('FREQ')) {
    case 'DAILY':
      return only() ? { every: 'day', ...often } : null
    case 'WEEKLY': {
      const on = DAYS_OF_WEEK.filter(day => byDay?.split(',').includes(day))
      return only('BYDAY') && on.length === byDay?.split(',').length ? { every: 'week', on, ...often } : null
    }
    case 'MONTHLY': {
      if (only('BYMONTHDAY')) return monthDay === null ? null : { every: 'month', day: monthDay, ...often }
      const [, nth, on] = /^(-?\d)([A-Z]{2})$/.exec(byDay ?? '') ?? []
      const which = WHICH.find(one => one === Number(nth))
      const day = DAYS_OF_WEEK.find(one => one === on)
      return only('BYDAY') && which !== undefined && day ? { every: 'month', which, on: day, ...often } : null
    }
    case 'YEARLY': {
      const month = whole('BYMONTH', 1, 12)
      if (!only('BYMONTH', 'BYMONTHDAY') || month === null || monthDay === null) return null
      return monthDay === -1 ? null : { every: 'year', month, day: monthDay, ...often }
    }
    default:
      return null
  }
}

/** How a task comes again: its rhythm, and the day from which it's counted, that of its first turn. */
export const againSchema = z.strictObject({
  rule: z
    .string()
    .max(120)
    .refine(rule => readRhythm(rule) !== null, 'must be a recurrence rule of a kind that tasks have'),
  from: calendarDay,
})
export type Again = Readonly<z.infer<typeof againSchema>>

/** A turn that was done. Its id is the day on which it was due, so that two people who finish it at once finish one. */
export const turnSchema = z.strictObject({
  id: calendarDay,
  /** The day on which it was done. */
  on: calendarDay,
  by: id.nullable(),
})
export type Turn = Readonly<z.infer<typeof turnSchema>>
/** Turns that are remembered; the oldest make room. */
export const MOST_TURNS = 400
