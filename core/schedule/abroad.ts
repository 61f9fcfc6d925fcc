import type { Elsewhere, Wait } from '../tree/plan'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'

/* What waits for topics of other trees (docs/decisions/0042). */

/** A dependency on a topic of another tree, and who waits. */
export interface WaitAbroad {
  readonly by: TopicId
  readonly wait: Wait
  readonly elsewhere: Elsewhere
}

/** Every dependency on a topic of another tree. Cost: the topics. */
export function waitsAbroad(tree: Tree): WaitAbroad[] {
  const found: WaitAbroad[] = []
  for (const { id, waits } of tree.topics.values())
    for (const wait of waits)
      if (wait.elsewhere && isLive(tree, id)) found.push({ by: id, wait, elsewhere: wait.elsewhere })
  return found
}

/** The day that counts, ISO 8601: the end, or the start where that is what is waited for; the other where that one isn't known. Null for none. */
export function dayThatCounts(
  { kind }: Pick<Wait, 'kind'>,
  { start, finish }: Pick<Elsewhere, 'start' | 'finish'>,
): string | null {
  return kind[0] === 'F' ? (finish ?? start) : (start ?? finish)
}

/** Whether nothing of it has changed but when it was looked at. */
export const isAsKnown = (then: Elsewhere, now: Elsewhere): boolean =>
  then.start === now.start &&
  then.finish === now.finish &&
  then.state === now.state &&
  then.title === now.title &&
  then.treeTitle === now.treeTitle
