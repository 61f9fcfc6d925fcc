import type { Measure } from '../tree/figure'
import { MOST_ON_PLANK } from '../tree/figure'
import { inOrder } from '../tree/substance'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import type { Figures } from './figures'
import { type Fixed, roundedTo } from './fixed'
import { sayFigure } from './numbers'
import { againstTarget } from './target'
import { FAULT_SIGNS } from './words'

/** A piece of the row under a title; over its target, or faulty, it says so by a sign too, one that the planks' own font has. */
export interface FigurePrint {
  readonly text: string
  readonly tone: 'plain' | 'late'
  /** How much of the target is reached; over 1 beyond it. */
  readonly part?: number
}

/** Measures whose figures stand on planks, in their order. */
export const measuresOnPlanks = (measures: readonly Measure[]): Measure[] =>
  inOrder(measures.filter(({ onPlank }) => onPlank)).slice(0, MOST_ON_PLANK)

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
    if (value === null) return []
    const against = againstTarget(tree, figures, topic, measure)
    const words = `${named}${sayFigure(value, measure, locale, against !== null)}`
    if (against === null) return [{ text: words, tone: 'plain' }]
    const { target, bad, part } = against
    const of = `${words} of ${sayFigure(target, { ...measure, decimals: wholeTo(target, measure) }, locale)}`
    const [text, tone] = bad
      ? ([`${measure.limit === 'most' ? '↑' : '↓'} ${of}`, 'late'] as const)
      : ([of, 'plain'] as const)
    return [{ text, tone, part: Math.max(0, part) }]
  })
}
