import { readingOrder } from '../find/search'
import { depthOf } from '../tree/walk'
import type { Tree } from '../tree/tree'

/** What a tree that was read from a file will look like, before anything is made of it. */
export interface Foreseen {
  readonly title: string
  /** Topics, the centre among them. */
  readonly count: number
  /** The first of them in reading order, the centre left out. */
  readonly lines: readonly { readonly level: number; readonly title: string; readonly noted: boolean }[]
}
const MOST_LINES = 400
const MOST_LETTERS = 160

export function foreseenOf(tree: Tree): Foreseen {
  const order = readingOrder(tree)
  return {
    title: tree.topics.get(tree.centre)!.title,
    count: tree.topics.size,
    lines: order
      .filter(({ id }) => id !== tree.centre)
      .slice(0, MOST_LINES)
      .map(({ id, title, note }) => ({
        level: depthOf(tree, id),
        title: title.slice(0, MOST_LETTERS).toWellFormed(),
        noted: note !== null,
      })),
  }
}
