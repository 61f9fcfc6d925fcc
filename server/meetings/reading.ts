import { and, eq, inArray } from 'drizzle-orm'
import {
  documentsToRead,
  type HasRead,
  hasToRead,
  type OpenedThings,
  readersOf,
  readingOf,
  sectionDigest,
} from '#core/meeting/reading'
import type { ItemReading } from '#core/contract'
import { itemOf, itemsOf } from '#core/meeting/agenda'
import { whenInWords } from '#core/meeting/invitation'
import { shorten, topicOf, type TopicId, type Tree } from '#core/tree'
import type { Account } from '../access/accounts'
import { Fault } from '../access/fault'
import { bus } from '../bus'
import { database } from '../database/connect'
import { openedFiles, readItems } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { sendLetter } from '../letters/send'
import { accountsOf, openMeeting } from './meeting'

/** Nobody is asked to read the same again before that, ms. */
const AGAIN_MS = 20 * 3_600_000

/** What was opened of the items of a meeting. */
async function openedIn(treeId: string, tree: Tree, meeting: TopicId): Promise<OpenedThings> {
  const items = itemsOf(tree, meeting).filter(({ id }) => hasToRead(tree, id))
  const named = [...new Set(items.flatMap(({ id }) => documentsToRead(tree, id)))]
  const sections = new Map<TopicId, Map<string, string>>()
  const files = new Map<string, Set<string>>()
  if (items.length > 0) {
    const rows = await database()
      .select()
      .from(readItems)
      .where(
        and(
          eq(readItems.treeId, treeId),
          inArray(
            readItems.topicId,
            items.map(({ id }) => id),
          ),
        ),
      )
    for (const { topicId, userId, digest, at } of rows)
      if (at) sections.set(topicId, (sections.get(topicId) ?? new Map<string, string>()).set(userId, digest))
  }
  if (named.length > 0) {
    const rows = await database()
      .select()
      .from(openedFiles)
      .where(and(eq(openedFiles.treeId, treeId), inArray(openedFiles.fileId, named)))
    for (const { fileId, userId } of rows) files.set(fileId, (files.get(fileId) ?? new Set<string>()).add(userId))
  }
  return { sections, files }
}

/** How far the readers of each item of a meeting are. */
export async function readingIn(
  treeId: string,
  tree: Tree,
  meeting: TopicId,
): Promise<Record<TopicId, Record<string, HasRead>>> {
  return readingOf(tree, meeting, await openedIn(treeId, tree, meeting))
}

/** An item of a meeting that is still planned. Throws `no-item`, or `not-planned` once the meeting has begun. */
async function plannedItem(treeId: string, topicId: TopicId, item: TopicId, version: number) {
  const opened = await openMeeting(treeId, topicId, version)
  if (!itemsOf(opened.tree, topicId).some(({ id }) => id === item))
    throw new Fault(404, 'no-item', 'This meeting has no such item.')
  if (opened.brief.stage !== 'planned')
    throw new Fault(409, 'not-planned', 'The meeting isn’t ahead any more: nobody reads beforehand.')
  return opened
}

/** Keeps that somebody has an item open, where they are among its readers; how far those are. */
export async function keepReading(
  treeId: string,
  topicId: TopicId,
  item: TopicId,
  version: number,
  user: string,
): Promise<ItemReading> {
  const { tree, brief } = await plannedItem(treeId, topicId, item, version)
  if (readersOf(brief, itemOf(topicOf(tree, item)).owners).includes(user) && hasToRead(tree, item)) {
    const now = { digest: sectionDigest(tree, item), at: new Date() }
    const anew = await inTransaction(async tx => {
      const [before] = await tx
        .select({ digest: readItems.digest, at: readItems.at })
        .from(readItems)
        .where(and(eq(readItems.treeId, treeId), eq(readItems.topicId, item), eq(readItems.userId, user)))
      await tx
        .insert(readItems)
        .values({ treeId, topicId: item, userId: user, ...now })
        .onDuplicateKeyUpdate({ set: now })
      return before?.at == null || before.digest !== now.digest
    })
    if (anew) bus.tell({ about: 'read', tree: treeId })
  }
  return { reading: (await readingIn(treeId, tree, topicId))[item] ?? {} }
}

/** Keeps that somebody opened a document. */
export async function keepOpened(treeId: string, file: string, user: string): Promise<void> {
  const [{ affectedRows }] = await database()
    .insert(openedFiles)
    .ignore()
    .values({ treeId, fileId: file, userId: user, at: new Date() })
  if (affectedRows > 0) bus.tell({ about: 'read', tree: treeId })
}

/** Asks those others who haven’t read an item to do so, by letter. */
export async function remindToRead(
  treeId: string,
  topicId: TopicId,
  item: TopicId,
  version: number,
  from: Account,
): Promise<{ sent: number; lately: number }> {
  const { tree, topic } = await plannedItem(treeId, topicId, item, version)
  const behind = Object.entries((await readingIn(treeId, tree, topicId))[item] ?? {}).filter(
    ([user, read]) => read !== 'read' && user !== from.id,
  )
  const accounts = await accountsOf(behind.map(([user]) => user))
  const { title } = topicOf(tree, item)
  const when = whenInWords(tree, topicId)
  let [sent, lately] = [0, 0]
  for (const [user, read] of behind) {
    const to = accounts.get(user)?.email
    if (!to) continue
    // The row is held while its letter is written, so that two who press at once send one.
    const due = await inTransaction(async tx => {
      const now = new Date()
      await tx
        .insert(readItems)
        .ignore()
        .values({ treeId, topicId: item, userId: user, digest: '', at: null, remindedAt: null })
      const here = and(eq(readItems.treeId, treeId), eq(readItems.topicId, item), eq(readItems.userId, user))
      const [row] = await tx.select().from(readItems).where(here).for('update')
      if (row?.remindedAt && now.getTime() - row.remindedAt.getTime() < AGAIN_MS) return false
      await tx.update(readItems).set({ remindedAt: now }).where(here)
      await sendLetter(
        {
          to,
          from: from.id,
          tree: treeId,
          subject: `Please read: ${shorten(title || 'a section', 150)}`,
          link: `/trees/${treeId}?topic=${item}`,
          body: `${from.name} asks you to read “${title}” before “${topic.title}”${when ? `, ${when}` : ''}${
            read === 'before' ? '. It has changed since you read it' : ''
          }.\n\nThat you have opened it, and its documents, is shown to those in the tree.`,
        },
        tx,
      )
      return true
    })
    if (due) sent++
    else lately++
  }
  return { sent, lately }
}

/** Files of a tree that somebody has opened. */
export async function openedFilesOf(treeId: string): Promise<string[]> {
  const rows = await database()
    .selectDistinct({ file: openedFiles.fileId })
    .from(openedFiles)
    .where(eq(openedFiles.treeId, treeId))
  return rows.map(({ file }) => file)
}
