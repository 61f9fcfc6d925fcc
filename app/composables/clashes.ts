import type { ListedMeeting } from '#core/contract'
import { overlapsOf } from '#core/meeting/overlap'

export const keyOfMeeting = ({ treeId, id }: Pick<ListedMeeting, 'treeId' | 'id'>): string => `${treeId}/${id}`

/**
 * One's own meetings that overlap: by meeting, the titles of the others. What one declined, or isn't asked to, is in
 * nobody's way.
 */
export function clashesIn(meetings: readonly ListedMeeting[]): Map<string, string[]> {
  return overlapsOf(
    meetings.flatMap(one =>
      one.part === null ||
      one.answer === 'declined' ||
      one.start === null ||
      (one.stage !== 'planned' && one.stage !== 'running')
        ? []
        : [{ key: keyOfMeeting(one), title: one.title || 'untitled', start: one.start, minutes: one.minutes }],
    ),
  )
}
