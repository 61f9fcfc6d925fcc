import { endOfWeek } from './day-words'
import { addDays } from './days'

/** When something is owed, as people ask. */
export const WHENS = ['late', 'today', 'week', 'later', 'none'] as const
export type When = (typeof WHENS)[number]
export const WHEN_NAMES: Record<When, string> = {
  late: 'Late',
  today: 'Today',
  week: 'This week',
  later: 'Later',
  none: 'No date',
}

/** In which of these a due day falls. The week ends where the locale's does; without one on Sunday (ISO 8601). */
export function whenOf(due: string | null, today: string, locale?: string): When {
  if (due === null) return 'none'
  if (due < today) return 'late'
  if (due === today) return 'today'
  return due <= endOfWeek(today, locale) ? 'week' : 'later'
}

/**
 * Due days moved as people say it: a day on or back, counted from the day itself or from today when that has passed;
 * to the first day of next week; none.
 */
export function movedDue(
  due: string | null,
  how: 'later' | 'earlier' | 'next-week' | 'none',
  today: string,
  locale?: string,
): string | null {
  if (how === 'none') return null
  const from = due === null || due < today ? today : due
  if (how === 'later') return addDays(from, 1)
  if (how === 'earlier') return addDays(due ?? today, -1)
  return addDays(endOfWeek(today, locale), 1)
}
