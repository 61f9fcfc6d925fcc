import type { Row } from '#core/find/rows'
import { slotInWords } from '#core/arrange/landing'
import { besideSlot, childrenOf, movable, type Slot, topicOf, type TopicId } from '#core/tree'
import { land } from '~/capture/building'
import type { Desk } from '~/desk/desk'

type TopicRow = Extract<Row, { kind: 'topic' }>

/** Where a dragged branch would land: the slot, and where the outline shows it, px from its top and left. */
interface Landing {
  readonly slot: Slot
  readonly top: number
  readonly left: number
  readonly inside: boolean
  readonly words: string
}

/** Selecting rows with the pointer, and dragging them: into a row, before it or after it. */
export function useRowDrag(
  desk: Desk,
  outline: {
    readonly box: Readonly<Ref<HTMLElement | undefined>>
    /** The topic's row at a height below the top of all rows, px. */
    rowAt(y: number): { readonly row: TopicRow; readonly start: number; readonly size: number } | null
    /** Whether rows stand as the tree has them. */
    canDrag(): boolean
    /** A row was taken hold of. */
    taken(row: TopicRow): void
    focus(): void
  },
) {
  const landing = shallowRef<Landing | null>(null)
  let press: { id: TopicId; x: number; y: number } | null = null
  let dragging: ReadonlySet<TopicId> = new Set()

  function down(event: PointerEvent, row: TopicRow): void {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, textarea, input, select')) return
    outline.taken(row)
    const add = event.ctrlKey || event.metaKey
    if (event.shiftKey || add) desk.select(row.id, { range: event.shiftKey, add, quiet: true })
    else if (!desk.selection.value.has(row.id)) desk.select(row.id, { quiet: true })
    if (event.pointerType === 'mouse' && row.id !== desk.tree.centre && desk.session.canEdit && outline.canDrag())
      press = { id: row.id, x: event.clientX, y: event.clientY }
    outline.focus()
  }

  function moved(event: PointerEvent): void {
    if (!press) return
    // It was let go of outside.
    if (event.buttons === 0) return stopDrag()
    const { tree } = desk
    if (dragging.size === 0) {
      if (!beginsCarrying(event, outline.box.value!, press)) return
      dragging = new Set(movable(tree, desk.selection.value.has(press.id) ? desk.selection.value : [press.id]))
    }
    const box = outline.box.value!
    const bounds = box.getBoundingClientRect()
    const y = event.clientY - bounds.top + box.scrollTop - 8
    const found = outline.rowAt(y)
    if (!found) return
    const { row, start, size } = found
    const { parent } = topicOf(tree, row.id)
    const part = (y - start) / size
    const inside = parent === null || (part > 0.3 && part < 0.7)
    const slot: Slot = inside
      ? { parent: row.id, index: childrenOf(tree, row.id).length }
      : besideSlot(tree, row.id, part >= 0.7 ? 'after' : 'before')
    landing.value = {
      slot,
      inside,
      top: inside ? start : part >= 0.7 ? start + size : start,
      left: (row.level - (inside ? 0 : 1)) * 22 + 40,
      words: slotInWords(tree, slot, dragging),
    }
    if (event.clientY < bounds.top + 30) box.scrollTop -= 12
    if (event.clientY > bounds.bottom - 30) box.scrollTop += 12
  }

  function up(event: PointerEvent): void {
    if (press && dragging.size === 0 && !event.shiftKey && !event.ctrlKey && !event.metaKey)
      desk.select(press.id, { quiet: true })
    if (landing.value) land(desk, dragging, landing.value.slot)
    stopDrag()
  }

  function stopDrag(): void {
    press = null
    dragging = new Set()
    landing.value = null
  }

  return { landing, down, moved, up, stopDrag, isDragging: () => dragging.size > 0 }
}
