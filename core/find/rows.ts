import { endOfWeek } from '../schedule/day-words'
import { addDays } from '../schedule/days'
import { collator } from '../tree/reshape'
import { isTask, taskState, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { allTopics, roots } from '../tree/walk'
import { type FigureColumn, type Grouping, isFigureColumn, type OutlineShape } from '../tree/view'

/*
 * The rows of an outline: as the tree has them, with siblings in another order, or flat in groups. None of it changes
 * the tree.
 */

export type Row =
  | {
      readonly kind: 'topic'
      readonly id: TopicId
      readonly level: number
      /** Tells a topic that stands in two groups apart. */ readonly key: string
    }
  | { readonly kind: 'group'; readonly key: string; readonly name: string; readonly count: number }

export interface RowsAsked {
  readonly sort: OutlineShape['sort']
  readonly group: Grouping | null
  /** The one branch that is shown, or null. */
  readonly only: TopicId | null
  readonly today: string
  /** The person's locale: how names are ordered, and on which day weeks begin. */
  readonly locale?: string
  folded(id: TopicId): boolean
  hidden(id: TopicId): boolean
  /** Whether a topic is taken into a group; all are when nothing is looked for. */
  wanted(id: TopicId): boolean
  personName(id: string): string
  markerName(id: string): string
  /** What a plan says of a topic, to sort by; null where there is none, or the topic isn't planned. */
  planned?(id: TopicId): PlannedDays | null
  /** A figure of a topic, to sort by, in its measure's own unit; null where there is none. */
  figure?(id: TopicId, column: FigureColumn): bigint | null
}
/** What the plan computes of a topic: its days, and by how many working days it may slip. */
export interface PlannedDays {
  readonly start: string
  readonly finish: string
  readonly totalFloat: number | null
}

type SortBy = NonNullable<OutlineShape['sort']>['by']

type Planned = NonNullable<RowsAsked['planned']>
type Figure = NonNullable<RowsAsked['figure']>
const VALUES: Record<
  Exclude<SortBy, 'title' | FigureColumn>,
  (topic: Topic, planned: Planned) => string | number | null
> = {
  start: topic => topic.start,
  due: topic => topic.due,
  length: topic => topic.duration,
  done: topic => topic.done,
  priority: topic => topic.priority,
  begins: ({ id }, planned) => planned(id)?.start ?? null,
  ends: ({ id }, planned) => planned(id)?.finish ?? null,
  float: ({ id }, planned) => planned(id)?.totalFloat ?? null,
}

/**
 * Which of two siblings comes first. Those without a value come last, whichever way the order runs; equal ones keep
 * the tree's order.
 */
export function siblingOrder(
  { by, down }: NonNullable<OutlineShape['sort']>,
  locale = 'en',
  planned: Planned = () => null,
  figure: Figure = () => null,
): (a: Topic, b: Topic) => number {
  const sign = down ? -1 : 1
  if (by === 'title') {
    const names = collator(locale)
    return (a, b) => sign * names.compare(a.title, b.title)
  }
  const value = isFigureColumn(by) ? ({ id }: Topic) => figure(id, by) : VALUES[by]
  return (a, b) => {
    const [x, y] = [value(a, planned), value(b, planned)]
    if (x === y) return 0
    if (x === null) return 1
    if (y === null) return -1
    return x < y ? -sign : sign
  }
}

export function outlineRows(tree: Tree, asked: RowsAsked): Row[] {
  return asked.group === null ? nested(tree, asked) : grouped(tree, asked, asked.group)
}

function nested(tree: Tree, { sort, only, folded, hidden, locale, planned, figure }: RowsAsked): Row[] {
  const rows: Row[] = []
  const compare = sort && siblingOrder(sort, locale, planned, figure)
  const tops = only !== null && tree.topics.has(only) ? [only] : roots(tree)
  const stack: [TopicId, number][] = tops.map((id): [TopicId, number] => [id, 1]).reverse()
  while (stack.length > 0) {
    const [id, level] = stack.pop()!
    if (hidden(id)) continue
    rows.push({ kind: 'topic', id, level, key: id })
    if (id !== only && folded(id)) continue
    let kids = childrenOf(tree, id)
    if (compare && kids.length > 1) kids = [...kids].sort((a, b) => compare(topicOf(tree, a), topicOf(tree, b)))
    for (let i = kids.length - 1; i >= 0; i--) stack.push([kids[i]!, level + 1])
  }
  return rows
}

interface Place {
  readonly rank: string | number
  readonly name: string
  /** Tells two people of one name apart. */ readonly id?: string
}

const STATES = {
  open: { rank: 0, name: 'Not begun' },
  begun: { rank: 1, name: 'Under way' },
  done: { rank: 2, name: 'Done' },
} as const

/** The groups that a topic belongs to; none when it has nothing to do with the grouping. */
export function placesOf(
  topic: Topic,
  group: Grouping,
  { today, locale, personName, markerName }: Pick<RowsAsked, 'today' | 'locale' | 'personName' | 'markerName'>,
): Place[] {
  switch (group) {
    case 'person': {
      if (!isTask(topic)) return []
      return topic.people.length > 0
        ? topic.people.map(id => ({ rank: `a${personName(id)}`, name: personName(id), id }))
        : [{ rank: 'z', name: 'Nobody' }]
    }
    case 'marker':
      return topic.markers.map(id => ({ rank: markerName(id), name: markerName(id) }))
    case 'state':
      return isTask(topic) ? [STATES[taskState(topic)]] : []
    case 'due': {
      if (!isTask(topic)) return []
      const { due } = topic
      if (due === null) return [{ rank: 6, name: 'No date' }]
      if (topic.done === 100) return [{ rank: 7, name: 'Done' }]
      if (due < today) return [{ rank: 0, name: 'Late' }]
      if (due === today) return [{ rank: 1, name: 'Today' }]
      const sunday = endOfWeek(today, locale)
      if (due <= sunday) return [{ rank: 2, name: 'This week' }]
      if (due <= addDays(sunday, 7)) return [{ rank: 3, name: 'Next week' }]
      return due.slice(0, 7) === today.slice(0, 7)
        ? [{ rank: 4, name: 'Later this month' }]
        : [{ rank: 5, name: 'Later' }]
    }
  }
}

function grouped(tree: Tree, asked: RowsAsked, group: Grouping): Row[] {
  const groups = new Map<string, { place: Place; topics: Topic[] }>()
  for (const topic of allTopics(tree)) {
    if (asked.hidden(topic.id) || !asked.wanted(topic.id)) continue
    for (const place of placesOf(topic, group, asked)) {
      const key = place.id ?? place.name
      const found = groups.get(key)
      if (found) found.topics.push(topic)
      else groups.set(key, { place, topics: [topic] })
    }
  }
  const compare = asked.sort && siblingOrder(asked.sort, asked.locale, asked.planned, asked.figure)
  const names = collator(asked.locale ?? 'en')
  return [...groups]
    .map(([key, group]) => ({ key, ...group }))
    .sort((a, b) =>
      typeof a.place.rank === 'number'
        ? a.place.rank - Number(b.place.rank)
        : names.compare(a.place.rank, String(b.place.rank)),
    )
    .flatMap(({ key, place, topics }): Row[] => {
      const list = compare ? [...topics].sort(compare) : topics
      return [
        { kind: 'group', key: `group ${key}`, name: place.name, count: list.length },
        ...list.map((topic): Row => ({ kind: 'topic', id: topic.id, level: 2, key: `${key} ${topic.id}` })),
      ]
    })
}
