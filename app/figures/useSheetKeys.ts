import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** A cell of the sheet: its row, and its column; the title's is -1. */
export interface At {
  readonly row: number
  readonly column: number
}
export interface Block {
  readonly top: number
  readonly bottom: number
  readonly left: number
  readonly right: number
}

/**
 * Keys in the cells of the sheet, where they are those of any sheet. In the column of titles they stay the tree's own: a list pours out
 * there as in the outline.
 */
export function useSheetKeys(
  desk: Desk,
  sheet: {
    rowOf(id: TopicId): number
    idAt(row: number): TopicId | null
    rows(): number
    columns(): number
    open(at: At, first: string | null): void
    clear(block: Block): void
    fill(block: Block): void
  },
) {
  const column = ref(-1)
  /** Where a range began; null for the one cell. */
  const anchor = shallowRef<At | null>(null)
  const here = computed<At>(() => ({ row: sheet.rowOf(desk.focus.value), column: column.value }))
  const block = computed<Block>(() => {
    const { row, column: at } = here.value
    const from = anchor.value ?? here.value
    return {
      top: Math.min(row, from.row),
      bottom: Math.max(row, from.row),
      left: Math.max(0, Math.min(at, from.column)),
      right: Math.max(at, from.column),
    }
  })
  const isIn = (row: number, at: number): boolean => {
    const { top, bottom, left, right } = block.value
    return at >= left && at <= right && row >= top && row <= bottom
  }

  /** The next row of a topic behind a row, or before it: heads of groups are passed over. */
  function topicFrom(row: number, way: 1 | -1): TopicId | null {
    for (let at = row + way; at >= 0 && at < sheet.rows(); at += way) {
      const id = sheet.idAt(at)
      if (id !== null) return id
    }
    return null
  }

  function go(to: At, extend = false): void {
    const down = to.row >= here.value.row ? 1 : -1
    const at = Math.max(extend ? 0 : -1, Math.min(sheet.columns() - 1, to.column))
    const id = topicFrom(Math.max(0, Math.min(sheet.rows() - 1, to.row)) - down, down)
    if (id === null) return
    anchor.value = extend ? (anchor.value ?? here.value) : null
    column.value = at
    desk.select(id, { quiet: true })
  }

  /** True when the key was one of the sheet's. */
  function key(event: KeyboardEvent): boolean {
    const { row, column: at } = here.value
    const mod = event.ctrlKey || event.metaKey
    // From the titles, to the right begin the cells; everything else there is the tree's.
    if (at < 0) {
      if (event.key !== 'ArrowRight' || mod || event.altKey || event.shiftKey || sheet.columns() === 0) return false
      go({ row, column: 0 })
      return true
    }
    if (mod && !event.altKey && event.key.toLowerCase() === 'd' && !event.shiftKey) {
      sheet.fill(block.value)
      return true
    }
    if (mod || event.altKey) return false
    const steps: Record<string, At> = {
      ArrowUp: { row: row - 1, column: at },
      ArrowDown: { row: row + 1, column: at },
      ArrowLeft: { row, column: at - 1 },
      ArrowRight: { row, column: at + 1 },
      Home: { row, column: 0 },
      End: { row, column: sheet.columns() - 1 },
      PageUp: { row: row - 15, column: at },
      PageDown: { row: row + 15, column: at },
    }
    const step = steps[event.key]
    if (step) {
      go(step, event.shiftKey)
      return true
    }
    switch (event.key) {
      case 'Tab':
        if (!event.shiftKey && at === sheet.columns() - 1) go({ row: row + 1, column: 0 })
        else go({ row, column: at + (event.shiftKey ? -1 : 1) })
        return true
      case 'Enter':
      case 'F2':
        sheet.open(here.value, null)
        return true
      case 'Delete':
      case 'Backspace':
        sheet.clear(block.value)
        return true
      case 'Escape':
        if (anchor.value) anchor.value = null
        else column.value = -1
        return true
      default:
        // What a number or a formula begins with is typed into the cell; letters stay what they are in every view.
        if (!/^[\d=.,+−-]$/.test(event.key)) return false
        sheet.open(here.value, event.key)
        return true
    }
  }
  watch(
    () => desk.focus.value,
    () => {
      if (anchor.value && sheet.rowOf(desk.focus.value) < 0) anchor.value = null
    },
  )
  return { column, anchor, here, block, isIn, go, topicFrom, key }
}
