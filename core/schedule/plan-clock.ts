import type { Tree } from '../tree/tree'
import { addDays } from './days'
import type { CalendarLag } from './activity'
import { WorkingCalendar } from './working-calendar'

/* The days of a plan as whole working minutes, in which its network is reckoned. */

/** Calendars that were made ready, by the closed and extra days that they have: each remembers what it was asked. */
const ready = new WeakMap<
  Tree['fields']['exceptions'],
  { readonly weekdays: readonly number[]; readonly dayHours: number; readonly calendar: WorkingCalendar }
>()

/** The working calendar of a tree. Throws `NoWorkingDay`. */
export function calendarOf({
  weekdays,
  dayHours,
  exceptions,
}: Pick<Tree['fields'], 'weekdays' | 'dayHours' | 'exceptions'>): WorkingCalendar {
  const known = ready.get(exceptions)
  if (known?.weekdays === weekdays && known.dayHours === dayHours) return known.calendar
  const days = (kind: 'closed' | 'extra'): string[] => exceptions.filter(one => one.kind === kind).map(one => one.id)
  const calendar = new WorkingCalendar({
    weekdays,
    minutes: Math.round(dayHours * 60),
    closed: days('closed'),
    extra: days('extra'),
  })
  ready.set(exceptions, { weekdays, dayHours, calendar })
  return calendar
}

/** Working minutes from the plan's first day, and back to days. */
export class PlanClock implements CalendarLag {
  private readonly first: number

  constructor(
    readonly calendar: WorkingCalendar,
    from: string,
  ) {
    this.first = calendar.numberOf(from)
  }

  /** The minute at which a day begins, or the next that is worked on. */
  at(day: string): number {
    return (this.calendar.numberOf(day) - this.first) * this.calendar.minutes
  }
  /** The minute at which a day has ended. */
  end(day: string): number {
    return this.at(addDays(day, 1))
  }
  minutes(days: number): number {
    return Math.round(days * this.calendar.minutes)
  }
  days(minutes: number): number {
    return minutes / this.calendar.minutes
  }
  /** The day on which what begins at a minute begins. */
  startDay(minute: number): string {
    return this.calendar.dayOf(this.first + Math.floor(minute / this.calendar.minutes))
  }
  /** The day on which what ends at a minute ends. */
  finishDay(minute: number): string {
    return this.calendar.dayOf(this.first + Math.ceil(minute / this.calendar.minutes) - 1)
  }

  later(minute: number, days: number): number {
    // What ends with a day is ready the next morning, as the calendar has it: three days after a Friday’s end is Tuesday. What falls on
    // a day that isn't worked on waits for the next that is.
    const whole = Math.floor(minute / this.calendar.minutes)
    const rest = minute - whole * this.calendar.minutes
    if (rest === 0) return this.at(addDays(this.finishDay(minute), Math.round(days) + 1))
    const day = addDays(this.startDay(minute), Math.round(days))
    return this.at(day) + (this.calendar.isWorking(day) ? rest : 0)
  }
  earlier(minute: number, days: number): number {
    // `later` is monotone; the last minute of which it says no more than this lies within the lag and the days that aren't worked on.
    let high = minute + this.minutes(Math.max(0, -days) + 1)
    let low = minute - this.minutes(Math.max(0, days) + 2)
    while (this.later(low, days) > minute) low -= this.minutes(7)
    while (low < high) {
      const middle = Math.ceil((low + high) / 2)
      if (this.later(middle, days) <= minute) low = middle
      else high = middle - 1
    }
    return low
  }
}
