import { figureMeets } from '#core/figures/meets'
import { figurePrint, measuresOnPlanks } from '#core/figures/on-planks'
import { readQuickFigure } from '#core/figures/quick'
import type { Desk } from '~/desk/desk'
import { figuresOf } from './figuring'

/** From now on figures stand on the planks of those measures that are to be shown there. */
export function putFiguresOnPlanks(desk: Desk): void {
  const figures = figuresOf(desk)
  desk.planks.figures = {
    of: id => figurePrint(desk.tree, figures, measuresOnPlanks(desk.tree.fields.measures), id, ownLocale()),
    from: figures,
    meets: (id, condition) => figureMeets(desk.tree, figures, id, condition),
    read: words => {
      const { fields, topics } = desk.tree
      const there = desk.editing.value && topics.get(desk.editing.value.id)
      return readQuickFigure(words, fields.measures, ownLocale(), there?.figures, fields.planFrom !== null)
    },
  }
  desk.finding.changed()
  desk.redress()
  desk.tell('all')
}
