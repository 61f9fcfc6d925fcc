import { and, eq, inArray } from 'drizzle-orm'
import type { MeetingWorld } from '#core/contract'
import { branch } from '#core/tree'
import { database } from '../database/connect'
import { files } from '../database/schema'
import { elsewhereOf } from './elsewhere'
import { openMeeting } from './meeting'
import { readingIn } from './reading'

/** What the tree itself can't say about a meeting, for its readiness. */
export async function worldOf(treeId: string, topicId: string, version: number, viewer: string): Promise<MeetingWorld> {
  const { tree } = await openMeeting(treeId, topicId, version)
  const named = [...new Set([...branch(tree, topicId)].flatMap(topic => topic.files.map(({ file }) => file)))]
  const there =
    named.length === 0
      ? []
      : await database()
          .select({ id: files.id })
          .from(files)
          .where(and(eq(files.treeId, treeId), inArray(files.id, named)))
  const known = new Set(there.map(({ id }) => id))
  return {
    elsewhere: Object.fromEntries(await elsewhereOf(treeId, tree, topicId, viewer)),
    closed: named.filter(file => !known.has(file)),
    reading: await readingIn(treeId, tree, topicId),
  }
}
