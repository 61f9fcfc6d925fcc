import type { FigureCondition } from '../find/evaluate'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import type { Figures } from './figures'
import { fixedOf } from './fixed'
import { againstTarget } from './target'

/** Whether what a topic comes to in a measure is as a filter asks. What isn't there is neither over nor under anything. */
export function figureMeets(tree: Tree, figures: Figures, topic: TopicId, condition: FigureCondition): boolean {
  const { value, fault } = figures.of(topic, condition.measure)
  const than = condition.value === undefined ? 0n : (fixedOf(condition.value) ?? 0n)
  switch (condition.is) {
    case 'over':
      return value !== null && value > than
    case 'under':
      return value !== null && value < than
    case 'some':
      return value !== null
    case 'none':
      return value === null && fault === null
    case 'wrong':
      return fault !== null
    case 'off': {
      const measure = tree.fields.measures.find(({ id }) => id === condition.measure)
      return measure !== undefined && (againstTarget(tree, figures, topic, measure)?.bad ?? false)
    }
  }
}
