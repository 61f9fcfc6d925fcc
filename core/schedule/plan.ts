import { isTask, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { roots } from '../tree/walk'
import type { Elsewhere } from '../tree/plan'
import {
  type BrokenWait,
  compile,
  type Compiled,
  type Edge,
  keyOf,
  type NoPlan,
  type Timing,
  timingOf,
} from './compiled'
import { Network, type Times } from './network'
import { type Because, branchesOf, partOf, type Planned, type PlannedBranch, together } from './planned'
import type { PlanClock } from './plan-clock'
import { NoWorkingDay, type WorkingCalendar } from './working-calendar'

/*
 * The plan of a tree: when each task can begin and end, why, and what may slip. The rules by which it's reckoned stand with its network
 * (`compiled.ts`).
 */

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
  const planner = Planner.of(tree, today)
  return typeof planner === 'string' ? planner : planner.plan
}

/**
 * A plan that goes along with its tree: what is said of tasks may change, and only what that moves is worked out anew. Which topics
 * there are, what waits for what and the calendar stay as they were; where they don't, another planner is made.
 */
export class Planner {
  private readonly network: Network
  private readonly timings: Map<TopicId, Timing>
  private readonly places: ReadonlyMap<TopicId, number>
  /** What of the dependencies keeps a task from beginning: each once, by the stretches of tasks at its two ends. */
  private readonly holds: readonly Hold[]
  /** Which tasks can't begin yet, since something that must end or begin before hasn't. */
  private waiting: Uint8Array
  plan: Plan

  /** Throws `NoWorkingDay` where days of the plan lie beyond all that are worked on. */
  private constructor(private readonly compiled: Compiled) {
    const { tasks, activities, edges, clock, timings, status } = compiled
    this.network = new Network(activities, edges, clock)
    this.timings = new Map(timings)
    this.places = new Map(tasks.map((id, i) => [id, i]))
    this.holds = holdsOf(compiled)
    this.waiting = this.waitingNow()
    const made = new Map(tasks.map((id, i) => [id, this.taskAt(i)]))
    this.plan = {
      tasks: made,
      branches: branchesOf(tasks, compiled.leaves, made),
      finish: latest(tasks, made),
      broken: this.broken(),
      calendar: clock.calendar,
      status,
    }
  }

  /** The planner of a tree as it is, or why there is no plan. */
  static of(tree: Tree, today: string): Planner | NoPlan {
    const compiled = compile(tree, today)
    if (typeof compiled === 'string') return compiled
    try {
      return new Planner(compiled)
    } catch (error) {
      if (error instanceof NoWorkingDay) return 'no-working-day'
      throw error
    }
  }

  isOf(tree: Tree): boolean {
    return this.compiled.tree === tree
  }

  /**
   * Goes along with a change of what is said of topics. False where that makes another network; then this planner is of no use any more.
   * `before`: each topic as the plan knows it; undefined for one that it doesn't.
   */
  follow(ids: Iterable<TopicId>, before: (id: TopicId) => Topic | undefined): boolean {
    const { tree, clock, status } = this.compiled
    let stirred = false
    for (const id of ids) {
      const [then, now] = [before(id), tree.topics.get(id)]
      if (!then || !now || !isSameNetwork(then, now)) return false
      const place = this.places.get(id)
      if (place === undefined) continue
      const timing = timingOf(now, clock, status)
      stirred ||= timing.state !== this.timings.get(id)!.state
      this.timings.set(id, timing)
      this.network.set(place, timing.activity)
    }
    try {
      this.rework(stirred)
      return true
    } catch (error) {
      if (error instanceof NoWorkingDay) return false
      throw error
    }
  }

  /** `stirred`: whether something is done, under way or open that wasn't. */
  private rework(stirred: boolean): void {
    const { tasks } = this.compiled
    const others = new Set<number>()
    // Behind the tasks stand the knots of branches.
    for (const i of this.network.rerun()) if (i < tasks.length) others.add(i)
    if (stirred) {
      const held = this.waiting
      this.waiting = this.waitingNow()
      for (let i = 0; i < tasks.length; i++) if (held[i] !== this.waiting[i]) others.add(i)
    }
    if (others.size === 0) return
    const made = new Map(this.plan.tasks)
    for (const i of others) made.set(tasks[i]!, this.taskAt(i))
    const branches = this.branchesAbove(others, made)
    this.plan = { ...this.plan, tasks: made, branches, finish: this.lastOf(made, branches), broken: this.broken() }
  }

  /** The last day of all, by what the roots come to. */
  private lastOf(made: ReadonlyMap<TopicId, Planned>, branches: ReadonlyMap<TopicId, PlannedBranch>): string | null {
    let last: string | null = null
    for (const root of roots(this.compiled.tree)) {
      const finish = (made.get(root) ?? branches.get(root))?.finish
      if (finish !== undefined && (last === null || finish > last)) last = finish
    }
    return last
  }

  /** Dependencies that can't be kept to, those last that a fixed date contradicts. */
  private broken(): readonly BrokenWait[] {
    const contradicted = new Map((this.network.broken as Edge[]).map(edge => [keyOf(edge), edge]))
    return [
      ...this.compiled.broken,
      ...Array.from(contradicted.values(), ({ by, wait }): BrokenWait => ({ by, wait, why: 'fixed' })),
    ]
  }

  private waitingNow(): Uint8Array {
    const { tasks } = this.compiled
    const waiting = new Uint8Array(tasks.length)
    for (const { ends, begins, whenBegun } of this.holds) {
      const isMet = (state: Timing['state']): boolean => state === 'done' || (whenBegun && state === 'begun')
      let met = true
      if (typeof ends === 'string') met = isMet(ends)
      else for (let i = ends[0]; met && i < ends[1]; i++) met = isMet(this.timings.get(tasks[i]!)!.state)
      if (!met) waiting.fill(1, begins[0], begins[1])
    }
    return waiting
  }

  /** What is computed of a task, by its place. */
  private taskAt(i: number): Planned {
    const { clock, status, tree, tasks } = this.compiled
    const id = tasks[i]!
    const timing = this.timings.get(id)!
    const times = this.network.timesOf(i)
    const topic = topicOf(tree, id)
    const because = becauseOf(times.reason, timing)
    const days = daysOf(clock, times, topic, timing.activity.length === 0, because)
    const done = timing.state === 'done'
    // What it waited for was done on this very day: it follows tomorrow, and whoever has time begins at once.
    const freed = because.kind === 'waits' && because.wait.kind === 'FS' && because.wait.lag <= 0
    const open = this.waiting[i] || (days.start > status && !freed) ? 'waiting' : 'ready'
    // Named one by one: spread into it they'd cost ten times as much, and there are thousands.
    return {
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
    }
  }

  /** The branches, those summed up anew that these tasks lie in. */
  private branchesAbove(
    others: ReadonlySet<number>,
    made: ReadonlyMap<TopicId, Planned>,
  ): ReadonlyMap<TopicId, PlannedBranch> {
    const { tree, tasks } = this.compiled
    const depths = new Map<TopicId, number>()
    for (const i of others) {
      const way: TopicId[] = []
      let { parent } = topicOf(tree, tasks[i]!)
      while (parent !== null && !depths.has(parent)) {
        way.push(parent)
        ;({ parent } = topicOf(tree, parent))
      }
      let depth = parent === null ? -1 : depths.get(parent)!
      for (const id of way.reverse()) depths.set(id, ++depth)
    }
    const branches = new Map(this.plan.branches)
    // Those below before those above.
    for (const [id] of [...depths].sort((a, b) => b[1] - a[1])) {
      let sum: PlannedBranch | null = null
      for (const kid of childrenOf(tree, id)) {
        const part = partOf(made.get(kid)) ?? branches.get(kid)
        if (part) sum = together(sum, part)
      }
      if (sum) branches.set(id, sum)
    }
    return branches
  }
}

/** What says of a topic which network it makes: where it stands, whether it's a task, and what it waits for. */
function isSameNetwork(then: Topic, now: Topic): boolean {
  return (
    then.parent === now.parent &&
    then.order === now.order &&
    then.removed === now.removed &&
    then.tray === now.tray &&
    then.waits === now.waits &&
    isTask(then) === isTask(now)
  )
}

/**
 * A dependency by which tasks can't begin: where the tasks at its ends lie, and whether it's enough that what it waits for has begun.
 * What lies in another tree has no tasks here: `ends` is how far it had come when that was last looked at.
 */
interface Hold {
  readonly ends: readonly [from: number, to: number] | Elsewhere['state']
  readonly begins: readonly [from: number, to: number]
  readonly whenBegun: boolean
}

function holdsOf({ edges, leaves }: Compiled): Hold[] {
  return [...new Map(edges.map(edge => [keyOf(edge), edge])).values()].flatMap(({ by, wait }): Hold[] =>
    wait.kind === 'FF' || wait.kind === 'SF'
      ? []
      : [
          {
            ends: wait.elsewhere?.state ?? leaves.get(wait.on)!,
            begins: leaves.get(by)!,
            whenBegun: wait.kind === 'SS',
          },
        ],
  )
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
