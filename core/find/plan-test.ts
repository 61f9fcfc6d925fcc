import { slipBetween } from '../schedule/baseline'
import { isTooMuch, type Load, loadOf } from '../schedule/load'
import { planOf } from '../schedule/plan'
import type { Planned } from '../schedule/planned'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import type { Circumstances, PlanCondition, Test } from './evaluate'

/** Days of float from which on something isn't tight, where nobody says. */
const TIGHT = 5

/**
 * What a condition of the plan means for topics. By itself, since whoever only looks for words needs no plan: it's given to a filter with
 * what else the tree doesn't say.
 */
export function planTest(condition: PlanCondition, tree: Tree, today: string, agreed: Circumstances['agreed']): Test {
  const plan = planOf(tree, today)
  if (typeof plan === 'string') return () => false
  const of = (test: (planned: Planned) => boolean): Test => {
    return ({ id }) => {
      const planned = plan.tasks.get(id)
      return planned !== undefined && test(planned)
    }
  }
  switch (condition.is) {
    case 'critical':
      return of(({ critical }) => critical)
    case 'tight':
      return of(({ totalFloat }) => totalFloat !== null && totalFloat < (condition.days ?? TIGHT))
    case 'late':
      return of(({ late, state }) => state !== 'done' && late !== null && late > 0)
    case 'slipped':
      return ({ id }) => {
        const [planned, then] = [plan.tasks.get(id), agreed?.(id)]
        return planned !== undefined && !!then && slipBetween(plan.calendar, then.finish, planned.finish) > 0
      }
    case 'agreed':
      return ({ id }) => !!agreed?.(id)
    case 'waits':
      return of(({ state }) => state === 'waiting')
    case 'ready':
      return of(({ state }) => state === 'ready')
    case 'overloaded': {
      const found = tooMuchIn(loadOf(tree, plan))
      return ({ id }) => found.has(id)
    }
  }
}

/** Tasks that lie in a week in which somebody who does them has more than they can do. */
function tooMuchIn({ rows }: Load): ReadonlySet<TopicId> {
  return new Set(
    rows.flatMap(({ cells }) => cells.filter(isTooMuch).flatMap(cell => cell.parts.map(part => part.topic))),
  )
}
