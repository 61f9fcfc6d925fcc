import type { TopicId } from '../tree/topic'
import type { Plan } from './plan'
import type { WorkingCalendar } from './working-calendar'

/** A plan as it was agreed: when each task was to begin and end. */
export interface Baseline {
  /** The number of the edit after which the tree was so. */
  readonly number: number
  readonly name: string
  /** ISO 8601 instant at which it was kept. */
  readonly at: string
  readonly finish: string | null
  readonly tasks: Readonly<Record<TopicId, { readonly start: string; readonly finish: string }>>
}

/** What a plan says of each task, to be held against a later one. */
export function datesOf({ tasks }: Plan): Baseline['tasks'] {
  return Object.fromEntries(Array.from(tasks, ([id, { start, finish }]) => [id, { start, finish }]))
}

/** Working days by which something ends later than was agreed; negative where it ends sooner. */
export const slipBetween = (calendar: WorkingCalendar, agreed: string, now: string): number =>
  calendar.workingDaysBetween(agreed, now)

export interface Slips {
  /** Tasks that end later, by how many working days, the most first; those that were agreed on alone. */
  readonly later: readonly { readonly topic: TopicId; readonly days: number }[]
  readonly sooner: readonly { readonly topic: TopicId; readonly days: number }[]
  /** Tasks that have come since, and those that have gone. */
  readonly come: readonly TopicId[]
  readonly gone: readonly TopicId[]
  /** Working days by which the whole ends later. */
  readonly whole: number
}

/** What has changed since a plan was agreed. */
export function slipsSince({ tasks, finish, calendar }: Plan, base: Pick<Baseline, 'tasks' | 'finish'>): Slips {
  const later: { topic: TopicId; days: number }[] = []
  const sooner: { topic: TopicId; days: number }[] = []
  const come: TopicId[] = []
  for (const [topic, planned] of tasks) {
    const agreed = base.tasks[topic]
    if (!agreed) {
      come.push(topic)
      continue
    }
    const days = slipBetween(calendar, agreed.finish, planned.finish)
    if (days > 0) later.push({ topic, days })
    else if (days < 0) sooner.push({ topic, days })
  }
  return {
    later: later.sort((a, b) => b.days - a.days),
    sooner: sooner.sort((a, b) => a.days - b.days),
    come,
    gone: Object.keys(base.tasks).filter(topic => !tasks.has(topic)),
    whole: finish === null || base.finish === null ? 0 : slipBetween(calendar, base.finish, finish),
  }
}
