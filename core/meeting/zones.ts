import { Temporal } from 'temporal-polyfill'

/*
 * Meeting times are instants with an IANA zone. What people say is a day and a time on the wall; what that means is
 * decided here, across both changes of daylight saving.
 */

export type WallTime =
  | { readonly kind: 'once'; readonly instant: number }
  /** The hour that comes twice: the first of the two is taken. */
  | { readonly kind: 'twice'; readonly instant: number; readonly second: number }
  /** The hour that is left out: there is no such time. `after` is as far into the time after the gap. */
  | { readonly kind: 'gap'; readonly after: number }

export function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone })
    return /^[A-Za-z][\w+-]*(?:\/[\w+-]+)*$/.test(zone)
  } catch {
    return false
  }
}

/**
 * What a day (ISO 8601) and a time on the wall ("09:30") mean in a zone. Throws a RangeError for what is no day, time
 * or zone.
 */
export function instantOf(day: string, time: string, zone: string): WallTime {
  if (!/^\d{2}:\d{2}$/.test(time)) throw new RangeError('a time is written as 09:30')
  const wall = Temporal.PlainDateTime.from(`${day}T${time}`, { overflow: 'reject' })
  const earlier = wall.toZonedDateTime(zone, { disambiguation: 'earlier' })
  const later = wall.toZonedDateTime(zone, { disambiguation: 'later' })
  if (earlier.epochMilliseconds === later.epochMilliseconds) return { kind: 'once', instant: earlier.epochMilliseconds }
  return earlier.toPlainDateTime().equals(wall)
    ? { kind: 'twice', instant: earlier.epochMilliseconds, second: later.epochMilliseconds }
    : { kind: 'gap', after: later.epochMilliseconds }
}

/** The day and the time on the wall at an instant. */
export function wallTime(instant: number, zone: string): { readonly day: string; readonly time: string } {
  const at = Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone)
  return { day: at.toPlainDate().toString(), time: at.toPlainTime().toString({ smallestUnit: 'minute' }) }
}

/**
 * A change of a zone's offset: when, from and to how many minutes ahead of UTC, and whether daylight saving begins
 * with it.
 */
export interface Transition {
  readonly at: number
  readonly from: number
  readonly to: number
  readonly daylight: boolean
}

/** Minutes that a zone is ahead of UTC at an instant. */
export function offsetAt(instant: number, zone: string): number {
  return Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone).offsetNanoseconds / 6e10
}

/** The changes of a zone's offset between two instants, in order. */
export function transitionsOf(zone: string, from: number, to: number): Transition[] {
  const found: Transition[] = []
  let at: Temporal.ZonedDateTime | null = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(zone)
  for (;;) {
    at = at.getTimeZoneTransition('next')
    if (!at || at.epochMilliseconds > to) return found
    const [before, after] = [offsetAt(at.epochMilliseconds - 1, zone), offsetAt(at.epochMilliseconds, zone)]
    if (before !== after) found.push({ at: at.epochMilliseconds, from: before, to: after, daylight: after > before })
  }
}
