import { type Change, isTreeChange } from '../tree/change'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { type Happening, tell } from './happenings'

/**
 * What changes that have been made already did, as far as the tree tells that they were made on: for saying at once what somebody else did,
 * where the tree before is gone. Without what was there before: a new title stands alone, a branch that went isn't counted. What says the
 * same of one topic is told once; nothing but the adding of a topic that is new.
 */
export function heardOf(tree: Tree, changes: readonly Change[]): Happening[] {
  const found = new Map<string, Happening>()
  const born = new Set<TopicId>()
  for (const change of changes) {
    const told = toldAfter(tree, change)
    if (!isTreeChange(change) && change.op === 'add') born.add(change.topic)
    if (!told || (told.topic !== null && told.kind !== 'added' && born.has(told.topic))) continue
    found.set(`${told.kind} ${told.topic ?? ''} ${told.what ?? ''}`, told)
  }
  return [...found.values()]
}

function toldAfter(tree: Tree, change: Change): Happening | null {
  if (isTreeChange(change)) return tell(tree, change)
  const topic = tree.topics.get(change.topic)
  if (!topic) return null
  const about = { topic: topic.id, title: topic.title }
  switch (change.op) {
    case 'remove':
      return topic.removed ? { ...about, kind: 'removed' } : null
    case 'place':
      return {
        ...about,
        kind: 'moved',
        under: topic.parent === null ? null : (tree.topics.get(topic.parent)?.title ?? null),
      }
    case 'set':
      return change.field === 'title' ? { ...about, kind: 'renamed' } : tell(tree, change)
    case 'put': {
      const told = tell(tree, change)
      // It stands there already: what it was isn't known any more.
      return told?.kind === 'figures' ? { ...told, before: null } : told
    }
    default:
      return tell(tree, change)
  }
}
