import { type Change, type Initial, isTreeChange, type TopicChange, type TreeChange } from './change'
import { LIMITS } from './limits'
import { mergeNote } from './note'
import { type Member, memberKey, SET_NAMES, type SetName, SETS } from './sets'
import { BLANK, newTopic, type Topic, type TopicId } from './topic'
import { swapTopic, type Tree } from './tree'
import { TREE_SETS, type TreeFields } from './tree-fields'

export type RefusalCode = 'missing' | 'exists' | 'loop' | 'centre' | 'full' | 'deep' | 'many' | 'note' | 'heavy'

/** Why a change can't be made. Carries words for the person and a code for the program. */
export class Refused extends Error {
  constructor(
    readonly code: RefusalCode,
    message: string,
  ) {
    super(message)
    this.name = 'Refused'
  }
}

/** What one change replaced, exactly; `unapply` puts it back. */
export interface Patch {
  readonly id: TopicId | null
  readonly before: Topic | undefined
  readonly after: Topic | undefined
  readonly fields?: TreeFields
}

function need(tree: Tree, id: TopicId): Topic {
  const topic = tree.topics.get(id)
  if (!topic) throw new Refused('missing', 'That topic isn’t in this tree.')
  return topic
}

/** Refuses a parent that is missing, is the topic itself or lies below it, or lies too deep. Cost: the depth. */
function checkParent(tree: Tree, parent: TopicId | null, moving: TopicId | null): void {
  let depth = 0
  for (let at = parent; at !== null;) {
    if (at === moving) throw new Refused('loop', 'A branch can’t be placed inside itself.')
    if (++depth > LIMITS.depth) throw new Refused('deep', `A tree holds ${LIMITS.depth} levels at most.`)
    at = need(tree, at).parent
  }
}

function withMember(topic: Topic, set: SetName, member: Member): Topic {
  const key = memberKey(member)
  const members: readonly Member[] = topic[set]
  const at = members.findIndex(other => memberKey(other) === key)
  const { most, name } = SETS[set]
  if (at < 0 && members.length >= most)
    throw new Refused(
      'many',
      set === 'meeting' || set === 'item'
        ? `A meeting holds ${most} parts at most.`
        : `A topic holds ${most} ${name} at most.`,
    )
  return { ...topic, [set]: at < 0 ? [...members, member] : members.with(at, member) }
}

function unique(members: readonly Member[]): readonly Member[] {
  return [...new Map(members.map(member => [memberKey(member), member])).values()]
}

/** Refuses a reference that would lead back to its own topic. Cost: the references on the way. */
function checkReference(tree: Tree, topic: TopicId, reference: Topic['reference']): void {
  const seen = new Set([topic])
  for (let at = reference; at !== null && at.tree === null;) {
    if (seen.has(at.topic)) throw new Refused('loop', 'These references would lead round in a circle.')
    seen.add(at.topic)
    at = tree.topics.get(at.topic)?.reference ?? null
  }
}

/** A note wherever it comes in: never bytes that nobody could read again. */
function joinNote(note: string | null, update: string): string {
  try {
    return mergeNote(note, update)
  } catch {
    throw new Refused('note', 'That note can’t be read.')
  }
}

function born(id: TopicId, parent: TopicId | null, order: string, given: Initial = {}): Topic {
  if (given.note) joinNote(null, given.note)
  const topic = Object.assign(newTopic(id, parent, order), given) as Topic
  for (const set of SET_NAMES) {
    const members = given[set]
    // Topics without members share one empty list.
    if (members) Object.assign(topic, { [set]: members.length > 0 ? unique(members) : BLANK[set] })
  }
  return topic
}

function next(tree: Tree, change: TopicChange): Topic {
  if (change.op === 'add') {
    if (tree.topics.has(change.topic)) throw new Refused('exists', 'That topic is already in this tree.')
    if (tree.topics.size >= LIMITS.topics)
      throw new Refused(
        'full',
        `A tree holds ${LIMITS.topics.toLocaleString('en')} topics at most, those in its trash included.`,
      )
    checkParent(tree, change.parent, null)
    if (change.with?.reference) checkReference(tree, change.topic, change.with.reference)
    return born(change.topic, change.parent, change.order, change.with)
  }
  const topic = need(tree, change.topic)
  switch (change.op) {
    case 'remove':
      if (topic.id === tree.centre) throw new Refused('centre', 'The centre names the tree and can’t be removed.')
      return topic.removed ? topic : { ...topic, removed: true }
    case 'restore':
      return topic.removed ? { ...topic, removed: false } : topic
    case 'place':
      if (topic.id === tree.centre) throw new Refused('centre', 'The centre can’t be placed under another topic.')
      checkParent(tree, change.parent, topic.id)
      return { ...topic, parent: change.parent, order: change.order }
    case 'set':
      if (change.field === 'reference') checkReference(tree, topic.id, change.value)
      return { ...topic, [change.field]: change.value }
    case 'put':
      return withMember(topic, change.set, change.member)
    case 'take': {
      const members: readonly Member[] = topic[change.set]
      const left = members.filter(member => memberKey(member) !== change.member)
      return left.length === members.length ? topic : { ...topic, [change.set]: left }
    }
    case 'note':
      return { ...topic, note: joinNote(topic.note, change.update) }
  }
}

function nextFields(fields: TreeFields, change: TreeChange): TreeFields {
  if (change.op === 'tree') return { ...fields, [change.field]: change.value }
  const key = change.op === 'tree-take' ? change.member : change.member.id
  const members: readonly { readonly id: string }[] = fields[change.set]
  const at = members.findIndex(other => other.id === key)
  if (change.op === 'tree-take') return at < 0 ? fields : { ...fields, [change.set]: members.toSpliced(at, 1) }
  if (at < 0 && members.length >= TREE_SETS[change.set].most)
    throw new Refused('many', `A tree keeps ${TREE_SETS[change.set].most} ${TREE_SETS[change.set].name} at most.`)
  return { ...fields, [change.set]: at < 0 ? [...members, change.member] : members.with(at, change.member) }
}

/**
 * Makes one change. Returns what it replaced; throws `Refused` and leaves the tree as it was when it can't be made.
 * Cost: what the change touches and the depth, never the tree.
 */
export function applyChange(tree: Tree, change: Change): Patch {
  if (isTreeChange(change)) {
    const patch: Patch = { id: null, before: undefined, after: undefined, fields: tree.fields }
    tree.fields = nextFields(tree.fields, change)
    return patch
  }
  const before = tree.topics.get(change.topic)
  const after = next(tree, change)
  if (before !== after) swapTopic(tree, change.topic, before, after)
  return { id: change.topic, before, after }
}

/** Takes changes back, the last first. Exact when the tree is as the changes left it. */
export function unapply(tree: Tree, patches: readonly Patch[]): void {
  for (let i = patches.length - 1; i >= 0; i--) {
    const { id, before, after, fields } = patches[i]!
    if (id === null) tree.fields = fields!
    else if (before !== after) swapTopic(tree, id, after, before)
  }
}

/** Makes all changes of an edit or none of them. Throws `Refused`, the tree then being as it was. */
export function applyChanges(tree: Tree, changes: readonly Change[]): Patch[] {
  const patches: Patch[] = []
  try {
    for (const change of changes) patches.push(applyChange(tree, change))
  } catch (error) {
    unapply(tree, patches)
    throw error
  }
  return patches
}
