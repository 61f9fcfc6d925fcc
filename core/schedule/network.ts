import type { Wait } from '../tree/plan'

/*
 * The network of a plan: when each task can begin and end at the earliest, when it must at the latest, and what may slip. The critical
 * path method with the four kinds of dependency of precedence diagramming (Kelley and Walker, "Critical-path planning and scheduling",
 * 1959, for the passes; the kinds and lags as in ISO 21500's terms, from memory).
 *
 * Times are whole working minutes from the plan's start, so that sums are exact; days are asked for only where a lag is said in calendar
 * days. What is one task here may be a leaf of the tree, or the knot through which all of a branch is waited for.
 */

/** Finish to start, start to start, finish to finish, start to finish. */
export type LinkKind = Wait['kind']

export interface Activity {
  readonly id: string
  /** Working minutes; 0 for a milestone. */
  readonly length: number
  /** It begins no earlier than this; null for whenever it can. */
  readonly notBefore: number | null
  /** It ends no later than this: what must give way is the other side, so that float turns negative. */
  readonly notAfter: number | null
  /** It begins just then, whatever it waits for; a dependency that this breaks is told, unless it has begun in fact. */
  readonly fixed: number | null
  /** That it begins then is no wish but has happened. */
  readonly happened?: boolean
}
export interface Dependency {
  readonly from: string
  readonly to: string
  readonly kind: LinkKind
  /** Working minutes, or days as the calendar has them; a lead is negative. */
  readonly lag: number
  readonly calendar?: boolean
}

/** How lags in calendar days are counted: on from a working minute and back. Each must be monotone. */
export interface CalendarLag {
  /** The first minute that lies so many days after one at which something ends or begins. */
  later(minute: number, days: number): number
  /** The last minute from which `later` still reaches no further than this one. */
  earlier(minute: number, days: number): number
}
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

/** Dependencies that lead round in a circle; `members` in the order in which they wait for one another. */
export class Loop extends Error {
  constructor(readonly members: readonly string[]) {
    super(`These wait for one another: ${members.join(', ')}`)
  }
}

/** The earliest start that a dependency allows to who waits; lengths and starts in working minutes. */
export function pushedTo(
  { kind, lag, calendar: inDays }: Dependency,
  start: number,
  lengthFrom: number,
  lengthTo: number,
  calendar: CalendarLag,
): number {
  const point = kind === 'FS' || kind === 'FF' ? start + lengthFrom : start
  const reached = inDays ? calendar.later(point, lag) : point + lag
  return kind === 'FF' || kind === 'SF' ? reached - lengthTo : reached
}

/** Dependencies by number, each with the numbers of its ends, and by the end they hang on. */
interface Links {
  readonly list: readonly Dependency[]
  readonly from: Int32Array
  readonly to: Int32Array
  /** Where the links of each activity begin in `into` and `out`; one more for the end. */
  readonly intoAt: Int32Array
  readonly outAt: Int32Array
  readonly into: Int32Array
  readonly out: Int32Array
}

function grouped(ends: Int32Array, count: number): [at: Int32Array, links: Int32Array] {
  const at = new Int32Array(count + 1)
  for (const end of ends) at[end + 1]!++
  for (let i = 0; i < count; i++) at[i + 1]! += at[i]!
  const next = at.slice()
  const links = new Int32Array(ends.length)
  for (let i = 0; i < ends.length; i++) links[next[ends[i]!]!++] = i
  return [at, links]
}

function linksOf(ids: readonly string[], dependencies: readonly Dependency[]): Links {
  const index = new Map(ids.map((id, i) => [id, i]))
  const list = dependencies.filter(({ from, to }) => index.has(from) && index.has(to))
  const from = Int32Array.from(list, link => index.get(link.from)!)
  const to = Int32Array.from(list, link => index.get(link.to)!)
  const [intoAt, into] = grouped(to, ids.length)
  const [outAt, out] = grouped(from, ids.length)
  return { list, from, to, intoAt, outAt, into, out }
}

/** Numbers in an order in which everything comes after what it waits for; shorter where some wait for one another. */
function sorted(count: number, { to, intoAt, outAt, out }: Links): Int32Array {
  const waits = new Int32Array(count)
  const order = new Int32Array(count)
  let length = 0
  for (let i = 0; i < count; i++) {
    waits[i] = intoAt[i + 1]! - intoAt[i]!
    if (waits[i] === 0) order[length++] = i
  }
  for (let at = 0; at < length; at++) {
    const i = order[at]!
    for (let n = outAt[i]!; n < outAt[i + 1]!; n++) {
      const next = to[out[n]!]!
      if (--waits[next]! === 0) order[length++] = next
    }
  }
  return order.subarray(0, length)
}

/**
 * The order in which everything comes after what it waits for; ties as given. Throws `Loop` with the members of a circle.
 */
export function inOrderOfWaiting(ids: readonly string[], dependencies: readonly Dependency[]): string[] {
  const links = linksOf(ids, dependencies)
  const order = sorted(ids.length, links)
  if (order.length < ids.length) throw new Loop(circleIn(ids, links, order))
  return Array.from(order, i => ids[i]!)
}

/** One circle among what still waits: back from any of them to whom it waits for, until one comes again. */
function circleIn(ids: readonly string[], { from, intoAt, into }: Links, order: Int32Array): string[] {
  const free = new Set(order)
  const before = (i: number): number => {
    for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) if (!free.has(from[into[n]!]!)) return from[into[n]!]!
    throw new RangeError('whoever is stuck waits for one that is')
  }
  // Whoever is stuck may only wait for a circle; going back leads into it.
  const seen = new Map<number, number>()
  const way: number[] = []
  for (let at = ids.findIndex((_, i) => !free.has(i)); ; at = before(at)) {
    const met = seen.get(at)
    if (met !== undefined)
      return way
        .slice(met)
        .reverse()
        .map(i => ids[i]!)
    seen.set(at, way.length)
    way.push(at)
  }
}

/**
 * The dependencies that lie on a circle: both of their ends wait for one another. None of them can be kept to, and none is more to
 * blame than another. Tarjan, "Depth-first search and linear graph algorithms" (1972), without recursion.
 */
export function onCircles(ids: readonly string[], dependencies: readonly Dependency[]): Dependency[] {
  const links = linksOf(ids, dependencies)
  const { from, to, outAt, out } = links
  const count = ids.length
  if (sorted(count, links).length === count) return []
  const UNSEEN = -1
  const seen = new Int32Array(count).fill(UNSEEN)
  const low = new Int32Array(count)
  const group = new Int32Array(count).fill(UNSEEN)
  const next = outAt.slice(0, count)
  const open: number[] = []
  let time = 0
  let groups = 0
  for (let root = 0; root < count; root++) {
    if (seen[root] !== UNSEEN) continue
    const way = [root]
    seen[root] = low[root] = time++
    open.push(root)
    while (way.length > 0) {
      const i = way.at(-1)!
      if (next[i]! < outAt[i + 1]!) {
        const j = to[out[next[i]!++]!]!
        if (seen[j] === UNSEEN) {
          seen[j] = low[j] = time++
          open.push(j)
          way.push(j)
        } else if (group[j] === UNSEEN) low[i] = Math.min(low[i]!, seen[j]!)
        continue
      }
      way.pop()
      const above = way.at(-1)
      if (above !== undefined) low[above] = Math.min(low[above]!, low[i]!)
      if (low[i] !== seen[i]) continue
      for (;;) {
        const member = open.pop()!
        group[member] = groups
        if (member === i) break
      }
      groups++
    }
  }
  return links.list.filter((_, n) => group[from[n]!] === group[to[n]!])
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
  const count = activities.length
  const ids = activities.map(({ id }) => id)
  const links = linksOf(ids, dependencies)
  const { list, from, to, intoAt, outAt, into, out } = links
  const order = sorted(count, links)
  if (order.length < count) throw new Loop(circleIn(ids, links, order))
  const lengths = Float64Array.from(activities, one => one.length)

  const fromEnd = new Uint8Array(list.length)
  const toEnd = new Uint8Array(list.length)
  const lags = new Float64Array(list.length)
  for (let n = 0; n < list.length; n++) {
    const { kind, lag } = list[n]!
    if (kind === 'FS' || kind === 'FF') fromEnd[n] = 1
    if (kind === 'FF' || kind === 'SF') toEnd[n] = 1
    lags[n] = lag
  }
  /** The earliest start that a dependency allows; as `pushedTo` has it, on numbers alone. */
  const pushed = (n: number, start: number): number => {
    const point = fromEnd[n] ? start + lengths[from[n]!]! : start
    const reached = list[n]!.calendar ? calendar.later(point, lags[n]!) : point + lags[n]!
    return toEnd[n] ? reached - lengths[to[n]!]! : reached
  }
  /** The latest start of what is waited for, given the latest start of who waits. */
  const held = (n: number, start: number): number => {
    const point = toEnd[n] ? start + lengths[to[n]!]! : start
    const reached = list[n]!.calendar ? calendar.earlier(point, lags[n]!) : point - lags[n]!
    return fromEnd[n] ? reached - lengths[from[n]!]! : reached
  }

  const early = new Float64Array(count)
  const reasons: Reason[] = Array<Reason>(count)
  const broken: Dependency[] = []
  for (const i of order) {
    const { notBefore, fixed, happened } = activities[i]!
    let start = 0
    let why = -1
    const limited = notBefore !== null && notBefore > start
    if (limited) start = notBefore
    for (let n = intoAt[i]!; n < intoAt[i + 1]!; n++) {
      const link = into[n]!
      const wanted = pushed(link, early[from[link]!]!)
      if (fixed !== null) {
        if (wanted > fixed && !happened) broken.push(list[link]!)
      } else if (wanted > start) {
        start = wanted
        why = link
      }
    }
    early[i] = fixed ?? start
    reasons[i] =
      fixed !== null
        ? { kind: 'fixed' }
        : why >= 0
          ? { kind: 'waits', dependency: list[why]! }
          : { kind: limited ? 'not-before' : 'start' }
  }
  let finish = 0
  for (let i = 0; i < count; i++) finish = Math.max(finish, early[i]! + lengths[i]!)

  const late = new Float64Array(count)
  for (let at = count - 1; at >= 0; at--) {
    const i = order[at]!
    const { notAfter } = activities[i]!
    let start = finish - lengths[i]!
    if (notAfter !== null) start = Math.min(start, notAfter - lengths[i]!)
    for (let n = outAt[i]!; n < outAt[i + 1]!; n++) {
      const link = out[n]!
      const one = activities[to[link]!]!
      // What has begun in fact doesn't wait any more; what begins on its fixed date holds back whom it waits for.
      if (one.happened) continue
      start = Math.min(start, held(link, one.fixed ?? late[to[link]!]!))
    }
    late[i] = start
  }

  const times = new Map<string, Times>()
  for (let i = 0; i < count; i++) {
    const { id, fixed, happened } = activities[i]!
    const start = early[i]!
    const own = lengths[i]!
    let free = finish - start - own
    for (let n = outAt[i]!; n < outAt[i + 1]!; n++) {
      const link = out[n]!
      if (!activities[to[link]!]!.happened) free = Math.min(free, held(link, early[to[link]!]!) - start)
    }
    times.set(id, {
      earlyStart: start,
      earlyFinish: start + own,
      lateStart: late[i]!,
      lateFinish: late[i]! + own,
      totalFloat: (fixed === null || happened ? late[i]! : Math.min(late[i]!, fixed)) - start,
      freeFloat: free,
      reason: reasons[i]!,
    })
  }
  return { times, finish, broken }
}

/** What must not slip: everything with the least float that there is, in the order given. */
export function criticalOf({ times }: Schedule): string[] {
  let least = 0
  for (const { totalFloat } of times.values()) least = Math.min(least, totalFloat)
  return [...times].filter(([, { totalFloat }]) => totalFloat <= least).map(([id]) => id)
}
