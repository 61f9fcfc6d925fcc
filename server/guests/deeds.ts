import { nanoid } from 'nanoid'
import { z } from 'zod'
import { mayTakeAway, showsTopic } from '#core/access/by-link'
import type { LinkGuest } from '#core/access/principal'
import { MOST_IN_THREAD } from '#core/talk/saying'
import { type Body, bodyOf, bodySchema, MOST_SAID } from '#core/talk/body'
import { finished } from '#core/schedule/turns'
import { type Change, childrenOf, LIMITS, roomAt, topicOf, type TopicId, type Tree } from '#core/tree'
import { and, desc, eq, isNull } from 'drizzle-orm'
import { Fault } from '../access/fault'
import type { FoundLink } from '../access/guest-links'
import { database } from '../database/connect'
import { comments, threads } from '../database/schema'
import { todayOf } from '../schedule/plan-of'
import { say } from '../talk/door'
import { takeBack } from '../trees/bring-back'
import { newEditId, submit } from '../trees/door'
import { readTree } from '../trees/held'
import { editAt } from '../trees/log'
import { actOf, lookAt } from './look'
import type { Named } from './named'

/*
 * What guests do on a link's page, told by a form, and made through the same doors as everybody's edits and sayings, in the guest's own
 * name.
 */

/** Titles that are added at once. */
const MOST_ADDED = 50
const text = (most: number) =>
  z
    .string()
    .max(most * 2)
    .transform(said => said.replaceAll('\r\n', '\n').toWellFormed().slice(0, most))
    .default('')
/** A day, or '' for none. */
const day = z.union([z.literal(''), z.iso.date()]).default('')
const percent = z
  .enum(['', '0', '25', '50', '75', '100'])
  .or(z.string().regex(/^\d{1,3}$/))
  .default('')

export const deedSchema = z.object({
  do: z.enum(['keep', 'up', 'down', 'remove', 'undo']),
  name: text(80),
  text: text(MOST_SAID),
  titles: text(LIMITS.title),
  /** What stands in the fields now, and what stood there when the form was written. */
  title: text(LIMITS.title),
  wasTitle: text(LIMITS.title),
  done: percent,
  wasDone: percent,
  due: day,
  wasDue: day,
  edit: z.coerce
    .number()
    .int()
    .min(1)
    .max(2 ** 31)
    .optional(),
})
export type Deed = z.output<typeof deedSchema>

/** The words in a form, to be shown again where they can't be kept. */
export const wordsIn = ({
  do: what,
  text: said = '',
  titles = '',
  title = '',
  wasTitle = '',
}: Partial<Deed>): string =>
  what === 'keep' ? [said, title === wasTitle ? '' : title, titles].filter(each => each.trim() !== '').join('\n\n') : ''

/** What came of it: the number of the edit, null for none, whether something was said, and where it's to be seen. */
export interface Came {
  readonly edit: number | null
  readonly said: boolean
  readonly at: TopicId
}

/** Others changed meanwhile what a form would change: theirs is shown first. */
export class Meanwhile extends Fault {
  constructor(readonly theirs: string) {
    super(
      409,
      'meanwhile',
      `Others have changed this meanwhile, to “${theirs}”. What you wrote stands in the field still.`,
    )
  }
}

/** Whoever came by a link, as they may act there now. */
export async function guestOf(found: FoundLink, { id }: Named): Promise<LinkGuest> {
  const { link } = found
  const { part } = link
  const isAll = part.kind === 'tree' || part.kind === 'branch'
  return {
    kind: 'link',
    id,
    link: link.id,
    may: link.may,
    branch: part.kind === 'branch' ? part.topic : null,
    shown: isAll ? null : await shownBy(found),
    tasks: link.along.includes('tasks'),
  }
}

/** The topics on the page of a link that opens no whole branch. */
async function shownBy(found: FoundLink): Promise<Set<TopicId>> {
  const made = await lookAt(found, 'html', actOf(found.link))
  const page = made ? Buffer.from(made.bytes).toString() : ''
  return new Set([...page.matchAll(/ id="t-([\w-]+)"/g)].map(([, id]) => id!))
}

export async function treeOf({ link, version, epoch }: FoundLink): Promise<Tree> {
  const item = await readTree(link.treeId, version, epoch)
  if (!item) throw new Fault(404, 'no-tree', 'There is no such tree.')
  return item.tree
}

/** Does what a form says to a topic. Throws a `Fault` that says why not. */
export async function doDeed(found: FoundLink, guest: LinkGuest, at: TopicId, deed: Deed): Promise<Came> {
  const { link } = found
  const tree = await treeOf(found)
  if (deed.do === 'undo') return undo(found, guest, at, deed.edit)
  if (!showsTopic(guest, at, tree))
    throw new Fault(404, 'no-topic', 'This topic isn’t there any more: somebody took it away or moved it elsewhere.')
  const body = deed.do === 'keep' && deed.text.trim() !== '' ? bodySchema.safeParse(bodyOf(deed.text.trim())) : null
  if (body && !body.success)
    throw new Fault(422, 'too-long', `${MOST_SAID.toLocaleString('en')} letters at most, please.`)
  const changes = changesOf(tree, guest, at, deed)
  if (changes.length === 0 && !body) {
    if (deed.do === 'keep') throw new Fault(422, 'empty', 'Nothing was written yet.')
    return { edit: null, at, said: false }
  }
  const made = changes.length > 0 ? (await submit(link.treeId, guest, { id: newEditId(), changes })).news.number : null
  if (body)
    try {
      await speak(link.treeId, guest, at, body.data)
    } catch (error) {
      if (made === null || !(error instanceof Fault)) throw error
      throw new Fault(error.status, error.code, `The rest was kept. ${error.message}`, { rest: 'kept' })
    }
  const added = changes.find(({ op }) => op === 'add')
  return {
    edit: made,
    said: body !== null,
    at: deed.do === 'remove' ? topicOf(tree, at).parent! : added?.op === 'add' ? added.topic : at,
  }
}

async function speak(treeId: string, guest: LinkGuest, topic: TopicId, body: Body): Promise<void> {
  const comment = nanoid(12)
  const thread = await openThread(treeId, guest.id, topic)
  await say(treeId, guest, {
    id: nanoid(16),
    op: 'say',
    comment,
    body,
    ...(thread === null ? { thread: comment, place: { on: 'topic', topic } } : { thread }),
  })
}

/** Where a guest has spoken about a topic already, and it isn't settled: they go on there. */
async function openThread(treeId: string, by: string, topic: TopicId): Promise<string | null> {
  const [found] = await database()
    .select({ id: threads.id, size: threads.size })
    .from(threads)
    .innerJoin(comments, and(eq(comments.treeId, treeId), eq(comments.threadId, threads.id), eq(comments.by, by)))
    .where(and(eq(threads.treeId, treeId), eq(threads.topicId, topic), isNull(threads.settled)))
    .orderBy(desc(threads.newest))
    .limit(1)
  return found && found.size < MOST_IN_THREAD ? found.id : null
}

function changesOf(tree: Tree, guest: LinkGuest, at: TopicId, deed: Deed): Change[] {
  const topic = topicOf(tree, at)
  switch (deed.do) {
    case 'keep': {
      const changes: Change[] = []
      const title = deed.title.trim()
      if (title !== deed.wasTitle.trim() && title !== topic.title) {
        if (topic.title.trim() !== deed.wasTitle.trim()) throw new Meanwhile(topic.title)
        changes.push({ op: 'set', topic: at, field: 'title', value: title })
      }
      const done = deed.done === '' ? null : Math.min(100, Number(deed.done))
      let due = topic.due
      if (deed.due !== deed.wasDue && (deed.due || null) !== due) {
        if ((due ?? '') !== deed.wasDue) throw new Meanwhile(due ?? 'no day')
        due = deed.due || null
        changes.push({ op: 'set', topic: at, field: 'due', value: due })
      }
      if (deed.done !== deed.wasDone && done !== topic.done) {
        if (String(topic.done ?? '') !== deed.wasDone)
          throw new Meanwhile(topic.done === null ? 'no task' : `${topic.done} %`)
        if (done === 100) {
          // A turn that was finished by others meanwhile isn't finished a second time.
          if (topic.again !== null && (topic.due ?? '') !== deed.wasDue) throw new Meanwhile(topic.due ?? 'no day')
          changes.push(...finished(tree, { ...topic, due }, todayOf(tree), null))
        } else changes.push({ op: 'set', topic: at, field: 'done', value: done })
      }
      return [...changes, ...addedBelow(tree, at, deed.titles)]
    }
    case 'up':
    case 'down': {
      const siblings = topic.parent === null ? [] : childrenOf(tree, topic.parent)
      const from = siblings.indexOf(at)
      const to = from + (deed.do === 'up' ? -1 : 1)
      if (at === guest.branch || to < 0 || to >= siblings.length) return []
      // Before which of them: on its way down it counts itself.
      const { keys, aside } = roomAt(tree, topic.parent, to > from ? to + 1 : to, 1, new Set([at]))
      return [...aside, { op: 'place', topic: at, parent: topic.parent, order: keys[0]! }]
    }
    case 'remove':
      if (!mayTakeAway(guest, at, tree))
        throw new Fault(
          403,
          'role',
          'This one stays: it’s what the link begins with, or something hangs on it that the link doesn’t show.',
        )
      return [{ op: 'remove', topic: at }]
    default:
      return []
  }
}

/** New topics behind those that are there, one a line. */
function addedBelow(tree: Tree, at: TopicId, lines: string): Change[] {
  const titles = lines
    .split('\n')
    .map(line => line.trim())
    .filter(Boolean)
  if (titles.length > MOST_ADDED) throw new Fault(422, 'too-many', `${MOST_ADDED} lines at once, please.`)
  const { keys, aside } = roomAt(tree, at, childrenOf(tree, at).length, titles.length)
  return [
    ...aside,
    ...titles.map((title, i): Change => ({
      op: 'add',
      topic: nanoid(12),
      parent: at,
      order: keys[i]!,
      with: { title },
    })),
  ]
}

/** Takes back what the same guest did. */
async function undo(
  { link, version }: FoundLink,
  guest: LinkGuest,
  at: TopicId,
  number: number | undefined,
): Promise<Came> {
  const edit = number === undefined || number > version ? null : await editAt(link.treeId, number)
  if (!edit || edit.user !== guest.id) throw new Fault(404, 'no-edit', 'That can’t be undone here: it isn’t yours.')
  await takeBack(link.treeId, guest, version, edit.number)
  return { edit: null, said: false, at }
}
