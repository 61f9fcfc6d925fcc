import { isTask, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, isLive, topicOf, type Tree } from '../tree/tree'
import { isWithin, roots } from '../tree/walk'
import type { Wait } from '../tree/plan'
import { dayThatCounts } from './abroad'
import { addDays } from './days'
import type { Activity, Dependency } from './activity'
import { onCircles } from './waiting-order'
import { calendarOf, PlanClock } from './plan-clock'
import { NoWorkingDay, type WorkingCalendar } from './working-calendar'

/*
 * The network of a tree: from what people entered to activities and dependencies. What is planned are the tasks at the ends of the
 * branches; a task with tasks below stands for those. Lengths are working days as one types them, counted in whole working minutes.
 *
 * Rules (4-computation, "Schedule"; where they go beyond it, common practice, no source):
 * - A typed start is *not before* (or, where it's said so, *just then*), a typed due date a *deadline* (or *not after*).
 * - What isn't done can't lie before the status date. What has begun keeps its start, and what is left of it follows the status date.
 * - A dependency of or on a branch is one of each task in it: all of it.
 * - A dependency on a topic of another tree holds by the days that are known of it, whatever became of it since.
 * - A length that nobody said is that from start to due date; else the likely estimate; else its work in hours among its people; else
 *   a day, and it's said that it was assumed.
 */

/** A dependency that can't be kept to, and why. */
export interface BrokenWait {
  readonly by: TopicId
  readonly wait: Wait
  /**
   * `gone`: what it waits for isn't there. `within`: one lies in the other. `loop`: they wait for one another. `fixed`: a fixed date
   * contradicts it. `nothing`: nothing in the branch is a task. `undated`: in its tree it had no date.
   */
  readonly why: 'gone' | 'within' | 'loop' | 'fixed' | 'nothing' | 'undated'
}

/** Why there is no plan: nobody switched one on, no day is worked on, or branches wait for branches more than can be reckoned with. */
export type NoPlan = 'off' | 'no-working-day' | 'too-large'

/** Lines of a network at most. A dependency of a branch has one for each task in it, so a few hundred topics could ask for millions. */
const MOST_EDGES = 500_000
class TooLarge extends Error {}

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

/** What a topic enters into the network. `status`: the status date, ISO 8601. */
export function timingOf(topic: Topic, clock: PlanClock, status: string): Timing {
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
  /** The tasks, then the knots through which branches are waited for, and what lies in other trees. */
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

  /** What lies in another tree stands there as a fixed point: its start or its end, whichever is waited for. */
  function outside({ id, kind, elsewhere }: Wait, by: TopicId): string {
    const knot = `${by} ${id} outside`
    const day = dayThatCounts({ kind }, elsewhere!)!
    const at = kind[0] === 'F' ? clock.end(day) : clock.at(day)
    activities.push({
      id: knot,
      length: 0,
      notBefore: null,
      notAfter: null,
      fixed: Math.max(0, at),
      happened: true,
      outside: true,
    })
    return knot
  }

  /** A dependency between tasks; where one end is a branch, all its tasks are tied to one knot. */
  function tie(by: TopicId, wait: Wait): void {
    const ends = wait.elsewhere ? [outside(wait, by)] : tasks.slice(...leaves.get(wait.on)!)
    const begins = tasks.slice(...leaves.get(by)!)
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

/** The dependency that a line of the network comes from. */
export const keyOf = ({ by, wait }: Pick<Edge, 'by' | 'wait'>): string => `${by} ${wait.id}`

/** Why a dependency is none: what it waits for isn't there or has no task, or one lies in the other. */
function unfit(
  tree: Tree,
  leaves: ReadonlyMap<TopicId, readonly [number, number]>,
  by: TopicId,
  { on, elsewhere, kind }: Wait,
): BrokenWait['why'] | null {
  if (elsewhere) return dayThatCounts({ kind }, elsewhere) === null ? 'undated' : null
  if (!isLive(tree, on)) return 'gone'
  if (isWithin(tree, on, by) || isWithin(tree, by, on)) return 'within'
  return leaves.has(on) ? null : 'nothing'
}
