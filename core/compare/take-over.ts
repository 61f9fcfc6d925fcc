import type { Change, TopicChange } from '../tree/change'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { type Piece, pieceKey } from './pieces'

/*
 * Taking over some pieces of one state of a tree into another. What a piece can't be without comes along: a topic needs what it
 * hangs under, and what is brought back from the trash comes back as it is over there.
 */

/** A tree as it would be with some pieces of another taken over, as far as places, life and references go. */
export class Taken {
  readonly keys = new Set<string>()
  /** Topics of `here` below each, those in the trash too; made when it's asked for. */
  private below: Map<TopicId, TopicId[]> | null = null
  private readonly byTopic = new Map<TopicId, Piece[]>()

  constructor(
    readonly here: Tree,
    readonly there: Tree,
    readonly pieces: ReadonlyMap<string, Piece>,
    keys: Iterable<string> = [],
  ) {
    for (const piece of pieces.values()) {
      if (piece.topic === null) continue
      const list = this.byTopic.get(piece.topic)
      if (list) list.push(piece)
      else this.byTopic.set(piece.topic, [piece])
    }
    for (const key of keys) if (pieces.has(key)) this.keys.add(key)
  }

  has(topic: TopicId, part: string): boolean {
    return this.keys.has(pieceKey(topic, part))
  }

  /** Takes a piece as well; false when there is none, or it's taken already. */
  take(topic: TopicId, part: string): boolean {
    const key = pieceKey(topic, part)
    if (this.keys.has(key) || !this.pieces.has(key)) return false
    this.keys.add(key)
    return true
  }

  /** Takes all of a topic that this side hasn't changed itself. */
  takeAllOf(topic: TopicId): boolean {
    let more = false
    for (const { part, by } of this.byTopic.get(topic) ?? []) if (by !== 'here') more = this.take(topic, part) || more
    return more
  }

  /** Whether the tree has the topic then, be it in the trash. */
  knows(topic: TopicId): boolean {
    return this.here.topics.has(topic) || this.has(topic, 'there')
  }

  /** What a topic hangs under then; undefined when there is no such topic. */
  readonly parentOf = (topic: TopicId): TopicId | null | undefined => {
    const [mine, other] = [this.here.topics.get(topic), this.there.topics.get(topic)]
    if (!mine) return this.has(topic, 'there') ? other?.parent : undefined
    return this.has(topic, 'where') ? other!.parent : mine.parent
  }

  isRemoved(topic: TopicId): boolean {
    const piece = this.has(topic, 'there') ? this.pieces.get(pieceKey(topic, 'there')) : undefined
    return piece ? piece.changes.some(({ op }) => op === 'remove') : (this.here.topics.get(topic)?.removed ?? true)
  }

  /** The topic of this tree that a topic repeats then. */
  readonly referenceOf = (topic: TopicId): TopicId | null => {
    const [mine, other] = [this.here.topics.get(topic), this.there.topics.get(topic)]
    const found = (!mine || this.has(topic, 'reference') ? other : mine)?.reference ?? null
    return found && found.tree === null ? found.topic : null
  }

  /** The topics from one up to its root, itself first; those of the round it runs into, when it runs in one. */
  chain(topic: TopicId, upOf: (topic: TopicId) => TopicId | null | undefined): { path: TopicId[]; round: boolean } {
    const path: TopicId[] = []
    const seen = new Set<TopicId>()
    for (let at: TopicId | null | undefined = topic; at !== null && at !== undefined; at = upOf(at)) {
      if (seen.has(at)) return { path: path.slice(path.indexOf(at)), round: true }
      seen.add(at)
      path.push(at)
    }
    return { path, round: false }
  }

  /** Topics of `here` below one, in the trash and out of it. */
  allBelow(topic: TopicId): TopicId[] {
    if (!this.below) {
      this.below = new Map()
      for (const { id, parent } of this.here.topics.values())
        if (parent !== null) {
          const list = this.below.get(parent)
          if (list) list.push(id)
          else this.below.set(parent, [id])
        }
    }
    const found = [...(this.below.get(topic) ?? [])]
    for (const id of found) found.push(...(this.below.get(id) ?? []))
    return found
  }

  // — What comes along

  /** Takes what the pieces that are taken can't be without. */
  complete(): this {
    for (let more = true; more;) {
      more = false
      for (const key of [...this.keys]) {
        const { topic, part } = this.pieces.get(key)!
        if (topic === null) continue
        if (part === 'there') more = this.completeLife(topic) || more
        if (part === 'there' || part === 'where') more = this.completePlace(topic) || more
        if (part === 'reference') more = this.completeRound(topic, this.referenceOf, 'reference') || more
      }
    }
    return this
  }

  private completeLife(topic: TopicId): boolean {
    let more = false
    if (!this.here.topics.has(topic)) return this.completeRound(topic, this.referenceOf, 'reference')
    if (this.isRemoved(topic)) {
      // What lives elsewhere over there doesn't go along.
      for (const id of this.allBelow(topic))
        if (this.parentOf(id) === topic && isLive(this.here, id) && isLive(this.there, id))
          more = this.take(id, 'where') || more
      return more
    }
    // Out of the trash it comes as it is over there, with all that lies below it.
    for (const id of [topic, ...this.allBelow(topic)]) {
      more = this.takeAllOf(id) || more
      // What only this side put into its trash stays there.
      if (!this.there.topics.has(id)) more = this.take(id, 'there') || more
    }
    return more
  }

  private completePlace(topic: TopicId): boolean {
    let more = this.completeRound(topic, this.parentOf, 'where')
    const parent = this.parentOf(topic)
    if (parent !== null && parent !== undefined && !this.knows(parent)) more = this.take(parent, 'there') || more
    if (!isLive(this.there, topic)) return more
    for (const id of this.chain(topic, this.parentOf).path)
      if (this.isRemoved(id)) more = this.take(id, isLive(this.there, id) ? 'there' : 'where') || more
      else if (id !== topic && !isLive(this.there, id)) more = this.take(topic, 'where') || more
    return more
  }

  private completeRound(topic: TopicId, upOf: (topic: TopicId) => TopicId | null | undefined, part: string): boolean {
    const { path, round } = this.chain(topic, upOf)
    let more = false
    if (round) for (const id of path) more = this.take(id, part) || more
    return more
  }

  // — As changes

  /** What is taken, as one edit of `here` could make it: first what comes and where it stands, from the top down; what goes, last. */
  changes(): Change[] {
    const stand: { depth: number; changes: Change[] }[] = []
    const cleared: Change[] = []
    const rest: Change[] = []
    const gone: Change[] = []
    for (const [key, piece] of this.pieces) {
      if (!this.keys.has(key)) continue
      const { topic, part } = piece
      if (topic !== null && part === 'there' && this.here.topics.has(topic) && this.isRemoved(topic))
        gone.push(...piece.changes)
      else if (topic !== null && (part === 'there' || part === 'where'))
        stand.push({ depth: this.chain(topic, this.parentOf).path.length, changes: this.without(piece.changes) })
      else {
        if (topic !== null && part === 'reference' && this.here.topics.get(topic)?.reference)
          cleared.push({ op: 'set', topic, field: 'reference', value: null })
        rest.push(...piece.changes)
      }
    }
    const references = [...this.pieces.values()].flatMap(({ key, changes }) =>
      this.keys.has(key)
        ? changes.flatMap((change): TopicChange[] =>
            change.op === 'add' && change.with?.reference
              ? [{ op: 'set', topic: change.topic, field: 'reference', value: change.with.reference }]
              : [],
          )
        : [],
    )
    return [
      ...stand.sort((a, b) => a.depth - b.depth).flatMap(({ changes }) => changes),
      ...cleared,
      ...rest,
      ...references,
      ...gone,
    ]
  }

  /** References wait until every topic is there and old ones are gone: on the way they might lead round in a circle. */
  private without(changes: readonly Change[]): Change[] {
    return changes.map(change => {
      if (change.op !== 'add' || !change.with?.reference) return change
      const { reference: _, ...content } = change.with
      return { ...change, with: content }
    })
  }
}
