import { applyChanges, unapply } from '../tree/apply'
import type { Change } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { canDo, workLeft } from './load'
import { pushedTo } from './activity'
import { compile, type Compiled, type Edge } from './compiled'
import { type Plan, planOf } from './plan'

/*
 * Evening out who has too much: tasks begin later, one after the other by a rule of priority, until nobody has more on a day than they can
 * do. The serial schedule generation scheme (Kelley, "The critical-path method: resources planning and scheduling", 1963; as described by
 * Kolisch, "Serial and parallel resource-constrained project scheduling methods revisited", 1996, from memory). A task that has to make
 * way begins with a day, since what is taken over is its start.
 */

/** Which task goes first among those that compete for somebody. */
export const EVEN_RULE = 'whoever must end first goes first'

export interface Moved {
  readonly topic: TopicId
  readonly from: string
  readonly to: string
}
export interface EvenOut {
  /** The tasks that make way; what waits for them follows by itself. */
  readonly moved: readonly Moved[]
  /** The last day of the plan before and after. */
  readonly before: string
  readonly after: string
  /** Working days by which the plan ends later. */
  readonly cost: number
  /** Who still has too much on which day: one task alone asks for more than they can do, or it can't be moved. */
  readonly left: readonly { readonly person: string; readonly day: string }[]
  /** What takes it over, as one edit. */
  readonly changes: readonly Change[]
}

const EPSILON = 1e-6
/** Days by which one task makes way at most. */
const FURTHEST = 4000

/**
 * What would have to begin later so that nobody has too much. `only`: whose load counts (everybody's, without). `order`: another order of
 * priority than the rule's. Null where there is no plan. The tree is as it was afterwards.
 */
export function evenOut(
  tree: Tree,
  today: string,
  only: ReadonlySet<string> | null = null,
  order?: readonly TopicId[],
): EvenOut | null {
  const network = compile(tree, today)
  const plan = planOf(tree, today)
  if (typeof network === 'string' || typeof plan === 'string') return null
  const starts = placed(network, plan, only, order ?? byRule(plan))
  const changes: Change[] = starts.moved.map(({ topic, to }) => ({ op: 'set', topic, field: 'start', value: to }))
  const patches = applyChanges(tree, changes)
  const then = planOf(tree, today) as Plan
  unapply(tree, patches)
  const [before, after] = [plan.finish ?? plan.status, then.finish ?? plan.status]
  return { ...starts, before, after, cost: Math.max(0, plan.calendar.workingDaysBetween(before, after)), changes }
}

/** What must end first comes first; then what begins first; then as in the tree. */
function byRule({ tasks }: Plan): TopicId[] {
  const by = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)
  return [...tasks].sort(([, a], [, b]) => by(a.lateFinish, b.lateFinish) || by(a.start, b.start)).map(([id]) => id)
}

function placed(
  { tree, clock, status, activities, edges, timings }: Compiled,
  plan: Plan,
  only: ReadonlySet<string> | null,
  order: readonly TopicId[],
): Pick<EvenOut, 'moved' | 'left'> {
  const { calendar } = clock
  const can = canDo(tree, calendar)
  const lengths = new Map(activities.map(({ id, length }) => [id, length]))
  const incoming = new Map<string, Edge[]>()
  const outgoing = new Map<string, Edge[]>()
  const add = (map: Map<string, Edge[]>, end: string, edge: Edge): void => {
    const list = map.get(end)
    if (list) list.push(edge)
    else map.set(end, [edge])
  }
  for (const edge of edges) {
    add(incoming, edge.to, edge)
    add(outgoing, edge.from, edge)
  }
  const starts = new Map<string, number>()
  const used = new Map<string, number>()
  const moved: Moved[] = []
  const left: { person: string; day: string }[] = []
  const now = clock.at(status)

  /** Whom a task asks for, and for how much of a minute's work each. */
  const asked = new Map(
    [...plan.tasks].map(([id, planned]) => {
      const { people } = topicOf(tree, id)
      const rest = lengths.get(id)! - (timings.get(id)!.state === 'begun' ? now - planned.from : 0)
      const rate = rest > 0 ? (workLeft(tree, id, planned, calendar) * 60) / rest / Math.max(1, people.length) : 0
      return [id, { people: people.filter(person => only === null || only.has(person)), rate }] as const
    }),
  )
  /** The days of a task begun at a minute, with how many of its minutes lie in each. */
  function* daysFrom(id: string, start: number): Generator<readonly [day: string, minutes: number]> {
    const from = Math.max(start, now)
    const end = start + lengths.get(id)!
    for (let at = from; at < end;) {
      const next = (Math.floor(at / calendar.minutes) + 1) * calendar.minutes
      yield [clock.startDay(at), Math.min(next, end) - at]
      at = next
    }
  }
  const ofDay = (person: string, day: string): number => used.get(`${person} ${day}`) ?? 0
  /** The first day on which somebody would have too much. */
  const clash = (id: TopicId, start: number): boolean => {
    const { people, rate } = asked.get(id)!
    if (rate === 0 || people.length === 0) return false
    for (const [day, minutes] of daysFrom(id, start))
      for (const person of people) {
        const able = can(person, day) * 60
        const taken = ofDay(person, day)
        // What one task alone asks for isn't helped by waiting, except on a day off.
        if (taken + rate * minutes > Math.max(able, taken === 0 && able > 0 ? rate * minutes : 0) + EPSILON) return true
      }
    return false
  }
  const take = (id: TopicId, start: number): void => {
    starts.set(id, start)
    const { people, rate } = asked.get(id)!
    if (rate === 0) return
    for (const [day, minutes] of daysFrom(id, start))
      for (const person of people) {
        used.set(`${person} ${day}`, ofDay(person, day) + rate * minutes)
        if (ofDay(person, day) > can(person, day) * 60 + EPSILON) left.push({ person, day })
      }
  }
  const earliest = (id: string, notBefore: number | null): number =>
    (incoming.get(id) ?? []).reduce(
      (least, edge) =>
        Math.max(least, pushedTo(edge, starts.get(edge.from)!, lengths.get(edge.from)!, lengths.get(id)!, clock)),
      Math.max(0, notBefore ?? 0),
    )

  const ranks = new Map(order.map((id, i) => [id, i]))
  // Knots are no work: they're placed as soon as they can be.
  const rank = (id: string): number => ranks.get(id) ?? -1
  const open = new Map(activities.map(one => [one.id, one]))
  /** What each still waits for to be placed, and those that wait for nothing any more, whoever goes first at the end. */
  const missing = new Map<string, number>()
  const free: string[] = []
  const release = (id: string): void => {
    let [low, high] = [0, free.length]
    while (low < high) {
      const middle = (low + high) >>> 1
      if (rank(free[middle]!) > rank(id)) low = middle + 1
      else high = middle
    }
    free.splice(low, 0, id)
  }
  const settle = (id: string): void => {
    for (const { to } of outgoing.get(id) ?? []) {
      const left = missing.get(to)! - 1
      missing.set(to, left)
      if (left === 0 && open.has(to)) release(to)
    }
  }
  for (const { id } of activities) missing.set(id, incoming.get(id)?.length ?? 0)
  const begun = activities.filter(({ fixed }) => fixed !== null)
  for (const { id } of begun) open.delete(id)
  for (const id of open.keys()) if (missing.get(id) === 0) release(id)
  for (const { id, fixed } of begun) {
    // What lies outside of the plan is nobody's work here.
    if (asked.has(id)) take(id, fixed!)
    else starts.set(id, fixed!)
    settle(id)
  }
  for (let next = free.pop(); next !== undefined; next = free.pop()) {
    const { notBefore } = open.get(next)!
    open.delete(next)
    const first = earliest(next, notBefore)
    if (asked.has(next)) {
      let start = first
      for (let tries = 0; tries < FURTHEST && clash(next, start); tries++)
        start = (Math.floor(start / calendar.minutes) + 1) * calendar.minutes
      if (start !== first) moved.push({ topic: next, from: plan.tasks.get(next)!.start, to: clock.startDay(start) })
      take(next, start)
    } else starts.set(next, first)
    settle(next)
  }
  return { moved, left }
}
