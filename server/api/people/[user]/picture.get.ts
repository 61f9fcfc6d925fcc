import { and, eq, sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.personPicture, async ({ event, params, account }) => {
  const [row] = await database()
    .select({ picture: users.picture })
    .from(users)
    .where(
      and(
        eq(users.id, params.user),
        params.user === account.id
          ? undefined
          : sql`exists (select 1 from members a join members b on b.tree_id = a.tree_id where a.user_id = ${account.id} and b.user_id = ${params.user})`,
      ),
    )
  if (!row?.picture) throw new Fault(404, 'no-picture', 'There is no such picture.')
  setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=300' })
  return row.picture
})
