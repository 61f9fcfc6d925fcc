import { type AnyColumn, isFigureColumn } from '#core/tree/view'
import { topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { arrive, expectField, expectNothing } from '~/focus/typeahead'
import { actionFor } from '~/keys/keys'
import { cellText, isTyped, readCell } from './cells'
import type { Figured } from './useFigured'

/** The cell that is open for typing: Enter keeps it, Esc drops it, Tab and the arrows go on to the next. */
export function useCells(
  desk: Desk,
  outline: {
    readonly box: Readonly<Ref<HTMLElement | undefined>>
    /** The columns that are shown and can be typed in. */
    typed(): readonly AnyColumn[]
    figured(): Figured | null
    neighbour(id: TopicId, direction: 'up' | 'down'): TopicId | null
    focus(): void
  },
) {
  const cell = ref<{ readonly id: TopicId; readonly column: AnyColumn } | null>(null)
  const cellDraft = ref('')
  /** What the open cell said when it was opened. */
  let opens = ''

  function openCell(id: TopicId, column: AnyColumn): void {
    const figured = outline.figured()
    if (!isTyped(column) || (isFigureColumn(column) && !figured) || !desk.guard()) return
    if (topicOf(desk.tree, id).reference) {
      desk.say('This topic shows another one. What it says is changed at the original.')
      return
    }
    if (desk.editing.value) desk.keep()
    desk.select(id, { quiet: true })
    cellDraft.value = opens = isFigureColumn(column) ? figured!.opened(id, column) : cellText(desk, id, column)
    cell.value = { id, column }
    expectField()
    nextTick(() => {
      const field = outline.box.value?.querySelector<HTMLInputElement>('.cell input')
      if (!field) {
        expectNothing()
        return
      }
      field.select()
      arrive(field)
    })
  }
  /** False when what was typed isn't understood; the cell stays open then. */
  function keepCell(): boolean {
    const open = cell.value
    if (!open) return true
    if (isFigureColumn(open.column)) {
      const wrong = cellDraft.value === opens ? null : outline.figured()!.give(open.id, open.column, cellDraft.value)
      if (wrong !== null) desk.say(wrong)
      else cell.value = null
      return wrong === null
    }
    const changes = readCell(desk, open.id, open.column, cellDraft.value)
    if (typeof changes === 'string') {
      desk.say(changes)
      return false
    }
    cell.value = null
    if (changes.length > 0) desk.run({ changes })
    return true
  }
  function cellKey(event: KeyboardEvent): void {
    event.stopPropagation()
    const open = cell.value
    if (!open) return
    const action = actionFor('cells', event)
    if (action === 'cell-drop') {
      cell.value = null
      outline.focus()
    } else if (action === 'cell-keep') {
      event.preventDefault()
      if (keepCell()) outline.focus()
    } else if (action === 'cell-after' || action === 'cell-before') {
      event.preventDefault()
      const next = outline.typed()[outline.typed().indexOf(open.column) + (action === 'cell-before' ? -1 : 1)]
      if (!keepCell()) return
      if (next) openCell(open.id, next)
      else outline.focus()
    } else if (action === 'cell-up' || action === 'cell-down') {
      event.preventDefault()
      if (!keepCell()) return
      const to = outline.neighbour(open.id, action === 'cell-up' ? 'up' : 'down')
      if (to) openCell(to, open.column)
    }
  }
  /** A cell that was left by Tab is gone already; the next one isn't left yet. */
  function leaveCell(id: TopicId, column: AnyColumn): void {
    if (cell.value?.id === id && cell.value.column === column && !keepCell()) cell.value = null
  }
  function enterCells(): void {
    const first = outline.typed()[0]
    if (first) openCell(desk.focus.value, first)
    else desk.say('No column that can be typed in is shown. Choose some at the head of the outline.')
  }

  return { cell, cellDraft, openCell, cellKey, leaveCell, enterCells }
}
