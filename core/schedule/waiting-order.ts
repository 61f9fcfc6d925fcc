import type { Dependency } from './activity'

/* In which order activities wait for one another, and where they do so round in a circle. */

/** Dependencies that lead round in a circle; `members` in the order in which they wait for one another. */
export class Loop extends Error {
  constructor(readonly members: readonly string[]) {
    super(`These wait for one another: ${members.join(', ')}`)
  }
}

/** Dependencies by number, each with the numbers of its ends, and by the end they hang on. */
export interface Links {
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

export function linksOf(ids: readonly string[], dependencies: readonly Dependency[]): Links {
  const index = new Map(ids.map((id, i) => [id, i]))
  const list = dependencies.filter(({ from, to }) => index.has(from) && index.has(to))
  const from = Int32Array.from(list, link => index.get(link.from)!)
  const to = Int32Array.from(list, link => index.get(link.to)!)
  const [intoAt, into] = grouped(to, ids.length)
  const [outAt, out] = grouped(from, ids.length)
  return { list, from, to, intoAt, outAt, into, out }
}

/** Numbers in an order in which everything comes after what it waits for; shorter where some wait for one another. */
export function sorted(count: number, { to, intoAt, outAt, out }: Links): Int32Array {
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
export function circleIn(ids: readonly string[], { from, intoAt, into }: Links, order: Int32Array): string[] {
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
