import { topicOf, type TopicId, type Tree } from '#core/tree'

interface Kept {
  readonly depth: number | null
  readonly folded: readonly TopicId[]
  readonly open: readonly TopicId[]
}

/** Beyond this many single folds the oldest are forgotten. */
const MOST = 3000

/**
 * What one person has folded in a tree: a depth opened to, and the topics folded or opened one by one since. Nobody
 * else sees it. Where nothing is said, the tree's own fold of a topic counts, as it was imported or saved. Kept in this
 * browser.
 */
export class Folds {
  /** 0 opens all; null leaves it to each topic. */
  private depth: number | null = null
  /** Whether nothing was folded here before. */
  readonly isNew: boolean = true
  private readonly single = new Map<TopicId, boolean>()
  private timer = 0
  /** How it was before it was lent: that is what's kept meanwhile. */
  private lent: { readonly depth: number | null; readonly single: ReadonlyMap<TopicId, boolean> } | null = null
  private readonly key: string

  constructor(
    private readonly tree: () => Tree,
    treeId: string,
    userId: string,
  ) {
    this.key = `sun-porch-folds/${userId}/${treeId}`
    // A page that is left within a moment of a fold still keeps it.
    window.addEventListener('pagehide', this.keepNow)
    try {
      const kept = JSON.parse(localStorage.getItem(this.key) ?? 'null') as Kept | null
      if (!kept) return
      this.isNew = false
      this.depth = kept.depth
      for (const id of kept.folded) this.single.set(id, true)
      for (const id of kept.open) this.single.set(id, false)
    } catch {
      /* what can't be read is as if nothing had been folded */
    }
  }

  isFolded(id: TopicId): boolean {
    const tree = this.tree()
    if (id === tree.centre) return false
    const own = this.single.get(id)
    if (own !== undefined) return own
    if (this.depth === null) return topicOf(tree, id).folded
    if (this.depth === 0) return false
    let level = 0
    for (let at = topicOf(tree, id).parent; at !== null; at = topicOf(tree, at).parent)
      if (++level >= this.depth) return true
    return false
  }

  set(id: TopicId, folded: boolean): void {
    this.single.delete(id)
    this.single.set(id, folded)
    if (this.single.size > MOST) this.single.delete(this.single.keys().next().value!)
    this.keep()
  }

  /** The depth that a tree begins with which nobody has folded here. */
  beginAt(depth: number): void {
    this.depth = depth
  }

  /** The depth that all is open to: 0 for all, null when topics have been folded or opened one by one. */
  get openedTo(): number | null {
    return this.single.size === 0 ? this.depth : null
  }

  /** Opens everything to a depth; 0 for all levels. */
  openTo(depth: number): void {
    this.depth = depth
    this.single.clear()
    this.keep()
  }

  /** From now on folds are set for a while, and nothing of it is kept; call back for how it was. */
  lend(): () => void {
    const before = { depth: this.depth, single: new Map(this.single) }
    this.lent ??= before
    return () => {
      this.lent = null
      this.depth = before.depth
      this.single.clear()
      for (const [id, folded] of before.single) this.single.set(id, folded)
    }
  }

  private keep(): void {
    clearTimeout(this.timer)
    this.timer = window.setTimeout(this.keepNow, 300)
  }

  close(): void {
    window.removeEventListener('pagehide', this.keepNow)
    this.keepNow()
  }

  private readonly keepNow = (): void => {
    clearTimeout(this.timer)
    const { depth, single } = this.lent ?? { depth: this.depth, single: this.single }
    const kept: Kept = {
      depth,
      folded: [...single].filter(([, folded]) => folded).map(([id]) => id),
      open: [...single].filter(([, folded]) => !folded).map(([id]) => id),
    }
    try {
      localStorage.setItem(this.key, JSON.stringify(kept))
    } catch {
      /* without room the folds last as long as the page */
    }
  }
}
