import { z } from 'zod'

/* The smallest values that fields and parts are made of, and what each accepts. */

/** An address inside a tree. */
export const id = z.string().regex(/^[\w-]{1,40}$/, 'must be 1 to 40 letters, digits, - or _')

/** An ISO 8601 calendar day that exists (no 30 February). */
export const calendarDay = z.iso.date()

/** A time on the wall, "09:30", to the minute. */
export const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'must be a time like 09:30')
/** The name of an IANA zone, as far as its form goes. */
export const zoneName = z
  .string()
  .regex(/^[A-Za-z][\w+-]*(?:\/[\w+-]+)*$/)
  .max(60)

/** Half a surrogate pair is no character and would not survive storage. */
export const whole = (text: string): boolean => !/\p{Surrogate}/u.test(text)
/** The same with every half of a surrogate pair as U+FFFD: files and other programs' clipboards may hold some, trees don't. */
export function wellFormed<T>(value: T): T {
  if (typeof value === 'string') return value.toWellFormed() as T
  if (Array.isArray(value)) return value.map(wellFormed) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, of]) => [name, wellFormed(of)])) as T
}
/** Text of `most` UTF-16 units. */
export const words = (most: number) => z.string().max(most).refine(whole, 'must be well-formed text')

/** The SHA-256 of a file's bytes. */
export const fileId = z.string().regex(/^[0-9a-f]{64}$/, 'must be a file’s address')

/** A place in the look's palette (0 to 9) or an sRGB colour, #rrggbb. */
export const colour = z.string().regex(/^(#[0-9a-f]{6}|[0-9])$/i)

/** Per cent done. */
export const percent = z.int().min(0).max(100)
/** 1 (most urgent) to 5. */
export const urgency = z.int().min(1).max(5)
