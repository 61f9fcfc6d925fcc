import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import type { Change, Initial } from '../tree/change'
import type { Intent, ItemPart } from '../tree/meeting'
import { roomAt } from '../tree/order'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { briefOf, instantOfStart, takePart } from './brief'
import { plannedStarts, type Running, type TimedItem } from './clock'
import { wallTime } from './zones'

/*
 * The agenda: lines of the brief until it's laid out, topics of the tree from then on. There is one truth at any time:
 * a line that is laid out becomes a topic and stops being a line.
 */

/** An item as it's read. */
export interface AgendaItem {
  readonly id: TopicId
  readonly title: string
  readonly intent: Intent
  /** Whole minutes planned; null while nobody has said. */
  readonly minutes: number | null
  readonly floor: number
  /** What a cut left it with; null when it wasn't cut. */
  readonly cut: number | null
  readonly owners: readonly string[]
  readonly serves: readonly string[]
  readonly pattern: readonly string[]
  readonly asked: Extract<ItemPart, { kind: 'asked' }> | null
  readonly ready: boolean
  /** Milliseconds that were spent on it. */
  readonly spent: number
  /** Whether it has been dealt with while the meeting ran. */
  readonly closed: boolean
}

/** Minutes that a cut leaves an item when nobody has said how many. Common practice, no source. */
export const USUAL_FLOOR = 1

const known = new WeakMap<Topic, AgendaItem>()

export function itemOf(topic: Topic): AgendaItem {
  const made = known.get(topic)
  if (made) return made
  const { item } = topic
  const one = <K extends ItemPart['kind']>(kind: K): Extract<ItemPart, { kind: K }> | null =>
    item.find((part): part is Extract<ItemPart, { kind: K }> => part.kind === kind) ?? null
  const minutes = one('minutes')?.minutes ?? null
  const read: AgendaItem = {
    id: topic.id,
    title: topic.title,
    intent: one('intent')?.intent ?? 'discuss',
    minutes,
    floor: Math.min(one('floor')?.minutes ?? USUAL_FLOOR, minutes ?? USUAL_FLOOR),
    cut: one('cut')?.minutes ?? null,
    owners: topic.people,
    serves: item.filter(part => part.kind === 'serves').map(part => part.id),
    pattern: one('pattern')?.parts ?? [],
    asked: one('asked'),
    ready: one('ready') !== null,
    spent: one('spent')?.ms ?? 0,
    closed: one('closed') !== null,
  }
  known.set(topic, read)
  return read
}

/** The items of a meeting in reading order. What hangs below an item belongs to it. */
export function itemsOf(tree: Tree, meeting: TopicId): AgendaItem[] {
  const items: AgendaItem[] = []
  const walk = (parent: TopicId): void => {
    for (const id of childrenOf(tree, parent)) {
      const topic = topicOf(tree, id)
      if (topic.item.length > 0) items.push(itemOf(topic))
      else if (topic.meeting.length === 0) walk(id)
    }
  }
  walk(meeting)
  return items
}

/** An item as the clock counts it: what a cut left, where there was one. */
export function timed(item: AgendaItem): TimedItem {
  const minutes = item.cut ?? item.minutes ?? 0
  return { id: item.id, minutes, floor: Math.min(item.floor, minutes) }
}

/** How a meeting stands, for the clock; null when it isn't running. */
export function runningOf(tree: Tree, meeting: TopicId): Running | null {
  const { run, stage } = briefOf(topicOf(tree, meeting))
  if (!run || stage !== 'running') return null
  const items = itemsOf(tree, meeting)
  const current = run.current === null ? items.length : items.findIndex(item => item.id === run.current)
  const closed = new Set(items.filter(item => item.closed).map(({ id }) => id))
  // A meeting that was begun before items were closed one by one has been through those before the current one.
  const inOrder =
    closed.size === 0 && run.step > 1 && items.slice(0, Math.max(0, current)).every(({ spent }) => spent > 0)
  return {
    current: current < 0 ? items.length : current,
    spent: new Map(items.map(({ id, spent }) => [id, spent])),
    since: run.since,
    ...(inOrder ? {} : { closed }),
  }
}

/** Minutes that the items and the lines not laid out yet take. */
export function minutesNeeded(tree: Tree, meeting: TopicId): number {
  const { lines } = briefOf(topicOf(tree, meeting))
  return [...itemsOf(tree, meeting), ...lines].reduce((sum, { minutes }) => sum + (minutes ?? 0), 0)
}

/**
 * Minutes the meeting takes in calendars: what was set aside, or what its items need; an hour while neither is known.
 */
export function lengthOfMeeting(tree: Tree, meeting: TopicId): number {
  return briefOf(topicOf(tree, meeting)).slot ?? (minutesNeeded(tree, meeting) || 60)
}

/**
 * From when a meeting's times count: as planned, or, where it was begun on another day than planned (or none was), from
 * when it was begun. Begun late on its day it still should end on time; held a day early, it can't.
 */
export function startForClock(tree: Tree, meeting: TopicId): number | null {
  const brief = briefOf(topicOf(tree, meeting))
  const start = instantOfStart(brief)
  if (!brief.run) return start
  return start !== null && brief.begins && wallTime(brief.run.began, brief.begins.zone).day === brief.begins.day
    ? start
    : brief.run.began
}

/** When a meeting should end (ms since 1970 UTC); null while nobody has said when it begins. */
export function plannedEnd(tree: Tree, meeting: TopicId): number | null {
  const start = startForClock(tree, meeting)
  return start === null ? null : start + lengthOfMeeting(tree, meeting) * 60_000
}

/** The planned start of each item (ms since 1970 UTC); none while the meeting has no start. */
export function itemStarts(tree: Tree, meeting: TopicId): Map<TopicId, number> {
  const start = startForClock(tree, meeting)
  if (start === null) return new Map()
  const items = itemsOf(tree, meeting)
  const starts = plannedStarts(
    start,
    items.map(({ minutes }) => ({ minutes: minutes ?? 0 })),
  )
  return new Map(items.map(({ id }, i) => [id, starts[i]!]))
}

/**
 * The id of a sub-item that a pattern lays into an item: the same each time, so that laying it again finds it, renamed
 * or removed or not.
 */
export function patternId(item: TopicId, part: string): TopicId {
  let hash = 0
  for (const letter of part.trim().toLowerCase()) hash = (Math.imul(hash, 31) + letter.codePointAt(0)!) >>> 0
  return `${item.slice(0, 30)}-${hash.toString(36)}`
}

function layPattern(tree: Tree, item: TopicId, parts: readonly string[], children: readonly TopicId[]): Change[] {
  const titles = new Set(children.map(id => topicOf(tree, id).title.trim().toLowerCase()))
  const missing = parts.filter(
    part => !tree.topics.has(patternId(item, part)) && !titles.has(part.trim().toLowerCase()),
  )
  const last = children.at(-1)
  const orders = generateNKeysBetween(last === undefined ? null : topicOf(tree, last).order, null, missing.length)
  return missing.map((title, i) => ({
    op: 'add',
    topic: patternId(item, title),
    parent: item,
    order: orders[i]!,
    with: { title },
  }))
}

/**
 * Where new items go: after the last one, and before whatever else hangs from the meeting only when there is none yet.
 */
function ordersOfNew(
  tree: Tree,
  meeting: TopicId,
  count: number,
): { parent: TopicId; orders: readonly string[]; aside: readonly Change[] } {
  const items = itemsOf(tree, meeting)
  const parent = items.length > 0 ? (topicOf(tree, items.at(-1)!.id).parent ?? meeting) : meeting
  const after = items.length > 0 ? childrenOf(tree, parent).indexOf(items.at(-1)!.id) : -1
  const { keys, aside } = roomAt(tree, parent, after + 1, count)
  return { parent, orders: keys, aside }
}

/**
 * The changes that lay the agenda out: each line becomes a topic with its owner, minutes and pattern; each item gets
 * what its pattern has and it hasn't. Nothing that is there is written over or made twice; done again, there is nothing
 * to do.
 */
export function layOut(tree: Tree, meeting: TopicId): Change[] {
  const { lines } = briefOf(topicOf(tree, meeting))
  const changes: Change[] = itemsOf(tree, meeting).flatMap(({ id, pattern }) =>
    layPattern(tree, id, pattern, childrenOf(tree, id)),
  )
  const fresh = lines.filter(line => !tree.topics.has(line.id))
  const { parent, orders, aside } = ordersOfNew(tree, meeting, fresh.length)
  if (fresh.length > 0) changes.push(...aside)
  fresh.forEach((line, i) => {
    changes.push({ op: 'add', topic: line.id, parent, order: orders[i]!, with: itemFrom(line) })
    const keys = generateNKeysBetween(null, null, line.pattern.length)
    line.pattern.forEach((title, n) =>
      changes.push({ op: 'add', topic: patternId(line.id, title), parent: line.id, order: keys[n]!, with: { title } }),
    )
  })
  for (const line of lines) changes.push(takePart(meeting, line.id))
  return changes
}

type LineLike = Pick<AgendaItem, 'title' | 'intent' | 'minutes' | 'serves' | 'pattern'> & {
  readonly floor: number | null
  readonly owner: string | null
  readonly wish?: string | undefined
}

/** What a new item topic is born with. */
export function itemFrom({ title, intent, minutes, floor, owner, wish, serves, pattern }: LineLike): Initial {
  const parts: ItemPart[] = [{ id: 'intent', kind: 'intent', intent }]
  if (minutes !== null) parts.push({ id: 'minutes', kind: 'minutes', minutes })
  if (floor !== null) parts.push({ id: 'floor', kind: 'floor', minutes: floor })
  if (pattern.length > 0) parts.push({ id: 'pattern', kind: 'pattern', parts: [...pattern] })
  if (owner === null && wish) parts.push({ id: 'wish', kind: 'wish', name: wish })
  for (const id of serves) parts.push({ id, kind: 'serves' })
  return { title, item: parts, ...(owner !== null ? { people: [owner] } : {}) }
}

/** Puts one part of an item in place of the one with its id. */
export function sayItem(item: TopicId, part: ItemPart): Change {
  return { op: 'put', topic: item, set: 'item', member: part }
}

export function takeItem(item: TopicId, part: string): Change {
  return { op: 'take', topic: item, set: 'item', member: part }
}

/** The changes that hand a topic to one person alone, or with null to nobody. */
export function handTo({ id, people }: Pick<Topic, 'id' | 'people'>, owner: string | null): Change[] {
  const off = people
    .filter(one => one !== owner)
    .map((member): Change => ({ op: 'take', topic: id, set: 'people', member }))
  return owner === null || people.includes(owner)
    ? off
    : [...off, { op: 'put', topic: id, set: 'people', member: owner }]
}

/** The key that puts something last in a list by order. */
export function lastKey(list: readonly { readonly order: string }[]): string {
  return generateKeyBetween(list.at(-1)?.order ?? null, null)
}

/** The changes that move an item one up (-1) or down (1) among its siblings that are items. */
export function moveItem(tree: Tree, item: TopicId, by: 1 | -1): Change[] {
  const { parent } = topicOf(tree, item)
  const siblings = childrenOf(tree, parent).filter(id => topicOf(tree, id).item.length > 0)
  const at = siblings.indexOf(item)
  const beyond = siblings[at + by]
  if (at < 0 || beyond === undefined) return []
  const all = childrenOf(tree, parent)
  const { keys, aside } = roomAt(tree, parent, all.indexOf(beyond) + (by > 0 ? 1 : 0), 1, new Set([item]))
  return [{ op: 'place', topic: item, parent, order: keys[0]! }, ...aside]
}
