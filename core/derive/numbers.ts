import { numberUnder, type Under, underOf } from '../tree/numbering'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, type Tree } from '../tree/tree'
import { type Derived, NONE_STALE, type Stale } from './derived'

interface Numbered {
  readonly number: string
  readonly under: Under | null
}

/**
 * The numbers of all topics that a scheme numbers (see `core/tree/numbering.ts`). Kept for each live topic while any
 * topic has a numbering; a change renumbers from the parents it touched, and no deeper than numbers differ.
 */
export class Numbers implements Derived {
  /** Topics with a numbering of their own; null until somebody asks. */
  private schemes: Set<TopicId> | null = null
  private readonly known = new Map<TopicId, Numbered>()

  constructor(private readonly tree: () => Tree) {}

  /** The topic's number, or '' when no scheme numbers it. */
  of(id: TopicId): string {
    this.begin()
    return this.known.get(id)?.number ?? ''
  }

  /** Whether anything here is numbered by a scheme. */
  get any(): boolean {
    return this.begin().size > 0
  }

  private begin(): ReadonlySet<TopicId> {
    if (this.schemes) return this.schemes
    this.schemes = new Set()
    for (const topic of this.tree().topics.values()) this.note(this.schemes, topic)
    if (this.schemes.size > 0) this.numberAll()
    return this.schemes
  }

  private note(schemes: Set<TopicId>, topic: Topic): void {
    if (topic.numbering && !topic.removed) schemes.add(topic.id)
    else schemes.delete(topic.id)
  }

  private numberAll(): TopicId[] {
    const tree = this.tree()
    return [tree.centre, ...childrenOf(tree, null)].flatMap(root => this.renumber(root))
  }

  changed(touched: Stale): Stale {
    const { schemes } = this
    if (!schemes) return NONE_STALE
    if (touched === 'all') {
      this.schemes = null
      this.known.clear()
      return 'all'
    }
    const tree = this.tree()
    const before = schemes.size
    for (const id of touched) {
      const topic = id === null ? undefined : tree.topics.get(id)
      if (topic) this.note(schemes, topic)
      else if (id !== null) schemes.delete(id)
    }
    if (before === 0) return new Set(schemes.size > 0 ? this.numberAll() : [])
    if (schemes.size === 0) {
      const had = [...this.known].filter(([, { number }]) => number !== '').map(([id]) => id)
      this.known.clear()
      return new Set(had)
    }
    const others: TopicId[] = []
    for (const id of touched) {
      if (id === null) continue
      const topic = tree.topics.get(id)
      if (!topic || topic.removed) this.forget(id)
      // What stands below something in the trash has no number, and is numbered when that comes back.
      else if (topic.parent !== null && !this.known.has(topic.parent)) this.forget(id)
      else {
        // Loose now, perhaps: nothing above it numbers it.
        if (topic.parent === null && this.of(id) !== '') {
          this.known.set(id, { number: '', under: null })
          others.push(id)
        }
        others.push(...this.renumber(id))
      }
    }
    return new Set(others)
  }

  /** Drops a branch that went to the trash, or away. */
  private forget(root: TopicId): void {
    const tree = this.tree()
    const stack = [root]
    while (stack.length > 0) {
      const id = stack.pop()!
      if (this.known.delete(id) || id === root) stack.push(...childrenOf(tree, id))
    }
  }

  /** Numbers what stands below a topic, as deep as it is another than before; returns whose number that is. */
  private renumber(from: TopicId): TopicId[] {
    const tree = this.tree()
    const others: TopicId[] = []
    const stack = [from]
    while (stack.length > 0) {
      const id = stack.pop()!
      const topic = tree.topics.get(id)!
      const above = (topic.parent === null ? undefined : this.known.get(topic.parent))?.under ?? null
      const number = this.known.get(id)?.number ?? ''
      const under = underOf(topic, above, number)
      this.known.set(id, { number, under })
      for (const [place, kid] of childrenOf(tree, id).entries()) {
        const had = this.known.get(kid)
        const wanted = under ? numberUnder(under, place + 1) : ''
        if (had?.number === wanted && sameUnder(had.under, underOf(tree.topics.get(kid)!, under, wanted))) continue
        this.known.set(kid, { number: wanted, under: had?.under ?? null })
        if ((had?.number ?? '') !== wanted) others.push(kid)
        stack.push(kid)
      }
    }
    return others
  }
}

const sameUnder = (a: Under | null, b: Under | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.level === b.level &&
    a.before === b.before &&
    a.numbering.scheme === b.numbering.scheme &&
    a.numbering.levels === b.numbering.levels)
