/*
 * Edits of a tree gathered into sittings: work without a long pause, by one person or by several at once. A sitting is
 * what people remember ("when we sat on Tuesday"), where an edit is too small and a day too large.
 */

/** An edit as far as sittings need it. */
export interface Stitch {
  readonly number: number
  /** Who did it: the account on whose behalf, or the guest. */
  readonly by: string
  /** ms since 1970 UTC. */
  readonly at: number
}

export interface Sitting {
  /** Numbers of its first and last edit. */
  readonly from: number
  readonly to: number
  /** ms since 1970 UTC. */
  readonly began: number
  readonly ended: number
  readonly edits: number
  /** Who took part, the one with most edits first. */
  readonly people: readonly { readonly by: string; readonly edits: number }[]
}

/** A pause as long as this ends a sitting (a choice of ours). */
export const PAUSE_MS = 30 * 60_000

/**
 * The sittings of edits, which come in the order of their numbers. A clock that went back doesn't end one: edits are in
 * the order of their numbers, whatever their times say; a pause is looked for forwards only.
 */
export function sittingsOf(edits: readonly Stitch[], pause = PAUSE_MS): Sitting[] {
  const found: Sitting[] = []
  let open: Stitch[] = []
  let latest = -Infinity
  const close = (): void => {
    if (open.length > 0) found.push(sittingOf(open))
    open = []
    latest = -Infinity
  }
  for (const edit of edits) {
    if (open.length > 0 && edit.at - latest > pause) close()
    open.push(edit)
    latest = Math.max(latest, edit.at)
  }
  close()
  return found
}

function sittingOf(edits: readonly Stitch[]): Sitting {
  const counts = new Map<string, number>()
  let [began, ended] = [Infinity, -Infinity]
  for (const { by, at } of edits) {
    counts.set(by, (counts.get(by) ?? 0) + 1)
    began = Math.min(began, at)
    ended = Math.max(ended, at)
  }
  return {
    from: edits[0]!.number,
    to: edits.at(-1)!.number,
    began,
    ended,
    edits: edits.length,
    people: [...counts]
      .map(([by, count]) => ({ by, edits: count }))
      .sort((a, b) => b.edits - a.edits || (a.by < b.by ? -1 : 1)),
  }
}
