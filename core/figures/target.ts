import type { Measure } from '../tree/figure'
import { inOrder } from '../tree/substance'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import { figureAt } from './entry'
import type { Figures } from './figures'
import { type Fixed, fixedOf, nearly } from './fixed'
import { sayFigure } from './numbers'

/** How a figure stands against its topic's target in a measure. */
export interface AgainstTarget {
  readonly target: Fixed
  /** What is left to the target; under zero beyond it. What isn't there counts as nothing. */
  readonly left: Fixed
  /** On the wrong side of it. What isn't there is neither over nor under anything. */
  readonly bad: boolean
  /** The part of the target that is reached; 0 where the target is. */
  readonly part: number
}

/** Null where the topic has no target in the measure. Under a what-if the target is the same. */
export function againstTarget(
  tree: Tree,
  figures: Figures,
  topic: TopicId,
  measure: Pick<Measure, 'id' | 'limit'>,
): AgainstTarget | null {
  // Most topics have no figures at all, and this is asked for each that is drawn.
  if (topicOf(tree, topic).figures.length === 0) return null
  const said = figureAt(tree, topic, measure.id, null)?.target
  const target = said ? fixedOf(said) : null
  if (target === null) return null
  const { value } = figures.of(topic, measure.id)
  const left = target - (value ?? 0n)
  return {
    target,
    left,
    bad: value !== null && (measure.limit === 'most' ? left < 0n : left > 0n),
    part: target === 0n || value === null ? 0 : nearly(value) / nearly(target),
  }
}

export interface HeldTarget extends AgainstTarget {
  readonly topic: TopicId
  readonly measure: Measure
}

/** Every target of a tree, in reading order and the order of the measures. */
export function targetsIn(tree: Tree, figures: Figures): HeldTarget[] {
  const measures = inOrder(tree.fields.measures)
  return [...allTopics(tree)].flatMap(({ id }) =>
    measures.flatMap((measure): HeldTarget[] => {
      const against = againstTarget(tree, figures, id, measure)
      return against ? [{ ...against, topic: id, measure }] : []
    }),
  )
}

/** "3,480.93 EUR left of 92,000 EUR", "1,344.65 EUR over 62,000 EUR"; of what must be reached, "12 missing of 40", "40 reached". */
export function targetInWords(
  { left, target, bad, measure }: Omit<HeldTarget, 'topic' | 'part'>,
  locale: string,
): string {
  const say = (value: Fixed): string => sayFigure(value < 0n ? -value : value, measure, locale)
  if (measure.limit === 'most') return bad ? `${say(left)} over ${say(target)}` : `${say(left)} left of ${say(target)}`
  return left > 0n ? `${say(left)} missing of ${say(target)}` : `${say(target)} reached`
}
