import { CONTENT_NAMES, isBlank, newTopic, type Topic } from './topic'
import { emptyTree, type Tree } from './tree'
import { FRESH_FIELDS } from './tree-fields'
import { giveBranchHues } from './branch-hue'
import { splitAsSided } from './split'
import { EDIT_FORMAT, upgradeFields, upgradeTopics } from './upgrade'
import { compareSiblings } from './siblings'

type Lean = Pick<Topic, 'id' | 'parent' | 'order'> & Partial<Topic>

/** A whole tree as it is stored and sent: each topic without what is blank. Holds the trash too. */
export interface Snapshot {
  /** The format it was written in; the first where it isn't said. */
  readonly format?: number | undefined
  readonly centre: string
  readonly fields: Tree['fields']
  readonly topics: readonly Lean[]
}

function lean(topic: Topic): Lean {
  const out: Record<string, unknown> = { id: topic.id, parent: topic.parent, order: topic.order }
  for (const key of CONTENT_NAMES) {
    const value = topic[key]
    if (!isBlank(key, value)) out[key] = value
  }
  return out as unknown as Lean
}

export function toSnapshot(tree: Tree): Snapshot {
  return {
    format: EDIT_FORMAT,
    centre: tree.centre,
    fields: tree.fields,
    topics: Array.from(tree.topics.values(), lean),
  }
}

/** From this format on main branches have a colour of their own. */
const WITH_BRANCH_HUES = 3
/** And from this one on, one split instead of a side each. */
const WITH_SPLITS = 4

/**
 * Builds a tree in one pass; the indexes are sorted once at the end. Throws `RangeError` when the centre is missing or the
 * format is a newer one.
 */
export function fromSnapshot(snapshot: Snapshot): Tree {
  const topics = new Map<string, Topic>()
  const children = new Map<string, string[]>()
  for (const item of upgradeTopics(snapshot.format ?? 1, snapshot.topics)) {
    const topic = Object.assign(newTopic(item.id, item.parent, item.order), item) as Topic
    topics.set(topic.id, topic)
    if (topic.removed || topic.id === snapshot.centre) continue
    const list = children.get(topic.parent ?? '')
    if (list) list.push(topic.id)
    else children.set(topic.parent ?? '', [topic.id])
  }
  for (const list of children.values()) list.sort((a, b) => compareSiblings(topics.get(a)!, topics.get(b)!))
  const centre = topics.get(snapshot.centre)
  if (!centre) throw new RangeError('a snapshot must hold its centre')
  const tree: Tree = {
    ...emptyTree(centre),
    topics,
    children,
    fields: { ...FRESH_FIELDS, ...upgradeFields(snapshot.format ?? 1, snapshot.fields) },
  }
  if ((snapshot.format ?? 1) < WITH_BRANCH_HUES) giveBranchHues(tree)
  if ((snapshot.format ?? 1) < WITH_SPLITS) {
    const sided = snapshot.topics as readonly (Lean & { readonly side?: unknown })[]
    splitAsSided(tree, new Set(sided.filter(({ side }) => side === 'left').map(({ id }) => id)))
  }
  return tree
}
