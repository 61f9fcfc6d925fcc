import { applyChanges, type Patch, Refused, unapply } from './apply'
import type { Edit } from './change'
import type { TopicId } from './topic'
import type { Tree } from './tree'
import { refuseCircles } from './waits'

/**
 * An edit of one's own. `patches` is what it replaced when last put on (undo needs it, also after the
 * server has numbered the edit), and null where news made it impossible.
 */
export interface Waiting {
  readonly edit: Edit
  patches: readonly Patch[] | null
}

export interface Numbered extends Edit {
  readonly number: number
}

/** Topics whose data or place changed; null stands for the tree's own fields. */
export type Touched = ReadonlySet<TopicId | null>

/**
 * One copy of a tree: what the server has numbered, with one's own waiting edits on top.
 * On news, the waiting edits are taken back, the news applied, and the waiting edits put on again
 * (as prosemirror-collab and other central-authority designs do).
 */
export class Replica {
  readonly waiting: Waiting[] = []

  constructor(
    readonly tree: Tree,
    public version: number,
  ) {}

  /** Makes an own edit at once. Throws `Refused` when it can't be made. */
  make(edit: Edit): { item: Waiting; touched: Touched } {
    const patches = applyChanges(this.tree, edit.changes)
    try {
      refuseCircles(this.tree, edit.changes)
    } catch (error) {
      unapply(this.tree, patches)
      throw error
    }
    const item: Waiting = { edit, patches }
    this.waiting.push(item)
    return { item, touched: touchedBy(patches) }
  }

  /**
   * Takes in numbered edits in order. Those already known are passed over; a gap is refused with `false`
   * and nothing changes: the caller must fetch what is missing.
   */
  receive(news: readonly Numbered[]): Touched | false {
    const touched = new Set<TopicId | null>()
    // An own edit whose acknowledgement got lost is in already.
    for (const edit of news) if (edit.number <= this.version) this.forget(edit.id, touched)
    const fresh = news.filter(edit => edit.number > this.version)
    if (fresh.some((edit, i) => edit.number !== this.version + i + 1)) return false
    let at = 0
    // An own edit that comes back first stands exactly where it stands here already.
    while (at < fresh.length && this.waiting[0]?.patches && this.waiting[0].edit.id === fresh[at]!.id) {
      this.waiting.shift()
      at++
    }
    if (at < fresh.length) {
      this.takeBack(touched)
      for (const edit of fresh.slice(at)) {
        collect(touched, applyChanges(this.tree, edit.changes))
        const own = this.waiting.findIndex(item => item.edit.id === edit.id)
        if (own >= 0) this.waiting.splice(own, 1)
      }
      this.putOn(touched)
    }
    this.version += fresh.length
    return touched
  }

  /** Drops an own edit that the server refused. */
  drop(editId: string): Touched {
    const touched = new Set<TopicId | null>()
    this.forget(editId, touched)
    return touched
  }

  /** Puts an own edit on that was made earlier, in another sitting. */
  takeUp(edit: Edit): Touched {
    const touched = new Set<TopicId | null>()
    const item: Waiting = { edit, patches: null }
    this.waiting.push(item)
    this.put(item, touched)
    return touched
  }

  /** Shows `look` the tree as the server has it, without what waits. */
  confirmed<T>(look: (tree: Tree) => T): T {
    const touched = new Set<TopicId | null>()
    this.takeBack(touched)
    try {
      return look(this.tree)
    } finally {
      this.putOn(touched)
    }
  }

  private forget(editId: string, touched: Set<TopicId | null>): void {
    const at = this.waiting.findIndex(item => item.edit.id === editId)
    if (at < 0) return
    this.takeBack(touched)
    const [dropped] = this.waiting.splice(at, 1)
    dropped!.patches = null
    this.putOn(touched)
  }

  private takeBack(touched: Set<TopicId | null>): void {
    for (let i = this.waiting.length - 1; i >= 0; i--) {
      const item = this.waiting[i]!
      if (!item.patches) continue
      unapply(this.tree, item.patches)
      collect(touched, item.patches)
    }
  }

  private putOn(touched: Set<TopicId | null>): void {
    for (const item of this.waiting) this.put(item, touched)
  }

  private put(item: Waiting, touched: Set<TopicId | null>): void {
    try {
      item.patches = applyChanges(this.tree, item.edit.changes)
      collect(touched, item.patches)
    } catch (error) {
      if (!(error instanceof Refused)) throw error
      item.patches = null
    }
  }
}

function collect(touched: Set<TopicId | null>, patches: readonly Patch[]): void {
  for (const { id, before, after } of patches) {
    touched.add(id)
    // Both parents must draw again: their children or their count changed.
    if (before?.parent !== after?.parent || before?.order !== after?.order || before?.removed !== after?.removed) {
      if (before?.parent) touched.add(before.parent)
      if (after?.parent) touched.add(after.parent)
    }
  }
}

/** The topics that an edit touched, with the parents whose children changed. */
export function touchedBy(patches: readonly Patch[]): Touched {
  const touched = new Set<TopicId | null>()
  collect(touched, patches)
  return touched
}
