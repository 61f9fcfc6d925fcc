import { and, eq, sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { database } from '../../../../database/connect'
import { members } from '../../../../database/schema'

export default answer(OPERATIONS.seenBench, async ({ params, body, account }) => {
  await database()
    .update(members)
    .set({ benchSeen: sql`greatest(bench_seen, ${body.number})` })
    .where(and(eq(members.treeId, params.id), eq(members.userId, account.id)))
})
