import type { Topic, TopicId } from '../tree/topic'
import { isTask } from '../tree/topic'
import { childrenOf, isLive, topicOf, type Tree } from '../tree/tree'
import { isWithin, roots } from '../tree/walk'
import type { Wait } from '../tree/plan'
import { addDays } from './days'
import { type Activity, type CalendarLag, type Dependency, onCircles, scheduleOf, type Times } from './network'
import { NoWorkingDay, WorkingCalendar } from './working-calendar'

/*
 * The plan of a tree: from what people entered to when each task can begin and end. What is planned are the tasks at the ends of the
 * branches; a task with tasks below stands for those. Lengths are working days as one types them, counted in whole working minutes.
 *
 * Rules (4-computation, "Schedule"; where they go beyond it, common practice, no source):
 * - A typed start is *not before* (or, where it's said so, *just then*), a typed due date a *deadline* (or *not after*).
 * - What isn't done can't lie before the status date. What has begun keeps its start, and what is left of it follows the status date.
 * - A dependency of or on a branch is one of each task in it: all of it.
 * - A length that nobody said is that from start to due date; else the likely estimate; else its work in hours among its people; else
 *   a day, and it's said that it was assumed.
 */

export type PlanState = 'done' | 'begun' | 'ready' | 'waiting'

/** Why a task can't begin earlier than it does. */
export type Because =
  | { readonly kind: 'plan' }
  | { readonly kind: 'status' }
  | { readonly kind: 'not-before' }
  | { readonly kind: 'fixed' }
  | { readonly kind: 'happened' }
  /** `wait` is kept with `by`: the task, or a branch that it's in. */
  | { readonly kind: 'waits'; readonly on: TopicId; readonly by: TopicId; readonly wait: Wait }

/** What is computed of a task. Days are ISO 8601, the last one included. */
export interface Planned {
  readonly start: string
  readonly finish: string
  readonly lateStart: string
  readonly lateFinish: string
  /** Working days; a share of one counts. Negative: so much too late already. Null once it's done. */
  readonly totalFloat: number | null
  readonly freeFloat: number | null
  /** Whether the plan's end, or a limit, slips when it does. */
  readonly critical: boolean
  readonly state: PlanState
  readonly because: Because
  /** Working days. */
  readonly length: number
  readonly milestone: boolean
  /** Nobody said how long it takes. */
  readonly assumed: boolean
  /** Working days beyond its due date, at least 1; 0 where it's in time, null without one. */
  readonly late: number | null
  /** Working minutes from the plan's first, for whoever reckons on. */
  readonly from: number
  readonly to: number
}

/** What a branch comes to in the plan. */
export interface PlannedBranch {
  readonly start: string
  readonly finish: string
  readonly critical: boolean
  /** The least float below, working days; null when all is done. */
  readonly totalFloat: number | null
  readonly tasks: number
}

/** A dependency that can't be kept to, and why. */
export interface BrokenWait {
  readonly by: TopicId
  readonly wait: Wait
  /** `gone`: what it waits for isn't there. `within`: one lies in the other. `loop`: they wait for one another. `fixed`: a fixed date contradicts it. `nothing`: nothing in the branch is a task. */
  readonly why: 'gone' | 'within' | 'loop' | 'fixed' | 'nothing'
}

export interface Plan {
  readonly tasks: ReadonlyMap<TopicId, Planned>
  readonly branches: ReadonlyMap<TopicId, PlannedBranch>
  /** The last day of all; null without tasks. */
  readonly finish: string | null
  readonly broken: readonly BrokenWait[]
  readonly calendar: WorkingCalendar
  /** The day up to which what was done is known. */
  readonly status: string
}

/** Why there is no plan: nobody switched one on, no day is worked on, or branches wait for branches more than can be reckoned with. */
export type NoPlan = 'off' | 'no-working-day' | 'too-large'

/** Lines of a network at most. A dependency of a branch has one for each task in it, so a few hundred topics could ask for millions. */
const MOST_EDGES = 500_000
class TooLarge extends Error {}

/** Calendars that were made ready, by the closed and extra days that they have: each remembers what it was asked. */
const ready = new WeakMap<
  Tree['fields']['exceptions'],
  { readonly weekdays: readonly number[]; readonly dayHours: number; readonly calendar: WorkingCalendar }
>()

/** The working calendar of a tree. Throws `NoWorkingDay`. */
export function calendarOf({ weekdays, dayHours, exceptions }: Tree['fields']): WorkingCalendar {
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

/** How long a task takes, in working days, and whether that was assumed. */
export function lengthOf(
  topic: Topic,
  calendar: WorkingCalendar,
): { readonly days: number; readonly assumed: boolean } {
  if (topic.duration !== null) return { days: topic.duration, assumed: false }
  if (topic.estimate) return { days: topic.estimate.likely, assumed: false }
  if (topic.start !== null && topic.due !== null && topic.start <= topic.due)
    return { days: Math.max(1, calendar.workingDaysBetween(topic.start, addDays(topic.due, 1))), assumed: false }
  if (topic.effort !== null)
    return { days: (topic.effort * 60) / calendar.minutes / Math.max(1, topic.people.length), assumed: false }
  return { days: 1, assumed: true }
}

/** The topics that are planned, with what stands for each branch: the tasks at the ends, in reading order. */
export function plannedIn(tree: Tree): { tasks: TopicId[]; leaves: Map<TopicId, readonly [from: number, to: number]> } {
  const tasks: TopicId[] = []
  /** Where the tasks of a branch lie in `tasks`. */
  const leaves = new Map<TopicId, readonly [number, number]>()
  const stack: { id: TopicId; at: number; from: number }[] = []
  const enter = (id: TopicId): void => void stack.push({ id, at: 0, from: tasks.length })
  for (const root of roots(tree)) {
    if (topicOf(tree, root).tray) continue
    enter(root)
    while (stack.length > 0) {
      const top = stack.at(-1)!
      const kids = childrenOf(tree, top.id)
      if (top.at < kids.length) {
        enter(kids[top.at++]!)
        continue
      }
      stack.pop()
      if (tasks.length === top.from && isTask(topicOf(tree, top.id))) tasks.push(top.id)
      if (tasks.length > top.from) leaves.set(top.id, [top.from, tasks.length])
    }
  }
  return { tasks, leaves }
}

/** What a task enters into the network with. */
export interface Timing {
  readonly activity: Activity
  readonly state: 'done' | 'begun' | 'open'
  readonly days: number
  readonly assumed: boolean
  readonly fromStatus: boolean
}

/** What a topic enters into the network. `status`: the minute of the status date. */
function timingOf(topic: Topic, clock: PlanClock, status: string): Timing {
  const { calendar } = clock
  const { days, assumed } = lengthOf(topic, calendar)
  const now = clock.at(status)
  const length = clock.minutes(days)
  const base = { id: topic.id, notBefore: null, notAfter: null, fixed: null }
  const percent = topic.done ?? 0
  if (percent === 100 || topic.ended !== null) {
    const ended = topic.ended ?? (topic.due !== null && topic.due <= status ? topic.due : status)
    const finish = clock.end(ended)
    const begun = topic.began ?? (topic.start !== null && topic.start <= ended ? topic.start : null)
    const start = begun === null ? finish - length : Math.min(clock.at(begun), finish)
    return {
      activity: { ...base, length: finish - start, fixed: start, happened: true },
      state: 'done',
      days,
      assumed,
      fromStatus: false,
    }
  }
  const notAfter = topic.due !== null && topic.dueMeans === 'not-after' ? clock.end(topic.due) : null
  if (percent > 0 || topic.began !== null) {
    const said = topic.began ?? (topic.start !== null && topic.start <= status ? topic.start : status)
    const start = Math.min(clock.at(said), now)
    const left = topic.left === null ? Math.round(length * (1 - percent / 100)) : clock.minutes(topic.left)
    return {
      activity: { ...base, notAfter, length: now - start + left, fixed: start, happened: true },
      state: 'begun',
      days,
      assumed,
      fromStatus: false,
    }
  }
  const typed = topic.start === null ? null : clock.at(topic.start)
  if (typed !== null && topic.startMeans === 'fixed')
    return { activity: { ...base, notAfter, length, fixed: typed }, state: 'open', days, assumed, fromStatus: false }
  const fromStatus = now > Math.max(0, typed ?? 0)
  return {
    activity: { ...base, notAfter, length, notBefore: fromStatus ? now : typed },
    state: 'open',
    days,
    assumed,
    fromStatus,
  }
}

/** A dependency in the network, with what it comes from: `wait` is kept with `by`. */
export interface Edge extends Dependency {
  readonly by: TopicId
  readonly wait: Wait
}

/** The network of a tree's plan, ready to be reckoned with. */
export interface Compiled {
  readonly tree: Tree
  readonly clock: PlanClock
  readonly status: string
  /** The topics that are planned, in reading order. */
  readonly tasks: readonly TopicId[]
  /** Where the tasks of each branch lie in `tasks`. */
  readonly leaves: ReadonlyMap<TopicId, readonly [from: number, to: number]>
  readonly timings: ReadonlyMap<TopicId, Timing>
  /** The tasks, then the knots through which branches are waited for. */
  readonly activities: readonly Activity[]
  /** Those that can be kept to. */
  readonly edges: readonly Edge[]
  readonly broken: readonly BrokenWait[]
}

/** The network of a tree as it's known on a day (ISO 8601), where the tree itself says no status date; or why there is none. */
export function compile(tree: Tree, today: string): Compiled | NoPlan {
  const { planFrom, statusDay } = tree.fields
  if (planFrom === null) return 'off'
  try {
    return compiled(tree, new PlanClock(calendarOf(tree.fields), planFrom), statusDay ?? today)
  } catch (error) {
    if (error instanceof NoWorkingDay) return 'no-working-day'
    if (error instanceof TooLarge) return 'too-large'
    throw error
  }
}

/**
 * The plan of a tree, as it's known on a day (ISO 8601) where the tree itself says no status date. Cost: in proportion to topics and
 * dependencies.
 */
export function planOf(tree: Tree, today: string): Plan | NoPlan {
  const network = compile(tree, today)
  if (typeof network === 'string') return network
  try {
    return planned(network)
  } catch (error) {
    if (error instanceof NoWorkingDay) return 'no-working-day'
    throw error
  }
}

function compiled(tree: Tree, clock: PlanClock, status: string): Compiled {
  const { tasks, leaves } = plannedIn(tree)
  const timings = new Map(tasks.map(id => [id, timingOf(topicOf(tree, id), clock, status)]))
  const broken: BrokenWait[] = []
  const activities: Activity[] = tasks.map(id => timings.get(id)!.activity)
  const edges: Edge[] = []
  for (const [by] of leaves)
    for (const wait of topicOf(tree, by).waits) {
      const why = unfit(tree, leaves, by, wait)
      if (why) broken.push({ by, wait, why })
      else tie(by, wait)
    }

  /** A dependency between tasks; where one end is a branch, all its tasks are tied to one knot. */
  function tie(by: TopicId, wait: Wait): void {
    const [ends, begins] = [tasks.slice(...leaves.get(wait.on)!), tasks.slice(...leaves.get(by)!)]
    const calendar = wait.days === 'calendar'
    const lag = calendar ? wait.lag : clock.minutes(wait.lag)
    const said = { by, wait }
    if (ends.length === 1 && begins.length === 1) {
      edges.push({ from: ends[0]!, to: begins[0]!, kind: wait.kind, lag, calendar, ...said })
      return
    }
    if (edges.length + ends.length + begins.length > MOST_EDGES) throw new TooLarge()
    const knot = `${by} ${wait.id}`
    activities.push({ id: knot, length: 0, notBefore: null, notAfter: null, fixed: null })
    const [before, after] = [wait.kind[0] as 'F' | 'S', wait.kind[1] as 'F' | 'S']
    for (const from of ends) edges.push({ from, to: knot, kind: `${before}S`, lag: 0, ...said })
    for (const to of begins) edges.push({ from: knot, to, kind: `F${after}`, lag, calendar, ...said })
  }

  const ids = activities.map(({ id }) => id)
  const onCircle = new Map((onCircles(ids, edges) as Edge[]).map(edge => [keyOf(edge), edge]))
  for (const { by, wait } of onCircle.values()) broken.push({ by, wait, why: 'loop' })
  return {
    tree,
    clock,
    status,
    tasks,
    leaves,
    timings,
    activities,
    edges: onCircle.size === 0 ? edges : edges.filter(edge => !onCircle.has(keyOf(edge))),
    broken,
  }
}

const keyOf = ({ by, wait }: Pick<Edge, 'by' | 'wait'>): string => `${by} ${wait.id}`

function planned({
  tree,
  clock,
  status,
  tasks,
  leaves,
  timings,
  activities,
  edges,
  broken: unfitting,
}: Compiled): Plan {
  const schedule = scheduleOf(activities, edges, clock)
  const broken = [...unfitting]
  for (const { by, wait } of new Map((schedule.broken as Edge[]).map(edge => [keyOf(edge), edge])).values())
    broken.push({ by, wait, why: 'fixed' })
  const made = new Map<TopicId, Planned>()
  const held = waitingIn()
  for (const id of tasks) {
    const timing = timings.get(id)!
    const times = schedule.times.get(id)!
    const topic = topicOf(tree, id)
    const because = becauseOf(times.reason, timing)
    const days = daysOf(clock, times, topic, timing.activity.length === 0, because)
    const done = timing.state === 'done'
    // What it waited for was done on this very day: it follows tomorrow, and whoever has time begins at once.
    const freed = because.kind === 'waits' && because.wait.kind === 'FS' && because.wait.lag <= 0
    const open = held.has(id) || (days.start > status && !freed) ? 'waiting' : 'ready'
    // Named one by one: spread into it they'd cost ten times as much, and there are thousands.
    made.set(id, {
      start: days.start,
      finish: days.finish,
      lateStart: days.lateStart,
      lateFinish: days.lateFinish,
      totalFloat: done ? null : clock.days(times.totalFloat),
      freeFloat: done ? null : clock.days(times.freeFloat),
      critical: !done && times.totalFloat <= 0,
      state: timing.state === 'open' ? open : timing.state,
      because,
      length: timing.days,
      milestone: timing.activity.length === 0,
      assumed: timing.assumed,
      late: lateBy(clock.calendar, topic.due, days.finish),
      from: times.earlyStart,
      to: times.earlyFinish,
    })
  }
  return {
    tasks: made,
    branches: branchesOf(tasks, leaves, made),
    finish: latest(tasks, made),
    broken,
    calendar: clock.calendar,
    status,
  }

  /** Tasks that can't begin yet, since something that must end or begin before hasn't. */
  function waitingIn(): ReadonlySet<TopicId> {
    const waiting = new Set<TopicId>()
    for (const { by, wait } of new Map(edges.map(edge => [keyOf(edge), edge])).values()) {
      if (wait.kind === 'FF' || wait.kind === 'SF') continue
      const isMet = (id: TopicId): boolean => {
        const { state } = timings.get(id)!
        return state === 'done' || (wait.kind === 'SS' && state === 'begun')
      }
      if (tasks.slice(...leaves.get(wait.on)!).every(isMet)) continue
      for (const id of tasks.slice(...leaves.get(by)!)) waiting.add(id)
    }
    return waiting
  }
}

/** Why a dependency is none: what it waits for isn't there or has no task, or one lies in the other. */
function unfit(
  tree: Tree,
  leaves: ReadonlyMap<TopicId, readonly [number, number]>,
  by: TopicId,
  { on }: Wait,
): BrokenWait['why'] | null {
  if (!isLive(tree, on)) return 'gone'
  if (isWithin(tree, on, by) || isWithin(tree, by, on)) return 'within'
  return leaves.has(on) ? null : 'nothing'
}

function becauseOf(reason: Times['reason'], { fromStatus, activity }: Timing): Because {
  switch (reason.kind) {
    case 'waits': {
      const { by, wait } = reason.dependency as Edge
      return { kind: 'waits', on: wait.on, by, wait }
    }
    case 'not-before':
      return { kind: fromStatus ? 'status' : 'not-before' }
    case 'fixed':
      return { kind: activity.happened ? 'happened' : 'fixed' }
    case 'start':
      return { kind: 'plan' }
  }
}

/**
 * The days of a task. A milestone stands on the day on which what it waits for ends; one that waits for nothing, on the day on which it
 * may begin.
 */
function daysOf(
  clock: PlanClock,
  { earlyStart, earlyFinish, lateStart, lateFinish }: Times,
  { began, ended }: Topic,
  milestone: boolean,
  because: Because,
): Pick<Planned, 'start' | 'finish' | 'lateStart' | 'lateFinish'> {
  const atEnd = milestone && because.kind === 'waits' && because.wait.kind[0] === 'F'
  const startDay = (minute: number): string => (atEnd ? clock.finishDay(minute) : clock.startDay(minute))
  const finishDay = (minute: number): string => (milestone && !atEnd ? clock.startDay(minute) : clock.finishDay(minute))
  const finish = ended ?? finishDay(earlyFinish)
  const start = began ?? startDay(earlyStart)
  return {
    start: start > finish ? finish : start,
    finish,
    lateStart: startDay(lateStart),
    lateFinish: finishDay(lateFinish),
  }
}

function lateBy(calendar: WorkingCalendar, due: string | null, finish: string): number | null {
  if (due === null) return null
  return finish > due ? Math.max(1, calendar.workingDaysBetween(due, finish)) : 0
}

function latest(tasks: readonly TopicId[], made: ReadonlyMap<TopicId, Planned>): string | null {
  let last: string | null = null
  for (const id of tasks) {
    const { finish } = made.get(id)!
    if (last === null || finish > last) last = finish
  }
  return last
}

/** What the branches come to: each stretch of tasks that isn't one task itself. */
function branchesOf(
  tasks: readonly TopicId[],
  leaves: ReadonlyMap<TopicId, readonly [number, number]>,
  made: ReadonlyMap<TopicId, Planned>,
): Map<TopicId, PlannedBranch> {
  const branches = new Map<TopicId, PlannedBranch>()
  // Those below come before those above, so each adds up what its own children came to, and nothing twice.
  const known = new Map<number, PlannedBranch>()
  for (const [id, [from, to]] of leaves) {
    if (made.has(id)) {
      const { start, finish, critical, totalFloat } = made.get(id)!
      known.set(from, { start, finish, critical, totalFloat, tasks: 1 })
      continue
    }
    let sum: PlannedBranch | null = null
    for (let at = from; at < to; at += known.get(at)!.tasks) sum = together(sum, known.get(at)!)
    known.set(from, sum!)
    branches.set(id, sum!)
  }
  return branches
}

function together(a: PlannedBranch | null, b: PlannedBranch): PlannedBranch {
  if (a === null) return b
  return {
    start: a.start < b.start ? a.start : b.start,
    finish: a.finish > b.finish ? a.finish : b.finish,
    critical: a.critical || b.critical,
    totalFloat:
      a.totalFloat === null
        ? b.totalFloat
        : b.totalFloat === null
          ? a.totalFloat
          : Math.min(a.totalFloat, b.totalFloat),
    tasks: a.tasks + b.tasks,
  }
}
