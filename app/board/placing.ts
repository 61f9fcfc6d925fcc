import type { Board, BoardPlace } from '#core/board/board'

/* Where everything on the board is drawn, px from the top left of its ground. Cards are all of one height. */

export const CARD = 64
/** From card to card. */
const PITCH = CARD + 8
export const LANE_HEAD = 30
const PAD = 8

export interface LaneBox {
  readonly top: number
  /** Where its cards begin. */
  readonly cards: number
  readonly height: number
}

/** The rows of a board from the top down. `headed`: each has its branch's name above its cards. */
export function laneBoxes({ lanes }: Board, headed: boolean): LaneBox[] {
  let top = 0
  return lanes.map(({ cells }) => {
    const most = cells.reduce((most, cards) => Math.max(most, cards.length), 0)
    const cards = top + (headed ? LANE_HEAD : PAD)
    const height = cards - top + Math.max(most * PITCH, headed ? 10 : CARD) + PAD
    const box = { top, cards, height }
    top += height
    return box
  })
}

export const cardTop = (lane: LaneBox, index: number): number => lane.cards + index * PITCH

/** The cards of a row that are between two heights: from the first, and so many. */
export function cardsBetween(lane: LaneBox, from: number, to: number): [number, number] {
  return [Math.max(0, Math.floor((from - lane.cards) / PITCH)), Math.max(0, Math.ceil((to - lane.cards) / PITCH))]
}

/** The row and column at a point, the nearest where it's beside all. */
export function cellAt(
  boxes: readonly LaneBox[],
  columns: number,
  width: number,
  { x, y }: { readonly x: number; readonly y: number },
): Omit<BoardPlace, 'index'> {
  const lane = boxes.findIndex(({ top, height }) => y < top + height)
  return { lane: lane < 0 ? boxes.length - 1 : lane, column: Math.max(0, Math.min(columns - 1, Math.floor(x / width))) }
}
