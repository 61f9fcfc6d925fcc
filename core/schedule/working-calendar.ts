import { addDays, daysBetween } from './days'

/*
 * Which days are worked on, and how they're counted. Days are ISO 8601 dates without a zone. Counting follows the usual rules of
 * business-day arithmetic as numpy states them (numpy.busday_offset and numpy.busday_count): a step begins from the first working day
 * at or after the one that is given; a span counts its first day and not its last.
 */

/** Monday is 1 and Sunday 7 (ISO 8601). */
export interface WorkingDays {
  readonly weekdays: readonly number[]
  /** Minutes of a working day. */
  readonly minutes: number
  /** Days that aren't worked on, though their weekday is. */
  readonly closed: readonly string[]
  /** Days that are worked on, though their weekday isn't. */
  readonly extra: readonly string[]
}

export const USUAL_DAYS: WorkingDays = { weekdays: [1, 2, 3, 4, 5], minutes: 480, closed: [], extra: [] }

/** A Monday: days are numbered from it. */
const ORIGIN = '1970-01-05'
const WEEK = 7
/** Days that a calendar remembers the answers for. */
const MOST_KNOWN = 20_000

/** A calendar in which no day is worked on can't answer. */
export class NoWorkingDay extends RangeError {
  constructor() {
    super('There is no working day left: open a weekday, or take closed days back.')
  }
}

/** The number of sorted values below one. */
function below(sorted: readonly number[], value: number): number {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle]! < value) low = middle + 1
    else high = middle
  }
  return low
}

/** A working calendar made ready: every question costs the same, however far off the day is. */
export class WorkingCalendar {
  readonly minutes: number
  /** Whether each day of the week is worked on, from Monday. */
  private readonly week: readonly boolean[]
  private readonly perWeek: number
  /** Working weekdays before each day of the week. */
  private readonly before: readonly number[]
  /** Exceptions as numbers of days from the origin, sorted; only those that change something. */
  private readonly closed: readonly number[]
  private readonly extra: readonly number[]

  constructor({ weekdays, minutes, closed, extra }: WorkingDays = USUAL_DAYS) {
    this.minutes = minutes
    this.week = Array.from({ length: WEEK }, (_, i) => weekdays.includes(i + 1))
    this.before = this.week.map((_, i) => this.week.slice(0, i).filter(Boolean).length)
    this.perWeek = this.week.filter(Boolean).length
    const numbers = (days: readonly string[], worked: boolean): number[] =>
      [...new Set(days.map(day => daysBetween(ORIGIN, day)))]
        .filter(day => this.week[((day % WEEK) + WEEK) % WEEK] === worked)
        .sort((a, b) => a - b)
    this.closed = numbers(closed, true)
    // A day that is both is closed.
    const shut = new Set(closed)
    this.extra = numbers(
      extra.filter(day => !shut.has(day)),
      false,
    )
    if (this.perWeek === 0 && this.extra.length === 0) throw new NoWorkingDay()
  }

  /** What was asked already: a plan asks for the same few days again and again. */
  private readonly numbersKnown = new Map<string, number>()
  private readonly daysKnown = new Map<number, string>()

  isWorking(day: string): boolean {
    const n = daysBetween(ORIGIN, day)
    return this.number(n + 1) - this.number(n) === 1
  }

  /** Working days before a day, counted from the origin; negative for days before that. `n`: days from the origin. */
  private number(n: number): number {
    const weeks = Math.floor(n / WEEK)
    const weekday = n - weeks * WEEK
    // Exceptions on either side of the origin count with its sign.
    const from = (sorted: readonly number[]): number => below(sorted, n) - below(sorted, 0)
    return weeks * this.perWeek + this.before[weekday]! - from(this.closed) + from(this.extra)
  }

  /** The working day's number: how many working days lie before a day. A day that isn't worked on has that of the next. */
  numberOf(day: string): number {
    const known = this.numbersKnown.get(day)
    if (known !== undefined) return known
    const number = this.number(daysBetween(ORIGIN, day))
    if (this.numbersKnown.size < MOST_KNOWN) this.numbersKnown.set(day, number)
    return number
  }

  /** The working day of a number. Throws `NoWorkingDay` where there are only extra days, and no more of them. */
  dayOf(number: number): string {
    const known = this.daysKnown.get(number)
    if (known !== undefined) return known
    const day = this.findDay(number)
    if (this.daysKnown.size < MOST_KNOWN) this.daysKnown.set(number, day)
    return day
  }

  private findDay(number: number): string {
    // Working days are at most a week's a week away, and exceptions move them by as many days at most.
    const slack = this.closed.length + this.extra.length + 2
    const guess = this.perWeek === 0 ? 0 : Math.floor((number / this.perWeek) * WEEK)
    const reach = this.perWeek === 0 ? Number.POSITIVE_INFINITY : Math.ceil(slack / this.perWeek + 2) * WEEK
    let [low, high] =
      reach === Number.POSITIVE_INFINITY
        ? [(this.extra[0] ?? 0) - 1, (this.extra.at(-1) ?? 0) + 1]
        : [guess - reach, guess + reach]
    // The last day before which there are no more than so many working days, that is one itself.
    while (low < high) {
      const middle = Math.floor((low + high) / 2)
      if (this.number(middle + 1) > number) high = middle
      else low = middle + 1
    }
    if (this.number(low + 1) - this.number(low) !== 1 || this.number(low) !== number) throw new NoWorkingDay()
    return addDays(ORIGIN, low)
  }

  /** The day itself, or the first working day after it. */
  onOrAfter(day: string): string {
    return this.dayOf(this.numberOf(day))
  }

  /** So many working days on from a day (back, when negative), from the first working day at or after it. */
  addWorkingDays(day: string, days: number): string {
    return this.dayOf(this.numberOf(day) + days)
  }

  /** Working days from one day to another, the first counted and the last not; negative when the second comes first. */
  workingDaysBetween(from: string, to: string): number {
    return this.numberOf(to) - this.numberOf(from)
  }
}
