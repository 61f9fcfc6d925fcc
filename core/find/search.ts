import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { fold, foldedTitle } from './text'

/** What is looked for: words that a title must all have, and a marker that a topic must carry. Nothing said means anything goes. */
export interface Wanted {
  readonly text: string
  readonly marker: string | null
}

export interface Found {
  /** The topics that match, in reading order. */
  readonly matches: readonly TopicId[]
  /** The same, and everything above them: what stays in sight when the rest steps back. */
  readonly lit: ReadonlySet<TopicId>
}

/** Whether anything is looked for at all. */
export function asksForSomething({ text, marker }: Wanted): boolean {
  return marker !== null || text.trim() !== ''
}

/** Every topic on the canvas in reading order. Good until the tree changes; made once, many searches share it. */
export function readingOrder(tree: Tree): Topic[] {
  return Array.from(allTopics(tree))
}

/** The topics on the canvas that match, and the path to each. Words fold case and accents, in any order, anywhere in the title. Linear in topics. */
export function search(tree: Tree, { text, marker }: Wanted, order: readonly Topic[] = readingOrder(tree)): Found {
  const words = fold(text).split(/\s+/).filter(Boolean)
  const matches: TopicId[] = []
  const lit = new Set<TopicId>()
  for (const topic of order) {
    if (marker !== null && !topic.markers.includes(marker)) continue
    if (words.length > 0 && !hasAll(foldedTitle(topic), words)) continue
    matches.push(topic.id)
    for (let at: TopicId | null = topic.id; at !== null && !lit.has(at); at = tree.topics.get(at)?.parent ?? null) lit.add(at)
  }
  return { matches, lit }
}

function hasAll(title: string, words: readonly string[]): boolean {
  for (const word of words) if (!title.includes(word)) return false
  return true
}

/** The match after, or before, the one at hand; around the end it goes on from the beginning. Null when there is none. */
export function neighbourMatch(matches: readonly TopicId[], from: TopicId, last: number, by: 1 | -1): { readonly id: TopicId, readonly index: number } | null {
  if (matches.length === 0) return null
  const here = matches.indexOf(from)
  const start = here >= 0 ? here : last >= 0 ? last : by > 0 ? -1 : 0
  const index = (start + by + matches.length) % matches.length
  return { id: matches[index]!, index }
}
