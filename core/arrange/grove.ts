import type { TopicId } from '../tree/topic'
import type { Direction, Extents, Onlooker, Placed, Rect, Size } from './place'

/** What an arrangement is given to work with: one frame of the tree. */
export interface Ground {
  readonly root: TopicId
  /** The topics directly below, as far as they're shown; none below a frame of its own. */
  kids(id: TopicId): readonly TopicId[]
  size(id: TopicId): Size
  /** Whether a topic, other than the root, has a frame of its own. */
  isNested(id: TopicId): boolean
  /** How far the drawing of a topic with a frame of its own reaches; for any other, its plank. */
  extents(id: TopicId): Extents
  /** Multipliers of the usual space. */
  readonly along: number
  readonly across: number
}

/** Receives what of a grove is in sight. All lengths count from the middle of the frame's root. */
export interface GroveOnlooker extends Onlooker {
  /** A topic with a frame of its own stands here. */
  frame(placed: Placed): void
}

/**
 * How the topics of a frame stand, all but its root. Kept topic by topic: a change costs the path from what was touched
 * to the frame's root, and a look costs what is in sight.
 */
export interface Grove {
  /** Brings all places up to date and says how far they reach from the middle of the root. */
  settle(): Extents
  /** These topics, or something of what hangs from them, changed. */
  touch(ids: Iterable<TopicId>): void
  /** All is to be placed anew: sizes or the space between planks changed. */
  forget(): void
  /**
   * Where the last of `steps` stands, from the middle of the root: each step hangs from the one before, the first from
   * the root. Null when it isn't shown. The grove must be settled.
   */
  find(steps: readonly TopicId[]): Placed | null
  /** Which way a topic that stands in the frame runs, where the arrangement turns some round. The grove must be settled. */
  directionOf?(id: TopicId): Direction
  /** Shows what lies in `view`; branches lower than `grain` as blocks. The grove must be settled. */
  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void
}

/** How many planks that were placed one by one are drawn at most when they are seen from afar. */
export const MOST_BARS = 6000
