import type { Tie } from '../tree/substance'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { isLive } from '../tree/tree'
import { type Derived, NONE_STALE, type Stale } from './derived'

/** A cross-link and the topic it begins at. */
export interface CrossLink {
  readonly from: TopicId
  readonly tie: Tie
}

/** The cross-links of a tree, by the topic at either end. */
export class CrossLinks implements Derived {
  /** Those of topics in the trash too: a branch that comes back brings them along. Null until somebody asks. */
  private begin: Map<TopicId, readonly Tie[]> | null = null
  private end = new Map<TopicId, Set<TopicId>>()

  constructor(private readonly tree: () => Tree) {}

  /** All whose both ends are there. */
  all(): CrossLink[] {
    const tree = this.tree()
    return [...this.known()].flatMap(([from, ties]) =>
      isLive(tree, from) ? ties.filter(tie => isLive(tree, tie.to)).map(tie => ({ from, tie })) : [],
    )
  }

  /** Those that begin or end at a topic, with both ends there. */
  at(id: TopicId): CrossLink[] {
    const tree = this.tree()
    const known = this.known()
    if (!isLive(tree, id)) return []
    return [id, ...(this.end.get(id) ?? [])]
      .filter((from, i, all) => all.indexOf(from) === i)
      .flatMap(from => (known.get(from) ?? []).map(tie => ({ from, tie })))
      .filter(({ from, tie }) => (from === id || tie.to === id) && isLive(tree, from) && isLive(tree, tie.to))
  }

  private known(): Map<TopicId, readonly Tie[]> {
    if (this.begin) return this.begin
    this.begin = new Map()
    this.end.clear()
    for (const topic of this.tree().topics.values())
      if (topic.ties.length > 0) this.take(this.begin, topic.id, topic.ties)
    return this.begin
  }

  private take(begin: Map<TopicId, readonly Tie[]>, from: TopicId, ties: readonly Tie[]): void {
    for (const { to } of begin.get(from) ?? []) this.end.get(to)?.delete(from)
    if (ties.length > 0) begin.set(from, ties)
    else begin.delete(from)
    for (const { to } of ties) {
      const ends = this.end.get(to)
      if (ends) ends.add(from)
      else this.end.set(to, new Set([from]))
    }
  }

  /** Returns both ends of each cross-link that came, went or changed, and of those whose ends moved in or out of sight. */
  changed(touched: Stale): Stale {
    const { begin } = this
    if (!begin) return NONE_STALE
    if (touched === 'all') {
      this.begin = null
      return 'all'
    }
    const tree = this.tree()
    const others = new Set<TopicId | null>()
    for (const id of touched) {
      if (id === null) continue
      const had = begin.get(id) ?? []
      const now = tree.topics.get(id)?.ties ?? []
      if (had === now) continue
      if (had.length > 0 || now.length > 0) others.add(id)
      for (const { to } of [...had, ...now]) others.add(to)
      this.take(begin, id, now)
    }
    const leads = (id: TopicId): boolean => {
      for (let at: TopicId | null = id; at !== null; at = tree.topics.get(at)?.parent ?? null)
        if (touched.has(at)) return true
      return false
    }
    for (const [from, ties] of begin)
      for (const { to } of ties)
        if (leads(from) || leads(to)) {
          others.add(from)
          others.add(to)
        }
    return others
  }
}
