import { generateNKeysBetween } from 'fractional-indexing'
import { wellFormed } from './atoms'
import type { Change, Initial } from './change'
import { FIELD_ENTRIES } from './fields'
import { SET_ENTRIES } from './sets'
import { isBlank, type Topic, type TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'

/**
 * The neutral tree that every format reads into and writes from: topics without addresses and order keys.
 * `details` is whatever else a topic carries; notes in it are Yjs updates in base64.
 */
export interface OutlineItem {
  readonly title: string
  /** The topic it was read from, where cross-links or references of the same branch lead to it. */
  readonly from?: TopicId
  readonly details?: Omit<Initial, 'title'>
  readonly children: readonly OutlineItem[]
}

/** The fields that a copy takes along besides its title. */
const COPIED = FIELD_ENTRIES.flatMap(([name, { copied }]) => (copied === false || name === 'title' ? [] : [name]))

function detailsOf(topic: Topic): Omit<Initial, 'title'> | undefined {
  const details: Record<string, unknown> = {}
  for (const key of [...COPIED, 'note'] as const) if (!isBlank(key, topic[key])) details[key] = topic[key]
  for (const [key, spec] of SET_ENTRIES) {
    const members = spec.inCopies?.(topic[key]) ?? [...topic[key]]
    if (members.length > 0) details[key] = members
  }
  return Object.keys(details).length > 0 ? details : undefined
}

/** Another title and other details for a topic on its way out. */
export type Reword = (topic: Topic, details: OutlineItem['details']) => Pick<OutlineItem, 'title' | 'details'>

/**
 * The branch as neutral items, without what lies in the trash. `keep`: the topics that are taken; the root always is.
 * `reword`: what is said instead.
 */
export function toOutline(tree: Tree, root: TopicId, keep?: ReadonlySet<TopicId>, reword?: Reword): OutlineItem {
  const led = new Set<TopicId>()
  const gather = (id: TopicId): void => {
    const { ties, waits, reference } = topicOf(tree, id)
    for (const tie of ties) led.add(tie.to)
    for (const { on, elsewhere } of waits) if (!elsewhere) led.add(on)
    if (reference?.tree === null) led.add(reference.topic)
    for (const child of childrenOf(tree, id)) gather(child)
  }
  gather(root)
  const item = (id: TopicId): OutlineItem => {
    const topic = topicOf(tree, id)
    const own = detailsOf(topic)
    const { title, details } = reword?.(topic, own) ?? { title: topic.title, details: own }
    return {
      title,
      ...(led.has(id) ? { from: id } : {}),
      ...(details ? { details } : {}),
      children: (keep ? childrenOf(tree, id).filter(child => keep.has(child)) : childrenOf(tree, id)).map(item),
    }
  }
  return item(root)
}

/** How many topics the items are. */
export function countItems(items: readonly OutlineItem[]): number {
  return items.reduce((sum, item) => sum + 1 + countItems(item.children), 0)
}

/**
 * The changes that plant items below `parent`. `keys` hold an order key for each item of the first level;
 * keys further down are made here. Returns the new topics of the first level too.
 */
export function plant(
  items: readonly OutlineItem[],
  parent: TopicId | null,
  keys: readonly string[],
  newId: () => TopicId,
): { changes: Change[]; tops: TopicId[] } {
  const changes: Change[] = []
  const tops: TopicId[] = []
  const made = new Map<TopicId, TopicId>()
  const walk = (
    list: readonly OutlineItem[],
    under: TopicId | null,
    orders: readonly string[],
    first: boolean,
  ): void => {
    list.forEach((item, i) => {
      const topic = newId()
      if (first) tops.push(topic)
      if (item.from !== undefined) made.set(item.from, topic)
      const content = wellFormed({ title: item.title, ...item.details })
      changes.push({ op: 'add', topic, parent: under, order: orders[i]!, with: content })
      if (item.children.length > 0)
        walk(item.children, topic, generateNKeysBetween(null, null, item.children.length), false)
    })
  }
  walk(items, parent, keys, true)
  return { changes: made.size > 0 ? changes.map(change => leading(change, made)) : changes, tops }
}

/** Cross-links, dependencies and references between topics that are planted together lead to the new ones. */
function leading(change: Change, made: ReadonlyMap<TopicId, TopicId>): Change {
  if (change.op !== 'add' || !change.with) return change
  const { ties, waits, reference } = change.with
  const mapped = {
    ...(waits
      ? { waits: waits.map(wait => (wait.elsewhere ? wait : { ...wait, on: made.get(wait.on) ?? wait.on })) }
      : {}),
    ...(ties ? { ties: ties.map(tie => ({ ...tie, to: made.get(tie.to) ?? tie.to })) } : {}),
    ...(reference?.tree === null
      ? { reference: { tree: null, topic: made.get(reference.topic) ?? reference.topic } }
      : {}),
  }
  return { ...change, with: { ...change.with, ...mapped } }
}

/** Every file that the items show or carry. */
export function filesIn(items: readonly OutlineItem[]): string[] {
  const found = new Set<string>()
  const walk = (list: readonly OutlineItem[]): void => {
    for (const { details, children } of list) {
      if (details?.picture) found.add(details.picture.file)
      for (const { file, preview } of details?.files ?? []) {
        found.add(file)
        if (preview) found.add(preview.file)
      }
      walk(children)
    }
  }
  walk(items)
  return [...found]
}

/**
 * Items that were copied in another tree: references to topics that don't come along lead there, cross-links to them and
 * dependencies on them are left out, since those only tie topics of one tree; a dependency on a third tree stays one.
 */
export function fromElsewhere(items: readonly OutlineItem[], tree: string): OutlineItem[] {
  const along = new Set<TopicId>()
  const gather = (list: readonly OutlineItem[]): void => {
    for (const item of list) {
      if (item.from !== undefined) along.add(item.from)
      gather(item.children)
    }
  }
  gather(items)
  const moved = (item: OutlineItem): OutlineItem => {
    const { ties, waits, reference, ...rest } = item.details ?? {}
    const kept = ties?.filter(tie => along.has(tie.to)) ?? []
    const waiting = waits?.filter(({ on, elsewhere }) => elsewhere !== undefined || along.has(on)) ?? []
    const details = {
      ...rest,
      ...(kept.length > 0 ? { ties: kept } : {}),
      ...(waiting.length > 0 ? { waits: waiting } : {}),
      ...(reference
        ? { reference: reference.tree === null && !along.has(reference.topic) ? { ...reference, tree } : reference }
        : {}),
    }
    const { details: _, ...plain } = item
    return { ...plain, ...(Object.keys(details).length > 0 ? { details } : {}), children: item.children.map(moved) }
  }
  return items.map(moved)
}
