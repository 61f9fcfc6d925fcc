import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** A marker that was pressed on a topic: another of its set, or none, is chosen at once. */
export interface PressedMarker {
  readonly topic: TopicId
  readonly marker: string
  /** Where its sign stands on the screen. */
  readonly at: DOMRect
}
export const pressedMarker = shallowRef<PressedMarker | null>(null)

/** The sign of a marker was pressed. Where nothing may be changed, or the sign is another topic's, it's a press on the topic. */
export function pressMarker(desk: Desk, topic: TopicId, marker: string, event: MouseEvent): void {
  if (event.shiftKey || event.ctrlKey || event.metaKey || !desk.selection.value.has(topic))
    desk.select(topic, { range: event.shiftKey, add: event.ctrlKey || event.metaKey, quiet: true })
  const isOwn = desk.tree.topics.get(topic)?.markers.includes(marker)
  if (!isOwn || !desk.session.canEdit || event.shiftKey || event.ctrlKey || event.metaKey) return
  pressedMarker.value = { topic, marker, at: (event.currentTarget as Element).getBoundingClientRect() }
}
