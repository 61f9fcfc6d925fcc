import { mentionsIn } from '../talk/body'
import { ALL } from '../talk/everybody'
import { BENCH, type Told } from '../talk/saying'
import type { TopicId } from '../tree'
import type { Telling } from './from-edit'

/** What is known of the thread of a saying. */
export interface ThreadAround {
  readonly topic: TopicId | null
  /** Who has said something in it before. */
  readonly speakers: readonly string[]
  /** All who are in the tree. */
  readonly members: readonly string[]
}

/**
 * Whom a saying tells something: who is mentioned, and who talked in its thread before. A reply that mentions somebody is told them
 * once, as a mention. Of the talk of the tree only mentions are told: it has its own count.
 */
export function tellingsOfSaying(told: Told, { topic, speakers, members }: ThreadAround): Telling[] {
  if ((told.op !== 'say' && told.op !== 'reword') || told.body === null) return []
  const mentions = mentionsIn(told.body).people
  const called = new Set(mentions.includes(ALL) ? members : mentions)
  const found: Telling[] = []
  const tell = (to: string, kind: 'mention' | 'reply'): void => {
    if (to !== told.by) found.push({ to, kind, topic, once: `c${told.comment} ${kind}`, data: {} })
  }
  for (const to of called) tell(to, 'mention')
  if (told.op === 'say' && told.thread !== BENCH)
    for (const to of new Set(speakers)) if (!called.has(to)) tell(to, 'reply')
  return found
}
