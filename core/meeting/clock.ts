/*
 * The clock of a meeting: when each item is planned to begin, when the meeting will end as things stand, and how the
 * items that are left can be cut so that it still ends on time. Instants are milliseconds since 1970 UTC; lengths are
 * minutes. What time it is, is passed in.
 */

const MINUTE = 60_000

export interface TimedItem {
  readonly id: string
  /** Whole minutes planned. */
  readonly minutes: number
  /** What a cut leaves it at least. Whole minutes, not more than planned. */
  readonly floor: number
}

/** How a running meeting stands. */
export interface Running {
  /** Where in the agenda it is; the number of items when all are through. */
  readonly current: number
  /** Milliseconds spent on each item so far, the current one's until `since` included. */
  readonly spent: ReadonlyMap<string, number>
  /** Since when the current item has been running without a pause; null while it stands still. */
  readonly since: number | null
  /** The items that have been dealt with, in whatever order; left out, those before the current one. */
  readonly closed?: ReadonlySet<string>
}

/** Whether an item has been dealt with. The one that is current never has. */
export function isClosed(items: readonly Pick<TimedItem, 'id'>[], running: Running, index: number): boolean {
  if (index === running.current) return false
  return running.closed ? running.closed.has(items[index]!.id) : index < running.current
}

/**
 * What comes after the current item: every other one that hasn't been dealt with, with what is left of its minutes,
 * rounded up.
 */
export function openItems(items: readonly TimedItem[], running: Running, now: number): TimedItem[] {
  return items.flatMap((item, i) => {
    if (i === running.current || isClosed(items, running, i)) return []
    const minutes = Math.max(0, Math.ceil(item.minutes - spentOn(items, running, i, now) / MINUTE))
    return [{ id: item.id, minutes, floor: Math.min(item.floor, minutes) }]
  })
}

/** When each item is planned to begin. */
export function plannedStarts(start: number, items: readonly Pick<TimedItem, 'minutes'>[]): number[] {
  let at = start
  return items.map(({ minutes }) => {
    const here = at
    at += minutes * MINUTE
    return here
  })
}

export function lengthOf(items: readonly Pick<TimedItem, 'minutes'>[]): number {
  return items.reduce((sum, { minutes }) => sum + minutes, 0)
}

/** Milliseconds spent on an item by now. */
export function spentOn(items: readonly TimedItem[], running: Running, index: number, now: number): number {
  const item = items[index]
  if (!item) return 0
  const before = running.spent.get(item.id) ?? 0
  return index === running.current && running.since !== null ? before + Math.max(0, now - running.since) : before
}

/** What is left of the current item, in milliseconds; negative once it's over its time. */
export function leftOf(items: readonly TimedItem[], running: Running, now: number): number {
  const item = items[running.current]
  return item ? item.minutes * MINUTE - spentOn(items, running, running.current, now) : 0
}

/**
 * When the meeting will end as things stand: now, and what is left (planned less spent) of each item that hasn't been
 * dealt with.
 */
export function forecastEnd(items: readonly TimedItem[], running: Running, now: number): number {
  return items.reduce(
    (end, item, i) =>
      isClosed(items, running, i) ? end : end + Math.max(0, item.minutes * MINUTE - spentOn(items, running, i, now)),
    now,
  )
}

export interface Cut {
  /** The minutes that each item is left with. */
  readonly minutes: ReadonlyMap<string, number>
  /** Minutes by which it still ends late, since no item goes below its floor; 0 when it ends on time. */
  readonly late: number
}

/**
 * Shares `available` whole minutes among items in proportion to what they were planned for, none below its floor.
 * Shares are rounded by the largest remainder (Hamilton's method), the earlier item first where remainders are equal.
 * Items that fit as planned stay as they are.
 */
export function evenCut(items: readonly TimedItem[], available: number): Cut {
  const room = Math.max(0, Math.floor(available))
  if (lengthOf(items) <= room) return { minutes: new Map(items.map(({ id, minutes }) => [id, minutes])), late: 0 }
  const least = items.reduce((sum, { floor }) => sum + floor, 0)
  if (least >= room) return { minutes: new Map(items.map(({ id, floor }) => [id, floor])), late: least - room }
  // Items that their share would push below the floor keep the floor; the others share what remains, until none is
  // pushed any more.
  const held = new Set<TimedItem>()
  let scale: number
  for (;;) {
    const free = items.filter(item => !held.has(item))
    const rest = room - [...held].reduce((sum, { floor }) => sum + floor, 0)
    scale = rest / lengthOf(free)
    const pushed = free.filter(item => item.minutes * scale < item.floor)
    if (pushed.length === 0) break
    for (const item of pushed) held.add(item)
  }
  const shares = items.map(item => ({ item, exact: held.has(item) ? item.floor : item.minutes * scale }))
  const minutes = new Map(shares.map(({ item, exact }) => [item.id, Math.floor(exact + 1e-9)]))
  let over = room - [...minutes.values()].reduce((sum, one) => sum + one, 0)
  const byRemainder = shares
    .map(({ item, exact }, i) => ({ item, remainder: exact - Math.floor(exact + 1e-9), i }))
    .sort((a, b) => (Math.abs(b.remainder - a.remainder) > 1e-9 ? b.remainder - a.remainder : a.i - b.i))
  for (const { item } of byRemainder) {
    if (over <= 0) break
    minutes.set(item.id, minutes.get(item.id)! + 1)
    over--
  }
  return { minutes, late: 0 }
}

/**
 * The cut of what hasn't been dealt with yet so that the meeting ends at `end`; the current item has until its time is
 * up. The minutes are those that each item has in all: what was spent on it already, in whole minutes, and its share of
 * what is left.
 */
export function cutToEnd(items: readonly TimedItem[], running: Running, now: number, end: number): Cut {
  const left = (end - now - Math.max(0, leftOf(items, running, now))) / MINUTE
  const open = openItems(items, running, now)
  const { minutes, late } = evenCut(open, left)
  const whole = new Map(items.map(item => [item.id, item.minutes]))
  return {
    late,
    minutes: new Map(open.map(item => [item.id, whole.get(item.id)! - (item.minutes - minutes.get(item.id)!)])),
  }
}
