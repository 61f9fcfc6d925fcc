import { sameNote } from '../tree/note'
import { type Field, FIELD_ENTRIES, FIELDS } from '../tree/fields'
import { SETS } from '../tree/sets'
import { STYLE_FIELDS } from '../tree/style-fields'
import type { Topic, TopicId } from '../tree/topic'
import { movedAmong } from './moves'
import { isLive, type Tree } from '../tree/tree'
import { pathTo } from '../tree/walk'

/*
 * What is different between two states of one tree, topic by topic. Topics are matched by identity. A branch that went
 * or came counts once for each of its topics, so that nothing hides behind its top.
 */

export type DifferenceKind = 'added' | 'removed' | 'moved' | 'changed'

export interface Difference {
  readonly id: TopicId
  readonly kind: DifferenceKind
  readonly title: string
  /** Titles from the centre down to the parent, as they are now (as they were, for what went). */
  readonly path: readonly string[]
  /** For 'changed': the fields, in words of the API. */
  readonly fields: readonly (keyof Topic)[]
  /** What the title was, where it's another one now. */
  readonly was: string | null
}

/** Fields that say where a topic stands, not what it is. */
const PLACE: ReadonlySet<keyof Topic> = new Set<keyof Topic>([
  'id',
  'parent',
  'order',
  'removed',
  ...FIELD_ENTRIES.flatMap(([name, { standing }]) => (standing ? [name] : [])),
])

/** What a person calls one of the fields that changed; everything that dresses a topic is its look. */
export function fieldInWords(name: keyof Topic): string {
  if (name in STYLE_FIELDS || name === 'hue') return 'look'
  if (name in FIELDS) return FIELDS[name as Field].name
  return name in SETS ? SETS[name as keyof typeof SETS].name : name
}

function changedFields(before: Topic, after: Topic): (keyof Topic)[] {
  return (Object.keys(after) as (keyof Topic)[]).filter(
    key =>
      !PLACE.has(key) &&
      before[key] !== after[key] &&
      (key === 'note'
        ? !sameNote(before.note, after.note)
        : JSON.stringify(before[key]) !== JSON.stringify(after[key])),
  )
}

const NOTHING: ReadonlySet<TopicId> = new Set()

/** Topics that changed places among the same siblings: as few as explain the new order. */
function shiftedIn(before: Tree, after: Tree): ReadonlySet<TopicId> {
  const found = new Set<TopicId>()
  for (const [parent, children] of after.children) {
    const old = before.children.get(parent)
    if (!old || old === children || parent === '') continue
    for (const id of movedAmong(old, children)) found.add(id)
  }
  return found
}

/**
 * The differences, in the order in which the topics came into the later state, what went last. With `order`, topics that
 * only changed places among their siblings count as moved too, as few of them as explain it. Cost: all topics of both.
 */
export function differencesOf(before: Tree, after: Tree, { order = false }: { order?: boolean } = {}): Difference[] {
  const found: Difference[] = []
  const gone: Difference[] = []
  const pathOf = (tree: Tree, id: TopicId): string[] =>
    pathTo(tree, id)
      .slice(0, -1)
      .map(({ title }) => title)
  const shifted = order ? shiftedIn(before, after) : NOTHING
  for (const topic of after.topics.values()) {
    const old = before.topics.get(topic.id)
    const [was, is] = [old !== undefined && isLive(before, topic.id), isLive(after, topic.id)]
    if (!was && is)
      found.push({
        id: topic.id,
        kind: 'added',
        title: topic.title,
        path: pathOf(after, topic.id),
        fields: [],
        was: null,
      })
    else if (was && !is)
      gone.push({
        id: topic.id,
        kind: 'removed',
        title: old!.title,
        path: pathOf(before, topic.id),
        fields: [],
        was: null,
      })
    if (!was || !is || !old) continue
    if (old.parent !== topic.parent || shifted.has(topic.id))
      found.push({
        id: topic.id,
        kind: 'moved',
        title: topic.title,
        path: pathOf(after, topic.id),
        fields: [],
        was: null,
      })
    const fields = changedFields(old, topic)
    if (fields.length > 0)
      found.push({
        id: topic.id,
        kind: 'changed',
        title: topic.title,
        path: pathOf(after, topic.id),
        fields,
        was: old.title === topic.title ? null : old.title,
      })
  }
  for (const topic of before.topics.values())
    if (!after.topics.has(topic.id) && isLive(before, topic.id))
      gone.push({
        id: topic.id,
        kind: 'removed',
        title: topic.title,
        path: pathOf(before, topic.id),
        fields: [],
        was: null,
      })
  return [...found, ...gone]
}
