import { addDays, daysBetween } from '../schedule/days'
import { nthWeekday, weekdayOf } from '../schedule/weekdays'
import { DAYS_OF_WEEK, type DayOfWeek, WHICH, type Which } from '../tree/again'

/*
 * How a series of meetings goes on: the recurrence rules of RFC 5545, section 3.3.10, that meetings need. Weekly or
 * every so many weeks on a weekday; monthly on the nth or last such weekday. Days are ISO 8601 dates.
 */

export const WEEKDAYS = DAYS_OF_WEEK
export type Weekday = DayOfWeek

/**
 * Which of a month's such weekdays, counted from its beginning or, below 0, from its end. A month without a fifth has
 * no meeting (RFC 5545, section 3.3.10).
 */
export const NTHS = WHICH
export type Nth = Which
export { nthWeekday, weekdayOf }

export type Rule =
  | { readonly every: 'week'; readonly interval: number; readonly on: Weekday }
  | { readonly every: 'month'; readonly interval: number; readonly nth: Nth; readonly on: Weekday }

const MOST_TRIES = 1000

function addMonths(day: string, months: number): string {
  const count = Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1 + months
  return `${String(Math.floor(count / 12)).padStart(4, '0')}-${String((count % 12) + 1).padStart(2, '0')}-01`
}

/**
 * The days of a series from its first on, without end. The first counts, whether or not it fits the rule (RFC 5545,
 * section 3.8.5.3).
 */
export function* daysOf(first: string, rule: Rule): Generator<string> {
  yield first
  const step = Math.max(1, Math.floor(rule.interval))
  if (rule.every === 'week') {
    // Weeks begin on Monday, which is WKST's default.
    const monday = addDays(first, -WEEKDAYS.indexOf(weekdayOf(first)))
    for (let week = 0; ; week += step) {
      const day = addDays(monday, week * 7 + WEEKDAYS.indexOf(rule.on))
      if (day > first) yield day
    }
  }
  for (let month = 0; ; month += step) {
    const day = nthWeekday(addMonths(first, month), rule.nth, rule.on)
    if (day !== null && day > first) yield day
  }
}

/**
 * The rule's own day that a meeting stands for: the nearest one, where somebody has moved it by hand. The earlier of
 * two that are as near.
 */
export function slotOf(day: string, rule: Rule): string {
  const near =
    rule.every === 'week'
      ? [-3, -2, -1, 0, 1, 2, 3].map(by => addDays(day, by)).filter(one => weekdayOf(one) === rule.on)
      : [-1, 0, 1].map(by => nthWeekday(addMonths(day, by), rule.nth, rule.on)).filter(one => one !== null)
  const far = (one: string): number => Math.abs(daysBetween(one, day))
  return near.reduce((best, one) => (far(one) < far(best) ? one : best), near[0] ?? day)
}

/**
 * The first day of a series after `after` that isn't closed. What falls on a closed day is left out, not moved. Null
 * when none is found in a thousand.
 */
export function nextDay(
  first: string,
  rule: Rule,
  after: string,
  isClosed: (day: string) => boolean = () => false,
): string | null {
  let tries = 0
  for (const day of daysOf(first, rule)) {
    if (day > after && !isClosed(day)) return day
    if (++tries > MOST_TRIES) return null
  }
  return null
}

/** As an RRULE value. */
export function writeRule(rule: Rule): string {
  const interval = rule.interval === 1 ? '' : `;INTERVAL=${rule.interval}`
  return rule.every === 'week'
    ? `FREQ=WEEKLY${interval};BYDAY=${rule.on}`
    : `FREQ=MONTHLY${interval};BYDAY=${rule.nth}${rule.on}`
}

/** Reads an RRULE value of the kinds above; null for any other. */
export function readRule(text: string): Rule | null {
  const parts = new Map(
    text
      .replace(/^RRULE:/i, '')
      .toUpperCase()
      .split(';')
      .map(part => part.split('=') as [string, string]),
  )
  for (const name of parts.keys()) if (!['FREQ', 'INTERVAL', 'BYDAY', 'WKST'].includes(name)) return null
  if ((parts.get('WKST') ?? 'MO') !== 'MO') return null
  const interval = Number(parts.get('INTERVAL') ?? 1)
  const by = /^(-?\d)?([A-Z]{2})$/.exec(parts.get('BYDAY') ?? '')
  const on = WEEKDAYS.find(day => day === by?.[2])
  if (!Number.isInteger(interval) || interval < 1 || interval > 100 || !by || !on) return null
  if (parts.get('FREQ') === 'WEEKLY' && by[1] === undefined) return { every: 'week', interval, on }
  const nth = NTHS.find(one => one === Number(by[1]))
  return parts.get('FREQ') === 'MONTHLY' && nth !== undefined ? { every: 'month', interval, nth, on } : null
}
