import type { Change, TopicId } from '../tree'

interface NumberedEdit {
  readonly number: number
  readonly changes: readonly Change[]
}
/** Where a topic hangs; undefined where that isn't known. */
type ParentOf = (topic: TopicId) => TopicId | null | undefined

/**
 * Where topics hung after each of some edits that follow one another. What a person is told of an edit goes by where a topic was then,
 * not by where it has come to meanwhile: who renames something and moves it into a watched branch afterwards has not changed that branch
 * twice.
 */
export class Whereabouts {
  private readonly moves = new Map<TopicId, { number: number; parent: TopicId | null }[]>()
  /** Undefined: it wasn't there. */
  private readonly earlier = new Map<TopicId, TopicId | null | undefined>()
  private readonly first = new Map<TopicId, number>()

  /** `newest`: where topics hang after the last of the edits. */
  constructor(
    edits: readonly NumberedEdit[],
    private readonly newest: ParentOf,
  ) {
    for (const { number, changes } of edits)
      for (const change of changes) {
        if (change.op !== 'add' && change.op !== 'place') continue
        const moves = this.moves.get(change.topic) ?? []
        if (moves.length === 0 && change.op === 'place') this.first.set(change.topic, number)
        if (moves.length === 0 && change.op === 'add') this.earlier.set(change.topic, undefined)
        moves.push({ number, parent: change.parent })
        this.moves.set(change.topic, moves)
      }
  }

  /** Topics that hung elsewhere before these edits, with the number of the edit that moved them first. */
  get movedFromBefore(): ReadonlyMap<TopicId, number> {
    return this.first
  }

  /** Where such a topic hung before all of the edits. Without it, where it hangs now stands for that. */
  hungBefore(topic: TopicId, parent: TopicId | null): void {
    this.earlier.set(topic, parent)
  }

  /** Where a topic hung after the edit of a number. */
  after(topic: TopicId, number: number): TopicId | null | undefined {
    const moves = this.moves.get(topic)
    if (!moves) return this.newest(topic)
    const last = moves.findLast(move => move.number <= number)
    if (last) return last.parent
    return this.earlier.has(topic) ? this.earlier.get(topic) : this.newest(topic)
  }
}
