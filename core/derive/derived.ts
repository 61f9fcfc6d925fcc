import type { TopicId } from '../tree/topic'

/*
 * What is worked out from a tree and never stored: numbers, what references show, roll-ups, cross-links. What a person
 * enters stands in the fields of a topic (`core/tree/fields.ts`) and travels in edits; what is worked out stands here, is
 * the same wherever the same tree is, in a browser as on the server, and can be thrown away at any time.
 */

/**
 * Which topics are another: those that an edit touched, with the parents whose children changed (null: the tree's own
 * fields), or all, when nothing of before may be relied on.
 */
export type Stale = ReadonlySet<TopicId | null> | 'all'

export const NONE_STALE: Stale = new Set<TopicId | null>()

export const isStale = (stale: Stale, id: TopicId): boolean => stale === 'all' || stale.has(id)
export const anyStale = (stale: Stale): boolean => stale === 'all' || stale.size > 0

/**
 * One kind of value that is worked out. Works nothing out before somebody asks, then only what depends on what changed.
 * Held by a law for each kind: after any edits it says what a fresh one says, and it has told of every value that differs.
 */
export interface Derived {
  /**
   * Hears which inputs changed, after they did. Returns the topics whose value may be another than the one somebody was
   * given; none when nobody has asked yet.
   */
  changed(touched: Stale): Stale
}

/** Everything that is worked out from one tree: each hears of changes after those it stands on. */
export class Derivation {
  private readonly nodes: { readonly derived: Derived; readonly from: readonly Derived[] }[] = []

  /** Adds a kind of value that stands on the topics themselves and on others added before. Returns it. */
  add<D extends Derived>(derived: D, ...from: readonly Derived[]): D {
    if (from.some(other => !this.nodes.some(node => node.derived === other)))
      throw new RangeError('what a derived value stands on is added before it')
    this.nodes.push({ derived, from })
    return derived
  }

  /** Tells all of a change; returns what came of it, kind by kind. */
  changed(touched: Stale): ReadonlyMap<Derived, Stale> {
    const outputs = new Map<Derived, Stale>()
    for (const { derived, from } of this.nodes)
      outputs.set(derived, derived.changed(union(touched, ...from.map(other => outputs.get(other) ?? NONE_STALE))))
    return outputs
  }
}

/** All that any of them says. */
export function union(...stale: readonly Stale[]): Stale {
  const told = stale.filter(anyStale)
  if (told.length < 2) return told[0] ?? NONE_STALE
  const all = new Set<TopicId | null>()
  for (const one of told) {
    if (one === 'all') return 'all'
    for (const id of one) all.add(id)
  }
  return all
}
