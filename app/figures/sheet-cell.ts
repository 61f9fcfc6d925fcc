import type { Figures } from '#core/figures/figures'
import { againstTarget } from '#core/figures/target'
import { isOnFigure } from '#core/talk/saying'
import type { TopicSign } from '#core/talk/thread'
import type { Measure, TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { type Aside, asideOf } from './asides'
import { shownResult } from './figuring'
import type { FiguresThen } from './useFiguresThen'

/** A cell of the sheet, in words. */
export interface Cell {
  readonly text: string
  readonly fault: string | null
  readonly own: boolean
  readonly formula: boolean
  /** What rolls up beside one of its own. */
  readonly beside: string
  /** Against its target: how far over, or what's missing; '' where all is well. */
  readonly over: string
  readonly asides: readonly { readonly text: string; readonly bad: boolean }[]
  /** What was said about it. */
  readonly talked: TopicSign | null
}

export function cellOf(
  desk: Desk,
  figures: Figures,
  {
    topic,
    measure,
    asides,
    then,
  }: {
    readonly topic: TopicId
    readonly measure: Measure
    readonly asides: readonly Aside[]
    readonly then: FiguresThen | null
  },
): Cell {
  const result = figures.of(topic, measure.id)
  const rolled = result.own ? figures.rolled(topic, measure.id) : null
  const against = againstTarget(desk.tree, figures, topic, measure)
  const { text, fault } = shownResult(desk, result, measure, { topic, measure: measure.id }, true)
  return {
    text,
    fault,
    own: result.own,
    formula: result.formula !== null,
    beside: rolled?.value != null ? shownResult(desk, rolled, measure, { topic, measure: measure.id }, true).text : '',
    over: against?.bad
      ? `${shownResult(desk, { value: against.left < 0n ? -against.left : against.left, fault: null }, measure, { topic, measure: measure.id }).text} ${measure.limit === 'most' ? 'over its target' : 'missing from its target'}`
      : '',
    asides: asides.map(aside => asideOf(desk, figures, topic, measure, aside, then)),
    talked: desk.talking.signAt(topic, place => isOnFigure(place, measure.id)),
  }
}
