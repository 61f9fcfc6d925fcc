import type { NewsEdit } from '#core/contract'

/*
 * Who hears of what happens to a tree. On one machine word spreads in memory; a process that missed some
 * (or another process's clients) catches up from the log by number, so the truth never depends on this.
 */
type Listener = (treeId: string, edits: readonly NewsEdit[]) => void

const listeners = new Set<Listener>()

export function onNews(listener: Listener): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export function spread(treeId: string, edits: readonly NewsEdit[]): void {
  for (const listener of listeners) listener(treeId, edits)
}
