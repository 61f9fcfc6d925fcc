import type { TopicId } from '../tree/topic'
import type { Extents, Rect } from './place'
import type { Spot } from './standing'

/** Receives what of a grove is in sight. All lengths count from the middle of the frame's root. */
export interface GroveOnlooker {
  plank(id: TopicId, spot: Spot): void
  line(owner: TopicId, points: readonly number[]): void
  block(rect: Rect, id: TopicId): void
}

/**
 * A frame whose topics are placed one by one, kept topic by topic: a change costs the path from what was touched to the
 * frame's root, and a look costs what is in sight.
 */
export interface Grove {
  /** Brings all places up to date and says how far they reach from the middle of the root. */
  settle(): Extents
  /** These topics, or something of what hangs from them, changed. */
  touch(ids: Iterable<TopicId>): void
  /** Where a topic's middle stands; null when it doesn't stand here. The grove must be settled. */
  spotOf(id: TopicId): Spot | null
  /** Shows what lies in `view`; branches lower than `grain` as blocks. */
  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void
}
