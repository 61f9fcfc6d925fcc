import { type Again, DAYS_OF_WEEK, MOST_TURNS, readRhythm, type Rhythm } from '../tree/again'
import type { Change } from '../tree/change'
import type { Topic } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { addDays, daysBetween } from './days'
import { calendarOf } from './plan-clock'
import { mondayOf, nthWeekday } from './weekdays'
import { NoWorkingDay, type WorkingCalendar } from './working-calendar'

/*
 * When the turns of a task that comes again fall, and what it means to finish one. There is one topic with its rule: its due date is
 * the turn that is open, and finishing it takes the due date on to the next (docs/decisions/0040).
 */

/** Days of a calendar that aren't worked on: by name, as holidays are, and by their weekday. */
export interface DaysOff {
  /** Whether the day is closed by name, though its weekday is worked on. */
  isClosed(day: string): boolean
  isWorking(day: string): boolean
  /** The day itself, or the first working day after it. */
  onOrAfter(day: string): string
}

export const EVERY_DAY: DaysOff = { isClosed: () => false, isWorking: () => true, onOrAfter: day => day }

/** The days off of a tree. A calendar in which no day is worked on keeps nobody from finishing anything. */
export function daysOffOf(fields: Parameters<typeof calendarOf>[0]): DaysOff {
  let calendar: WorkingCalendar
  try {
    calendar = calendarOf(fields)
  } catch (error) {
    if (!(error instanceof NoWorkingDay)) throw error
    return EVERY_DAY
  }
  const closed = new Set(fields.exceptions.filter(({ kind }) => kind === 'closed').map(({ id }) => id))
  return {
    isClosed: day => closed.has(day),
    isWorking: day => calendar.isWorking(day),
    onOrAfter(day) {
      try {
        return calendar.onOrAfter(day)
      } catch (error) {
        if (!(error instanceof NoWorkingDay)) throw error
        return day
      }
    },
  }
}

const monthOf = (day: string): number => Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1
const dayOfMonth = (month: number, day: number): string =>
  `${String(Math.floor(month / 12)).padStart(4, '0')}-${String((month % 12) + 1).padStart(2, '0')}-${String(day).padStart(2, '0')}`
const lengthOf = (month: number): number => daysBetween(dayOfMonth(month, 1), dayOfMonth(month + 1, 1))

/** Days after 9999 can't be written; nothing is planned so far ahead. */
const LAST_DAY = '9000-12-31'

/** The rule's own days from about `near` on, in order, the first and days off not looked at; without end but the calendar's. */
function* daysOfRule(from: string, rhythm: Rhythm, near: string): Generator<string> {
  const ahead = Math.max(0, daysBetween(from, near))
  const { interval } = rhythm
  switch (rhythm.every) {
    case 'day':
      for (let n = Math.floor(ahead / interval) * interval; ; n += interval) yield addDays(from, n)
    case 'week': {
      // Weeks begin on Monday, which is WKST's default.
      const monday = mondayOf(from)
      for (let week = Math.floor(ahead / 7 / interval) * interval; ; week += interval)
        for (const on of rhythm.on) yield addDays(monday, week * 7 + DAYS_OF_WEEK.indexOf(on))
    }
    case 'month':
    case 'year': {
      const step = rhythm.every === 'year' ? interval * 12 : interval
      const first = monthOf(from)
      const begin = Math.max(0, Math.floor((monthOf(near) - first - 1) / step)) * step + first
      for (let month = begin; ; month += step) {
        if ('which' in rhythm) {
          const day = nthWeekday(dayOfMonth(month, 1), rhythm.which, rhythm.on)
          if (day !== null) yield day
          continue
        }
        const at = rhythm.every === 'year' ? Math.floor(month / 12) * 12 + rhythm.month - 1 : month
        const length = lengthOf(at)
        const day = rhythm.day === -1 ? length : rhythm.day
        if (day <= length) yield dayOfMonth(at, day)
      }
    }
  }
}

/** Days of a rule that are looked at for the next turn, at most: ten years of days off. */
const MOST_TRIES = 4000

/**
 * The days on which there is a turn, in order, from the first after `after` on. The first of all counts whether or not it fits the rule
 * (RFC 5545, section 3.8.5.3). What falls on a day off: of days and weekdays it's left out, where the weekday was meant just a holiday
 * is one; what comes on a date, monthly or yearly, goes on to the next working day, and two that meet there are one. Stops at `until`,
 * or when ten years of a rule are days off.
 */
export function* turnsAfter({ rule, from }: Again, after: string, off: DaysOff): Generator<string> {
  const rhythm = readRhythm(rule)
  if (!rhythm) return
  let last = after
  if (from > after) {
    yield from
    last = from
  }
  let tries = 0
  for (const day of daysOfRule(from, rhythm, last)) {
    if (day > LAST_DAY || (rhythm.until !== null && day > rhythm.until) || tries++ > MOST_TRIES) return
    if (day <= from) continue
    const onDate = rhythm.every === 'year' || (rhythm.every === 'month' && !('which' in rhythm))
    if (rhythm.every === 'day' ? !off.isWorking(day) : !onDate && off.isClosed(day)) continue
    const turn = onDate ? off.onOrAfter(day) : day
    if (turn <= last) continue
    yield turn
    last = turn
    tries = 0
  }
}

/** The first turn after a day, null when there is none any more. */
export function turnAfter(again: Again, after: string, off: DaysOff): string | null {
  const { value } = turnsAfter(again, after, off).next()
  return value ?? null
}

/** The first day of a rule from a day on, that day counted: when it begins, where nobody says. */
export const firstTurn = (rule: string, from: string): string =>
  turnAfter({ rule, from: addDays(from, -1) }, addDays(from, -1), EVERY_DAY) ?? from

/** The turns after the one that is open, from a day to another (ISO 8601, both counted), and no more than so many. */
export function turnsAhead(
  { again, due, done }: Pick<Topic, 'again' | 'due' | 'done'>,
  until: string,
  off: DaysOff,
  { from, most = MOST_TURNS }: { readonly from?: string; readonly most?: number } = {},
): string[] {
  const found: string[] = []
  if (!again || due === null || done === 100) return found
  const before = from === undefined ? due : addDays(from, -1)
  for (const day of turnsAfter(again, before > due ? before : due, off)) {
    if (day > until || found.length >= most) break
    found.push(day)
  }
  return found
}

/**
 * How a task's turns differ from what its rule alone says, from its open turn on and for so many days: what calendars of other programs
 * need besides the rule.
 */
export function apartFromRule(
  { rule, from }: Again,
  due: string,
  off: DaysOff,
  days: number,
): { readonly without: string[]; readonly besides: string[] } {
  const last = addDays(due, days)
  const upTo = (found: Generator<string>): Set<string> => {
    const kept = new Set<string>()
    for (const day of found) {
      if (day > last) break
      kept.add(day)
    }
    return kept
  }
  const told = upTo(turnsAfter({ rule, from }, due, off))
  // Whoever reads the rule counts from the day on which the open turn is due.
  const read = upTo(turnsAfter({ rule, from: due }, due, EVERY_DAY))
  return { without: [...read].filter(day => !told.has(day)), besides: [...told].filter(day => !read.has(day)) }
}

/** Whether finishing it finishes a turn of it. */
export const comesAgain = ({ again, due }: Topic): boolean => again !== null && due !== null

/**
 * The changes by which a task is finished. One that comes again stands there open for its next turn, which is the first after the one
 * that is done and not before today: what was missed isn't asked for again and again. Its start keeps as far before, in days; what was
 * said of how far this turn was goes, and its checklist begins anew. After the last turn it's done as any other.
 * `today`: the day where whoever finishes it is; `by`: their id, null for a guest.
 */
export function finished(tree: Tree, topic: Topic, today: string, by: string | null): Change[] {
  const { id } = topic
  const set = (field: 'done' | 'due' | 'start' | 'began' | 'ended' | 'left', value: unknown): Change[] =>
    topic[field] === value ? [] : [{ op: 'set', topic: id, field, value } as Change]
  const { again, due, start, turns } = topic
  if (again === null || due === null) return set('done', 100)
  const turn: Change = { op: 'put', topic: id, set: 'turns', member: { id: due, on: today, by } }
  const oldest = turns.filter(one => one.id !== due).map(one => one.id)
  const gone = oldest.sort().slice(0, Math.max(0, oldest.length - MOST_TURNS + 1))
  const kept: Change[] = [...gone.map((member): Change => ({ op: 'take', topic: id, set: 'turns', member })), turn]
  const yesterday = addDays(today, -1)
  const next = turnAfter(again, due > yesterday ? due : yesterday, daysOffOf(tree.fields))
  if (next === null) return [...kept, ...set('done', 100)]
  return [
    ...kept,
    ...set('due', next),
    ...(start === null ? [] : set('start', addDays(start, daysBetween(due, next)))),
    ...set('done', topic.done === null ? null : 0),
    ...set('began', null),
    ...set('ended', null),
    ...set('left', null),
    ...topic.checks
      .filter(({ done }) => done)
      .map((check): Change => ({ op: 'put', topic: id, set: 'checks', member: { ...check, done: false } })),
  ]
}
