import { and, asc, eq, gt } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { database } from '../../../database/connect'
import { edits } from '../../../database/schema'

export default answer(OPERATIONS.listEdits, async ({ params, query, version }) => {
  const rows = await database()
    .select()
    .from(edits)
    .where(and(eq(edits.treeId, params.id), gt(edits.number, query.since)))
    .orderBy(asc(edits.number))
    .limit(500)
  return {
    version,
    edits: rows.map(({ number, editId, userId, at, changes }) => ({
      number,
      id: editId,
      user: userId,
      at: at.toISOString(),
      changes,
    })),
  }
})
