import { handLandingAt, type Landing, landingAt } from '#core/arrange/landing'
import type { Layout } from '#core/arrange/layout'
import type { Point } from '#core/arrange/thread'
import { movable, type TopicId } from '#core/tree'
import { addLoose, land, shift } from '~/capture/building'
import type { Desk } from '~/desk/desk'
import { FAR_OUT } from './sight'
import type { Viewport } from './viewport'

const LONG_PRESS_MS = 550
/** How far a pointer goes before a press is a drag, px: a finger is less steady than a mouse. */
const SLACK = { mouse: 5, touch: 10 } as const

interface Press {
  readonly id: number
  x: number
  y: number
  readonly startX: number
  readonly startY: number
  readonly topic: TopicId | null
  readonly touch: boolean
}

interface Canvas {
  readonly box: Ref<HTMLElement | undefined>
  readonly view: Viewport
  readonly layout: Layout
  /** Where what is dragged would land. */
  readonly landing: Ref<Landing | null>
  readonly colour: { readonly keeps: Readonly<Ref<boolean>>; toggle(): void }
  /** The pointer moves, with nothing pressed: where, in canvas units. */
  readonly approach: (at: Point) => void
  readonly menu: (event: MouseEvent | PointerEvent) => void
  readonly focus: () => void
}

/** What mouse, pen and fingers do on the canvas: choose, drag, push about, pinch, turn the wheel, call the menu. */
export function usePointers(desk: Desk, { box, view, layout, landing, colour, approach, menu, focus }: Canvas) {
  const presses = new Map<number, Press>()
  let mode: 'none' | 'pan' | 'drag' | 'pinch' = 'none'
  let dragging: ReadonlySet<TopicId> = new Set()
  let longPress = 0
  /** What the last press was on, and the one before it. */
  let pressed: readonly [before: TopicId | null, last: TopicId | null] = [null, null]

  const local = (event: { clientX: number; clientY: number }): Point => {
    const { left, top } = box.value!.getBoundingClientRect()
    return { x: event.clientX - left, y: event.clientY - top }
  }
  const worldAt = (event: { clientX: number; clientY: number }): Point => view.toWorld(local(event))

  function topicAtPoint(point: Point): TopicId | null {
    let hit: TopicId | null = null
    layout.scan(
      { x: point.x - 1 / view.zoom, y: point.y - 1 / view.zoom, width: 2 / view.zoom, height: 2 / view.zoom },
      0,
      {
        plank: placed => {
          hit = placed.id
        },
        line() {},
        block() {},
      },
    )
    return hit
  }

  function topicAt(event: MouseEvent): TopicId | null {
    const onPlank = (event.target as HTMLElement).closest<HTMLElement>('[data-topic]')?.dataset.topic
    if (onPlank) return onPlank
    return view.zoom >= FAR_OUT ? null : topicAtPoint(worldAt(event))
  }

  function down(event: PointerEvent): void {
    if ((event.target as HTMLElement).closest('[data-quiet], textarea')) return
    const touch = event.pointerType === 'touch'
    if (mode === 'drag' && touch) {
      colour.toggle()
      return
    }
    if (event.button !== 1 && event.button !== 0) return
    const { x, y } = local(event)
    const topic = event.button === 0 ? topicAt(event) : null
    if (topic && desk.pointing) {
      // The field of whoever asks keeps the keys until it's answered.
      event.preventDefault()
      desk.pointing(topic)
      return
    }
    presses.set(event.pointerId, { id: event.pointerId, x, y, startX: x, startY: y, topic, touch })
    pressed = [pressed[1], topic]
    try {
      box.value!.setPointerCapture(event.pointerId)
    } catch {
      /* the finger has left the glass already */
    }
    if (presses.size === 2) {
      mode = 'pinch'
      landing.value = null
      clearTimeout(longPress)
      return
    }
    if (topic) {
      const add = event.ctrlKey || event.metaKey
      if (event.shiftKey || add) desk.select(topic, { range: event.shiftKey, add, quiet: true })
      else if (!desk.selection.value.has(topic) && !touch) desk.select(topic, { quiet: true })
    }
    if (touch)
      longPress = window.setTimeout(() => {
        if (mode !== 'none') return
        if (topic) desk.select(topic, { quiet: true })
        presses.clear()
        menu(event)
      }, LONG_PRESS_MS)
    focus()
  }

  function moved(event: PointerEvent): void {
    const press = presses.get(event.pointerId)
    if (!press) {
      approach(worldAt(event))
      return
    }
    const at = local(event)
    if (mode === 'pinch') {
      pinch(press, at)
      return
    }
    if (
      mode === 'none' &&
      Math.hypot(at.x - press.startX, at.y - press.startY) > SLACK[press.touch ? 'touch' : 'mouse']
    ) {
      clearTimeout(longPress)
      begin(press)
    }
    if (mode === 'pan') view.pan(at.x - press.x, at.y - press.y)
    if (mode === 'drag') drag(press, at)
    press.x = at.x
    press.y = at.y
  }

  /** By touch, a finger on a topic pans unless that topic is selected; so the tree can be pushed about by its planks. */
  function begin({ topic, touch }: Press): void {
    const isSelected = topic !== null && desk.selection.value.has(topic)
    const able = topic !== null && topic !== desk.tree.centre && desk.session.canEdit
    if (!able || (touch && !isSelected)) {
      mode = 'pan'
      return
    }
    mode = 'drag'
    dragging = new Set(movable(desk.tree, isSelected ? desk.selection.value : [topic]))
  }

  function drag(press: Press, at: Point): void {
    const point = view.toWorld(at)
    const lead = layout.find(dragging.has(press.topic!) ? press.topic! : [...dragging][0]!)
    const from = view.toWorld({ x: press.startX, y: press.startY })
    const over = topicAtPoint(point)
    const byHand =
      lead && (over === null || dragging.has(over))
        ? handLandingAt(desk.tree, layout, lead, { x: point.x - from.x, y: point.y - from.y }, dragging)
        : null
    landing.value =
      byHand ?? landingAt(desk.tree, layout, point.x, point.y, dragging, lead ?? { width: 100, height: 28 })
    edgePan(at)
  }

  /** Near the edge a drag pulls the view along. */
  function edgePan(at: Point): void {
    const edge = 36
    const push = (value: number, end: number): number =>
      value < edge ? (edge - value) / 3 : value > end - edge ? (end - edge - value) / 3 : 0
    const dx = push(at.x, view.width)
    const dy = push(at.y, view.height)
    if (dx || dy) view.pan(dx, dy)
  }

  function pinch(press: Press, at: Point): void {
    const other = [...presses.values()].find(item => item.id !== press.id)
    if (!other) return
    const before = Math.hypot(press.x - other.x, press.y - other.y)
    const after = Math.hypot(at.x - other.x, at.y - other.y)
    view.pan((at.x - press.x) / 2, (at.y - press.y) / 2)
    if (before > 0) view.zoomAt(view.zoom * (after / before), (at.x + other.x) / 2, (at.y + other.y) / 2)
    press.x = at.x
    press.y = at.y
  }

  function up(event: PointerEvent): void {
    clearTimeout(longPress)
    const press = presses.get(event.pointerId)
    presses.delete(event.pointerId)
    if (!press) return
    const at = landing.value
    if (mode === 'drag' && at?.by) shift(desk, new Map([...dragging].map(id => [id, at.by!])), id => layout.find(id))
    else if (mode === 'drag' && at) land(desk, dragging, at.slot, at.place, colour.keeps.value)
    else if (mode === 'none' && press.topic && !event.shiftKey && !event.ctrlKey && !event.metaKey)
      desk.select(press.topic, { quiet: true })
    if (presses.size === 0) endDrag()
  }

  function endDrag(): void {
    mode = 'none'
    dragging = new Set()
    landing.value = null
  }

  function wheel(event: WheelEvent): void {
    const { x, y } = local(event)
    const inLines = event.deltaMode === 1
    if (event.ctrlKey || event.metaKey) {
      view.zoomAt(view.zoom * Math.exp(-event.deltaY * (inLines ? 0.05 : 0.0022)), x, y)
      return
    }
    const unit = inLines ? 18 : 1
    const sideways = event.shiftKey && !event.deltaX
    view.pan(-(sideways ? event.deltaY : event.deltaX) * unit, -(sideways ? 0 : event.deltaY) * unit)
  }

  function twice(event: MouseEvent): void {
    if ((event.target as HTMLElement).closest('[data-quiet]')) return
    // A double click is on what its first press was on: selected by that, it may have moved into sight since.
    const topic = pressed[0] ?? topicAt(event)
    if (topic) {
      desk.edit(topic)
      return
    }
    const { x, y } = worldAt(event)
    addLoose(desk, x - 30, y - 14)
  }

  function contextMenu(event: MouseEvent): void {
    event.preventDefault()
    const topic = topicAt(event)
    if (topic && !desk.selection.value.has(topic)) desk.select(topic, { quiet: true })
    menu(event)
  }

  /** Gives up what is being dragged; whether anything was. */
  function escape(): boolean {
    if (mode !== 'drag') return false
    presses.clear()
    endDrag()
    return true
  }

  return { down, moved, up, wheel, twice, contextMenu, escape, topicAtPoint, worldAt }
}
