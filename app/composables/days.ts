import * as days from '#core/schedule/days'

export const { dayInWords } = days

/** The calendar day here and now, ISO 8601. */
export function today(): string {
  return isoDay(new Date())
}

/** The calendar day of an instant in the person's zone. */
export function isoDay(date: Date): string {
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`
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
