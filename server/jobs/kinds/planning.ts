import { planSince } from '#core/formats/plan-standing'
import type { Minutes } from '#core/meeting/minutes'
import { answerFigures, type FiguresQuestion } from '#core/figures/asked'
import { type Baseline, datesOf } from '#core/schedule/baseline'
import { type Chances, chancesOf } from '#core/schedule/chances'
import type { NoPlan } from '#core/schedule/compiled'
import { planOf } from '#core/schedule/plan'
import { answerPlan, type PlanQuestion } from '#core/schedule/told'
import { fromSnapshot, type Snapshot, type Tree } from '#core/tree'
import type { ChancesInput, PlanInput } from '../work'

/* What is worked out from a tree that is here. */

export const treeOf = (snapshot: Uint8Array): Tree =>
  fromSnapshot(JSON.parse(new TextDecoder().decode(snapshot)) as Snapshot)

export function plan({
  snapshot,
  today,
  question,
}: PlanInput & { readonly question: PlanQuestion }): ReturnType<typeof answerPlan> | NoPlan {
  const tree = treeOf(snapshot)
  const made = planOf(tree, today)
  return typeof made === 'string' ? made : answerPlan(tree, made, question)
}

export const figures = ({
  snapshot,
  today,
  question,
}: PlanInput & { readonly question: FiguresQuestion }): ReturnType<typeof answerFigures> =>
  answerFigures(treeOf(snapshot), today, question)

/** How the plan stands against how it stood then, for minutes. */
export function planSinceThen({
  snapshot,
  today,
  then,
}: PlanInput & { readonly then: Pick<Baseline, 'tasks' | 'finish'> }): Minutes['plan'] {
  const tree = treeOf(snapshot)
  const made = planOf(tree, today)
  return typeof made === 'string' ? undefined : planSince(tree, made, then)
}

export function planDates({ snapshot, today }: PlanInput): Pick<Baseline, 'finish' | 'tasks'> | NoPlan {
  const made = planOf(treeOf(snapshot), today)
  return typeof made === 'string' ? made : { finish: made.finish, tasks: datesOf(made) }
}

export function chances({ snapshot, today, asked }: ChancesInput): Chances | NoPlan {
  const going = chancesOf(treeOf(snapshot), today, asked)
  for (;;) {
    const { done, value } = going.next()
    if (done) return value
  }
}
