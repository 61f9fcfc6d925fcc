import type { Tree } from '../tree/tree'
import type { TopicId } from '../tree/topic'
import { type Baseline, type Slips, slipsSince } from './baseline'
import { type Load, loadOf } from './load'
import type { BrokenWait, Plan, Planned, PlannedBranch } from './plan'
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

/** What is asked of a plan at once: all of it, the load, or what it was agreed to be. */
export type PlanQuestion = { readonly kind: 'plan'; readonly baseline: Baseline | null } | { readonly kind: 'load' }

export const answerPlan = (tree: Tree, plan: Plan, question: PlanQuestion): ToldPlan | Load =>
  question.kind === 'load' ? loadOf(tree, plan) : toldPlan(tree, plan, question.baseline)
