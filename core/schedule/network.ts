import type { Activity, CalendarLag, Dependency } from './activity'
import { circleIn, type Links, linksOf, Loop, sorted } from './waiting-order'

/*
 * The network of a plan: when each task can begin and end at the earliest, when it must at the latest, and what may slip. The critical
 * path method with the four kinds of dependency of precedence diagramming (Kelley and Walker, "Critical-path planning and scheduling",
 * 1959, for the passes; the kinds and lags as in ISO 21500's terms, from memory).
 *
 * Times are whole working minutes from the plan's start, so that sums are exact; days are asked for only where a lag is said in calendar
 * days. What is one task here may be a leaf of the tree, or the knot through which all of a branch is waited for.
 */

const NO_CALENDAR: CalendarLag = {
  later: () => {
    throw new RangeError('a lag in calendar days needs a calendar')
  },
  earlier: () => {
    throw new RangeError('a lag in calendar days needs a calendar')
  },
}

/** Why a task can't begin earlier. */
export type Reason =
  | { readonly kind: 'start' }
  | { readonly kind: 'not-before' }
  | { readonly kind: 'fixed' }
  | { readonly kind: 'waits'; readonly dependency: Dependency }

export interface Times {
  readonly earlyStart: number
  readonly earlyFinish: number
  readonly lateStart: number
  readonly lateFinish: number
  /** By how much it may slip before the plan's end, or a limit, slips. Negative when a limit is missed already. */
  readonly totalFloat: number
  /** By how much it may slip before anything that waits for it does. */
  readonly freeFloat: number
  readonly reason: Reason
}
export interface Schedule {
  readonly times: ReadonlyMap<string, Times>
  /** When everything is done. */
  readonly finish: number
  /** Dependencies that a fixed date contradicts. */
  readonly broken: readonly Dependency[]
}

/** A start that hangs on nothing, on a limit, or on a fixed date; 0 and above is the number of a dependency. */
const FREE = -1
const LIMITED = -2
const FIXED = -3

/**
 * A network that is reckoned through again and again: its dependencies stay, its activities may become others. Activities are known by
 * their place in the list that it was made of. Dependencies on what isn't in it are passed over. Throws `Loop` where it leads round in a circle.
 */
export class Network {
  private readonly links: Links
  private readonly order: Int32Array
  private readonly fromEnd: Uint8Array
  private readonly toEnd: Uint8Array
  private readonly inDays: Uint8Array
  private readonly lags: Float64Array
  private readonly activities: Activity[]
  private readonly lengths: Float64Array
  private readonly outside: Uint8Array
  /** Starts in working minutes, the number of what holds each start, and float before anything that waits slips. */
  readonly early: Float64Array
  readonly late: Float64Array
  readonly free: Float64Array
  readonly why: Int32Array
  /** When everything is done. */
  finish = 0
  /** Dependencies that a fixed date contradicts, by number, and how many they are. */
  private readonly contradicts: Uint8Array
  private contradicted = 0
  /** Where each activity stands in the order. */
  private readonly rank: Int32Array
  /** Activities that are others since the last pass. */
  private readonly others = new Set<number>()

  constructor(
    activities: readonly Activity[],
    dependencies: readonly Dependency[],
    private readonly calendar: CalendarLag = NO_CALENDAR,
  ) {
    const count = activities.length
    const ids = activities.map(({ id }) => id)
    this.links = linksOf(ids, dependencies)
    this.order = sorted(count, this.links)
    if (this.order.length < count) throw new Loop(circleIn(ids, this.links, this.order))
    const { list } = this.links
    this.fromEnd = Uint8Array.from(list, ({ kind }) => (kind === 'FS' || kind === 'FF' ? 1 : 0))
    this.toEnd = Uint8Array.from(list, ({ kind }) => (kind === 'FF' || kind === 'SF' ? 1 : 0))
    this.inDays = Uint8Array.from(list, one => (one.calendar ? 1 : 0))
    this.lags = Float64Array.from(list, ({ lag }) => lag)
    this.activities = [...activities]
    this.lengths = Float64Array.from(activities, one => one.length)
    this.outside = Uint8Array.from(activities, one => (one.outside ? 1 : 0))
    this.early = new Float64Array(count)
    this.late = new Float64Array(count)
    this.free = new Float64Array(count)
    this.why = new Int32Array(count)
    this.contradicts = new Uint8Array(list.length)
    this.rank = new Int32Array(count)
    this.order.forEach((i, at) => (this.rank[i] = at))
    for (const i of this.order) this.begin(i)
    this.finish = this.last()
    for (let at = count - 1; at >= 0; at--) {
      this.end(this.order[at]!)
      this.slacken(this.order[at]!)
    }
  }

  /** Dependencies that a fixed date contradicts. */
  get broken(): Dependency[] {
    if (this.contradicted === 0) return []
    const { list, intoAt, into } = this.links
    return Array.from(this.order, i =>
      Array.from(into.subarray(intoAt[i], intoAt[i + 1])).filter(link => this.contradicts[link]),
    ).flatMap(links => links.map(link => list[link]!))
  }

  /** Puts another activity in one's place; it counts from the next `rerun` on. */
  set(place: number, activity: Activity): void {
    this.activities[place] = activity
    this.lengths[place] = activity.length
    this.others.add(place)
  }

  /** The earliest start that a dependency allows; as `pushedTo` has it, on numbers alone. */
  private pushed(link: number, start: number): number {
    const { fromEnd, toEnd, lengths, links, lags } = this
    const point = fromEnd[link] ? start + lengths[links.from[link]!]! : start
    const reached = this.inDays[link] ? this.calendar.later(point, lags[link]!) : point + lags[link]!
    return toEnd[link] ? reached - lengths[links.to[link]!]! : reached
  }
  /** The latest start of what is waited for, given the latest start of who waits. */
  private held(link: number, start: number): number {
    const { fromEnd, toEnd, lengths, links, lags } = this
    const point = toEnd[link] ? start + lengths[links.to[link]!]! : start
    const reached = this.inDays[link] ? this.calendar.earlier(point, lags[link]!) : point - lags[link]!
    return fromEnd[link] ? reached - lengths[links.from[link]!]! : reached
  }

  /** When an activity begins at the earliest, and why, from what it waits for. Returns whether that is another than before. */
  private begin(i: number): boolean {
    const { early, why, contradicts } = this
    const { from, intoAt, into } = this.links
    const { notBefore, fixed, happened } = this.activities[i]!
    let start = 0
    let reason = FREE
    if (notBefore !== null && notBefore > start) {
      start = notBefore
      reason = LIMITED
    }
    for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) {
      const link = into[n]!
      const wanted = this.pushed(link, early[from[link]!]!)
      const against = fixed !== null && !happened && wanted > fixed ? 1 : 0
      this.contradicted += against - contradicts[link]!
      contradicts[link] = against
      if (fixed === null && wanted > start) {
        start = wanted
        reason = link
      }
    }
    if (fixed !== null) {
      start = fixed
      reason = FIXED
    }
    const differs = early[i] !== start || why[i] !== reason
    early[i] = start
    why[i] = reason
    return differs
  }

  /** When the last of all ends. */
  private last(): number {
    const { early, lengths, outside } = this
    let finish = 0
    for (let i = 0; i < early.length; i++) if (outside[i] === 0) finish = Math.max(finish, early[i]! + lengths[i]!)
    return finish
  }

  /** When an activity must begin at the latest, from what waits for it. Returns whether that is another than before. */
  private end(i: number): boolean {
    const { activities, lengths, late } = this
    const { to, outAt, out } = this.links
    const { notAfter } = activities[i]!
    let start = this.finish - lengths[i]!
    if (notAfter !== null) start = Math.min(start, notAfter - lengths[i]!)
    for (let n = outAt[i]!; n < outAt[i + 1]!; n++) {
      const link = out[n]!
      const one = activities[to[link]!]!
      // What has begun in fact doesn't wait any more; what begins on its fixed date holds back whom it waits for.
      if (!one.happened) start = Math.min(start, this.held(link, one.fixed ?? late[to[link]!]!))
    }
    const differs = late[i] !== start
    late[i] = start
    return differs
  }

  /** By how much an activity may slip before anything that waits for it does. Returns whether that is another than before. */
  private slacken(i: number): boolean {
    const { activities, early, free, lengths } = this
    const { to, outAt, out } = this.links
    let slack = this.finish - early[i]! - lengths[i]!
    for (let n = outAt[i]!; n < outAt[i + 1]!; n++) {
      const link = out[n]!
      if (!activities[to[link]!]!.happened) slack = Math.min(slack, this.held(link, early[to[link]!]!) - early[i]!)
    }
    const differs = free[i] !== slack
    free[i] = slack
    return differs
  }

  /**
   * Goes along with the activities that were set. Returns the places of those whose times, or reasons, may be others. Cost: in
   * proportion to what moves, with a look at each; all of both passes where the last of all ends at another time.
   */
  rerun(): ReadonlySet<number> {
    const { order, rank, others, links } = this
    const { from, to, intoAt, outAt, into, out } = links
    const count = order.length
    const differ = new Set(others)
    // Forward from the first that was set: what begins at another time, or takes another, pushes what waits for it.
    const asked = new Uint8Array(count)
    let first = count
    for (const i of others) {
      asked[i] = 1
      first = Math.min(first, rank[i]!)
    }
    for (let at = first; at < count; at++) {
      const i = order[at]!
      if (!asked[i] || !(this.begin(i) || others.has(i))) continue
      differ.add(i)
      for (let n = outAt[i]!; n < outAt[i + 1]!; n++) asked[to[out[n]!]!] = 1
    }
    const finish = this.last()
    const isAll = finish !== this.finish
    this.finish = finish
    // Free float looks at one's own start and those of what waits.
    const loose = new Set<number>()
    for (const i of differ) {
      loose.add(i)
      for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) loose.add(from[into[n]!]!)
    }
    // Back from the end.
    asked.fill(isAll ? 1 : 0)
    for (const i of others) {
      asked[i] = 1
      for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) asked[from[into[n]!]!] = 1
    }
    for (let at = count - 1; at >= 0; at--) {
      const i = order[at]!
      if (!asked[i]) continue
      if (!this.end(i)) continue
      differ.add(i)
      for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) asked[from[into[n]!]!] = 1
    }
    if (isAll) {
      for (let i = 0; i < count; i++) if (this.slacken(i)) differ.add(i)
    } else for (const i of loose) if (this.slacken(i)) differ.add(i)
    others.clear()
    return differ
  }

  /** By how much an activity may slip before the plan's end, or a limit, slips. Negative when a limit is missed already. */
  totalFloat(i: number): number {
    const { fixed, happened } = this.activities[i]!
    return (fixed === null || happened ? this.late[i]! : Math.min(this.late[i]!, fixed)) - this.early[i]!
  }

  reason(i: number): Reason {
    const why = this.why[i]!
    if (why >= 0) return { kind: 'waits', dependency: this.links.list[why]! }
    return { kind: why === FIXED ? 'fixed' : why === LIMITED ? 'not-before' : 'start' }
  }

  timesOf(i: number): Times {
    const [start, late, own] = [this.early[i]!, this.late[i]!, this.lengths[i]!]
    return {
      earlyStart: start,
      earlyFinish: start + own,
      lateStart: late,
      lateFinish: late + own,
      totalFloat: this.totalFloat(i),
      freeFloat: this.free[i]!,
      reason: this.reason(i),
    }
  }
}

/**
 * Both passes over a network. Dependencies on what isn't in it are passed over. Throws `Loop` where it leads round in a circle.
 * Cost: in proportion to tasks and dependencies.
 */
export function scheduleOf(
  activities: readonly Activity[],
  dependencies: readonly Dependency[],
  calendar: CalendarLag = NO_CALENDAR,
): Schedule {
  const network = new Network(activities, dependencies, calendar)
  return {
    times: new Map(activities.map(({ id }, i) => [id, network.timesOf(i)])),
    finish: network.finish,
    broken: network.broken,
  }
}

/** What must not slip: everything with the least float that there is, in the order given. */
export function criticalOf({ times }: Schedule): string[] {
  let least = 0
  for (const { totalFloat } of times.values()) least = Math.min(least, totalFloat)
  return [...times].filter(([, { totalFloat }]) => totalFloat <= least).map(([id]) => id)
}
