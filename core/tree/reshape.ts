import { besideSlot, movable, moveTo, type Step } from './actions'
import { evenSplit, splitAfter } from './split'
import type { Change } from './change'
import { roomAt } from './order'
import type { Topic, TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'
import { inReadingOrder, placeOf } from './walk'

export type SortKey = 'title' | 'due' | 'start' | 'priority' | 'done' | 'figure'

/** Names in the order of a language, numbers in them by their value. */
export const collator = (locale: string): Intl.Collator =>
  new Intl.Collator([locale, 'en'], { numeric: true, sensitivity: 'base' })

const comparers: Record<Exclude<SortKey, 'title'>, (a: Topic, b: Topic) => number> = {
  due: (a, b) => lastWhenNone(a.due, b.due),
  start: (a, b) => lastWhenNone(a.start, b.start),
  priority: (a, b) => lastWhenNone(a.priority, b.priority),
  done: (a, b) => (a.done ?? 0) - (b.done ?? 0),
  figure: (a, b) => lastWhenNone(negative(figureIn(a.title)), negative(figureIn(b.title))),
}

const negative = (value: number | null): number | null => (value === null ? null : -value)

/** Thousands by one and the same mark, in groups of three that aren't led by a zero; then decimals. */
const FIGURE =
  /(?<![\p{L}\d])(?<sign>[−-])?(?<whole>[1-9]\d{0,2}(?<mark>[\u0020\u00A0\u202F.,'’])\d{3}(?!\d)(?:\k<mark>\d{3}(?!\d))*|\d+)(?:[.,](?<decimals>\d+))?(?!\p{L})/gu

/**
 * The figure that a title names: its last number, as people write them: "14 350", "14,350" and "14.350,50" have
 * thousands in groups of three, "12.5", "0.125" and "3.14159" have decimals. Null when there is none.
 */
export function figureIn(title: string): number | null {
  const said = [...title.matchAll(FIGURE)].at(-1)?.groups
  if (!said) return null
  return (said.sign ? -1 : 1) * Number(`${said.whole!.replace(/\D/g, '')}.${said.decimals ?? '0'}`)
}

function lastWhenNone<T extends string | number>(a: T | null, b: T | null): number {
  if (a === b) return 0
  if (a === null) return 1
  return b === null ? -1 : a < b ? -1 : 1
}

/**
 * Puts a topic's children in order; equal ones keep theirs. Topics without a value come last; figures go from the
 * largest down.
 */
export function sortChildren(tree: Tree, parent: TopicId, key: SortKey, locale = 'en'): Step {
  const names = collator(locale)
  const compare = key === 'title' ? (a: Topic, b: Topic): number => names.compare(a.title, b.title) : comparers[key]
  return reorder(
    tree,
    parent,
    [...childrenOf(tree, parent)].sort((a, b) => compare(topicOf(tree, a), topicOf(tree, b))),
  )
}

/** Puts a topic's children in the order of what each has, the least first; equal ones keep theirs, null comes last. */
export function sortChildrenBy(tree: Tree, parent: TopicId, valueOf: (topic: Topic) => number | null): Step {
  const values = new Map(childrenOf(tree, parent).map(id => [id, valueOf(topicOf(tree, id))]))
  return reorder(
    tree,
    parent,
    [...values.keys()].sort((a, b) => lastWhenNone(values.get(a)!, values.get(b)!)),
  )
}

export function reverseChildren(tree: Tree, parent: TopicId): Step {
  return reorder(tree, parent, [...childrenOf(tree, parent)].reverse())
}

/**
 * Gives siblings a new order, with new keys for as few as possible: those outside the longest run that is in order
 * already.
 */
function reorder(tree: Tree, parent: TopicId, wanted: readonly TopicId[]): Step {
  const now = childrenOf(tree, parent)
  const placeOfNow = new Map(now.map((id, i) => [id, i]))
  const staying = new Set(longestRising(wanted.map(id => placeOfNow.get(id)!)).map(index => now[index]!))
  const leaving = new Set(now.filter(id => !staying.has(id)))
  const changes: Change[] = []
  let at = 0
  while (at < wanted.length) {
    if (staying.has(wanted[at]!)) {
      at++
      continue
    }
    let end = at
    while (end < wanted.length && !staying.has(wanted[end]!)) end++
    const moving = wanted.slice(at, end)
    const next = end < wanted.length ? placeOfNow.get(wanted[end]!)! : now.length
    const { keys, aside } = roomAt(tree, parent, next, moving.length, leaving)
    changes.push(...aside, ...moving.map((topic, i): Change => ({ op: 'place', topic, parent, order: keys[i]! })))
    at = end
  }
  return { changes, made: [...wanted] }
}

/** The values of a longest rising subsequence (Schensted 1961; patience sorting), O(n log n). */
export function longestRising(values: readonly number[]): number[] {
  const tails: number[] = []
  const before = new Array<number>(values.length).fill(-1)
  for (const [i, value] of values.entries()) {
    let low = 0
    let high = tails.length
    while (low < high) {
      const middle = (low + high) >>> 1
      if (values[tails[middle]!]! < value) low = middle + 1
      else high = middle
    }
    before[i] = low > 0 ? tails[low - 1]! : -1
    tails[low] = i
  }
  const rising: number[] = []
  for (let at = tails.at(-1) ?? -1; at >= 0; at = before[at]!) rising.push(values[at]!)
  return rising.reverse()
}

/**
 * One topic of several: the first keeps its place and takes the others' titles, children, markers, people, links and
 * note text. The others are removed. Only siblings and loose topics join; taking it back leaves note text where it was
 * joined.
 */
export function joinTopics(tree: Tree, ids: Iterable<TopicId>): Step {
  const all = inReadingOrder(
    tree,
    [...new Set(ids)].filter(id => id !== tree.centre),
  )
  const first = all[0]
  if (first === undefined || all.length < 2) return { changes: [], made: [] }
  const { parent } = topicOf(tree, first)
  const others = all.slice(1).filter(id => topicOf(tree, id).parent === parent)
  if (others.length === 0) return { changes: [], made: [] }
  const kept = topicOf(tree, first)
  const titles = [kept, ...others.map(id => topicOf(tree, id))].map(topic => topic.title.trim()).filter(Boolean)
  const changes: Change[] = [
    {
      op: 'set',
      topic: first,
      field: 'title',
      value: titles.join(titles.some(title => title.includes('\n')) ? '\n' : ' '),
    },
  ]
  const joining = others.flatMap(id => [...childrenOf(tree, id)])
  const { keys, aside } = roomAt(tree, first, childrenOf(tree, first).length, joining.length)
  changes.push(...aside, ...joining.map((topic, i): Change => ({ op: 'place', topic, parent: first, order: keys[i]! })))
  for (const id of others) {
    const { markers, people, links, note } = topicOf(tree, id)
    changes.push(...markers.map((member): Change => ({ op: 'put', topic: first, set: 'markers', member })))
    changes.push(...people.map((member): Change => ({ op: 'put', topic: first, set: 'people', member })))
    changes.push(...links.map((member): Change => ({ op: 'put', topic: first, set: 'links', member })))
    if (note !== null) changes.push({ op: 'note', topic: first, update: note })
    changes.push({ op: 'remove', topic: id })
  }
  return { changes, made: [first] }
}

/**
 * The pieces of a title: its lines, else its sentences, else what stands between semicolons or commas. One piece when
 * there's nothing to split at.
 */
export function piecesOf(title: string): string[] {
  for (const at of [/\n+/, /(?<=[.!?…])\s+/, /\s*;\s+/, /\s*,\s+/]) {
    const pieces = title
      .split(at)
      .map(piece => piece.trim())
      .filter(Boolean)
    if (pieces.length > 1) return pieces
  }
  return [title]
}

/** Several topics of one: it keeps the first piece and its children, the others come right after it. */
export function splitTopic(tree: Tree, id: TopicId, newId: () => TopicId): Step {
  const topic = topicOf(tree, id)
  const [first, ...rest] = piecesOf(topic.title)
  if (id === tree.centre || rest.length === 0) return { changes: [], made: [] }
  const { keys, aside } = roomAt(tree, topic.parent, placeOf(tree, id) + 1, rest.length)
  const made = rest.map(() => newId())
  const with_ = topic.tray ? { tray: true } : {}
  return {
    changes: [
      { op: 'set', topic: id, field: 'title', value: first! },
      ...aside,
      ...rest.map((title, i): Change => ({
        op: 'add',
        topic: made[i]!,
        parent: topic.parent,
        order: keys[i]!,
        with: { title, ...with_ },
      })),
    ],
    made: [id, ...made],
  }
}

/**
 * Takes branches apart: the children come up to where their parent stood, and the parent is removed. Of a topic and one
 * below it, only the upper is taken apart: what hangs on the lower would else be placed under a parent that is going.
 */
export function takeApart(tree: Tree, ids: Iterable<TopicId>): Step {
  const changes: Change[] = []
  const made: TopicId[] = []
  for (const id of movable(tree, ids)) {
    const { parent, x, y } = topicOf(tree, id)
    const kids = childrenOf(tree, id)
    if (kids.length === 0) continue
    const step = moveTo(tree, kids, besideSlot(tree, id, 'after'))
    changes.push(...step.changes)
    // Loose, the children stand below one another where their parent stood.
    if (parent === null && x !== null && y !== null)
      kids.forEach((topic, i) =>
        changes.push({ op: 'set', topic, field: 'x', value: x }, { op: 'set', topic, field: 'y', value: y + i * 60 }),
      )
    changes.push({ op: 'remove', topic: id })
    made.push(...kids)
  }
  return { changes, made }
}

/** Splits the children of a topic where both its sides are about equally tall. `heights` as they're drawn. */
export function evenSides(tree: Tree, parent: TopicId, heights: ReadonlyMap<TopicId, number>): Step {
  const right = evenSplit(childrenOf(tree, parent).map(id => heights.get(id) ?? 1))
  return { changes: splitAfter(tree, parent, [], right), made: [] }
}
