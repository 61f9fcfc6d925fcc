import type { TopicId } from '../tree/topic'
import type { Layout } from './layout'
import { meets, type Rect, type Size } from './place'

/** Clear space around what lands on free ground, in canvas units. */
const CLEAR = 14

/** Whether no plank, but those `without`, reaches into a rectangle. */
export function isFree(layout: Layout, rect: Rect, without?: (id: TopicId) => boolean): boolean {
  let free = true
  layout.scan(rect, 0, {
    plank: placed => {
      if (meets(placed, rect) && !without?.(placed.id)) free = false
    },
    line() {},
    block() {
      free = false
    },
  })
  return free
}

/** The first of some rectangles that no plank reaches into; null when there is none. */
export const firstFree = <R extends Rect>(layout: Layout, rects: readonly R[], without?: (id: TopicId) => boolean) =>
  rects.find(rect => isFree(layout, rect, without)) ?? null

/**
 * The upper left corner nearest to a wished one where a plank of this size, with clear space around it, lies over no
 * other: looked for in rings around the wish, and beside the whole tree when all near by is taken.
 */
export function freeGround(
  layout: Layout,
  wish: { readonly x: number; readonly y: number },
  { width, height }: Size,
): { x: number; y: number } {
  const isClear = (x: number, y: number): boolean =>
    isFree(layout, { x: x - CLEAR, y: y - CLEAR, width: width + 2 * CLEAR, height: height + 2 * CLEAR })
  if (isClear(wish.x, wish.y)) return { ...wish }
  for (let ring = 1; ring <= 12; ring++) {
    const away = ring * (CLEAR + height / 2)
    for (const [dx, dy] of AROUND)
      if (isClear(wish.x + dx * away * 1.6, wish.y + dy * away))
        return { x: wish.x + dx * away * 1.6, y: wish.y + dy * away }
  }
  const whole = layout.bounds()
  return { x: wish.x, y: whole.y + whole.height + 3 * CLEAR }
}

/** Below first, since that is where one looks for what didn't fit. */
const AROUND = [
  [0, 1],
  [1, 0],
  [0, -1],
  [-1, 0],
  [1, 1],
  [-1, 1],
  [1, -1],
  [-1, -1],
] as const
