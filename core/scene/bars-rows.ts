import type { Baseline } from '../schedule/baseline'
import { addDays } from '../schedule/days'
import type { Plan } from '../schedule/plan'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { CannotMake } from './cannot-make'

/* What stands in a picture of the schedule: its rows, and the days that they take. */

/** The topics in reading order, with what hangs from a fold left out where folds stay shut. */
export function* rowsOf(tree: Tree, folds: boolean): Generator<{ topic: Topic; level: number }> {
  const open: { id: TopicId; level: number }[] = [{ id: tree.centre, level: 0 }]
  for (let at = open.pop(); at; at = open.pop()) {
    const topic = topicOf(tree, at.id)
    yield { topic, level: at.level }
    if (folds && at.level > 0 && topic.folded) continue
    const level = at.level + 1
    open.push(
      ...childrenOf(tree, at.id)
        .map(id => ({ id, level }))
        .reverse(),
    )
  }
}

/** The first and the last day of what is drawn, with air around. */
export function spanOf(
  rows: readonly { readonly topic: Topic }[],
  plan: Plan,
  against: Pick<Baseline, 'tasks'> | null,
): { readonly first: string; readonly last: string } {
  const days: string[] = []
  for (const { topic } of rows) {
    const task = plan.tasks.get(topic.id)
    const made = task ?? plan.branches.get(topic.id)
    if (!made) continue
    days.push(made.start, made.finish)
    if (task && task.lateFinish > task.finish) days.push(task.lateFinish)
    if (task && topic.due !== null) days.push(topic.due)
    const agreed = task && against?.tasks[topic.id]
    if (agreed) days.push(agreed.start, agreed.finish)
  }
  if (days.length === 0)
    throw new CannotMake(
      'nothing',
      'Nothing of this stands in the plan, so there are no bars to draw. Take another part.',
    )
  days.sort()
  return { first: addDays(days[0]!, -5), last: addDays(days.at(-1)!, 6) }
}
