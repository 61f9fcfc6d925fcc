import type { Elsewhere } from '../tree/plan'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import type { TopicId } from '../tree/topic'
import { type Baseline, type Slips, slipsSince } from './baseline'
import { type Load, loadOf } from './load'
import type { BrokenWait } from './compiled'
import type { Plan } from './plan'
import type { Planned, PlannedBranch } from './planned'
import { becauseInWords } from './plan-words'

/** A plan as it's told to whoever asks by the API: plain data, each task with its reason in words. */
export interface ToldPlan {
  readonly status: string
  readonly finish: string | null
  readonly tasks: readonly (Omit<Planned, 'from' | 'to'> & { readonly topic: TopicId; readonly reason: string })[]
  readonly branches: readonly (PlannedBranch & { readonly topic: TopicId })[]
  readonly broken: readonly BrokenWait[]
  readonly baseline?: Baseline
  readonly slips?: Slips
}

export function toldPlan(tree: Tree, plan: Plan, baseline: Baseline | null): ToldPlan {
  const speaker = { titleOf: (id: TopicId) => tree.topics.get(id)?.title ?? '', day: (iso: string) => iso }
  return {
    ...(baseline ? { baseline, slips: slipsSince(plan, baseline) } : {}),
    status: plan.status,
    finish: plan.finish,
    tasks: Array.from(plan.tasks, ([topic, { from: _from, to: _to, ...task }]) => ({
      topic,
      ...task,
      reason: becauseInWords(task.because, task, speaker),
    })),
    branches: Array.from(plan.branches, ([topic, branch]) => ({ topic, ...branch })),
    broken: plan.broken,
  }
}

/** What a plan says of one task to whoever has to do it. */
export interface TaskTold {
  readonly topic: TopicId
  readonly state: Planned['state']
  readonly start: string
  readonly finish: string
  /** Whether it's another topic that it waits for. */
  readonly waits: boolean
  /** Why it begins when it does. */
  readonly reason: string
}

/**
 * What a plan says of a task to whoever owes it, in a few words; null where there's nothing to wait for or to begin. `day` says days.
 */
export function owedInWords(
  { state, waits, start, reason }: Pick<TaskTold, 'state' | 'waits' | 'start' | 'reason'>,
  day: (iso: string) => string,
): string | null {
  if (state === 'ready') return 'can start now'
  if (state !== 'waiting') return null
  return waits ? reason : `from ${day(start)}`
}

function toldTasks(tree: Tree, plan: Plan, topics: readonly TopicId[]): TaskTold[] {
  const speaker = { titleOf: (id: TopicId) => tree.topics.get(id)?.title ?? '', day: (iso: string) => iso }
  return topics.flatMap(topic => {
    const task = plan.tasks.get(topic)
    if (!task) return []
    const { state, start, finish } = task
    const waits = task.because.kind === 'waits'
    return [{ topic, state, start, finish, waits, reason: becauseInWords(task.because, task, speaker) }]
  })
}

/** When a topic begins and ends and how far it has come, for whoever waits for it from another tree. */
export type Days = Pick<Elsewhere, 'start' | 'finish' | 'state'>

/** The days of a topic by the plan of its tree, a branch from its first to its last; as they were typed where the plan says nothing of it. */
export function daysOfTopic(tree: Tree, plan: Plan | null, id: TopicId): Days {
  const task = plan?.tasks.get(id)
  if (task) {
    const { start, finish, state } = task
    return { start, finish, state: state === 'done' || state === 'begun' ? state : 'open' }
  }
  const branch = plan?.branches.get(id)
  if (branch) {
    const states = new Set<Planned['state']>()
    const stack = [...childrenOf(tree, id)]
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      const state = plan!.tasks.get(at)?.state
      if (state) states.add(state)
      stack.push(...childrenOf(tree, at))
    }
    const isBegun = states.has('done') || states.has('begun')
    return {
      start: branch.start,
      finish: branch.finish,
      state: states.has('done') && states.size === 1 ? 'done' : isBegun ? 'begun' : 'open',
    }
  }
  const { start, due, began, ended, done } = topicOf(tree, id)
  const isDone = done === 100 || ended !== null
  return {
    start: began ?? start,
    finish: ended ?? due,
    state: isDone ? 'done' : began !== null || (done ?? 0) > 0 ? 'begun' : 'open',
  }
}

/** What is asked of a plan: all of it, beside what it was agreed to be; the load; some tasks alone; or the days of one topic. */
export type PlanQuestion =
  | { readonly kind: 'plan'; readonly baseline: Baseline | null }
  | { readonly kind: 'load' }
  | { readonly kind: 'tasks'; readonly topics: readonly TopicId[] }
  | { readonly kind: 'days'; readonly topic: TopicId }

export function answerPlan(tree: Tree, plan: Plan, question: PlanQuestion): ToldPlan | Load | TaskTold[] | Days {
  switch (question.kind) {
    case 'load':
      return loadOf(tree, plan)
    case 'tasks':
      return toldTasks(tree, plan, question.topics)
    case 'days':
      return daysOfTopic(tree, plan, question.topic)
    case 'plan':
      return toldPlan(tree, plan, question.baseline)
  }
}
