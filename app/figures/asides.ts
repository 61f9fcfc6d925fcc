import { divided } from '#core/figures/fixed'
import type { Figures } from '#core/figures/figures'
import { sayFigure, sayNumber } from '#core/figures/numbers'
import { againstTarget } from '#core/figures/target'
import { type Measure, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { FiguresThen } from './useFiguresThen'

/** What stands beside a figure in the sheet: its share of its parent's, what is left of its target, what came since a moment. */
export type Aside = 'share' | 'target' | 'since'

export function asideOf(
  desk: Desk,
  figures: Figures,
  topic: TopicId,
  measure: Measure,
  aside: Aside,
  then: FiguresThen | null,
): { readonly text: string; readonly bad: boolean } {
  if (aside === 'target') {
    const against = againstTarget(desk.tree, figures, topic, measure)
    return against
      ? { text: sayFigure(against.left, measure, ownLocale(), true), bad: against.bad }
      : { text: '', bad: false }
  }
  if (aside === 'since') {
    const [now, before] = [figures.of(topic, measure.id).value, then?.of(topic, measure.id) ?? null]
    const difference = (now ?? 0n) - (before ?? 0n)
    if (then === null || difference === 0n) return { text: '', bad: false }
    const words = sayFigure(difference, measure, ownLocale(), true)
    return {
      text: difference > 0n ? `+${words}` : words,
      bad: measure.limit === 'most' ? difference > 0n : difference < 0n,
    }
  }
  const { parent } = topicOf(desk.tree, topic)
  const value = figures.of(topic, measure.id).value
  const whole = parent === null ? null : figures.of(parent, measure.id).value
  if (value === null || whole === null || whole === 0n) return { text: '', bad: false }
  const percent = divided(value * 10n ** 12n, whole)
  return { text: `${sayNumber(percent, ownLocale(), { decimals: 1 })} %`, bad: false }
}
