import { generateKeyBetween } from 'fractional-indexing'
import type { Change } from '../tree/change'
import type { TopicId, Tree } from '../tree'
import { pickedSteps } from './steps'

/** Puts topics behind the steps that were picked, in the order given; those that are steps already stay where they are. */
export function picked(tree: Tree, topics: readonly TopicId[]): Change[] {
  const known = new Set(pickedSteps(tree))
  let last = lastOrder(tree)
  return topics
    .filter(id => !known.has(id))
    .map(id => ({ op: 'tree-put', set: 'steps', member: { id, order: (last = generateKeyBetween(last, null)) } }))
}

/** Takes topics out of the steps; all of them, also those of topics that have been removed, when none are given. */
export function unpicked(tree: Tree, topics: readonly TopicId[] = tree.fields.steps.map(({ id }) => id)): Change[] {
  const known = new Set(tree.fields.steps.map(({ id }) => id))
  return topics.filter(id => known.has(id)).map(id => ({ op: 'tree-take', set: 'steps', member: id }))
}

/** Moves a step to a place among those that were picked, counted without it from 0. Nothing when it's there. */
export function movedTo(tree: Tree, topic: TopicId, place: number): Change[] {
  const steps = pickedSteps(tree)
  const rest = steps.filter(id => id !== topic)
  if (rest.length === steps.length || steps.indexOf(topic) === place) return []
  const orders = new Map(tree.fields.steps.map(({ id, order }) => [id, order]))
  // Two people who pick at once may give the same order: what stands between equal ones takes the next that is free.
  const before = place > 0 ? orders.get(rest[place - 1]!)! : null
  const after =
    rest
      .slice(place)
      .map(id => orders.get(id)!)
      .find(order => before === null || order > before) ?? null
  return [{ op: 'tree-put', set: 'steps', member: { id: topic, order: generateKeyBetween(before, after) } }]
}

function lastOrder(tree: Tree): string | null {
  return tree.fields.steps.reduce<string | null>(
    (last, { order }) => (last === null || order > last ? order : last),
    null,
  )
}
