import { Readable } from 'node:stream'
import { and, eq, or } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { ownGroupsOf } from '../../access/own-groups'
import { listSessions } from '../../access/sessions'
import { listTokens } from '../../access/tokens'
import { mustSpend } from '../../access/tries'
import { database } from '../../database/connect'
import { comments, letters, openedFiles, ownViews, readItems, users } from '../../database/schema'
import { talkOf } from '../../talk/keep'
import { toldWaysOf } from '../../telling/watching'
import { treeToJson } from '../../trees/export'
import { readTree } from '../../trees/held'
import { listTrees, peopleOf } from '../../trees/store'

/**
 * Everything that's one's own: the account, sessions, tokens (never their secrets), letters, own views, what one read beforehand, and each tree that one
 * owns, as its JSON export. A piece at a time, so that many large trees don't stand in memory together.
 */
async function* pieces(id: string, session: string): AsyncGenerator<string> {
  const db = database()
  const [user] = await db.select().from(users).where(eq(users.id, id))
  const { name, email, zone, createdAt, picture } = user!
  const about = { id, name, email, zone, since: createdAt, picture: picture?.toString('base64') ?? null }
  yield `{"account":${JSON.stringify(about)}`
  yield `,\n"sessions":${JSON.stringify(await listSessions(id, session))}`
  yield `,\n"tokens":${JSON.stringify(await listTokens(id))}`
  // One at a time: what goes along with them may weigh megabytes.
  const mail = await db
    .select({ id: letters.id })
    .from(letters)
    .where(or(eq(letters.toEmail, email), eq(letters.fromUser, id)))
  yield ',\n"letters":['
  for (const [i, { id: letter }] of mail.entries()) {
    const [one] = await db.select().from(letters).where(eq(letters.id, letter))
    // What a letter to somebody else opens is theirs.
    if (one) yield `${i === 0 ? '' : ',\n'}${JSON.stringify(one.toEmail === email ? one : { ...one, link: null })}`
  }
  yield ']'
  yield `,\n"groups":${JSON.stringify(await ownGroupsOf(id))}`
  yield `,\n"views":${JSON.stringify(await db.select().from(ownViews).where(eq(ownViews.userId, id)))}`
  const read = await db.select().from(readItems).where(eq(readItems.userId, id))
  const opened = await db.select().from(openedFiles).where(eq(openedFiles.userId, id))
  yield `,\n"read":${JSON.stringify({
    items: read.map(({ treeId, topicId, at, remindedAt }) => ({ tree: treeId, topic: topicId, at, remindedAt })),
    documents: opened.map(({ treeId, fileId, at }) => ({ tree: treeId, file: fileId, at })),
  })}`
  const said = await db
    .select()
    .from(comments)
    .where(and(eq(comments.by, id), eq(comments.withdrawn, false)))
  yield `,\n"said":${JSON.stringify(said.map(({ treeId, at, body }) => ({ tree: treeId, at, body })))}`
  const { ways, watching } = await toldWaysOf(id)
  yield `,\n"told":${JSON.stringify({ ways, watching })}`
  yield ',\n"trees":['
  let first = true
  for (const scope of ['mine', 'trash'] as const)
    for (const tree of await listTrees(id, { scope })) {
      const live = await readTree(tree.id, tree.version)
      if (!live) continue
      const people = Object.fromEntries((await peopleOf(tree.id)).map(one => [one.id, one.name]))
      const stamp = { tree: tree.id, number: live.version, epoch: live.epoch }
      yield `${first ? '' : ',\n'}${treeToJson(live.tree, people, await talkOf(tree.id), stamp).text}`
      first = false
    }
  yield ']}\n'
}

const AN_HOUR = 12

export default answer(OPERATIONS.takeData, async ({ event, account }) => {
  // It reads every tree one owns.
  await mustSpend('data', account.id, AN_HOUR, 3600)
  setResponseHeaders(event, {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': 'attachment; filename="sun-porch-my-data.json"',
  })
  return sendStream(event, Readable.from(pieces(account.id, account.session ?? '')))
})
