import type { Told } from '../talk/saying'
import type { Comment, Thread, ThreadSign } from '../talk/thread'

/** What there is to know of a tree's talk without its words. */
export interface TalkOverview {
  /** The number of the newest saying. */
  readonly number: number
  readonly signs: readonly ThreadSign[]
  /** Lines of the talk of the tree that one hasn't read, and the number up to which one has. */
  readonly unread: number
  readonly seen: number
}

export interface TalkNews {
  readonly told: readonly Told[]
  /** Whether there is more than was told: then it's better to look anew. */
  readonly more: boolean
}

/** Who said what is given, by account: those too who have left the tree. */
export type Names = Readonly<Record<string, string>>

export interface ThreadPage {
  readonly threads: readonly Thread[]
  readonly names: Names
  /** The number before which more are asked for; null: these were the last. */
  readonly next: number | null
}

/** Lines of the talk of the tree, from the first to the last. */
export interface BenchPage {
  readonly comments: readonly Comment[]
  readonly names: Names
  /** The number before which older ones are asked for; null: these are the oldest. */
  readonly next: number | null
}
