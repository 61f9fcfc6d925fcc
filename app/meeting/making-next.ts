import { briefOf, meetingOf } from '#core/meeting/brief'
import { dayOfNext, nextMeeting } from '#core/meeting/next'
import { shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/**
 * Lays out the meeting after the one that the selection belongs to. Returns it; null when there is none to go on from.
 */
export function makeNext(
  desk: Desk,
  from: TopicId | null = meetingOf(desk.tree, desk.focus.value),
  day: string | null = null,
): TopicId | null {
  if (!desk.guard()) return null
  if (from === null) {
    desk.say('Go to a meeting first: the next one is made from it.')
    return null
  }
  const { changes, id } = nextMeeting(desk.tree, from, newId, day ?? dayOfNext(desk.tree, from))
  if (!desk.run({ changes })) return null
  const { begins } = briefOf(topicOf(desk.tree, id))
  desk.select(id)
  desk.say(
    `“${shorten(topicOf(desk.tree, id).title)}” is laid out${begins ? ` for ${dayInWords(begins.day)}` : '. It needs a day: no rule says when'}.`,
    true,
  )
  return id
}
