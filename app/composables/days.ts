import * as days from '#core/schedule/days'

export const { dayInWords, isoDay } = days

/** The calendar day here and now, ISO 8601. */
export function today(): string {
  return isoDay(new Date())
}

/** A calendar day as the date pickers want it: midnight here. */
export function dayDate(day: string): Date {
  const [year, month, date] = day.split('-').map(Number)
  return new Date(year!, month! - 1, date)
}

export function dueInWords(due: string, now = today()): { readonly text: string, readonly late: boolean } {
  return days.dueInWords(due, now)
}

export function agoInWords(instant: string): string {
  return days.agoInWords((Date.now() - Date.parse(instant)) / 60_000, isoDay(new Date(instant)), today())
}
