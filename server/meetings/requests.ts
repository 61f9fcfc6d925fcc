import { itemsOf } from '#core/meeting/agenda'
import { dayInWords } from '#core/schedule/days'
import { type Change, shorten } from '#core/tree'
import type { Account } from '../access/accounts'
import { Fault } from '../access/fault'
import { sendLetter } from '../letters/send'
import { newEditId, submit } from '../trees/door'
import { accountsOf, openMeeting } from './meeting'

/**
 * Asks the owner of each item to fill it in by a day. Whoever was asked for the same day already isn't written to
 * again; who is ready is left alone.
 */
export async function requestSections(
  treeId: string,
  topicId: string,
  version: number,
  from: Account,
  by: string,
): Promise<{ asked: number }> {
  const { tree, topic, brief } = await openMeeting(treeId, topicId, version)
  if (brief.begins && by > brief.begins.day)
    throw new Fault(409, 'too-late', 'That day comes after the meeting. Nobody was asked.')
  const items = itemsOf(tree, topicId)
  if (items.length === 0)
    throw new Fault(409, 'no-items', 'There is no agenda yet: lay it out first. Nobody was asked.')
  const wanted = items.filter(item => item.owners.length > 0 && !item.ready && item.asked?.by !== by)
  if (wanted.length === 0) return { asked: 0 }
  const at = Date.now()
  const changes = wanted.map((item): Change => ({
    op: 'put',
    topic: item.id,
    set: 'item',
    member: { id: 'asked', kind: 'asked', by, of: from.id, at },
  }))
  await submit(treeId, from.id, { id: newEditId(), changes })
  const accounts = await accountsOf(wanted.flatMap(({ owners }) => owners))
  let asked = 0
  for (const item of wanted) {
    for (const owner of item.owners) {
      const to = accounts.get(owner)?.email
      if (!to) continue
      asked++
      await sendLetter({
        to,
        from: from.id,
        tree: treeId,
        subject: `Please fill in: ${shorten(item.title || 'your section', 150)}`,
        link: `/trees/${treeId}?topic=${item.id}`,
        body: `${from.name} asks you to fill in “${item.title}” for “${topic.title}” by ${dayInWords(by)}: the news, what worries you, the documents, so that nobody sees them for the first time there.\n\nMark it ready when it is.`,
      })
    }
  }
  return { asked }
}
