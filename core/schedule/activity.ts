import type { Wait } from '../tree/plan'

/* What a network is made of: activities, and what waits for what. Times are whole working minutes. */

/** Finish to start, start to start, finish to finish, start to finish. */
export type LinkKind = Wait['kind']

export interface Activity {
  readonly id: string
  /** Working minutes; 0 for a milestone. */
  readonly length: number
  /** It begins no earlier than this; null for whenever it can. */
  readonly notBefore: number | null
  /** It ends no later than this: what must give way is the other side, so that float turns negative. */
  readonly notAfter: number | null
  /** It begins just then, whatever it waits for; a dependency that this breaks is told, unless it has begun in fact. */
  readonly fixed: number | null
  /** That it begins then is no wish but has happened. */
  readonly happened?: boolean
  /** No part of the plan, whose end it isn't: others only wait for it. */
  readonly outside?: boolean
}
export interface Dependency {
  readonly from: string
  readonly to: string
  readonly kind: LinkKind
  /** Working minutes, or days as the calendar has them; a lead is negative. */
  readonly lag: number
  readonly calendar?: boolean
}

/** How lags in calendar days are counted: on from a working minute and back. Each must be monotone. */
export interface CalendarLag {
  /** The first minute that lies so many days after one at which something ends or begins. */
  later(minute: number, days: number): number
  /** The last minute from which `later` still reaches no further than this one. */
  earlier(minute: number, days: number): number
}

/** The earliest start that a dependency allows to who waits; lengths and starts in working minutes. */
export function pushedTo(
  { kind, lag, calendar: inDays }: Dependency,
  start: number,
  lengthFrom: number,
  lengthTo: number,
  calendar: CalendarLag,
): number {
  const point = kind === 'FS' || kind === 'FF' ? start + lengthFrom : start
  const reached = inDays ? calendar.later(point, lag) : point + lag
  return kind === 'FF' || kind === 'SF' ? reached - lengthTo : reached
}
