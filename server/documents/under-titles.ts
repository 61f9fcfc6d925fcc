import type { Tick } from '#core/arrange/place'
import type { Figures } from '#core/figures/figures'
import { type BetweenMarks, seriesOnAxis } from '#core/figures/on-axis'
import { figurePrint, measuresOnPlanks } from '#core/figures/on-planks'
import { planPrint } from '#core/schedule/on-planks'
import { type Plan, planOf } from '#core/schedule/plan'
import type { Planned, PlannedBranch } from '#core/schedule/planned'
import type { SmallPrint } from '#core/scene/face'
import type { Tree } from '#core/tree'

export interface UnderTitles {
  /** What the plan and figures say on planks. */
  readonly printOf: (topic: string) => readonly SmallPrint[]
  /** The day on which the plan lets a topic begin, for a time axis. */
  readonly dayOf: (topic: string) => string | null
  /** What comes again under the marks of a time axis. */
  readonly onAxis: (of: string, ticks: readonly Tick[]) => BetweenMarks | null
  /** The day on which the plan ends it, for what comes over time. */
  readonly finishOf: (topic: string) => string | null
}

/**
 * What the plan and the figures of the whole tree say of topics in a picture. `figures`: null where they don't go along;
 * `tasks`: whether what concerns tasks does.
 */
export function underTitles(
  whole: Tree,
  { figures, tasks, today, locale }: { figures: Figures | null; tasks: boolean; today: string; locale: string },
): UnderTitles {
  const { measures, planFrom, planPrint: printed } = whole.fields
  // Worked out when a picture first asks.
  let held: Plan | null | undefined
  const planned = (topic: string): Planned | PlannedBranch | null => {
    if (planFrom === null || !tasks) return null
    if (held === undefined) {
      const plan = planOf(whole, today)
      held = typeof plan === 'string' ? null : plan
    }
    return held?.tasks.get(topic) ?? held?.branches.get(topic) ?? null
  }
  return {
    printOf(topic) {
      const at = printed ? planned(topic) : null
      return [
        ...planPrint(at && 'because' in at ? at : null),
        ...(figures ? figurePrint(whole, figures, measuresOnPlanks(measures), topic, locale) : []),
      ]
    },
    dayOf: topic => planned(topic)?.start ?? null,
    onAxis: (of, ticks) => (figures ? seriesOnAxis(whole, figures, of, ticks, locale) : null),
    finishOf: topic => planned(topic)?.finish ?? null,
  }
}
