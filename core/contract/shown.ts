import type { Marker } from '../tree/markers'

/**
 * What a reference to another tree shows to one person. `closed`: no role in that tree; `trashed`: it, or the topic,
 * is in the trash.
 */
export interface ShownTopic {
  readonly tree: string
  readonly topic: string
  readonly state: 'shown' | 'closed' | 'trashed' | 'gone' | 'loop'
  readonly title: string
  readonly treeTitle: string
  readonly markers: readonly Marker[]
  readonly people: readonly string[]
  readonly due: string | null
  readonly done: number | null
}
