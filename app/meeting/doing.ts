import { isMeeting, meetingOf } from '#core/meeting/brief'
import { itemOf, sayItem, takeItem } from '#core/meeting/agenda'
import { type BriefPart, type Change, shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/* What people do with meetings from the tree itself. */

/** What a topic gets when it's made a meeting: whoever makes it leads it. */
export function firstParts(user: string): BriefPart[] {
  return [
    { id: 'stage', kind: 'stage', stage: 'planned' },
    { id: newId(), kind: 'person', user, mail: null, name: '', needed: true, role: 'chair' },
  ]
}

/** Makes a topic a meeting. False when it is one, or may not be. */
export function makeMeetingOf(desk: Desk, id: TopicId): boolean {
  if (!desk.guard() || isMeeting(topicOf(desk.tree, id))) return false
  return desk.run({
    changes: firstParts(desk.userId).map((member): Change => ({ op: 'put', topic: id, set: 'meeting', member })),
  })
}

/** Makes the selected topics items of the meeting they stand in, or plain topics again. */
export function toggleItem(desk: Desk): void {
  if (!desk.guard()) return
  const ids = desk.selected().filter(id => meetingOf(desk.tree, id) !== null && !isMeeting(topicOf(desk.tree, id)))
  if (ids.length === 0) {
    desk.say('An agenda item stands under a meeting. Make a topic above it a meeting first.')
    return
  }
  const taking = ids.every(id => topicOf(desk.tree, id).item.length > 0)
  desk.run({
    changes: ids.flatMap((id): Change[] =>
      taking
        ? topicOf(desk.tree, id).item.map(part => takeItem(id, part.id))
        : topicOf(desk.tree, id).item.length > 0
          ? []
          : [sayItem(id, { id: 'intent', kind: 'intent', intent: 'discuss' })],
    ),
  })
}

/** The item that a topic belongs to: itself, or the nearest above it within the meeting. */
export function itemAbove(desk: Desk, id: TopicId): TopicId | null {
  for (let at: TopicId | null = id; at !== null; at = desk.tree.topics.get(at)?.parent ?? null) {
    const topic = desk.tree.topics.get(at)
    if (!topic || isMeeting(topic)) return null
    if (topic.item.length > 0) return at
  }
  return null
}

/** Says that a section is filled in, or takes it back. */
export function toggleReady(desk: Desk, id: TopicId | null = itemAbove(desk, desk.focus.value)): void {
  if (!desk.guard()) return
  if (id === null) {
    desk.say('This topic belongs to no agenda item.')
    return
  }
  const { ready, title } = itemOf(topicOf(desk.tree, id))
  if (
    desk.run({
      changes: [
        ready
          ? takeItem(id, 'ready')
          : sayItem(id, { id: 'ready', kind: 'ready', at: desk.session.serverNow(), by: desk.userId }),
      ],
    })
  )
    desk.say(ready ? `“${shorten(title)}” isn’t ready again.` : `“${shorten(title)}” is ready. The lead sees it.`, true)
}
