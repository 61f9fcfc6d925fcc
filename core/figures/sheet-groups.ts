import { placesOf, type RowsAsked } from '../find/rows'
import type { Measure } from '../tree/figure'
import { collator } from '../tree/reshape'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { roots } from '../tree/walk'
import type { Grouping } from '../tree/view'
import type { Figures, Result } from './figures'
import { divided, type Fixed, fixedFrom } from './fixed'
import { type SheetRow, sorted } from './sheet'

/* The sheet in groups: by person, marker, state or due date, with what each group comes to. */

/** A group of rows, and what those in it come to; it is no topic. */
export interface SheetGroup {
  readonly id: null
  readonly key: string
  readonly name: string
  readonly count: number
  /** One for each measure asked for: null where nothing comes of it. */
  readonly sums: readonly {
    readonly value: Fixed | null
    /** How many of its figures can't be worked out. */ readonly faults: number
  }[]
}
export type SheetLine = SheetRow | SheetGroup
export const isTopicRow = (line: SheetLine): line is SheetRow => line.id !== null

/** Where a topic belongs. Groups stand in the order of their ranks: numbers before words, words as names are ordered. */
export interface GroupPlace {
  readonly key: string
  readonly name: string
  readonly rank: string | number
}

/**
 * What counts, in groups: topics with figures of their own, flat. Each stands in one group, so that sums of groups add up to the whole;
 * what lies below one that has its own in a measure isn't counted again in that. A group comes to what its measure's roll-up makes of its
 * topics; a weighted mean isn't made, nor anything of a measure that doesn't roll up.
 */
export function groupedRows(
  tree: Tree,
  figures: Figures,
  measures: readonly Pick<Measure, 'id' | 'rollUp'>[],
  asked: {
    readonly only: TopicId | null
    hidden(id: TopicId): boolean
    groupOf(id: TopicId): GroupPlace
    readonly sort: { readonly down: boolean; value(id: TopicId): Fixed | null } | null
    /** Which of two names comes first. */
    compare(a: string, b: string): number
  },
): SheetLine[] {
  const groups = new Map<string, { place: GroupPlace; ids: TopicId[]; counted: Counted[] }>()
  const stack = (asked.only === null ? [...roots(tree)] : [asked.only])
    .reverse()
    .map(id => ({ id, open: measures.map(() => true) }))
  while (stack.length > 0) {
    const { id, open } = stack.pop()!
    if (asked.hidden(id)) continue
    const results = measures.map(measure => figures.of(id, measure.id))
    const counts = results.map(({ own }, i) => own && open[i]!)
    if (counts.includes(true)) {
      const place = asked.groupOf(id)
      let group = groups.get(place.key)
      if (!group) groups.set(place.key, (group = { place, ids: [], counted: measures.map(() => new Counted()) }))
      group.ids.push(id)
      counts.forEach((isCounted, i) => isCounted && group.counted[i]!.add(results[i]!))
    }
    const below = open.map((isOpen, i) => isOpen && !results[i]!.own)
    const children = childrenOf(tree, id)
    for (let i = children.length - 1; i >= 0; i--) stack.push({ id: children[i]!, open: below })
  }
  const { compare } = asked
  return [...groups.values()]
    .sort(({ place: a }, { place: b }) =>
      typeof a.rank === 'number' && typeof b.rank === 'number'
        ? a.rank - b.rank
        : typeof a.rank === typeof b.rank
          ? compare(String(a.rank), String(b.rank))
          : typeof a.rank === 'number'
            ? -1
            : 1,
    )
    .flatMap(({ place, ids, counted }): SheetLine[] => [
      {
        id: null,
        key: place.key,
        name: place.name,
        count: ids.length,
        sums: measures.map(({ rollUp }, i) => ({ value: counted[i]!.comesTo(rollUp), faults: counted[i]!.faults })),
      },
      ...(asked.sort ? sorted(ids, asked.sort) : ids).map(id => ({ id, level: 2 })),
    ])
}

/** Values of one measure, one after the other. */
class Counted {
  private count = 0
  private sum = 0n
  private least: Fixed | null = null
  private most: Fixed | null = null
  faults = 0

  add({ value, fault }: Pick<Result, 'value' | 'fault'>): void {
    if (fault) this.faults++
    if (value === null) return
    this.count++
    this.sum += value
    if (this.least === null || value < this.least) this.least = value
    if (this.most === null || value > this.most) this.most = value
  }

  /** Null where one of them can't be worked out, or there is none. */
  comesTo(rule: Measure['rollUp']): Fixed | null {
    if (this.faults > 0 || this.count === 0) return null
    switch (rule) {
      case 'sum':
        return this.sum
      case 'count':
        return fixedFrom(this.count)
      case 'min':
        return this.least
      case 'max':
        return this.most
      case 'mean':
        return divided(this.sum, BigInt(this.count))
      default:
        return null
    }
  }
}

/** Where a topic stands that has nothing to do with a grouping: behind all others. */
const ELSEWHERE: Readonly<Record<Grouping, string>> = {
  person: 'Nobody',
  marker: 'No marker',
  state: 'No task',
  due: 'No date',
}

/** The one group that a topic stands in: one that belongs to several stands with those of just the same. */
export function placeInSheet(
  tree: Tree,
  id: TopicId,
  group: Grouping,
  asked: Pick<RowsAsked, 'today' | 'locale' | 'personName' | 'markerName'>,
): GroupPlace {
  const { compare } = collator(asked.locale ?? 'en')
  const places = placesOf(topicOf(tree, id), group, asked).toSorted((a, b) => compare(a.name, b.name))
  const name = places.map(one => one.name).join(', ')
  if (places.length === 0 || name === ELSEWHERE[group]) return { key: '', name: ELSEWHERE[group], rank: LAST[group] }
  const key = places.map(one => one.id ?? one.name).join(' ')
  return { key, name, rank: places.length === 1 && typeof places[0]!.rank === 'number' ? places[0]!.rank : name }
}
/** Behind words, and behind numbers. */
const LAST: Readonly<Record<Grouping, string | number>> = { person: '\uFFFF', marker: '\uFFFF', state: 99, due: 99 }
