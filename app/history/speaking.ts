import { markerOf } from '#core/tree'
import type { Speaker } from '#core/history/words'
import type { Desk } from '~/desk/desk'

/** Happenings in the words of this tree's people and markers, and of the person's own days. */
export function speakerOf(desk: Desk, names: Readonly<Record<string, string>>): Speaker {
  return {
    nameOf: id => names[id] ?? desk.nameOf(id),
    markerOf: id => markerOf(id, desk.tree.fields.markerSets)?.name ?? 'of a set that is gone',
    day: dayInWords,
  }
}
