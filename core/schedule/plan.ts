import type { Topic, TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import type { Wait } from '../tree/plan'
import { type BrokenWait, compile, type Compiled, type Edge, keyOf, type NoPlan, type Timing } from './compiled'
import { scheduleOf, type Times } from './network'
import type { PlanClock } from './plan-clock'
import { NoWorkingDay, type WorkingCalendar } from './working-calendar'

/*
 * The plan of a tree: when each task can begin and end, why, and what may slip. The rules by which it's reckoned stand with its network
 * (`compiled.ts`).
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
