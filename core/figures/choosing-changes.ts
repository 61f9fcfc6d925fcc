import type { Change } from '../tree/change'
import type { Criterion, Measure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { ordersBehind } from './beginnings'
import { criteriaOf, pairsOf, weightsOf } from './choosing'

/** The weight that a criterion begins with: as much as any other. */
const FIRST_WEIGHT = 10

/** A measure becomes a criterion of a choice, or ceases to be one, with what compared it. Of what costs, less is better. */
export function criterionTurned(tree: Tree, at: TopicId, measure: Measure): Change[] {
  const topic = topicOf(tree, at)
  const there = criteriaOf(topic)
  const take = (member: string): Change => ({ op: 'take', topic: at, set: 'choice', member })
  if (there.some(({ id }) => id === measure.id))
    return [
      take(measure.id),
      ...pairsOf(topic)
        .filter(({ a, b }) => a === measure.id || b === measure.id)
        .map(({ id }) => take(id)),
    ]
  const member: Criterion = {
    id: measure.id,
    kind: 'criterion',
    order: ordersBehind(there, 1)[0]!,
    weight: FIRST_WEIGHT,
    better: measure.unit.trim() !== '' && measure.limit === 'most' ? 'less' : 'more',
  }
  return [{ op: 'put', topic: at, set: 'choice', member }]
}

/** How much more one criterion counts than another; all weights follow from what was compared, in percent with one decimal. */
export function compared(
  tree: Tree,
  at: TopicId,
  criteria: readonly Criterion[],
  [a, b]: readonly [string, string],
  ratio: number,
): Change[] {
  const topic = topicOf(tree, at)
  const pair = { id: `${a}-${b}`, kind: 'pair' as const, a, b, ratio }
  const { weights } = weightsOf(
    criteria.map(({ id }) => id),
    [...topic.choice.filter(part => part.id !== pair.id && part.id !== `${b}-${a}`), pair],
  )
  return [
    // The same two the other way round.
    ...pairsOf(topic)
      .filter(one => one.a === b && one.b === a)
      .map(({ id }): Change => ({ op: 'take', topic: at, set: 'choice', member: id })),
    { op: 'put', topic: at, set: 'choice', member: pair },
    ...criteria.map((criterion, i): Change => ({
      op: 'put',
      topic: at,
      set: 'choice',
      member: { ...criterion, weight: Math.round(weights[i]! * 1000) / 10 },
    })),
  ]
}
