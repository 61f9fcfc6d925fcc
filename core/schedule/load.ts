import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { addDays } from './days'
import type { Plan } from './plan'
import type { Planned } from './planned'
import { daysOffOf, turnsAhead } from './turns'
import { mondayOf } from './weekdays'
import type { WorkingCalendar } from './working-calendar'

/*
 * Who has how much to do, week by week: the hours of the tasks as they're planned, against what somebody can do. Several people on a task
 * share its work alike; work is spread evenly over the days from the status date on. Common practice, no source. A task that comes again
 * has its whole work in each of its turns, on the working days up to it.
 */

export interface LoadCell {
  /** Hours that are planned. */
  readonly hours: number
  /** Hours that the person can do. */
  readonly can: number
  /** What makes them up, the largest first. */
  readonly parts: readonly { readonly topic: TopicId; readonly hours: number }[]
}
export interface Load {
  /** Mondays, ISO 8601, one after the other. */
  readonly weeks: readonly string[]
  /** A row a person, a cell a week. */
  readonly rows: readonly { readonly person: string; readonly cells: readonly LoadCell[] }[]
}

/** Weeks that are shown at most: ten years. */
const MOST_WEEKS = 520
/** Weeks from now on in which what comes again is counted at least, though the plan ends sooner. */
const TURN_WEEKS = 13

/** Hours of work that are left of a task, of all its people together. */
export function workLeft(tree: Tree, id: TopicId, planned: Planned, calendar: WorkingCalendar): number {
  const { effort, done } = topicOf(tree, id)
  if (planned.state === 'done') return 0
  return ((effort ?? (planned.length * calendar.minutes) / 60) * (100 - (done ?? 0))) / 100
}

/** Hours that somebody can do on a working day; 0 on a day off. */
export function canDo(tree: Tree, calendar: WorkingCalendar): (person: string, day: string) => number {
  const known = new Map(
    tree.fields.capacities.map(({ id, hours, off }) => [
      id,
      { hours: hours ?? calendar.minutes / 60, off: new Set(off) },
    ]),
  )
  return (person, day) => {
    if (!calendar.isWorking(day)) return 0
    const own = known.get(person)
    return own ? (own.off.has(day) ? 0 : own.hours) : calendar.minutes / 60
  }
}

/** The working days of a task from a day on, each with the share of the day that it lies in. */
export function* daysOfTask(
  { start, finish, from, to }: Pick<Planned, 'start' | 'finish' | 'from' | 'to'>,
  calendar: WorkingCalendar,
  least: string,
): Generator<readonly [day: string, share: number]> {
  if (to <= from) return
  const first = calendar.numberOf(start > least ? start : least)
  const last = calendar.numberOf(finish)
  const whole = calendar.numberOf(start)
  const begins = (((from % calendar.minutes) + calendar.minutes) % calendar.minutes) / calendar.minutes
  const rest = ((to % calendar.minutes) + calendar.minutes) % calendar.minutes
  const ends = rest === 0 ? 1 : rest / calendar.minutes
  for (let n = first; n <= last; n++) yield [calendar.dayOf(n), (n === last ? ends : 1) - (n === whole ? begins : 0)]
}

/** The load of all who have something to do in the plan, from the week of the status date on. */
export function loadOf(tree: Tree, plan: Plan): Load {
  const { calendar, status } = plan
  const can = canDo(tree, calendar)
  const first = mondayOf(status)
  const cells = new Map<string, Map<string, Map<TopicId, number>>>()
  const add = (id: TopicId, people: readonly string[], week: string, hours: number): void => {
    if (hours === 0) return
    for (const person of people) {
      const weeks = cells.get(person) ?? new Map<string, Map<TopicId, number>>()
      cells.set(person, weeks)
      const parts = weeks.get(week) ?? new Map<TopicId, number>()
      weeks.set(week, parts)
      parts.set(id, (parts.get(id) ?? 0) + hours / people.length)
    }
  }
  let last = first
  for (const [id, planned] of plan.tasks) {
    const { people } = topicOf(tree, id)
    const hours = workLeft(tree, id, planned, calendar)
    if (people.length === 0 || hours === 0) continue
    const days = [...daysOfTask(planned, calendar, status)]
    const whole = days.reduce((sum, [, share]) => sum + share, 0)
    for (const [day, share] of days) {
      const week = mondayOf(day)
      if (week > last) last = week
      add(id, people, week, (hours * share) / whole)
    }
  }
  const off = daysOffOf(tree.fields)
  const ahead = addDays(first, 7 * TURN_WEEKS - 1)
  const until = ahead > addDays(last, 6) ? ahead : addDays(last, 6)
  for (const [id, { length }] of plan.tasks) {
    const topic = topicOf(tree, id)
    if (topic.again === null || topic.people.length === 0) continue
    const days = Math.max(1, Math.ceil(length))
    const hours = topic.effort ?? (length * calendar.minutes) / 60
    for (const turn of turnsAhead(topic, until, off)) {
      if (mondayOf(turn) > last) last = mondayOf(turn)
      const end = calendar.numberOf(turn)
      for (let n = end - days + 1; n <= end; n++) add(id, topic.people, mondayOf(calendar.dayOf(n)), hours / days)
    }
  }
  const weeks: string[] = []
  for (let week = first; week <= last && weeks.length < MOST_WEEKS; week = addDays(week, 7)) weeks.push(week)
  const cellOf = (person: string, week: string): LoadCell => {
    const parts = [...(cells.get(person)?.get(week) ?? [])]
      .map(([topic, hours]) => ({ topic, hours }))
      .sort((a, b) => b.hours - a.hours)
    let able = 0
    for (let i = 0; i < 7; i++) able += can(person, addDays(week, i))
    return { hours: parts.reduce((sum, { hours }) => sum + hours, 0), can: able, parts }
  }
  return {
    weeks,
    rows: [...cells.keys()].sort().map(person => ({ person, cells: weeks.map(week => cellOf(person, week)) })),
  }
}

/** Whether more is planned than can be done, by more than what rounding to a tenth of an hour hides. */
export const isTooMuch = ({ hours, can }: Pick<LoadCell, 'hours' | 'can'>): boolean => hours > can + 0.05
