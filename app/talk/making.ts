import { type Body, mentionsIn, textOf } from '#core/talk/body'
import type { BecameKind } from '#core/talk/saying'
import type { Comment } from '#core/talk/thread'
import { meetingOf } from '#core/meeting/brief'
import { capture } from '#core/meeting/record'
import { addAt, type Initial, isLive, lastChild, LIMITS, type Slot, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** A title from what was said: its first line that says something. */
export function titleOf(body: Body): string {
  const line = textOf(body)
    .split('\n')
    .find(one => one.trim() !== '')
  return (line ?? '').trim().slice(0, Math.min(300, LIMITS.title)).toWellFormed()
}

/** People of the tree who are mentioned. */
function peopleIn(desk: Desk, body: Body): string[] {
  const known = new Set(desk.session.people.map(({ id }) => id))
  return mentionsIn(body).people.filter(id => known.has(id))
}

/**
 * Makes a comment into a topic of a kind, in one edit, under `under` or at a place; and says so at the comment, so that the way leads
 * there and back. Null when it can't be.
 */
export function makeOf(
  desk: Desk,
  comment: Comment,
  as: Exclude<BecameKind, 'comment'>,
  where: { readonly under: TopicId } | { readonly slot: Slot },
): TopicId | null {
  const { body } = comment
  if (!body || !desk.guard()) return null
  const asked = 'under' in where ? where.under : null
  const slot =
    'slot' in where ? where.slot : lastChild(desk.tree, isLive(desk.tree, asked!) ? asked! : desk.tree.centre)
  const name = desk.nameOf(comment.by)
  const details: Initial & { title: string } = {
    title: titleOf(body) || `From ${name}`,
    // The way back: where it was said.
    ...(asked ? { links: [{ id: newId(), url: `topic:${asked}`, title: `Said by ${name}` }] } : {}),
  }
  const said = { by: comment.by, name, at: Date.parse(comment.at) }
  let made: { changes: Parameters<Desk['run']>[0]['changes']; id: TopicId }
  const people = peopleIn(desk, body)
  const task: Initial = { done: 0, ...(people.length > 0 ? { people } : {}) }
  const place = slot.parent ?? desk.tree.centre
  if (as === 'decision') made = capture(desk.tree, place, 'decision', details, said, newId)
  // In a meeting a task is an action of its record, so that the minutes name it.
  else if (as === 'task' && meetingOf(desk.tree, place) !== null)
    made = capture(desk.tree, place, 'action', { ...details, ...task }, said, newId)
  else {
    const step = addAt(desk.tree, slot, newId, { ...details, ...(as === 'task' ? task : {}) })
    made = { changes: step.changes, id: step.made[0]! }
  }
  if (!desk.run({ changes: made.changes })) return null
  desk.talking.talk.value?.became(comment.id, { as, topic: made.id })
  return made.id
}
