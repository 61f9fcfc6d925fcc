import { type Change, type Marker, shorten, type TopicId } from '#core/tree'
import type { ShelfPicture } from '#core/contract'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** The tree's own set that markers from the shelf go into. */
const SET = { id: 'shelf', name: 'From the shelf' } as const
/** As many as a set may have. */
const MOST = 60

/**
 * Puts an emoji of the shelf on topics as a marker, in a set of the tree's own that is made for the first: one edit. False, with
 * a word of why, where the set is full.
 */
export function markFromShelf(desk: Desk, picture: ShelfPicture, topics: readonly TopicId[]): boolean {
  if (picture.emoji === null || !desk.guard()) return false
  const set = desk.tree.fields.markerSets.find(({ id }) => id === SET.id)
  const known = set?.markers.find(({ emoji }) => emoji === picture.emoji)
  if (!known && (set?.markers.length ?? 0) >= MOST) {
    desk.say(`“${set!.name}” has ${MOST} markers already, as many as a set may have. Nothing was changed.`)
    return false
  }
  const marker: Marker = known ?? {
    id: newId(),
    name: shorten(picture.label, 60),
    shape: 'bare',
    sign: 'none',
    hue: 'stone',
    emoji: picture.emoji,
  }
  const kept: Change[] = known
    ? []
    : [
        {
          op: 'tree-put',
          set: 'markerSets',
          member: { ...SET, exclusive: false, ...set, markers: [...(set?.markers ?? []), marker] },
        },
      ]
  const put = topics
    .filter(id => !desk.tree.topics.get(id)?.markers.includes(marker.id))
    .map((topic): Change => ({ op: 'put', topic, set: 'markers', member: marker.id }))
  const changes = [...kept, ...put]
  // All of them have it already.
  return changes.length === 0 || desk.run({ changes })
}
