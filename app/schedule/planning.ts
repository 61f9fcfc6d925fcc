import { Planning } from '#core/derive/planning'
import type { Plan } from '#core/schedule/plan'
import type { Desk } from '~/desk/desk'

const held = new WeakMap<Desk, Planning>()

/** The plan of an open tree; worked out from the moment on at which somebody first asks. */
export function planningOf(desk: Desk): Planning {
  let planning = held.get(desk)
  if (!planning) {
    planning = desk.derive(
      new Planning(
        () => desk.tree,
        () => desk.then.value ?? desk.treeDay,
      ),
    )
    held.set(desk, planning)
  }
  return planning
}

/** The plan; null where there is none. */
export function planNow(desk: Desk): Plan | null {
  const plan = planningOf(desk).get()
  return typeof plan === 'string' ? null : plan
}
