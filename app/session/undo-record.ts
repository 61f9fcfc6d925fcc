import type { NewsEdit } from '#core/contract'
import { type Change, invertOver, isTreeChange, type Stays, type TopicId, type Tree, type Waiting } from '#core/tree'

/** What undo or redo turns: an edit whose inverse is made, or changes that are made as they are. */
type Turnable = Waiting | { readonly redo: readonly Change[] }

/** What came of an undo or redo. */
export interface Turned {
  readonly topics: readonly TopicId[]
  readonly stays: readonly Stays[]
}
const NOTHING: Turned = { topics: [], stays: [] }

/** The way back of one person in one tree: their own edits, the last first, and what was taken back. */
export class UndoRecord {
  private made: Turnable[] = []
  private undone: Turnable[] = []
  /** Topics that others have put work into while the tree was open here. */
  private readonly foreign = new Set<TopicId>()

  constructor(
    private readonly tree: () => Tree,
    /** Makes changes as an edit; null when they can't be made. */
    private readonly make: (changes: readonly Change[]) => Waiting | null,
  ) {}

  add(item: Waiting): void {
    this.made.push(item)
    this.undone = []
  }

  /** Another tree stands in the old one's place: nothing of before can be taken back. */
  clear(): void {
    this.made = []
    this.undone = []
  }

  /** Remembers what others work on, which an undo never hides. */
  hear(edits: readonly NewsEdit[], own: string): void {
    for (const edit of edits)
      if (edit.user !== own)
        for (const change of edit.changes)
          if (!isTreeChange(change) && change.op !== 'remove') this.foreign.add(change.topic)
  }

  get canUndo(): boolean {
    return this.made.length > 0
  }

  get canRedo(): boolean {
    return this.undone.length > 0
  }

  /** The last thing that was made here, to be taken back by itself. */
  get last(): Waiting | null {
    const last = this.made.at(-1)
    return last && 'edit' in last ? last : null
  }

  /** Takes back one's own last action, as far as nobody has worked on since. */
  undo(): Turned {
    return this.turn(this.made, this.undone)
  }

  redo(): Turned {
    return this.turn(this.undone, this.made)
  }

  /** Whether this very action can still be taken back. */
  canTakeBack(item: Waiting): boolean {
    return (
      this.made.includes(item) &&
      item.patches !== null &&
      invertOver(this.tree(), item.edit.changes, item.patches, this.isForeign).changes.length > 0
    )
  }

  /** Takes back this very action, over whatever has been done since. */
  takeBack(item: Waiting): Turned {
    const at = this.made.indexOf(item)
    if (at < 0) return NOTHING
    const [taken] = this.made.splice(at, 1)
    return this.turn([taken!], this.undone)
  }

  /** Changes that redo makes next: what was dropped while typing. */
  offer(changes: readonly Change[]): void {
    if (changes.length > 0) this.undone.push({ redo: changes })
  }

  private readonly isForeign = (id: TopicId): boolean => this.foreign.has(id)

  private turn(from: Turnable[], to: Turnable[]): Turned {
    while (from.length > 0) {
      const item = from.pop()!
      if ('redo' in item ? false : !item.patches) continue
      const { changes, stays } =
        'redo' in item
          ? { changes: item.redo, stays: [] }
          : invertOver(this.tree(), item.edit.changes, item.patches!, this.isForeign)
      const made = changes.length > 0 ? this.make(changes) : null
      if (made) to.push(made)
      // What stays is said; going on to the step before would take back what nobody asked for.
      else if (stays.length === 0) continue
      return { topics: changes.flatMap(change => (isTreeChange(change) ? [] : [change.topic])), stays }
    }
    return NOTHING
  }
}
