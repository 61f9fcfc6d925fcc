import { and, eq, sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { database } from '../../../database/connect'
import { members } from '../../../database/schema'
import { readTold } from '../../../telling/read'

export default answer(OPERATIONS.seenTree, async ({ params, body, account }) => {
  await database()
    .update(members)
    .set({ seenVersion: sql`greatest(seen_version, ${body.version})`, seenAt: new Date() })
    .where(and(eq(members.treeId, params.id), eq(members.userId, account.id)))
  // What was watched in it has been seen with it.
  await readTold(account.id, { tree: params.id })
})
