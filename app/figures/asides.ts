import { divided, type Fixed, nearly } from '#core/figures/fixed'
import type { Figures } from '#core/figures/figures'
import { sayFigure, sayNumber } from '#core/figures/numbers'
import { fixedOf } from '#core/figures/fixed'
import { figureAt } from '#core/figures/entry'
import { type Measure, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { FiguresThen } from './useFiguresThen'

/** What stands beside a figure in the sheet: its share of its parent's, what is left of its target, what came since a moment. */
export type Aside = 'share' | 'target' | 'since'

/** What is left of a topic's target in a measure, or missing from it; null where it has none. */
export function againstTarget(
  desk: Desk,
  figures: Figures,
  topic: TopicId,
  measure: Measure,
): { readonly target: Fixed; readonly left: Fixed; readonly bad: boolean; readonly part: number } | null {
  const said = figureAt(desk.tree, topic, measure.id, null)?.target
  const target = said ? fixedOf(said) : null
  if (target === null) return null
  const value = figures.of(topic, measure.id).value ?? 0n
  const left = target - value
  const bad = measure.limit === 'most' ? left < 0n : left > 0n
  return { target, left, bad, part: target === 0n ? 0 : nearly(value) / nearly(target) }
}

export function asideOf(
  desk: Desk,
  figures: Figures,
  topic: TopicId,
  measure: Measure,
  aside: Aside,
  then: FiguresThen | null,
): { readonly text: string; readonly bad: boolean } {
  if (aside === 'target') {
    const against = againstTarget(desk, figures, topic, measure)
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
