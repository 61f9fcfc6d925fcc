import { markerOf } from '#core/tree'
import { fixedOf } from '#core/figures/fixed'
import { typedText } from '#core/figures/entry'
import { sayFigure } from '#core/figures/numbers'
import type { Teller } from '#core/history/words'
import type { Desk } from '~/desk/desk'
import { formulaNames } from '~/figures/figuring'

/** Happenings in the words of this tree's people and markers, and of the person's own days. */
export function speakerOf(desk: Desk, names: Readonly<Record<string, string>>): Teller {
  const measureOf = (id: string) => desk.tree.fields.measures.find(one => one.id === id)
  return {
    nameOf: id => names[id] ?? desk.nameOf(id),
    markerOf: id => markerOf(id, desk.tree.fields.markerSets)?.name ?? 'of a set that is gone',
    day: dayInWords,
    measureOf: id => measureOf(id)?.name ?? 'former figure',
    figure(id, text) {
      const measure = measureOf(id)
      const value = fixedOf(text)
      if (!measure) return value === null ? 'a formula' : text
      return value === null
        ? typedText(text, measure, desk.tree, formulaNames(desk), ownLocale())
        : sayFigure(value, measure, ownLocale())
    },
  }
}
