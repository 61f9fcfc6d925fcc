import type { Edit } from '#core/tree'
import { dropWaiting, keepTree, keepWaiting, keptTree, type SentTree, waitingEdits } from './offline'

/** How often the tree is kept for opening it offline; waiting edits are kept at once. */
const KEEP_MS = 45_000

/** What this browser keeps of one tree for one person, so that it opens without a line and no edit is lost with the tab. */
export class OfflineCopy {
  private changed = false
  private timer: ReturnType<typeof setInterval> | undefined

  constructor(
    private readonly treeId: string,
    private readonly userId: string,
    /** The tree as the server has it. */
    private readonly confirmed: () => SentTree,
  ) {}

  /** From now on the tree is kept whenever it changed and the browser has time. */
  begin(): void {
    this.timer = setInterval(() => requestIdleCallback(() => void this.keep(), { timeout: 20_000 }), KEEP_MS)
  }

  end(): void {
    clearInterval(this.timer)
    void this.keep()
  }

  /** The kept tree is out of date. */
  touch(): void {
    this.changed = true
  }

  /** Keeps the tree as the server has it. */
  async keep(): Promise<void> {
    if (!this.changed) return
    this.changed = false
    const tree = this.confirmed()
    await this.keepText(JSON.stringify(tree), titleOf(tree))
  }

  /** A full or private store refuses: the tree just won't open offline. */
  async keepText(text: string, title: string): Promise<void> {
    await keepTree(this.treeId, this.userId, text, title).catch(() => {})
  }

  async kept(): Promise<SentTree | undefined> {
    return keptTree(this.treeId, this.userId).catch(() => undefined)
  }

  /** Edits that still wait, in the order they were made. */
  async waiting(): Promise<Edit[]> {
    return waitingEdits(this.treeId, this.userId).catch(() => [])
  }

  /** Keeps an edit until it's acknowledged. Rejects when this browser can't keep anything. */
  async keepEdit(edit: Edit): Promise<void> {
    await keepWaiting(this.treeId, this.userId, edit)
  }

  async dropEdits(ids: ReadonlySet<string>): Promise<void> {
    await dropWaiting(this.treeId, this.userId, ids).catch(() => {})
  }
}

/** What a tree is called: the title of its centre. */
export function titleOf({ snapshot }: SentTree): string {
  return snapshot.topics.find(({ id }) => id === snapshot.centre)?.title ?? ''
}
