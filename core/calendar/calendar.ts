import { briefOf, instantOfStart, isMeeting } from '../meeting/brief'
import { wallTime } from '../meeting/zones'
import { addDays, daysBetween } from '../schedule/days'
import { startOfWeek } from '../schedule/day-words'
import type { Planned } from '../schedule/planned'
import { timesOf } from '../schedule/times'
import { daysOffOf, turnsAhead } from '../schedule/turns'
import { isTask, type Topic, type TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'

/*
 * What of a tree stands in a calendar, and where: tasks from their first day to their last, milestones, due dates, and
 * meetings at their time, in the zone of whoever looks.
 */

export type CalendarKind =
  /** From the day it begins to the day it ends. */
  | 'task'
  /** All of it on one day: a length of 0. */
  | 'milestone'
  /** Only the day is known on which it has to be done. */
  | 'due'
  /** Only the day is known on which it begins. */
  | 'start'
  | 'meeting'
  /** A later turn of a task that comes again. */
  | 'turn'

export interface CalendarEntry {
  readonly id: TopicId
  readonly kind: CalendarKind
  /** First and last day, ISO 8601. */
  readonly from: string
  readonly to: string
  /** When it begins on the wall, and when it ends there on its last day; null where no time of day is said. */
  readonly time: string | null
  readonly ends: string | null
  /** Whether the plan computed the days, not a person who typed them. */
  readonly computed: boolean
  readonly done: boolean
  readonly late: boolean
}

type PlannedTask = Pick<Planned, 'start' | 'finish' | 'milestone' | 'late'>

export interface CalendarAsked {
  /** The days that a plan gave to tasks. */
  readonly plan: { readonly tasks: ReadonlyMap<TopicId, PlannedTask> } | null
  readonly today: string
  /** IANA zone on whose walls meetings are told: the tree's, or that of whoever looks. */
  readonly zone: string
  /** The branch that is shown; null for the tree. */
  readonly only: TopicId | null
  hidden(id: TopicId): boolean
}

function taskEntry(topic: Topic, { plan, today }: CalendarAsked): CalendarEntry | null {
  const { id, start, due } = topic
  const done = topic.done === 100
  const rest = { id, done }
  const planned = plan?.tasks.get(id)
  if (planned)
    return {
      ...rest,
      ...timesOf(topic, planned.milestone ? planned.finish : planned.start, planned.finish),
      kind: planned.milestone ? 'milestone' : 'task',
      from: planned.milestone ? planned.finish : planned.start,
      to: planned.finish,
      computed: planned.start !== start || planned.finish !== due,
      late: !done && (planned.late ?? 0) > 0,
    }
  // What a plan says of a branch is said of its tasks; typed days of it are its own all the same.
  const [from, to] = start !== null && due !== null && start <= due ? [start, due] : [due ?? start, due ?? start]
  if (from === null || to === null) return null
  return {
    ...rest,
    ...timesOf(topic, from, to),
    kind:
      start !== null && due !== null ? (topic.duration === 0 ? 'milestone' : 'task') : due !== null ? 'due' : 'start',
    from,
    to,
    computed: false,
    late: !done && due !== null && due < today,
  }
}

function meetingEntry(topic: Topic, { zone }: CalendarAsked): CalendarEntry | null {
  const brief = briefOf(topic)
  const instant = instantOfStart(brief)
  if (instant === null) return null
  const { day, time } = wallTime(instant, zone)
  // One that goes on past midnight stands on the days it goes over.
  const end = brief.slot === null ? null : wallTime(instant + Math.max(0, brief.slot * 60_000), zone)
  const last = brief.slot === null ? day : wallTime(instant + Math.max(0, brief.slot * 60_000 - 1), zone).day
  const rest = { computed: false, done: brief.stage === 'ended' || brief.stage === 'cancelled', late: false }
  return { id: topic.id, kind: 'meeting', from: day, to: last, time, ends: endOf(end, last), ...rest }
}

/** The end of what ends at midnight is that of the day before. */
const endOf = (end: { readonly day: string; readonly time: string } | null, last: string): string | null =>
  end && (end.day === last ? end.time : '24:00')

/** By day and time; what is longer first. */
export const byTime = (a: CalendarEntry, b: CalendarEntry): number =>
  a.from < b.from
    ? -1
    : a.from > b.from
      ? 1
      : (a.time ?? '') < (b.time ?? '')
        ? -1
        : (a.time ?? '') > (b.time ?? '')
          ? 1
          : daysBetween(b.from, b.to) - daysBetween(a.from, a.to)

/**
 * Everything that stands in the calendar, by day: what lasts all day before meetings by their time, and what is longer first;
 * else in the order in which the tree is read. Cost: all topics.
 */
export function calendarOf(tree: Tree, asked: CalendarAsked): CalendarEntry[] {
  const found: CalendarEntry[] = []
  for (const topic of topicsAsked(tree, asked)) {
    const meeting = isMeeting(topic) ? meetingEntry(topic, asked) : null
    const entry = meeting ?? (isTask(topic) ? taskEntry(topic, asked) : null)
    if (entry) found.push(entry)
  }
  return found.sort(byTime)
}

/** Turns of one task that are shown at most. */
const MOST_SHOWN = 200

/**
 * The turns to come of tasks that come again, from one day to another, by day; the one that is open is in `calendarOf`. Cost: all topics,
 * and the turns up to the last day.
 */
export function turnsOf(tree: Tree, asked: CalendarAsked, from: string, to: string): CalendarEntry[] {
  const off = daysOffOf(tree.fields)
  const found: CalendarEntry[] = []
  for (const topic of topicsAsked(tree, asked))
    for (const day of turnsAhead(topic, to, off, { from, most: MOST_SHOWN }))
      found.push({
        ...{ id: topic.id, kind: 'turn', from: day, to: day, ...turnTimes(topic) },
        ...{ computed: true, done: false, late: false },
      })
  return found.sort(byTime)
}

/** Each turn is at the times of the one that is open. */
const turnTimes = ({ start, due, startTime, dueTime }: Topic): Pick<CalendarEntry, 'time' | 'ends'> =>
  start === due && startTime !== null ? { time: startTime, ends: dueTime } : { time: dueTime, ends: null }

/** The topics that are asked for, in the order in which the tree is read. */
function* topicsAsked(tree: Tree, asked: CalendarAsked): Generator<Topic> {
  const inside = asked.only === null ? null : new Set([asked.only])
  for (const topic of allTopics(tree)) {
    if (inside && !inside.has(topic.id)) {
      if (topic.parent === null || !inside.has(topic.parent)) continue
      inside.add(topic.id)
    }
    if (!asked.hidden(topic.id) && topic.reference === null) yield topic
  }
}

/** A week of the calendar: its days, and what stands on them, each in a line in which nothing else does. */
export interface CalendarWeek {
  /** The first of its seven days. */
  readonly first: string
  readonly pieces: readonly CalendarPiece[]
  /** How many lines there are. */
  readonly lines: number
}
/** What of an entry lies in one week. */
export interface CalendarPiece {
  readonly entry: CalendarEntry
  /** The first and the last of the week's days, 0 to 6, that it covers. */
  readonly from: number
  readonly to: number
  readonly line: number
  /** Whether it goes on before, or after. */
  readonly before: boolean
  readonly after: boolean
}

/**
 * A week with its entries in lines: each in the first that is free on all of its days, in the order in which they are given. As
 * many lines as at most lie over one another on a day, for what begins in it; no more is possible.
 */
export function weekOf(entries: readonly CalendarEntry[], first: string): CalendarWeek {
  const last = addDays(first, 6)
  const pieces: CalendarPiece[] = []
  const free: string[] = []
  const inWeek = entries.filter(({ from, to }) => from <= last && to >= first)
  // What goes on from before comes first, so that a line is filled from the left.
  const order = [...inWeek].sort((a, b) => Number(b.from < first) - Number(a.from < first))
  for (const entry of order) {
    const [from, to] = [entry.from < first ? first : entry.from, entry.to > last ? last : entry.to]
    let line = free.findIndex(until => until < from)
    if (line < 0) line = free.length
    free[line] = to
    pieces.push({
      entry,
      from: daysBetween(first, from),
      to: daysBetween(first, to),
      line,
      before: entry.from < first,
      after: entry.to > last,
    })
  }
  return { first, pieces, lines: free.length }
}

/** The first days of the weeks that a month is told in, from the one its first day lies in. */
export function weeksOfMonth(month: string, locale?: string): string[] {
  const first = `${month.slice(0, 7)}-01`
  const weeks: string[] = []
  for (let at = startOfWeek(first, locale); at.slice(0, 7) <= first.slice(0, 7); at = addDays(at, 7)) weeks.push(at)
  return weeks
}

/**
 * What stands in the month of a day, by days, `most` entries of it and how many more there are. What began before stands on its
 * first day.
 */
export function listOfMonth(
  entries: readonly CalendarEntry[],
  day: string,
  most: number,
): {
  readonly days: readonly { readonly day: string; readonly entries: readonly CalendarEntry[] }[]
  readonly more: number
} {
  const month = day.slice(0, 7)
  const days = new Map<string, CalendarEntry[]>()
  let told = 0
  let more = 0
  // They come by their first day, so those that began before are the first.
  for (const entry of entries) {
    if (entry.to.slice(0, 7) < month || entry.from.slice(0, 7) > month) continue
    if (told === most) {
      more++
      continue
    }
    told++
    const at = entry.from.slice(0, 7) < month ? `${month}-01` : entry.from
    const there = days.get(at)
    if (there) there.push(entry)
    else days.set(at, [entry])
  }
  return { days: Array.from(days, ([day, entries]) => ({ day, entries })), more }
}

/** The first of the month so many months on. */
export function monthAfter(day: string, by: number): string {
  const months = Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1 + by
  return `${String(Math.floor(months / 12)).padStart(4, '0')}-${String((months % 12) + 1).padStart(2, '0')}-01`
}

/** Whether an entry is one that somebody may put on another day. */
export const isMovable = (tree: Tree, entry: CalendarEntry): boolean =>
  !entry.done &&
  entry.kind !== 'turn' &&
  (entry.kind !== 'meeting' || briefOf(topicOf(tree, entry.id)).stage !== 'running')
