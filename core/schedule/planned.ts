import type { Wait } from '../tree/plan'
import type { TopicId } from '../tree/topic'

/* What is computed of each task, and what the branches come to by that. */

export type PlanState = 'done' | 'begun' | 'ready' | 'waiting'

/** Why a task can't begin earlier than it does. */
export type Because =
  | { readonly kind: 'plan' }
  | { readonly kind: 'status' }
  | { readonly kind: 'not-before' }
  | { readonly kind: 'fixed' }
  | { readonly kind: 'happened' }
  /** `wait` is kept with `by`: the task, or a branch that it's in. */
  | { readonly kind: 'waits'; readonly on: TopicId; readonly by: TopicId; readonly wait: Wait }

/** What is computed of a task. Days are ISO 8601, the last one included. */
export interface Planned {
  readonly start: string
  readonly finish: string
  readonly lateStart: string
  readonly lateFinish: string
  /** Working days; a share of one counts. Negative: so much too late already. Null once it's done. */
  readonly totalFloat: number | null
  readonly freeFloat: number | null
  /** Whether the plan's end, or a limit, slips when it does. */
  readonly critical: boolean
  readonly state: PlanState
  readonly because: Because
  /** Working days. */
  readonly length: number
  readonly milestone: boolean
  /** Nobody said how long it takes. */
  readonly assumed: boolean
  /** Working days beyond its due date, at least 1; 0 where it's in time, null without one. */
  readonly late: number | null
  /** Working minutes from the plan's first, for whoever reckons on. */
  readonly from: number
  readonly to: number
}

/** What a branch comes to in the plan. */
export interface PlannedBranch {
  readonly start: string
  readonly finish: string
  readonly critical: boolean
  /** The least float below, working days; null when all is done. */
  readonly totalFloat: number | null
  readonly tasks: number
}

/** What the branches come to: each stretch of tasks that isn't one task itself. */
export function branchesOf(
  tasks: readonly TopicId[],
  leaves: ReadonlyMap<TopicId, readonly [number, number]>,
  made: ReadonlyMap<TopicId, Planned>,
): Map<TopicId, PlannedBranch> {
  const branches = new Map<TopicId, PlannedBranch>()
  // Those below come before those above, so each adds up what its own children came to, and nothing twice.
  const known = new Map<number, PlannedBranch>()
  for (const [id, [from, to]] of leaves) {
    if (made.has(id)) {
      known.set(from, partOf(made.get(id))!)
      continue
    }
    let sum: PlannedBranch | null = null
    for (let at = from; at < to; at += known.get(at)!.tasks) sum = together(sum, known.get(at)!)
    known.set(from, sum!)
    branches.set(id, sum!)
  }
  return branches
}

/** What a task adds to the branches that it lies in. */
export function partOf(task: Planned | undefined): PlannedBranch | null {
  if (!task) return null
  const { start, finish, critical, totalFloat } = task
  return { start, finish, critical, totalFloat, tasks: 1 }
}

export function together(a: PlannedBranch | null, b: PlannedBranch): PlannedBranch {
  if (a === null) return b
  return {
    start: a.start < b.start ? a.start : b.start,
    finish: a.finish > b.finish ? a.finish : b.finish,
    critical: a.critical || b.critical,
    totalFloat:
      a.totalFloat === null
        ? b.totalFloat
        : b.totalFloat === null
          ? a.totalFloat
          : Math.min(a.totalFloat, b.totalFloat),
    tasks: a.tasks + b.tasks,
  }
}
