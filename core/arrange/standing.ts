import type { TopicId } from '../tree/topic'
import type { Direction, Extents, Size, Tick } from './place'

/** What an arrangement that places its topics one by one is given to work with. */
export interface Ground {
  readonly root: TopicId
  /** The topics directly below, as far as they're shown; none below a frame of its own. */
  kids(id: TopicId): readonly TopicId[]
  size(id: TopicId): Size
  /** How far the drawing of a topic with a frame of its own reaches; for any other, its plank. */
  extents(id: TopicId): Extents
  /** Multipliers of the usual space. */
  readonly along: number
  readonly across: number
}

/** Where a topic's middle stands, from the middle of the frame's root. */
export interface Spot {
  readonly dx: number
  readonly dy: number
  readonly direction: Direction
}

export interface Line { readonly owner: TopicId, readonly points: readonly number[] }

/** A frame whose topics are placed one by one. All lengths count from the middle of the frame's root. */
export interface Standing {
  readonly spots: ReadonlyMap<TopicId, Spot>
  readonly lines: readonly Line[]
  readonly extents: Extents
  readonly axis?: { readonly y: number, readonly from: number, readonly to: number, readonly ticks: readonly Tick[] }
}

export function halfOf({ width, height }: Size): Extents {
  return { left: width / 2, right: width / 2, top: height / 2, bottom: height / 2 }
}

/** The reach of a root and of everything that stands around it. */
export function reachOf(own: Extents, spots: ReadonlyMap<TopicId, Spot>, extents: (id: TopicId) => Extents): Extents {
  let { left, right, top, bottom } = own
  for (const [id, { dx, dy }] of spots) {
    const at = extents(id)
    left = Math.max(left, at.left - dx)
    right = Math.max(right, at.right + dx)
    top = Math.max(top, at.top - dy)
    bottom = Math.max(bottom, at.bottom + dy)
  }
  return { left, right, top, bottom }
}
