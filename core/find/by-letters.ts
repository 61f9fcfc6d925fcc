import { allTopics } from '../tree/walk'
import type { Topic } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { hasAll } from './search'
import { fold, foldedTitle } from './text'

/** Topics looked at before those that begin with the letters are put first: beyond that more letters help more. */
const ENOUGH = 200

/**
 * Topics by a few letters of their titles, in reading order, those that begin with them first. `also`: what else a topic must be.
 * Linear in topics, and no further than it takes to find enough.
 */
export function byLetters(
  tree: Tree,
  letters: string,
  most: number,
  also: (topic: Topic) => boolean = () => true,
): Topic[] {
  const words = fold(letters.trim()).split(/\s+/).filter(Boolean)
  const found: { topic: Topic; begins: boolean }[] = []
  for (const topic of allTopics(tree)) {
    const title = foldedTitle(topic)
    if (!hasAll(title, words) || !also(topic)) continue
    found.push({ topic, begins: words.length > 0 && title.startsWith(words[0]!) })
    if (found.length >= ENOUGH) break
  }
  return found
    .sort((a, b) => Number(b.begins) - Number(a.begins))
    .slice(0, most)
    .map(({ topic }) => topic)
}
