/*
 * Calendar days as ISO 8601 dates without a zone, and how far off they are in words. What day it is, is passed in.
 */

/** Whole days from one calendar day to another; negative when the second comes first. */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000)
}

/** The calendar day so many days later (earlier when negative). */
export function addDays(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)
}

/** The calendar day of an instant, where the machine stands. */
export function isoDay(date: Date): string {
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`
}

const formats = new Map<string, Intl.DateTimeFormat>()

/**
 * "12 May 2027", in a locale's own form, never an ambiguous order of numbers. Calendars are Gregorian everywhere,
 * since days are ISO 8601.
 */
export function dayInWords(day: string, locale = 'en-GB'): string {
  let format = formats.get(locale)
  if (!format)
    formats.set(
      locale,
      (format = new Intl.DateTimeFormat([locale, 'en-GB'], {
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        timeZone: 'UTC',
        calendar: 'gregory',
      })),
    )
  return format.format(new Date(`${day}T00:00Z`))
}

/**
 * How far off a due date is: "2 d late", "today", "in 3 d", "in 5 wk", and further off the date itself. Its time of day is
 * said where the day is.
 */
export function dueInWords(
  due: string,
  now: string,
  locale?: string,
  time: string | null = null,
): { readonly text: string; readonly late: boolean } {
  const days = daysBetween(now, due)
  if (days < 0) return { text: days > -21 ? `${-days} d late` : `${Math.round(-days / 7)} wk late`, late: true }
  const at = time === null ? '' : ` ${time}`
  if (days === 0) return { text: `today${at}`, late: false }
  if (days === 1) return { text: `tomorrow${at}`, late: false }
  if (days < 15) return { text: `in ${days} d`, late: false }
  if (days < 64) return { text: `in ${Math.round(days / 7)} wk`, late: false }
  return { text: `${dayInWords(due, locale)}${at && `,${at}`}`, late: false }
}

/**
 * How long ago something was: "just now", "12 min ago", "3 h ago", "yesterday", then the date. `minutes` past, on days
 * as the person's calendar has them.
 */
export function agoInWords(minutes: number, day: string, now: string, locale?: string): string {
  if (minutes < 1) return 'just now'
  if (minutes < 60) return `${Math.floor(minutes)} min ago`
  const days = daysBetween(day, now)
  if (days <= 0) return `${Math.floor(minutes / 60)} h ago`
  return days === 1 ? 'yesterday' : dayInWords(day, locale)
}
