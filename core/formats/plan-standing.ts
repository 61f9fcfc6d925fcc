import type { Minutes } from '../meeting/minutes'
import { type Baseline, slipsSince } from '../schedule/baseline'
import { dayInWords } from '../schedule/days'
import type { Plan } from '../schedule/plan'
import { daysInWords, wholeSlipInWords } from '../schedule/plan-words'
import type { Tree } from '../tree/tree'

/** Tasks that are named; what is beyond is counted. */
const MOST = 12

/** How a plan stands against how it stood when a meeting began, for its minutes: what ends on another day, the latest first. */
export function planSince(tree: Tree, plan: Plan, then: Pick<Baseline, 'tasks' | 'finish'>): Minutes['plan'] {
  const slips = slipsSince(plan, then)
  const moved = [...slips.later, ...slips.sooner]
  return [
    wholeSlipInWords(slips.whole, plan.finish, dayInWords),
    ...moved
      .slice(0, MOST)
      .map(
        ({ topic, days }) =>
          `${tree.topics.get(topic)?.title || 'untitled'}: ${daysInWords(Math.abs(days))} ${days > 0 ? 'later' : 'sooner'}`,
      ),
    ...(moved.length > MOST ? [`and ${moved.length - MOST} more`] : []),
  ]
}
