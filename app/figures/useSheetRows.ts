import { type SheetRow, sheetRows } from '#core/figures/sheet'
import { groupedRows, isTopicRow, placeInSheet, type SheetLine } from '#core/figures/sheet-groups'
import type { Figures } from '#core/figures/figures'
import { collator, markersOf, type Measure } from '#core/tree'
import type { Grouping } from '#core/tree/view'
import type { Desk } from '~/desk/desk'

/** The rows of the sheet: the tree's, in its order or in that of a measure, or what counts in groups. */
export function useSheetRows(
  desk: Desk,
  sheet: { readonly measures: () => readonly Measure[]; readonly figures: () => Figures },
) {
  const sort = shallowRef<{ readonly measure: string; readonly down: boolean } | null>(null)
  const group = ref<Grouping | null>(null)
  const rows = computed<readonly SheetLine[]>(() => {
    void desk.tick.value
    const { finding } = desk
    const by = sort.value
    const asked = {
      only: desk.only.value,
      hidden: (id: string) => finding.isHidden(id),
      sort: by && { down: by.down, value: (id: string) => sheet.figures().of(id, by.measure).value },
    }
    if (group.value === null) return sheetRows(desk.tree, { ...asked, folded: id => desk.isFolded(id) })
    const grouping = group.value
    const names = new Map(markersOf(desk.tree.fields).map(marker => [marker.id, marker.name]))
    const reader = {
      today: today(),
      locale: ownLocale(),
      personName: desk.nameOf,
      markerName: (id: string) => names.get(id) ?? id,
    }
    return groupedRows(desk.tree, sheet.figures(), sheet.measures(), {
      ...asked,
      groupOf: id => placeInSheet(desk.tree, id, grouping, reader),
      compare: collator(reader.locale).compare,
    })
  })
  const topicAt = (row: number): SheetRow | null => {
    const line = rows.value[row]
    return line && isTopicRow(line) ? line : null
  }
  const indexOf = computed(
    () => new Map(rows.value.flatMap((line, i): [string, number][] => (line.id === null ? [] : [[line.id, i]]))),
  )
  /** By a measure, from the most down; again: from the least up; once more: as the tree has it. */
  function order(measure: Measure): void {
    const now = sort.value
    sort.value =
      now?.measure !== measure.id
        ? { measure: measure.id, down: true }
        : now.down
          ? { measure: measure.id, down: false }
          : null
  }
  // A title is typed where it can be seen: what has no figure yet is in no group.
  watch(desk.editing, now => {
    if (now && !indexOf.value.has(now.id)) group.value = null
  })
  return { sort, group, rows, topicAt, indexOf, order }
}
