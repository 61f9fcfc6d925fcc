import type { Measure, TopicId } from '#core/tree'
import { type FigureColumn, measureOf } from '#core/tree/view'
import type { Desk } from '~/desk/desk'

/** What figures say in a column of the outline, and what is typed there means. */
export interface Figured {
  /** For sorting; null where there is none. */
  value(id: TopicId, column: FigureColumn): bigint | null
  shown(
    id: TopicId,
    column: FigureColumn,
  ): { readonly text: string; readonly fault: string | null; readonly own: boolean }
  opened(id: TopicId, column: FigureColumn): string
  /** Why what was typed can't be a figure; null when it was given, or nothing changed. */
  give(id: TopicId, column: FigureColumn, typed: string): string | null
}

/** Figures for whoever wants a column of them. What works them out is loaded when somebody first does. */
export function useFigured(desk: Desk, wanted: () => boolean): ComputedRef<Figured | null> {
  const of = shallowRef<Figured | null>(null)
  watch(
    wanted,
    async now => {
      if (!now || of.value) return
      const { entryOf, figuresOf, giveFigures, openedText, shownResult } = await import('~/figures/figuring')
      const measure = (column: FigureColumn): Measure | undefined =>
        desk.tree.fields.measures.find(({ id }) => id === measureOf(column))
      of.value = {
        value: (id, column) => figuresOf(desk).of(id, measureOf(column)).value,
        shown(id, column) {
          const one = measure(column)
          if (!one) return { text: '', fault: null, own: false }
          const result = figuresOf(desk).of(id, one.id)
          return { ...shownResult(desk, result, one, { topic: id, measure: one.id }, true), own: result.own }
        },
        opened(id, column) {
          const one = measure(column)
          return one ? openedText(desk, id, one) : ''
        },
        give(id, column, typed) {
          const one = measure(column)
          if (!one) return 'That measure is gone. Nothing was changed.'
          const entry = entryOf(desk, typed, one)
          if (!('text' in entry)) return `${entry.message} Nothing was changed.`
          giveFigures(desk, [{ topic: id, measure: one.id, text: entry.text }])
          return null
        },
      }
    },
    { immediate: true },
  )
  return computed(() => {
    void desk.tick.value
    // Another object at each edit, so that what shows it is drawn anew.
    return of.value && { ...of.value }
  })
}
