import { getWeekStartByLocale } from 'weekstart'
import { addDays } from './days'

/*
 * The one reader of days said in words: `fri`, `in 2 weeks`, `7 Dec`, `15.12.`, `end of month`, in English and in the
 * person's own language. Names of days and months, "tomorrow" and "in 2 weeks" come from Intl, whose data is Unicode
 * CLDR's. Nothing here asks the machine for the time or for a zone: what day it is, is passed in.
 */

/** What a reader of words needs to know about the person. */
export interface DaySense {
  /** The calendar day that words count from, ISO 8601. */
  readonly today: string
  /** The person's locale, a BCP 47 tag; English is understood besides. */
  readonly locale?: string
  /** Only whole names of days and months, and their usual short forms; not just letters that they begin with. */
  readonly whole?: boolean
}

type Ymd = readonly [year: number, month: number, day: number]
const UNITS = ['day', 'week', 'month', 'year'] as const
type Unit = (typeof UNITS)[number]

/** The words of one language. */
interface Words {
  readonly weekdays: ReadonlyMap<string, number>
  readonly months: ReadonlyMap<string, number>
  /** "today", "tomorrow": days from today. */
  readonly near: ReadonlyMap<string, number>
  /** "in (\d+) weeks" by unit. */
  readonly ahead: readonly { readonly pattern: RegExp; readonly unit: Unit }[]
  /** Whether 3/4 is the fourth of March. */
  readonly monthFirst: boolean
  /** Unit words for lengths: "days", "Tage". */
  readonly days: ReadonlySet<string>
  readonly weeks: ReadonlySet<string>
}

const plain = (text: string): string =>
  text.toLocaleLowerCase().normalize('NFKC').replace(/[.’']/g, '').replace(/\s+/g, ' ').trim()
const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

const known = new Map<string, Words>()

function wordsOf(locale: string): Words {
  const had = known.get(locale)
  if (had) return had
  const names = (
    options: Intl.DateTimeFormatOptions,
    count: number,
    at: (i: number) => Date,
    part: 'weekday' | 'month',
  ): Map<string, number> => {
    const found = new Map<string, number>()
    for (const style of ['long', 'short'] as const) {
      // Months are said differently on their own and beside a day in some languages ("března", "březen").
      for (const beside of [{}, { day: 'numeric' as const }]) {
        const format = new Intl.DateTimeFormat(locale, {
          ...options,
          ...beside,
          [part]: style,
          timeZone: 'UTC',
          calendar: 'gregory',
        })
        for (let i = 0; i < count; i++) {
          const name = plain(format.formatToParts(at(i)).find(one => one.type === part)?.value ?? '')
          if (name && !/^\d+$/.test(name)) found.set(name, i)
        }
      }
    }
    return found
  }
  // 1 August 2027 is a Sunday.
  const weekdays = names({ weekday: 'long' }, 7, i => new Date(Date.UTC(2027, 7, 1 + i)), 'weekday')
  const months = names({ month: 'long' }, 12, i => new Date(Date.UTC(2027, i, 1)), 'month')
  const relative = new Intl.RelativeTimeFormat(locale, { numeric: 'auto' })
  const counted = new Intl.RelativeTimeFormat(locale, { numeric: 'always' })
  const near = new Map<string, number>()
  for (const days of [-1, 0, 1, 2]) {
    const word = plain(relative.format(days, 'day'))
    if (!/\d/.test(word)) near.set(word, days)
  }
  const ahead: { pattern: RegExp; unit: Unit }[] = []
  for (const unit of UNITS)
    for (const amount of [1, 2, 5]) {
      const [before = '', after = ''] = plain(counted.format(amount, unit)).split(String(amount))
      ahead.push({ pattern: new RegExp(`^${escaped(before)}(\\d{1,4})${escaped(after)}$`, 'u'), unit })
    }
  const unitWords = (unit: string): ReadonlySet<string> =>
    new Set(
      [1, 2, 5]
        .map(amount =>
          plain(
            new Intl.NumberFormat(locale, { style: 'unit', unit, unitDisplay: 'long' })
              .formatToParts(amount)
              .filter(part => part.type === 'unit')
              .map(part => part.value)
              .join(''),
          ),
        )
        .filter(Boolean),
    )
  const order = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'numeric', timeZone: 'UTC' })
    .formatToParts(new Date(Date.UTC(2027, 0, 2)))
    .map(part => part.type)
  const made: Words = {
    weekdays,
    months,
    near,
    ahead,
    monthFirst: order.indexOf('month') < order.indexOf('day'),
    days: unitWords('day'),
    weeks: unitWords('week'),
  }
  known.set(locale, made)
  return made
}

/** The person's own language first, then English. What isn't a locale is as if none had been given. */
function languages(locale: string | undefined): Words[] {
  let own: Words | null = null
  try {
    own = locale && !/^en-GB$/i.test(locale) ? wordsOf(locale) : null
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
  }
  return own ? [own, wordsOf('en-GB')] : [wordsOf('en-GB')]
}

/** Names of weekdays, from Sunday at 0, and of months, from January at 0: the person's own language's, then English. */
export const namesOfDays = (locale: string | undefined): readonly Pick<Words, 'weekdays' | 'months'>[] =>
  languages(locale)

/** One name out of a list by the whole of it, or by at least three letters that begin no other. */
function named(said: string, names: ReadonlyMap<string, number>, whole = false): number | undefined {
  const word = plain(said)
  const exact = names.get(word)
  if (exact !== undefined || whole || word.length < 3) return exact
  const begun = new Set([...names].filter(([name]) => name.startsWith(word)).map(([, value]) => value))
  return begun.size === 1 ? [...begun][0] : undefined
}

const iso = ([year, month, day]: Ymd): string =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
const partsOf = (day: string): Ymd => day.split('-').map(Number) as unknown as Ymd
const lastOfMonth = (year: number, month: number): number => new Date(Date.UTC(year, month, 0)).getUTCDate()
const weekdayOf = (day: string): number => new Date(`${day}T00:00Z`).getUTCDay()
/** Within what calendars and ISO 8601's four digits can say. */
const within = (day: string): string | null => (/^\d{4}-/.test(day) && day >= '1000-01-01' ? day : null)

/** The day, when there is such a day: 30 February isn't one. */
function exact(year: number, month: number, day: number): string | null {
  return month >= 1 && month <= 12 && day >= 1 && day <= lastOfMonth(year, month)
    ? within(iso([year, month, day]))
    : null
}

/** A month and a day without a year: today's or the next one to come. 29 February waits for its leap year. */
function coming(month: number, day: number, today: string): string | null {
  const [year] = partsOf(today)
  for (let ahead = 0; ahead <= 8; ahead++) {
    const found = exact(year + ahead, month, day)
    if (found !== null && found >= today) return found
  }
  return null
}

function yearOf(said: string): number {
  const year = Number(said.replace(/\D/g, ''))
  return year < 100 ? 2000 + year : year
}

/** So many months on; where that month has no such day, its last. */
function addMonths(day: string, months: number): string {
  const [year, month, date] = partsOf(day)
  const to = month - 1 + months
  const [y, m] = [year + Math.floor(to / 12), (((to % 12) + 12) % 12) + 1]
  return iso([y, m, Math.min(date, lastOfMonth(y, m))])
}

function later(day: string, amount: number, unit: Unit): string | null {
  return within(
    unit === 'day'
      ? addDays(day, amount)
      : unit === 'week'
        ? addDays(day, amount * 7)
        : addMonths(day, unit === 'month' ? amount : amount * 12),
  )
}

/** On which weekday the person's weeks begin, 0 for Sunday. Source: CLDR's week data, by the package weekstart. */
export function weekStart(locale: string | undefined): number {
  return locale ? getWeekStartByLocale(locale) : 1
}

/** The first day of a day's week. */
export function startOfWeek(day: string, locale?: string): string {
  return addDays(day, -((weekdayOf(day) - weekStart(locale) + 7) % 7))
}

/** The last day of a day's week. */
export function endOfWeek(day: string, locale?: string): string {
  return addDays(startOfWeek(day, locale), 6)
}

/** Units as English writes them. */
const ENGLISH_UNIT: Readonly<Record<string, Unit>> = {
  d: 'day',
  day: 'day',
  days: 'day',
  w: 'week',
  wk: 'week',
  week: 'week',
  weeks: 'week',
  month: 'month',
  months: 'month',
  year: 'year',
  years: 'year',
}
const NUMBERS: Readonly<Record<string, number>> = {
  a: 1,
  an: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
}
const count = (said: string): number => NUMBERS[said] ?? Number(said)

/** English phrases that lead from today: in 2 weeks, next month, end of May. */
function english(text: string, { today, locale }: DaySense, months: ReadonlyMap<string, number>): string | null {
  const ahead = /^in (\d{1,4}|an?|one|two|three|four|five|six|seven|eight|nine|ten) (\w+)$/.exec(text)
  const unit = ENGLISH_UNIT[ahead?.[2] ?? '']
  if (ahead && unit) return later(today, count(ahead[1]!), unit)
  const ago = /^(\d{1,4}) (days?|weeks?) ago$/.exec(text)
  if (ago) return later(today, -Number(ago[1]), ENGLISH_UNIT[ago[2]!]!)
  if (text === 'the day after tomorrow' || text === 'day after tomorrow') return addDays(today, 2)
  if (text === 'next week') return addDays(startOfWeek(today, locale), 7)
  if (text === 'next month') return later(today, 1, 'month')
  if (text === 'next year') return later(today, 1, 'year')
  const end =
    /^(?:the )?end of (?:the |this )?(next )?(week|month|year|\p{L}+)$/u.exec(text) ??
    (text === 'eom' ? (['', '', 'month'] as const) : null)
  if (!end) return null
  const [year, month] = partsOf(today)
  const next = end[1] ? 1 : 0
  if (end[2] === 'week') return addDays(endOfWeek(today, locale), 7 * next)
  if (end[2] === 'month') {
    const [y, m] = partsOf(addMonths(iso([year, month, 1]), next))
    return iso([y, m, lastOfMonth(y, m)])
  }
  if (end[2] === 'year') return iso([year + next, 12, 31])
  const which = named(end[2]!, months)
  if (which === undefined || next) return null
  const y = iso([year, which + 1, lastOfMonth(year, which + 1)]) >= today ? year : year + 1
  return iso([y, which + 1, lastOfMonth(y, which + 1)])
}

/** Ends of months in other languages. From memory; the tests say which. */
const END_OF_MONTH = new Set([
  'ende des monats',
  'ende monat',
  'monatsende',
  'fin du mois',
  'fin de mes',
  'fine mese',
  'einde van de maand',
  'eind van de maand',
  'månedens udgang',
  'slutningen af måneden',
  'månadens slut',
  'slutet av månaden',
])

/** A weekday with what may stand before it: "fri", "on friday", "this fri", "next fri" (the one of next week). */
function weekdayAhead(text: string, words: Words, { today, locale, whole }: DaySense): string | null {
  const match = /^(?:(on|by|this|next|coming) )?(\p{L}+)(?: (next week))?$/u.exec(text)
  const day = match ? named(match[2]!, words.weekdays, whole) : undefined
  if (!match || day === undefined) return null
  const from = match[1] === 'next' || match[3] ? addDays(startOfWeek(today, locale), 7) : today
  return addDays(from, (day - weekdayOf(from) + 7) % 7)
}

/**
 * Numbers alone: 15.12., 15.12.2027, 15/12, 2027/12/15. Dots are always day first; with a slash or a dash the locale's
 * order decides, unless only the other is a day.
 */
function numbers(text: string, words: Words, today: string): string | null {
  const big = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/.exec(text)
  if (big) return exact(Number(big[1]), Number(big[2]), Number(big[3]))
  const match =
    /^(\d{1,2})\.\s?(\d{1,2})\.(?:\s?(\d{4}|\d{2}))?$/.exec(text) ??
    /^(\d{1,2})([/-])(\d{1,2})(?:\2(\d{4}|\d{2}))?$/.exec(text)
  if (!match) return null
  const dotted = match.length === 4
  const [first, second, year] = dotted
    ? [Number(match[1]), Number(match[2]), match[3]]
    : [Number(match[1]), Number(match[3]), match[4]]
  // 3-4 may be anything; without a year a dash is too little to call it a day.
  if (!dotted && match[2] === '-' && !year) return null
  const monthFirst = !dotted && (words.monthFirst ? first <= 12 : first <= 12 && second > 12)
  const [month, day] = monthFirst ? [first, second] : [second, first]
  return year ? exact(yearOf(year), month, day) : coming(month, day, today)
}

/**
 * A day and the name of a month, in either order, with or without a year: 12 May, 15. Dez. 2027, December 15, 2028,
 * 1er mars, 3 de mayo.
 */
function dayAndMonth(text: string, words: Words, today: string): string | null {
  const match =
    /^(?:\p{L}+,? )?(?:the |den |le |il |el )?(\d{1,2})(?:\.|st|nd|rd|th|er|º|°)?(?: (?:of|de|di)(?= ))? ?(\p{L}+)\.?(?:,?(?: de| del)? ?(\d{4}|['’]?\d{2}))?$/u.exec(
      text,
    )
  const turned = match ? null : /^(\p{L}+)\.? (?:the )?(\d{1,2})(?:st|nd|rd|th)?(?:,? (\d{4}))?$/u.exec(text)
  const [day, name, year] = match ? [match[1], match[2], match[3]] : turned ? [turned[2], turned[1], turned[3]] : []
  const month = name === undefined ? undefined : named(name, words.months)
  if (month === undefined) return null
  return year ? exact(yearOf(year), month + 1, Number(day)) : coming(month + 1, Number(day), today)
}

/**
 * The calendar day that a whole phrase names, ISO 8601; null when it names none, or not for certain. A day without a
 * year is today's or the next to come; a weekday is today or within the next six days; "next fri" is the Friday of next
 * week. What is past by its words ("last friday") and times ("2 hours") are no days.
 */
export function readDay(phrase: string, sense: DaySense): string | null {
  const said = phrase.trim().toLocaleLowerCase().normalize('NFKC').replace(/\s+/g, ' ')
  if (said === '' || said.length > 60) return null
  const full = /^(\d{4})-(\d{2})-(\d{2})$/.exec(said)
  if (full) return exact(Number(full[1]), Number(full[2]), Number(full[3]))
  const { today } = sense
  const text = plain(said)
  if (END_OF_MONTH.has(text)) return english('end of month', sense, new Map())
  const all = languages(sense.locale)
  for (const words of all) {
    const near = words.near.get(text)
    if (near !== undefined) return addDays(today, near)
    for (const { pattern, unit } of words.ahead) {
      const match = pattern.exec(text)
      if (match) return later(today, Number(match[1]), unit)
    }
    const found =
      numbers(said, words, today) ??
      dayAndMonth(said, words, today) ??
      weekdayAhead(text, words, sense) ??
      english(text, sense, words.months)
    if (found) return found
  }
  // What people write for the two days they write most; common practice, no source.
  return text === 'tmr' || text === 'tmrw' ? addDays(today, 1) : text === 'tod' ? today : null
}

/** Working days in a week, for "2 weeks" as a length. Common practice, no source. */
const WORKING_WEEK = 5
/** The longest length a topic may have, working days: what `FIELDS.duration` accepts. */
const LONGEST = 10_000
const HOURS = new Set([
  'h',
  'hr',
  'hrs',
  'hour',
  'hours',
  'std',
  'stunde',
  'stunden',
  'heure',
  'heures',
  'hora',
  'horas',
  'timer',
])

/**
 * A length in working days: "3 days", "2,5 d", "2 weeks", "3 Tage"; null when it isn't one, or is longer than a
 * topic's may be. `dayHours`: hours of a working day, where a length may be said in hours, too: "6 h".
 */
export function readLength(phrase: string, locale?: string, dayHours?: number): number | null {
  const match = /^(\d{1,5}(?:[.,]\d{1,2})?)\s*(\p{L}+)\.?$/u.exec(phrase.trim().normalize('NFKC'))
  if (!match) return null
  const unit = plain(match[2]!)
  const is = (kind: 'days' | 'weeks', short: readonly string[]): boolean =>
    short.includes(unit) || languages(locale).some(words => words[kind].has(unit))
  const factor = is('days', ['d', 'day', 'days'])
    ? 1
    : is('weeks', ['w', 'wk', 'wks', 'week', 'weeks'])
      ? WORKING_WEEK
      : dayHours !== undefined && HOURS.has(unit)
        ? 1 / dayHours
        : 0
  // A third of a day is a third, and not all of its digits.
  const length = Math.round(Number(match[1]!.replace(',', '.')) * factor * 10_000) / 10_000
  return factor > 0 && length <= LONGEST ? length : null
}
