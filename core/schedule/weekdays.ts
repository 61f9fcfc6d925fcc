import { DAYS_OF_WEEK, type DayOfWeek, type Which } from '../tree/again'
import { addDays } from './days'

/* Days of the week, and which of them a month has. Days are ISO 8601 dates. */

export function weekdayOf(day: string): DayOfWeek {
  return DAYS_OF_WEEK[(new Date(`${day}T00:00Z`).getUTCDay() + 6) % 7]!
}

/** The Monday of a day's week (ISO 8601). */
export const mondayOf = (day: string): string => addDays(day, -DAYS_OF_WEEK.indexOf(weekdayOf(day)))

/** The nth weekday of the month that a day lies in, counted from the end below 0; null in a month that has no fifth. */
export function nthWeekday(month: string, nth: Which, on: DayOfWeek): string | null {
  const first = `${month.slice(0, 7)}-01`
  const start = addDays(first, (DAYS_OF_WEEK.indexOf(on) - DAYS_OF_WEEK.indexOf(weekdayOf(first)) + 7) % 7)
  const count = addDays(start, 28).slice(0, 7) === first.slice(0, 7) ? 5 : 4
  const at = nth > 0 ? nth - 1 : count + nth
  return at < count ? addDays(start, at * 7) : null
}
