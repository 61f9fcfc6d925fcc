import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** A cell of the board. */
export interface Cell {
  readonly lane: number
  readonly column: number
}

/**
 * Cards under the pointer: chosen, and carried to another column or row. What is carried is one edit when it's let go; Esc lets
 * it be. By touch cards aren't carried, since a finger scrolls: the arrows on the chosen card do it there.
 */
export function useCardDrag(
  desk: Desk,
  board: {
    readonly box: Readonly<Ref<HTMLElement | undefined>>
    cellAt(event: PointerEvent): Cell
    drop(ids: readonly TopicId[], from: Cell, to: Cell): void
    focus(): void
  },
) {
  const carried = shallowRef<{ readonly ids: readonly TopicId[]; readonly x: number; readonly y: number } | null>(null)
  const aim = shallowRef<Cell | null>(null)
  let press: { id: TopicId; from: Cell; x: number; y: number } | null = null

  function down(event: PointerEvent, id: TopicId, from: Cell): void {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, textarea, input')) return
    const add = event.ctrlKey || event.metaKey
    if (event.shiftKey || add) desk.select(id, { range: event.shiftKey, add, quiet: true })
    else if (!desk.selection.value.has(id)) desk.select(id, { quiet: true })
    if (event.pointerType !== 'touch' && desk.session.canEdit) press = { id, from, x: event.clientX, y: event.clientY }
    board.focus()
  }
  function moved(event: PointerEvent): void {
    if (!press) return
    // It was let go of outside.
    if (event.buttons === 0) return void stop()
    if (!carried.value && !beginsCarrying(event, board.box.value!, press)) return
    const ids = desk.selection.value.has(press.id) ? [...desk.selection.value] : [press.id]
    carried.value = { ids, x: event.clientX, y: event.clientY }
    aim.value = board.cellAt(event)
    const box = board.box.value!
    const bounds = box.getBoundingClientRect()
    if (event.clientY < bounds.top + 60) box.scrollTop -= 12
    if (event.clientY > bounds.bottom - 30) box.scrollTop += 12
    if (event.clientX < bounds.left + 40) box.scrollLeft -= 14
    if (event.clientX > bounds.right - 40) box.scrollLeft += 14
  }
  function up(event: PointerEvent): void {
    const [held, to, pressed] = [carried.value, aim.value, press]
    stop()
    if (held && to && pressed) board.drop(held.ids, pressed.from, to)
    else if (pressed && !event.shiftKey && !event.ctrlKey && !event.metaKey) desk.select(pressed.id, { quiet: true })
  }
  /** Lets it be. False when nothing was held. */
  function stop(): boolean {
    const held = carried.value !== null
    press = carried.value = aim.value = null
    return held
  }
  return { carried, aim, down, moved, up, stop }
}
