import type { Change, Initial } from '../tree/change'
import { entriesOf } from '../tree/field-spec'
import { type Field, FIELD_ENTRIES } from '../tree/fields'
import { noteBetween } from '../tree/note'
import { type Member, memberKey, SET_NAMES, type SetName } from '../tree/sets'
import { CONTENT_NAMES, isBlank, type Topic, type TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { TREE_FIELDS, TREE_SET_NAMES } from '../tree/tree-fields'

/*
 * The changes that make one state of a tree another, as one edit could make them. What the later state doesn't know goes to
 * the trash, since nothing is ever taken out of a tree. Topics are handled from the top down, so that a branch is never placed
 * under one that is still below it.
 */

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)

/** Every topic of a tree, those in the trash too, parents first. */
function fromTheTop(tree: Tree, branch: TopicId | null): Topic[] {
  const below = new Map<TopicId | null, Topic[]>()
  for (const topic of tree.topics.values()) {
    const list = below.get(topic.parent)
    if (list) list.push(topic)
    else below.set(topic.parent, [topic])
  }
  const found: Topic[] = branch === null ? [...(below.get(null) ?? [])] : [tree.topics.get(branch)!]
  for (const topic of found) found.push(...(below.get(topic.id) ?? []))
  return found
}

/**
 * The changes that lead from one state of a tree to another: of all of it with its own fields, or of one branch, whose place
 * stays as it is in `from` where it is there. Throws `RangeError` when `to` has no such branch. Cost: all topics of both.
 */
export function changesBetween(from: Tree, to: Tree, branch: TopicId | null = null): Change[] {
  if (branch !== null && !to.topics.has(branch)) throw new RangeError('there is no such branch at that moment')
  const changes: Change[] = branch === null ? treeChanges(from, to) : []
  const wanted = fromTheTop(to, branch)
  const ids = new Set(wanted.map(({ id }) => id))
  for (const topic of wanted) {
    const now = from.topics.get(topic.id)
    if (now) changes.push(...topicChanges(now, topic, topic.id === branch, to.centre))
    else changes.push(...birth(topic))
  }
  for (const id of strangers(from, branch, ids)) changes.push({ op: 'remove', topic: id })
  return changes
}

/** What of one topic is brought back: all that it is in itself, or one field, set or the note. */
export type TopicPart = 'whole' | 'note' | Field | SetName

/**
 * The changes that make one topic what it is in another state, and nothing below it; its place stays. Throws `RangeError`
 * when one of the states doesn't know it.
 */
export function topicBetween(from: Tree, to: Tree, id: TopicId, part: TopicPart = 'whole'): Change[] {
  const [now, wanted] = [from.topics.get(id), to.topics.get(id)]
  if (!now || !wanted) throw new RangeError('there is no such topic at that moment')
  const changes = topicChanges(now, wanted, true, to.centre)
  if (part === 'whole') return changes
  return changes.filter(change =>
    change.op === 'set'
      ? change.field === part
      : change.op === 'put' || change.op === 'take'
        ? change.set === part
        : change.op === 'note' && part === 'note',
  )
}

/** Topics that the other state doesn't know and that hang on one it knows: the uppermost of each branch. */
function strangers(from: Tree, branch: TopicId | null, known: ReadonlySet<TopicId>): TopicId[] {
  return [...from.topics.values()]
    .filter(
      ({ id, parent, removed }) =>
        !removed && !known.has(id) && (parent === null ? branch === null : known.has(parent)),
    )
    .map(({ id }) => id)
}

/** A topic that the tree hasn't. */
function birth(topic: Topic): Change[] {
  const content: Record<string, unknown> = {}
  for (const key of CONTENT_NAMES) if (key !== 'removed' && !isBlank(key, topic[key])) content[key] = topic[key]
  return [
    { op: 'add', topic: topic.id, parent: topic.parent, order: topic.order, with: content as Initial },
    ...(topic.removed ? [{ op: 'remove' as const, topic: topic.id }] : []),
  ]
}

function topicChanges(now: Topic, wanted: Topic, stands: boolean, centre: TopicId): Change[] {
  if (now === wanted) return []
  const { id } = wanted
  const changes: Change[] = []
  if (!stands && id !== centre && (now.parent !== wanted.parent || now.order !== wanted.order))
    changes.push({ op: 'place', topic: id, parent: wanted.parent, order: wanted.order })
  if (now.removed !== wanted.removed) changes.push({ op: wanted.removed ? 'remove' : 'restore', topic: id })
  for (const [field] of FIELD_ENTRIES)
    if (!same(now[field], wanted[field])) changes.push({ op: 'set', topic: id, field, value: wanted[field] } as Change)
  for (const set of SET_NAMES) {
    const { gone, put } = membersBetween<Member>(now[set], wanted[set], memberKey)
    changes.push(...gone.map((member): Change => ({ op: 'take', topic: id, set, member })))
    changes.push(...put.map(member => ({ op: 'put', topic: id, set, member }) as Change))
  }
  const update = noteBetween(now.note, wanted.note)
  if (update !== null) changes.push({ op: 'note', topic: id, update })
  return changes
}

/** What leaves a set and what is put into it so that it has these members in this order. */
function membersBetween<M>(
  now: readonly M[],
  wanted: readonly M[],
  keyOf: (member: M) => string,
): { gone: string[]; put: readonly M[] } {
  if (now === wanted || same(now, wanted)) return { gone: [], put: [] }
  const keys = new Set(wanted.map(keyOf))
  const gone = now.map(keyOf).filter(key => !keys.has(key))
  const left = now.filter(member => keys.has(keyOf(member)))
  const inOrder = left.every((member, i) => keyOf(member) === keyOf(wanted[i]!))
  // Members stand in the order in which they came: another order is only made by taking all.
  if (!inOrder) return { gone: now.map(keyOf), put: wanted }
  return { gone, put: wanted.filter((member, i) => !same(left[i], member)) }
}

function treeChanges(from: Tree, to: Tree): Change[] {
  const changes: Change[] = []
  for (const [field] of entriesOf(TREE_FIELDS))
    if (!same(from.fields[field], to.fields[field]))
      changes.push({ op: 'tree', field, value: to.fields[field] } as Change)
  for (const set of TREE_SET_NAMES) {
    const { gone, put } = membersBetween<{ readonly id: string }>(from.fields[set], to.fields[set], ({ id }) => id)
    changes.push(...gone.map((member): Change => ({ op: 'tree-take', set, member })))
    changes.push(...put.map(member => ({ op: 'tree-put', set, member }) as Change))
  }
  return changes
}
