import type { Topic, TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { fold, foldedText, foldedTitle, saysMore } from './text'

/**
 * What is looked for at a key's speed: words that a topic must all have, and a marker that it must carry. Nothing said
 * means anything goes.
 */
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

/**
 * The folded titles of a list of topics, made once for as long as the list is used: asked for one by one they'd take
 * longer than the search.
 */
const foldedTitles = new WeakMap<readonly Topic[], string[]>()

function titlesOf(order: readonly Topic[]): string[] {
  let titles = foldedTitles.get(order)
  if (!titles) foldedTitles.set(order, (titles = order.map(foldedTitle)))
  return titles
}

/**
 * The topics on the canvas that match, and the path to each. Words fold case and accents, in any order, anywhere in the
 * title, the note, the links, the files' names and the checklist. `also`: what else a topic must be. Linear in topics.
 */
export function search(
  tree: Tree,
  { text, marker }: Wanted,
  order: readonly Topic[] = readingOrder(tree),
  also?: (topic: Topic) => boolean,
): Found {
  const words = fold(text).split(/\s+/).filter(Boolean)
  const matches: TopicId[] = []
  const lit = new Set<TopicId>()
  const titles = words.length > 0 ? titlesOf(order) : null
  for (let i = 0; i < order.length; i++) {
    const topic = order[i]!
    if (marker !== null && !topic.markers.includes(marker)) continue
    if (titles && !hasAll(titles[i]!, words) && !(saysMore(topic) && hasAll(foldedText(topic), words))) continue
    if (also && !also(topic)) continue
    matches.push(topic.id)
    for (let at: TopicId | null = topic.id; at !== null && !lit.has(at); at = tree.topics.get(at)?.parent ?? null)
      lit.add(at)
  }
  return { matches, lit }
}

export function hasAll(text: string, words: readonly string[]): boolean {
  for (const word of words) if (!text.includes(word)) return false
  return true
}

/**
 * Whether a topic has all the words in what it says or carries. Most say it in their title, so the rest is read only
 * when that isn't enough.
 */
export function hasWords(topic: Topic, words: readonly string[]): boolean {
  return hasAll(foldedTitle(topic), words) || (saysMore(topic) && hasAll(foldedText(topic), words))
}

/**
 * The match after, or before, the one at hand; around the end it goes on from the beginning. Null when there is none.
 */
export function neighbourMatch(
  matches: readonly TopicId[],
  from: TopicId,
  last: number,
  by: 1 | -1,
): { readonly id: TopicId; readonly index: number } | null {
  if (matches.length === 0) return null
  const here = matches.indexOf(from)
  const start = here >= 0 ? here : last >= 0 ? last : by > 0 ? -1 : 0
  const index = (start + by + matches.length) % matches.length
  return { id: matches[index]!, index }
}
