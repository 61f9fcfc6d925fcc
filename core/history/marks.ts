import type { Difference } from '../compare/differences'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { pathTo } from '../tree/walk'
import type { Happening } from './happenings'

/** A word of what happened to a topic, shown where it stands. */
export type Mark = 'new' | 'changed' | 'moved' | 'done' | 'named' | 'went below' | 'only here' | 'only there'
/** The same for a list, which has what went as well. In the order in which they are counted. */
export const NEWS_WORDS = ['new', 'changed', 'moved', 'done', 'went'] as const
export type NewsWord = (typeof NEWS_WORDS)[number]

/** The word for a difference; `after` is the later of the two trees. */
export function wordOf({ kind, fields, id }: Difference, after: Tree): NewsWord {
  if (kind === 'added') return 'new'
  if (kind === 'removed') return 'went'
  if (kind === 'moved') return 'moved'
  return fields.includes('done') && after.topics.get(id)?.done === 100 ? 'done' : 'changed'
}

/** One mark a topic: what is new stays new, whatever was done to it since. */
function put(marks: Map<TopicId, Mark>, id: TopicId, mark: Mark): void {
  if (marks.get(id) !== 'new') marks.set(id, mark)
}

/** What went leaves its mark on the nearest topic above it that is still there, unless that has a mark of its own. */
export function marksOfDifferences(
  differences: readonly Difference[],
  before: Tree,
  after: Tree,
): ReadonlyMap<TopicId, Mark> {
  const marks = new Map<TopicId, Mark>()
  for (const one of differences) {
    const word = wordOf(one, after)
    if (word !== 'went') put(marks, one.id, word)
  }
  for (const { id, kind } of differences) {
    if (kind !== 'removed') continue
    const above = pathTo(before, id).findLast(topic => topic.id !== id && isLive(after, topic.id))
    if (above && !marks.has(above.id)) marks.set(above.id, 'went below')
  }
  return marks
}

/**
 * Those differences that come from somebody else: `touched` has the topics that others changed. What went with a branch went with
 * whoever took the branch.
 */
export const byOthers = (
  differences: readonly Difference[],
  before: Tree,
  touched: ReadonlySet<TopicId>,
): readonly Difference[] =>
  differences.filter(({ id, kind }) =>
    kind === 'removed' ? pathTo(before, id).some(topic => touched.has(topic.id)) : touched.has(id),
  )

/** What edits, oldest first, did until a number, that one included. */
export function marksOf(
  edits: readonly { readonly number: number; readonly happenings: readonly Happening[] }[],
  until: number,
): ReadonlyMap<TopicId, Mark> {
  const marks = new Map<TopicId, Mark>()
  for (const { number, happenings } of edits) {
    if (number > until) break
    for (const { kind, topic, what, value } of happenings) {
      if (topic === null) continue
      if (kind === 'removed') marks.delete(topic)
      else if (kind === 'added' || kind === 'restored') marks.set(topic, 'new')
      else put(marks, topic, kind === 'moved' ? 'moved' : what === 'progress' && value === 100 ? 'done' : 'changed')
    }
  }
  return marks
}
