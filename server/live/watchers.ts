import { roleOn } from '../access/roles'
import type { Seat } from './seat'

/* Which tabs want to hear that a tree changed which isn't the one they show: a reference to it, a task that waits for it. */

const watchers = new Map<string, Set<Seat>>()
const watched = new Map<Seat, ReadonlySet<string>>()
/** What each tab asked for last. */
const asked = new WeakMap<Seat, readonly string[]>()
const NONE: ReadonlySet<string> = new Set()

/**
 * From now on a tab hears of these trees, and of no others. Only trees that the person has a role in are watched; what they
 * show is asked for, and checked, anew each time.
 */
export async function watchOthers(seat: Seat, trees: readonly string[]): Promise<void> {
  asked.set(seat, trees)
  const roles = await Promise.all(trees.map(id => roleOn(id, seat.account.id)))
  // It may have left meanwhile, or asked for others.
  if (asked.get(seat) !== trees) return
  watch(seat, new Set(trees.filter((id, i) => id !== seat.treeId && roles[i] !== null)))
}

export function watchNone(seat: Seat): void {
  asked.delete(seat)
  watch(seat, NONE)
}

export const watchersOf = (tree: string): Iterable<Seat> => watchers.get(tree) ?? []

function watch(seat: Seat, trees: ReadonlySet<string>): void {
  for (const tree of watched.get(seat) ?? []) {
    const rest = watchers.get(tree)
    rest?.delete(seat)
    if (rest?.size === 0) watchers.delete(tree)
  }
  if (trees.size === 0) watched.delete(seat)
  else watched.set(seat, trees)
  for (const tree of trees) watchers.set(tree, (watchers.get(tree) ?? new Set()).add(seat))
}
