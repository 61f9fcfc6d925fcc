import { PlanPrints } from '#core/derive/plan-prints'
import type { Desk } from '~/desk/desk'
import { planningOf } from './planning'

const held = new WeakMap<Desk, PlanPrints>()

/** From now on planks say how tasks stand in the plan; not when that was hidden again while this was loaded. */
export function putPlanOnPlanks(desk: Desk): void {
  const { planFrom, planPrint } = desk.tree.fields
  if (planFrom === null || !planPrint) return
  let prints = held.get(desk)
  if (!prints) {
    const planning = planningOf(desk)
    held.set(desk, (prints = desk.derive(new PlanPrints(planning), planning)))
  }
  desk.planks.plan = prints
  desk.measureAgain()
}
