import type { Change } from '../tree/change'
import type { Figure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { figureChanges } from './entry'

/** The figures that an assumption holds. */
export function assumedIn(tree: Tree, whatIf: string): { readonly topic: TopicId; readonly figure: Figure }[] {
  return [...tree.topics.values()].flatMap(topic =>
    topic.figures.filter(one => one.whatIf === whatIf).map(figure => ({ topic: topic.id, figure })),
  )
}

/** An assumption taken away, with what was assumed in it. */
export const withoutWhatIf = (tree: Tree, whatIf: string): Change[] => [
  ...assumedIn(tree, whatIf).map(({ topic, figure }): Change => ({
    op: 'take',
    topic,
    set: 'figures',
    member: figure.id,
  })),
  { op: 'tree-take', set: 'whatIfs', member: whatIf },
]

/** What is assumed becomes what is so, in all measures; the assumption goes. */
export const takenOver = (tree: Tree, whatIf: string): Change[] => [
  ...figureChanges(
    tree,
    assumedIn(tree, whatIf).map(({ topic, figure }) => ({ topic, measure: figure.measure, text: figure.text })),
  ),
  ...withoutWhatIf(tree, whatIf),
]
