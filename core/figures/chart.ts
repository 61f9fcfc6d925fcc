import type { ChartAsked } from '../tree/chart'
import type { Measure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { type Day, type Nested, nestedParts, overTime, type Part, partsOfBranch, type Step, waterfall } from './charts'
import type { Figures } from './figures'
import { type Fixed, nearly } from './fixed'
import { sayFigure } from './numbers'
import { overYears, type OverYears } from './over-years'
import { againstTarget, type AgainstTarget } from './target'

/* One chart of a branch: what it shows, whatever draws it, and the same numbers as a table. */

/** How deep parts in parts go. */
const NESTED_LEVELS = 3

export type ChartData =
  | { readonly kind: 'bars'; readonly parts: readonly Part[] }
  | { readonly kind: 'share' | 'rings'; readonly parts: readonly Part[]; readonly nested: Nested | null }
  | { readonly kind: 'target'; readonly targets: readonly (Part & AgainstTarget)[] }
  | { readonly kind: 'steps'; readonly steps: readonly Step[] }
  | { readonly kind: 'time'; readonly days: readonly Day[]; readonly without: Fixed }
  | ({ readonly kind: 'years' } & OverYears)

export interface Chart {
  readonly title: string
  readonly measure: Measure
  /** What the branch comes to. */
  readonly whole: Fixed
  readonly data: ChartData
}

/** Words of a chart in the language of whoever reads it. */
export interface ChartWords {
  /** The last step: the whole. */
  readonly all: string
  /** What a branch has of its own beyond its parts. */
  readonly byItself: string
}

/**
 * A chart of a branch. `finishOf`: the day on which a topic ends by the plan; its due date counts where it's null. Null where the measure
 * or the topic isn't there any more.
 */
export function chartOf(
  tree: Tree,
  figures: Figures,
  at: TopicId,
  { kind, measure: id, each }: ChartAsked,
  finishOf: (topic: TopicId) => string | null,
  words: ChartWords = { all: 'all', byItself: 'by itself' },
): Chart | null {
  const measure = tree.fields.measures.find(one => one.id === id)
  if (!measure || !tree.topics.has(at)) return null
  const whole = figures.of(at, id).value ?? 0n
  const parts = (): Part[] => partsOfBranch(tree, figures, at, id)
  const data = (): ChartData => {
    switch (kind) {
      case 'bars':
        return { kind, parts: parts() }
      case 'share':
      case 'rings':
        return { kind, parts: parts(), nested: nestedParts(tree, figures, at, id, NESTED_LEVELS) }
      case 'target':
        return {
          kind,
          targets: parts().flatMap(part => {
            const against = part.id && againstTarget(tree, figures, part.id, measure)
            return against ? [{ ...part, ...against }] : []
          }),
        }
      case 'steps':
        return { kind, steps: waterfall(parts(), whole, words) }
      case 'time': {
        const dayOf = (topic: TopicId): string | null => finishOf(topic) ?? topicOf(tree, topic).due
        return { kind, ...overTime(tree, figures, at, id, dayOf) }
      }
      case 'years':
        return { kind, ...overYears(tree, figures, at, id, each) }
    }
  }
  return { title: topicOf(tree, at).title, measure, whole, data: data() }
}

/** Why a chart has nothing to draw; null when it has. */
export type Emptiness = 'nothing' | 'no-target' | 'no-series' | 'no-share'
export function emptinessOf({ data }: Chart): Emptiness | null {
  switch (data.kind) {
    case 'years':
      return data.periods.length === 0 ? 'no-series' : null
    case 'target':
      return data.targets.length === 0 ? 'no-target' : null
    case 'share':
    case 'rings':
      if (data.parts.length === 0) return 'nothing'
      return (data.nested?.children.length ?? 0) === 0 ? 'no-share' : null
    case 'bars':
      return data.parts.length === 0 ? 'nothing' : null
    case 'steps':
      // The whole is always a step; a chart of it alone says nothing.
      return data.steps.length < 2 ? 'nothing' : null
    case 'time':
      return data.days.length === 0 ? 'nothing' : null
  }
}

export interface ChartRow {
  /** Null: no topic's. */
  readonly id: TopicId | null
  readonly name: string
  readonly values: readonly string[]
}

/** The numbers of a chart, in the locale of whoever reads them. `day`: a day in words. */
export function chartTable(
  { data, measure, whole }: Chart,
  locale: string,
  day: (day: string) => string,
): { readonly heads: readonly string[]; readonly rows: readonly ChartRow[] } {
  const say = (value: Fixed): string => sayFigure(value, measure, locale)
  const row = (id: TopicId | null, name: string, ...values: string[]): ChartRow => ({ id, name, values })
  const percent = (value: Fixed): string =>
    whole === 0n
      ? ''
      : `${new Intl.NumberFormat(locale, { maximumFractionDigits: 1 }).format((nearly(value) / nearly(whole)) * 100).replace('-', '−')} %`
  switch (data.kind) {
    case 'target':
      return {
        heads: ['', measure.name, 'Target', 'Left'],
        rows: data.targets.map(one => row(one.id, one.title, say(one.value), say(one.target), say(one.left))),
      }
    case 'steps':
      return {
        heads: ['', measure.name, 'So far'],
        rows: data.steps.map(one => row(one.id, one.title, say(one.value), say(one.to))),
      }
    case 'years':
      return {
        heads: ['In', measure.name],
        rows: [
          ...data.periods.map(one => row(null, one.period, say(one.value))),
          ...(data.once === 0n ? [] : [row(null, 'once', say(data.once))]),
        ],
      }
    case 'time':
      return {
        heads: ['By', measure.name, 'So far'],
        rows: [
          ...data.days.map(one => row(null, day(one.day), say(one.value), say(one.total))),
          ...(data.without === 0n ? [] : [row(null, 'without a day', say(data.without), '')]),
        ],
      }
    default:
      return {
        heads: ['', measure.name, 'Share'],
        rows: data.parts.map(one => row(one.id, one.title, say(one.value), percent(one.value))),
      }
  }
}
