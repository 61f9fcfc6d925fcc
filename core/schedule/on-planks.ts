import type { Planned } from './planned'

/** A piece of the row under a title. */
export interface PlanPrint {
  readonly text: string
  readonly tone: 'plain' | 'late'
}

/** Working days in short, a share of one to a quarter. */
const short = (days: number): string => `${Math.round(days * 4) / 4} d`

/**
 * What the plan says of a task on its plank, in a few words, so that what is late or critical isn't told by colour alone.
 * Nothing of what is done.
 */
export function planPrint(planned: Pick<Planned, 'state' | 'late' | 'totalFloat' | 'critical'> | null): PlanPrint[] {
  if (!planned || planned.state === 'done' || planned.totalFloat === null) return []
  if (planned.late) return [{ text: `slips ${short(planned.late)}`, tone: 'late' }]
  if (planned.totalFloat < 0) return [{ text: `${short(-planned.totalFloat)} too late`, tone: 'late' }]
  if (planned.critical) return [{ text: 'critical', tone: 'plain' }]
  return [{ text: `may slip ${short(planned.totalFloat)}`, tone: 'plain' }]
}
