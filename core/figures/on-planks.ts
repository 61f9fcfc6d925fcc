import type { Measure } from '../tree/figure'
import { MOST_ON_PLANK } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { figureAt } from './entry'
import type { Figures } from './figures'
import { type Fixed, fixedOf, roundedTo } from './fixed'
import { sayFigure } from './numbers'
import { FAULT_SIGNS } from './words'

/** A piece of the row under a title; over its target, or faulty, it says so by a sign too. */
export interface FigurePrint {
  readonly text: string
  readonly tone: 'plain' | 'late'
}

/** Measures whose figures stand on planks, in their order. */
export const measuresOnPlanks = (measures: readonly Measure[]): Measure[] =>
  measures
    .filter(({ onPlank }) => onPlank)
    .sort((a, b) => (a.order < b.order || (a.order === b.order && a.id < b.id) ? -1 : 1))
    .slice(0, MOST_ON_PLANK)

/** A target in whole numbers needs no zeros behind the point. */
const wholeTo = (target: Fixed, { decimals }: Pick<Measure, 'decimals'>): number =>
  roundedTo(target, 0, 'half-even') === target ? 0 : decimals

/** What a topic's plank says of its figures. `measures`: those that stand there. */
export function figurePrint(
  tree: Tree,
  figures: Figures,
  measures: readonly Measure[],
  topic: TopicId,
  locale: string,
): FigurePrint[] {
  return measures.flatMap((measure): FigurePrint[] => {
    const { value, fault } = figures.of(topic, measure.id)
    const named = measure.unit.trim() === '' ? `${measure.name} ` : ''
    if (fault) return [{ text: `⚠ ${measure.name}: ${FAULT_SIGNS[fault.kind]}`, tone: 'late' }]
    const said = topicOf(tree, topic).figures.length > 0 ? figureAt(tree, topic, measure.id, null)?.target : null
    const target = said ? fixedOf(said) : null
    if (value === null) return []
    const words = `${named}${sayFigure(value, measure, locale, target !== null)}`
    if (target === null) return [{ text: words, tone: 'plain' }]
    const of = `${words} of ${sayFigure(target, { ...measure, decimals: wholeTo(target, measure) }, locale)}`
    const bad = measure.limit === 'most' ? value > target : value < target
    return [bad ? { text: `${measure.limit === 'most' ? '▲' : '▼'} ${of}`, tone: 'late' } : { text: of, tone: 'plain' }]
  })
}
