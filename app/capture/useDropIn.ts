import type { Layout } from '#core/arrange/layout'
import { type Landing, landingAt } from '#core/arrange/landing'
import type { Slot, TopicId } from '#core/tree'
import { land } from './building'
import type { Desk } from '~/desk/desk'

interface Point {
  readonly x: number
  readonly y: number
}

/** A line of the talk where it was dropped: between topics, and over one or none. */
export interface DroppedLine {
  readonly comment: string
  readonly slot: Slot | null
  readonly over: TopicId | null
  readonly left: number
  readonly top: number
}

interface Canvas {
  readonly desk: Desk
  readonly layout: Layout
  /** Where a pointer is on the canvas, in canvas units. */
  readonly worldAt: (event: DragEvent) => Point
  readonly topicAt: (point: Point) => TopicId | null
  readonly landing: Ref<Landing | null>
  readonly files: (files: File[], topic: TopicId | null) => void
}

/**
 * What is dragged in from beside the canvas: lines of the tray land as branches do; markers and pictures go to the
 * topic under the pointer.
 */
export function useDropIn({ desk, layout, worldAt, topicAt, landing, files }: Canvas) {
  const hovered = ref<TopicId | null>(null)
  /** A line of the talk that was let go here, until it's said what becomes of it. */
  const dropped = shallowRef<DroppedLine | null>(null)

  function dragOver(event: DragEvent): void {
    const types: readonly string[] = event.dataTransfer?.types ?? []
    if (types.includes('text/x-sun-porch-tray')) {
      event.preventDefault()
      const { x, y } = worldAt(event)
      landing.value = landingAt(desk.tree, layout, x, y, new Set(desk.carried), { width: 120, height: 28 })
    } else if (types.includes('text/x-sun-porch-said')) {
      event.preventDefault()
      const { x, y } = worldAt(event)
      landing.value = landingAt(desk.tree, layout, x, y, new Set(), { width: 120, height: 28 })
      hovered.value = topicAt({ x, y })
    } else if (types.includes('text/x-sun-porch-marker') || types.includes('Files')) {
      event.preventDefault()
      hovered.value = topicAt(worldAt(event))
    }
  }

  function dragLeave(): void {
    landing.value = null
    hovered.value = null
  }

  function dropIn(event: DragEvent): void {
    event.preventDefault()
    const at = landing.value
    const over = topicAt(worldAt(event))
    dragLeave()
    const said = event.dataTransfer?.getData('text/x-sun-porch-said')
    if (said) {
      dropped.value = { comment: said, slot: at?.slot ?? null, over, left: event.clientX, top: event.clientY }
      return
    }
    const marker = event.dataTransfer?.getData('text/x-sun-porch-marker')
    if (at && desk.carried.length > 0) land(desk, desk.carried, at.slot, at.place)
    else if (marker && over) desk.toggle('markers', marker, desk.selection.value.has(over) ? desk.selected() : [over])
    else if (event.dataTransfer?.files.length) files([...event.dataTransfer.files], over)
  }

  /** The outline around the topic that would get it. */
  const hoverStyle = computed(() => {
    const placed = hovered.value ? layout.find(hovered.value) : null
    return placed
      ? {
          transform: `translate(${placed.x - 3}px, ${placed.y - 3}px)`,
          width: `${placed.width + 6}px`,
          height: `${placed.height + 6}px`,
        }
      : null
  })

  return { dragOver, dragLeave, dropIn, hoverStyle, dropped }
}
