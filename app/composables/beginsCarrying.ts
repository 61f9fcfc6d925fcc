/** How far a pressed pointer moves before it carries what is under it, px. */
const FAR = 5

/**
 * Whether a pressed pointer now carries what it was pressed on. Only from here on does the box hear of it wherever it
 * goes: held from the press on, the box would also be what a double click is told to, and a title couldn't be opened
 * by one.
 */
export function beginsCarrying(event: PointerEvent, box: HTMLElement, from: { x: number; y: number }): boolean {
  if (Math.hypot(event.clientX - from.x, event.clientY - from.y) < FAR) return false
  box.setPointerCapture(event.pointerId)
  return true
}
