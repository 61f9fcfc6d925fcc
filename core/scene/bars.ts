import { type Baseline, slipBetween } from '../schedule/baseline'
import { addDays } from '../schedule/days'
import type { Plan } from '../schedule/plan'
import type { Planned, PlannedBranch } from '../schedule/planned'
import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import type { Scale } from './day-scale'
import { bracketBetween } from './wait-bracket'

/* Where the bars of a plan lie on their days, and the brackets of what waits for what: the same on the screen and in a picture of it. */

/** A topic on the days: px from the first of them. */
export interface Bar {
  readonly x: number
  readonly width: number
  readonly planned: Planned | null
  readonly branch: PlannedBranch | null
  readonly due: number | null
  /** How far it may slip, px beyond its end; 0 where it mustn't. */
  readonly float: number
  /** Where it stood in the baseline, and by how many working days it ends later now. */
  readonly agreed: { readonly x: number; readonly width: number; readonly slip: number } | null
}

/** The bar of a topic; null where the plan says nothing of it. `against`: what the plan is held against. */
export function barOf(
  tree: Tree,
  plan: Plan,
  { x, perDay }: Scale,
  id: TopicId,
  against: Pick<Baseline, 'tasks'> | null,
): Bar | null {
  const task = plan.tasks.get(id)
  const made = task ?? plan.branches.get(id)
  if (!made) return null
  const left = x(made.start)
  const { due } = topicOf(tree, id)
  const agreed = task ? against?.tasks[id] : undefined
  return {
    agreed: agreed
      ? {
          x: x(agreed.start),
          width: Math.max(3, x(addDays(agreed.finish, 1)) - x(agreed.start)),
          slip: slipBetween(plan.calendar, agreed.finish, made.finish),
        }
      : null,
    x: left,
    width: task?.milestone ? 0 : Math.max(3, x(addDays(made.finish, 1)) - left),
    planned: task ?? null,
    branch: task ? null : (made as PlannedBranch),
    due: due === null ? null : x(addDays(due, 1)),
    float:
      task && task.totalFloat !== null && task.totalFloat > 0
        ? Math.max(0, x(addDays(task.lateFinish, 1)) - x(addDays(task.finish, 1)) - (perDay < 1 ? 1 : 0))
        : 0,
  }
}

/** One topic that waits for another. */
export interface Waiting {
  readonly by: TopicId
  readonly on: TopicId
  readonly kind: string
  /** Whether it can't be kept to. */
  readonly broken: boolean
  /** Whether it's why something that must not slip begins when it does. */
  readonly drives: boolean
}

/** Every dependency between topics that are planned and that the tree has. */
export function waitingIn(tree: Tree, plan: Plan): Waiting[] {
  const found: Waiting[] = []
  const broken = new Set(plan.broken.map(({ by, wait }) => `${by} ${wait.id}`))
  for (const id of [...plan.tasks.keys(), ...plan.branches.keys()]) {
    const topic = tree.topics.get(id)
    const task = plan.tasks.get(id)
    for (const wait of topic?.waits ?? []) {
      if (wait.elsewhere) continue
      found.push({
        by: id,
        on: wait.on,
        kind: wait.kind,
        broken: broken.has(`${id} ${wait.id}`),
        drives: task?.because.kind === 'waits' && task.because.wait.id === wait.id && task.critical,
      })
    }
  }
  return found
}

interface Lane {
  readonly bar: Bar
  /** The middle of its row, px. */
  readonly y: number
}

/** The path of the bracket from the bar that is waited for to the one that waits. `row`: how high a row is. */
export function waitPath(kind: string, from: Lane, to: Lane, row: number): string {
  const end = ({ bar, y }: Lane, out: boolean) => ({ x: out ? bar.x + bar.width : bar.x, y, out })
  return bracketBetween(end(from, kind[0] === 'F'), end(to, kind[1] === 'F'), row)
}

/** Days that aren't worked on between two, one stretch after the other, px. */
export function closedBetween(
  plan: Plan,
  { x, perDay }: Scale,
  first: string,
  last: string,
): { readonly x: number; readonly width: number }[] {
  const found: { x: number; width: number }[] = []
  for (let at = first; at <= last; at = addDays(at, 1)) {
    if (plan.calendar.isWorking(at)) continue
    const before = found.at(-1)
    if (before && Math.abs(before.x + before.width - x(at)) < 0.01) before.width += perDay
    else found.push({ x: x(at), width: perDay })
  }
  return found
}
