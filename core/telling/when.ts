import { addDays } from '../schedule/days'
import { mondayOf } from '../schedule/weekdays'
import { LETTERED, type ToldKind, type Ways, type When } from './kinds'

/** The wall where somebody lives: the day (ISO 8601) and the time ("07:30"). */
export interface Wall {
  readonly day: string
  readonly time: string
}

/** Whether a time of the day lies in the quiet hours, which may go over midnight. Their end is loud again. */
export function isQuiet(quiet: Ways['quiet'], time: string): boolean {
  if (!quiet || quiet.from === quiet.to) return false
  return quiet.from < quiet.to ? time >= quiet.from && time < quiet.to : time >= quiet.from || time < quiet.to
}

/** When letters of the day and of the week are written: in the morning, on Monday for the week. */
export const MORNING = '07:00'
/** At once is a little later, so that what comes together is told together: ms. */
export const GATHERING_MS = 2 * 60_000
/** And one at a time: ms between two letters of this sort. */
export const BETWEEN_MS = 10 * 60_000

/** When somebody was last written to. */
export interface Written {
  /** ms since 1970 UTC. */
  readonly nowAt: number | null
  /** ISO 8601 days of their own. */
  readonly dailyOn: string | null
  readonly weeklyOn: string | null
}

/**
 * Which letters are due now for somebody to whom these things haven't been written: each with the kinds that belong in it. What
 * was told before they said otherwise goes by what they say now.
 */
export function lettersDue(
  untold: readonly { readonly kind: ToldKind; readonly at: number }[],
  ways: Ways,
  written: Written,
  now: number,
  wall: Wall,
): Exclude<When, 'never'>[] {
  if (!ways.letters || isQuiet(ways.quiet, wall.time)) return []
  const of = (when: When) => untold.filter(({ kind }) => ways.kinds[kind] === when && !LETTERED.has(kind))
  const due: Exclude<When, 'never'>[] = []
  const oldest = Math.min(...of('now').map(({ at }) => at))
  if (oldest <= now - GATHERING_MS && (written.nowAt === null || written.nowAt <= now - BETWEEN_MS)) due.push('now')
  const morning = wall.time >= MORNING
  if (of('daily').length > 0 && morning && written.dailyOn !== wall.day) due.push('daily')
  // Missed on Monday, since nothing ran or it was quiet, it's written on the next day.
  const week = mondayOf(morning ? wall.day : addDays(wall.day, -1))
  if (of('weekly').length > 0 && morning && (written.weeklyOn === null || mondayOf(written.weeklyOn) < week))
    due.push('weekly')
  return due
}
