import type { Planning } from '#core/derive/planning'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/**
 * The day on which the plan lets a topic begin. Only a time axis asks for it, and what reckons it is loaded when it does; `came` is
 * called then.
 */
export function plannedDays(desk: Desk, came: () => void): (id: TopicId) => string | null {
  let planning: Planning | 'coming' | null = null
  return id => {
    if (desk.tree.fields.planFrom === null) return null
    if (planning !== null) return planning === 'coming' ? null : (planning.of(id)?.start ?? null)
    planning = 'coming'
    void import('~/schedule/planning').then(
      ({ planningOf }) => {
        planning = planningOf(desk)
        came()
      },
      () => {
        planning = null
      },
    )
    return null
  }
}
