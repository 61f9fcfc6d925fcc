import type { Topic } from '../tree/topic'
import { dayInWords } from './days'

/* Times of day on the wall, "09:30", and the days they belong to. */

/** A day with or without a time of it. */
export interface Moment {
  /** ISO 8601. */
  readonly day: string
  /** "09:30"; null: no time of the day is said. */
  readonly time: string | null
}

/** “12 May 2027, 14:30”. */
export const momentInWords = (day: string, time: string | null, locale?: string): string =>
  time === null ? dayInWords(day, locale) : `${dayInWords(day, locale)}, ${time}`

/** The hours of a day on which something is due: “10:15 to 10:40”, or the one time that is known; null for none. */
export function hoursOn(topic: Parameters<typeof timesOf>[0], day: string): string | null {
  const { time, ends } = timesOf(topic, day, day)
  return [time, ends].filter(Boolean).join(' to ') || null
}

/** Minutes from midnight of a time on the wall. */
export const minuteOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3))

/**
 * When what stands on these days, ISO 8601, begins and ends on the wall. A time of day belongs to the day that was typed with it: where
 * the plan puts a task on another, it says nothing. What has to be done by a time, and nothing else is known, stands at that time.
 */
export function timesOf(
  { start, due, startTime, dueTime }: Pick<Topic, 'start' | 'due' | 'startTime' | 'dueTime'>,
  from: string,
  to: string,
): { readonly time: string | null; readonly ends: string | null } {
  const begins = start === from ? startTime : null
  const ends = due === to ? dueTime : null
  return begins === null && from === to ? { time: ends, ends: null } : { time: begins, ends }
}
