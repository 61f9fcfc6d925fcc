import type { TopicId } from '../tree/topic'
import type { Direction, Extents, Placed, Size, Tick } from './place'

/** Where a topic's middle stands, from the middle of the frame's root. */
export interface Spot {
  readonly dx: number
  readonly dy: number
  readonly direction: Direction
}

export interface Line {
  readonly owner: TopicId
  readonly points: readonly number[]
}

/** Topics that are placed one by one. All lengths count from the middle of the frame's root. */
export interface Standing {
  readonly spots: ReadonlyMap<TopicId, Spot>
  readonly lines: readonly Line[]
  readonly extents: Extents
  readonly axis?: { readonly y: number; readonly from: number; readonly to: number; readonly ticks: readonly Tick[] }
}

export function halfOf({ width, height }: Size): Extents {
  return { left: width / 2, right: width / 2, top: height / 2, bottom: height / 2 }
}

/** The plank of a topic whose middle stands on a spot. */
export function plankAt(id: TopicId, { width, height }: Size, { dx, dy, direction }: Spot): Placed {
  return { id, x: dx - width / 2, y: dy - height / 2, width, height, direction }
}
