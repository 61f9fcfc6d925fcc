import { type DaySense, readDay } from './day-words'
import type { Moment } from './times'

/* The one reader of times of day in words: "14:30", "2:30 pm", "14h30", "9 Uhr", "noon". */

const TIME = String.raw`\d{1,2}:\d{2}\s*[ap]\.?m\.?|\d{1,2}\s*[ap]\.?m\.?|\d{1,2}[:h]\d{2}|\d{1,2}(?:[:.]\d{2})?\s*uhr|noon`
// Tables have seconds, too.
const ONE = /^(\d{1,2})(?:[:.h](\d{2})(?::\d{2})?)?\s*(?:([ap])\.?m\.?|uhr)?$/i
/** One time, or two that it runs between, at the end of something said. */
const AT_THE_END = new RegExp(
  String.raw`^(|.*?[\s,])(?:(?:at|um|à|a las|kl\.?|@)\s*)?(${TIME})(?:\s*(?:–|-|to|till|until|bis)\s*(${TIME}))?$`,
  'isu',
)
const ISO = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})(?::\d{2}(?:\.\d+)?)?$/

/** A time said by itself, as "09:30"; null for what is no time. Noon and midnight of twelve-hour clocks are 12 pm and 12 am. */
export function readTime(text: string): string | null {
  const said = text.trim()
  if (/^noon$/i.test(said)) return '12:00'
  const [, hours, minutes = '00', half] = ONE.exec(said) ?? []
  // A bare number may be anything.
  if (hours === undefined || /^\d+$/.test(said)) return null
  let hour = Number(hours)
  if (half !== undefined) {
    if (hour < 1 || hour > 12) return null
    hour = (hour % 12) + (half.toLowerCase() === 'p' ? 12 : 0)
  }
  if (hour > 23 || Number(minutes) > 59) return null
  return `${String(hour).padStart(2, '0')}:${minutes}`
}

/** What was said before the times at its end, and those; null where none stand there. */
export function timesAtTheEnd(
  text: string,
): { readonly before: string; readonly from: string; readonly to: string | null } | null {
  const iso = ISO.exec(text.trim())
  const [, before = '', first = '', second] = iso ? [iso[0], iso[1], iso[2]] : (AT_THE_END.exec(text.trim()) ?? [])
  const from = readTime(first)
  const to = second === undefined ? null : readTime(second)
  if (from === null || (second !== undefined && to === null)) return null
  return { before: before.replace(/[\s,]+$/, ''), from, to }
}

/**
 * A day with or without a time: “fri 14:30”, “12 May”, “2027-06-05T07:30”; a time alone is one of the day that is there already.
 * Null for what is neither.
 */
export function readMoment(text: string, sense: DaySense, there: string | null = null): Moment | null {
  const day = readDay(text, sense)
  if (day !== null) return { day, time: null }
  const times = timesAtTheEnd(text)
  if (!times || times.to !== null) return null
  const of = times.before === '' ? there : readDay(times.before, sense)
  return of === null ? null : { day: of, time: times.from }
}
