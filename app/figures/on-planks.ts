import { figureMeets } from '#core/figures/meets'
import type { Tick } from '#core/arrange/place'
import { type BetweenMarks, seriesOnAxis } from '#core/figures/on-axis'
import { figurePrint, measuresOnPlanks } from '#core/figures/on-planks'
import { readQuickFigure } from '#core/figures/quick'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { figuresOf } from './figuring'

/** From now on figures stand on the planks of those measures that are to be shown there. */
export function putFiguresOnPlanks(desk: Desk): void {
  const figures = figuresOf(desk)
  desk.planks.figures = {
    of: id => figurePrint(desk.tree, figures, measuresOnPlanks(desk.tree.fields.measures), id, ownLocale()),
    from: figures,
    onAxis: onceAChange(desk, (of, ticks) => seriesOnAxis(desk.tree, figures, of, ticks, ownLocale())),
    meets: (id, condition) => figureMeets(desk.tree, figures, id, condition),
    read: words => {
      const { fields, topics } = desk.tree
      const there = desk.editing.value && topics.get(desk.editing.value.id)
      return readQuickFigure(words, fields.measures, ownLocale(), there?.figures, fields.planFrom !== null)
    },
  }
  desk.finding.changed()
  desk.measureAgain()
}

type OnAxis = (of: TopicId, ticks: readonly Tick[]) => BetweenMarks | null

/** The axis is drawn anew with each frame; what stands under it is worked out when something has changed. */
function onceAChange(desk: Desk, work: OnAxis): OnAxis {
  const known = new Map<TopicId, { readonly at: string; readonly words: BetweenMarks | null }>()
  return (of, ticks) => {
    const at = `${desk.tick.value} ${ticks.length} ${ticks[0]?.date}`
    const before = known.get(of)
    if (before?.at === at) return before.words
    const words = work(of, ticks)
    known.set(of, { at, words })
    return words
  }
}
