import type { Topic, TopicId } from '../tree/topic'
import { branch } from '../tree/walk'
import { topicOf, type Tree } from '../tree/tree'
import { itemOf, itemsOf } from './agenda'
import { type Brief, briefOf } from './brief'
import { digestOf } from './digest'

/*
 * Read beforehand: who has opened what the meeting is about since it was filled in, so that nobody sees it there for the
 * first time. A section counts as it stands: the words of its branch have a digest, and whoever opened it in other words
 * has read it before it changed. A document never changes, so having opened it is enough.
 */

/** Who opened what, as the server keeps it. */
export interface OpenedThings {
  /** The digest that a section had when somebody opened it last; by item, then by person. */
  readonly sections: ReadonlyMap<TopicId, ReadonlyMap<string, string>>
  /** Who opened a document; by its address. */
  readonly files: ReadonlyMap<string, ReadonlySet<string>>
}

/** 'read': as it stands. 'before': in other words than it has now. 'not': something of it was never opened. */
export type HasRead = 'read' | 'before' | 'not'

const known = new WeakMap<Topic, string>()
/** What of a topic is read. Topics never change, and their notes may be long: each is gone through once. */
function wordsOf(topic: Topic): string {
  const before = known.get(topic)
  if (before !== undefined) return before
  const { title, note, links, files } = topic
  const digest = digestOf(JSON.stringify([title, note, links.map(({ url }) => url), files.map(({ file }) => file)]))
  known.set(topic, digest)
  return digest
}

/** What tells the words of a section from others: its titles, notes, links and files, in their order. */
export const sectionDigest = (tree: Tree, item: TopicId): string =>
  digestOf(Array.from(branch(tree, item), wordsOf).join(' '))

/** The documents of an item, by address. */
export const documentsToRead = (tree: Tree, item: TopicId): string[] => [
  ...new Set(Array.from(branch(tree, item), ({ files }) => files.map(({ file }) => file)).flat()),
]

/** Whether an item has something that can be read before the meeting. */
export const hasToRead = (tree: Tree, item: TopicId): boolean =>
  itemOf(topicOf(tree, item)).ready || documentsToRead(tree, item).length > 0

/** Whoever is needed, has an account and was invited reads it; not who owns the item, since they wrote it. */
export function readersOf(brief: Brief, owners: readonly string[]): string[] {
  const invited = new Set(brief.invitation?.to.map(({ id }) => id))
  return brief.people.flatMap(({ id, user, needed }) =>
    needed && user !== null && invited.has(id) && !owners.includes(user) ? [user] : [],
  )
}

/** How far one person is with an item. */
export function hasReadItem(tree: Tree, item: TopicId, user: string, opened: OpenedThings): HasRead {
  if (documentsToRead(tree, item).some(file => !opened.files.get(file)?.has(user))) return 'not'
  if (!itemOf(topicOf(tree, item)).ready) return 'read'
  const digest = opened.sections.get(item)?.get(user)
  return digest === undefined ? 'not' : digest === sectionDigest(tree, item) ? 'read' : 'before'
}

/** By item, how far each of its readers is; items without anything to read, or without readers, aren't there. */
export function readingOf(
  tree: Tree,
  meeting: TopicId,
  opened: OpenedThings,
): Record<TopicId, Record<string, HasRead>> {
  const brief = briefOf(topicOf(tree, meeting))
  const reading: Record<TopicId, Record<string, HasRead>> = {}
  for (const { id, owners } of itemsOf(tree, meeting)) {
    if (!hasToRead(tree, id)) continue
    const readers = readersOf(brief, owners)
    if (readers.length > 0)
      reading[id] = Object.fromEntries(readers.map(user => [user, hasReadItem(tree, id, user, opened)]))
  }
  return reading
}
