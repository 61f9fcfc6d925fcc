import { addDays, daysBetween } from '../schedule/days'

/* Days as places on the schedule: how wide a day is, and what is written along the top. */

/** Widths of a day, px, from years in sight to hours of it. */
export const ZOOMS = [0.6, 1.2, 2.5, 5, 9, 16, 28, 48] as const

export interface Mark {
  readonly day: string
  readonly x: number
  readonly text: string
}

/** Places of days from a first one on; `perDay` px wide. */
export class Scale {
  constructor(
    readonly first: string,
    readonly perDay: number,
  ) {}

  x = (day: string): number => daysBetween(this.first, day) * this.perDay
  /** The day at a place. */
  day = (x: number): string => addDays(this.first, Math.floor(x / this.perDay))

  /** What stands along the top between two places: months or years above, days, weeks or months below. */
  marks(from: number, to: number, locale: string): { readonly above: Mark[]; readonly below: Mark[] } {
    const { perDay } = this
    const first = this.day(Math.max(0, from))
    const last = this.day(to)
    const name = (day: string, options: Intl.DateTimeFormatOptions): string =>
      new Intl.DateTimeFormat([locale, 'en-GB'], { ...options, timeZone: 'UTC', calendar: 'gregory' }).format(
        new Date(`${day}T00:00Z`),
      )
    const mark = (day: string, options: Intl.DateTimeFormatOptions): Mark => ({
      day,
      x: this.x(day),
      text: name(day, options),
    })
    const months = monthsBetween(first, last)
    const years = months.filter((day, i) => i === 0 || day.slice(5, 7) === '01')
    if (perDay < 1)
      return {
        above: years.map(day => mark(day, { year: 'numeric' })),
        below: months
          .filter(day => ['01', '04', '07', '10'].includes(day.slice(5, 7)))
          .map(day => mark(day, { month: 'short' })),
      }
    if (perDay < 4)
      return {
        above: years.map(day => mark(day, { year: 'numeric' })),
        below: months.map(day => mark(day, { month: 'short' })),
      }
    const above = months.map(day => mark(day, { month: 'long', year: 'numeric' }))
    const below: Mark[] = []
    const step = perDay < 22 ? 7 : 1
    const begin = step === 7 ? addDays(first, -((daysBetween('1970-01-05', first) % 7) + 7) % 7) : first
    for (let day = begin; day <= last; day = addDays(day, step))
      below.push(
        mark(
          day,
          step === 7 ? { day: 'numeric' } : perDay < 40 ? { day: 'numeric' } : { day: 'numeric', weekday: 'short' },
        ),
      )
    return { above, below }
  }
}

/** The first days of the months from one day on; the first is that of the day's own month. */
function monthsBetween(from: string, to: string): string[] {
  const found: string[] = []
  for (let day = `${from.slice(0, 7)}-01`; day <= to; day = nextMonth(day)) found.push(day)
  return found
}
const nextMonth = (day: string): string => `${addDays(day, 31).slice(0, 7)}-01`
