import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import { z } from 'zod'

/*
 * Order among siblings and lines is a fractional key. Putting something in at one place again and again makes keys
 * longer each time; before they outgrow what a key may have, a run of neighbours gets short ones anew, in the same
 * edit.
 */

/** Whether a key is one that others can be put before and after. */
export function isOrderKey(key: string): boolean {
  try {
    generateKeyBetween(key, null)
    return true
  } catch {
    return false
  }
}

export const orderKey = z
  .string()
  .min(1)
  .max(400)
  .refine(isOrderKey, { error: issue => `“${String(issue.input).slice(0, 40)}” isn’t an order key` })

/** From this length on, neighbours are renewed. */
const LONG = 48
/** How many neighbours to each side are renewed first; then four times as many, and so on. */
const RUN = 16

export interface Keys {
  /** One for each newcomer, ascending. */
  readonly keys: readonly string[]
  /**
   * New keys of neighbours, by their index: because two people once chose the same key, or because keys had grown
   * long. Usually empty.
   */
  readonly aside: ReadonlyMap<number, string>
}

/**
 * Keys for `count` newcomers before the one that has `index` among keys in order. Keys that aren't valid are as if
 * they weren't there.
 */
export function keysAt(orders: readonly string[], index: number, count: number): Keys {
  const at = Math.max(0, Math.min(index, orders.length))
  let from = at
  let until = at
  const key = (i: number): string | null => orders[i] ?? null
  /** The bounds must stand apart: those that don't are inside the run. */
  const part = (): void => {
    while (from > 0 && !isOrderKey(orders[from - 1]!)) from--
    while (until < orders.length && (!isOrderKey(orders[until]!) || (from > 0 && orders[until]! <= orders[from - 1]!)))
      until++
  }
  const make = (): string[] => {
    part()
    return generateNKeysBetween(from > 0 ? key(from - 1) : null, key(until), count + until - from)
  }
  let made = make()
  for (let run = RUN; made.some(one => one.length > LONG) && (from > 0 || until < orders.length); run *= 4) {
    from = Math.max(0, Math.min(from, at - run))
    until = Math.min(orders.length, Math.max(until, at + run))
    made = make()
  }
  const aside = new Map<number, string>()
  for (let i = from; i < until; i++) aside.set(i, made[i < at ? i - from : i - from + count]!)
  return { keys: made.slice(at - from, at - from + count), aside }
}

/**
 * What a list of lines becomes when one of them goes a place up (-1) or down (1): those whose key changes. Empty at
 * the end of the list.
 */
export function movedLine<T extends { readonly id: string; readonly order: string }>(
  list: readonly T[],
  id: string,
  by: 1 | -1,
): T[] {
  const at = list.findIndex(one => one.id === id)
  if (at < 0 || list[at + by] === undefined) return []
  const rest = list.toSpliced(at, 1)
  const { keys, aside } = keysAt(
    rest.map(one => one.order),
    at + by,
    1,
  )
  return [{ ...list[at]!, order: keys[0]! }, ...[...aside].map(([i, order]) => ({ ...rest[i]!, order }))]
}
