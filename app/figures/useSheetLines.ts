import type { SheetRow } from '#core/figures/sheet'
import type { Figures } from '#core/figures/figures'
import { childrenOf, type Measure, numberOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { Aside } from './asides'
import { cellOf } from './sheet-cell'
import type { Line } from './SheetLine.vue'
import type { FiguresThen } from './useFiguresThen'

/** What rows of the sheet show, worked out once for each until something is another: scrolling on asks for the new ones only. */
export function useSheetLines(
  desk: Desk,
  sheet: {
    readonly measures: () => readonly Measure[]
    readonly asides: () => readonly Aside[]
    readonly then: () => FiguresThen | null
    readonly figures: () => Figures
  },
) {
  /** A new, empty one whenever lines may be others. */
  const known = computed(() => {
    void desk.tick.value
    void desk.talking.tick.value
    return {
      lines: new Map<TopicId, Line>(),
      figures: sheet.figures(),
      measures: sheet.measures(),
      asides: sheet.asides(),
      then: sheet.then(),
    }
  })
  function lineOf(row: SheetRow): Line {
    const { lines, figures, measures, asides, then } = known.value
    const before = lines.get(row.id)
    if (before && before.level === row.level) return before
    const line = {
      id: row.id,
      level: row.level,
      title: desk.drawnOf(row.id).guise.topic.title,
      number: desk.numbers.any ? desk.numbers.of(row.id) : numberOf(desk.tree, row.id),
      parent: childrenOf(desk.tree, row.id).length > 0,
      hue: desk.dressing.hueOf(row.id),
      cells: measures.map(measure => cellOf(desk, figures, { topic: row.id, measure, asides, then })),
    }
    lines.set(row.id, line)
    return line
  }
  return lineOf
}
