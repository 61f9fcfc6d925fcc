import * as days from '#core/schedule/days'
import * as times from '#core/schedule/times'
import { dayIn } from '#core/schedule/zone-day'
import type { DaySense } from '#core/schedule/day-words'

export const { isoDay } = days

/** The person's locale. */
export const ownLocale = (): string => navigator.language || 'en-GB'

/** A day in the person's own form: “12 May 2027”. */
export const dayInWords = (day: string): string => days.dayInWords(day, ownLocale())

/** A day with its time of day: “12 May 2027, 14:30”. */
export const momentInWords = (day: string, time: string | null): string => times.momentInWords(day, time, ownLocale())

/** The day as it was last looked at; computed values that ask for `today()` are worked out anew when it has changed. */
const day = ref(isoDay(new Date()))
/** The days of other zones, as they were last looked at; where a zone is none that there is, one's own. */
const zoned = new Map<string, Ref<string>>()
/** The minute, likewise: what was said just now isn't for ever. */
const minute = ref(0)
function look(): void {
  day.value = isoDay(new Date())
  minute.value = Math.floor(Date.now() / 60_000)
  for (const [zone, its] of zoned) its.value = dayIn(zone) ?? day.value
}
if (import.meta.client) {
  // A tab that stays open past midnight, or sleeps through it.
  setInterval(look, 20_000)
  document.addEventListener('visibilitychange', look)
  window.addEventListener('focus', look)
}

/** The calendar day here and now, ISO 8601. */
export function today(): string {
  void day.value
  return isoDay(new Date())
}

/** The hour of the day here and now, 0–23. */
export function hourNow(): number {
  void minute.value
  return new Date().getHours()
}

/** The calendar day that it is in a zone now, ISO 8601; here, where that is null. */
export function todayIn(zone: string | null): string {
  if (zone === null) return today()
  let its = zoned.get(zone)
  if (!its) zoned.set(zone, (its = ref(dayIn(zone) ?? today())))
  return its.value
}

/** Calls back after midnight. */
export function onNewDay(then: () => void): () => void {
  return watch(day, then)
}

/** What a reader of day words needs to know here and now. */
export const daySense = (): DaySense => ({ today: today(), locale: ownLocale() })

/** A calendar day as the date pickers want it: midnight here. */
export function dayDate(day: string): Date {
  const [year, month, date] = day.split('-').map(Number)
  return new Date(year!, month! - 1, date)
}

export function dueInWords(
  due: string,
  now = today(),
  time: string | null = null,
): { readonly text: string; readonly late: boolean } {
  return days.dueInWords(due, now, ownLocale(), time)
}

/** “5 minutes ago”; said anew as the day's clock goes on. */
export function agoInWords(instant: string): string {
  void minute.value
  return days.agoInWords((Date.now() - Date.parse(instant)) / 60_000, isoDay(new Date(instant)), today(), ownLocale())
}
