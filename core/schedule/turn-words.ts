import {
  DAYS_OF_WEEK,
  type DayOfWeek,
  MOST_INTERVAL,
  readRhythm,
  type Rhythm,
  type Which,
  writeRhythm,
} from '../tree/again'
import { readDay, type DaySense } from './day-words'
import { addDays, dayInWords } from './days'
import { weekdayOf } from './weekdays'

/* How a task comes again, in words and from words. */

const NAMES: Record<DayOfWeek, string> = {
  MO: 'Monday',
  TU: 'Tuesday',
  WE: 'Wednesday',
  TH: 'Thursday',
  FR: 'Friday',
  SA: 'Saturday',
  SU: 'Sunday',
}
export const weekdayInWords = (day: DayOfWeek): string => NAMES[day]
const NTH: Record<Which, string> = {
  1: 'first',
  2: 'second',
  3: 'third',
  4: 'fourth',
  5: 'fifth',
  [-1]: 'last',
  [-2]: 'last but one',
  [-3]: 'last but two',
}
const MONTHS = [
  ...['January', 'February', 'March', 'April', 'May', 'June', 'July'],
  ...['August', 'September', 'October', 'November', 'December'],
]
const ENDS = ['th', 'st', 'nd', 'rd']
const ordinal = (n: number): string => `${n}${(n % 100 > 10 && n % 100 < 14 ? undefined : ENDS[n % 10]) ?? 'th'}`
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join() : `${words.slice(0, -1).join(', ')} and ${words.at(-1)!}`
const often = (interval: number, unit: string): string =>
  interval === 1 ? `every ${unit}` : interval === 2 ? `every second ${unit}` : `every ${interval} ${unit}s`

const dayWords = (day: number): string => (day === -1 ? 'the last day' : `the ${ordinal(day)}`)

function turnsInWords(rhythm: Rhythm): string {
  const { interval } = rhythm
  switch (rhythm.every) {
    case 'day':
      return interval === 1 ? 'every working day' : often(interval, 'day')
    case 'week': {
      const days = listed(rhythm.on.map(day => NAMES[day]))
      return interval > 2
        ? `every ${interval} weeks on ${days}`
        : `${interval === 2 ? 'every second' : 'every'} ${days}`
    }
    case 'month': {
      const day = 'which' in rhythm ? `the ${NTH[rhythm.which]} ${NAMES[rhythm.on]}` : dayWords(rhythm.day)
      return interval === 1 ? `on ${day} of the month` : `${often(interval, 'month')} on ${day}`
    }
    case 'year':
      return `${often(interval, 'year')} on ${rhythm.day} ${MONTHS[rhythm.month - 1]!}`
  }
}

/** “every second Monday”, “on the last day of the month, until 1 June 2027”. '' for a rule that can't be read. */
export function rhythmInWords(rule: string, locale?: string): string {
  const rhythm = readRhythm(rule)
  if (!rhythm) return ''
  return `${turnsInWords(rhythm)}${rhythm.until === null ? '' : `, until ${dayInWords(rhythm.until, locale)}`}`
}

const isLastOfMonth = (day: string): boolean => addDays(day, 1).endsWith('-01')

/** The rules that are usual for a task that is due on a day, as RRULE values, the most frequent first. */
export function usualRules(due: string): string[] {
  const [month, day] = [Number(due.slice(5, 7)), Number(due.slice(8))]
  const on = weekdayOf(due)
  const always = { interval: 1, until: null } as const
  const nth = Math.ceil(day / 7) as Which
  const rhythms: Rhythm[] = [
    { every: 'day', ...always },
    { every: 'week', on: [on], ...always },
    { every: 'week', on: [on], ...always, interval: 2 },
    { every: 'month', day, ...always },
    { every: 'month', which: nth, on, ...always },
  ]
  if (!addDays(due, 7).startsWith(due.slice(0, 7))) rhythms.push({ every: 'month', which: -1, on, ...always })
  if (isLastOfMonth(due)) rhythms.push({ every: 'month', day: -1, ...always })
  rhythms.push({ every: 'month', day, ...always, interval: 3 }, { every: 'year', month, day, ...always })
  return rhythms.map(writeRhythm)
}

const UNITS = { day: 'day', week: 'week', month: 'month', year: 'year' } as const
const SHORT: Readonly<Record<string, string>> = {
  daily: 'every day',
  weekly: 'every week',
  fortnightly: 'every 2 weeks',
  monthly: 'every month',
  quarterly: 'every 3 months',
  yearly: 'every year',
  annually: 'every year',
}

/**
 * Reads “every Monday”, “every second fri”, “every mon and thu”, “every 2 weeks”, “every month”, “daily”. What comes of it needs the day
 * from which it counts, ISO 8601. Null for anything else. Names of days are read in the person's language too.
 */
export function readRhythmWords(text: string, sense: DaySense): ((from: string) => Rhythm) | null {
  const plain = text.trim().toLowerCase()
  const match = /^every\s+(?:(other|second|\d{1,3}(?:st|nd|rd|th)?)\s+)?(.+)$/.exec(SHORT[plain] ?? plain)
  if (!match) return null
  const interval = match[1] === undefined ? 1 : /^\d/.test(match[1]) ? Number.parseInt(match[1], 10) : 2
  if (interval < 1 || interval > MOST_INTERVAL) return null
  const always = { interval, until: null }
  const unit = Object.values(UNITS).find(one => match[2] === one || match[2] === `${one}s`)
  if (unit || /^(working|week)\s?days?$/.test(match[2]!))
    return from => {
      const [month, day] = [Number(from.slice(5, 7)), Number(from.slice(8))]
      switch (unit) {
        case 'week':
          return { every: 'week', on: [weekdayOf(from)], ...always }
        case 'month':
          return { every: 'month', day, ...always }
        case 'year':
          return { every: 'year', month, day, ...always }
        default:
          return { every: 'day', ...always }
      }
    }
  const days = match[2]!.split(/\s*(?:,|&|\band\b)\s*/)
  const on = days.map(name => {
    // A word that names a day of the week names the next of them, and another one a week later.
    const day = /\d/.test(name) ? null : readDay(name, { ...sense, today: sense.today })
    const later = day === null ? null : readDay(name, { ...sense, today: addDays(sense.today, 7) })
    return day !== null && later === addDays(day, 7) && !/^(?:today|tomorrow|yesterday)$/.test(name)
      ? weekdayOf(day)
      : null
  })
  if (on.some(day => day === null)) return null
  return () => ({ every: 'week', on: DAYS_OF_WEEK.filter(day => on.includes(day)), ...always })
}
