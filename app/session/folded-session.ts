import { toSnapshot, type Tree } from '#core/tree'
import { LookingSession } from './looking-session'

/** Two states of a tree folded into one, to be looked at. */
export class FoldedSession extends LookingSession {
  /** What is to be shown; set before it's opened. */
  private folded: Tree | null = null

  override async open(): Promise<void> {
    if (!this.folded) throw new Error('there is nothing to show yet')
    this.role = 'viewer'
    this.sync.open(toSnapshot(this.folded), 0, undefined, [])
    this.state = 'then'
  }

  /** Shows another comparison. */
  show(folded: Tree): void {
    const first = this.replica === undefined
    this.folded = folded
    if (first) return
    this.sync.open(toSnapshot(folded), 0, undefined, [])
    this.told.replaced()
  }
}
