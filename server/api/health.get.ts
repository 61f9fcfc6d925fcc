import { sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { database } from '../database/connect'

export default answer(OPERATIONS.health, async () => {
  await database().execute(sql`select 1`)
  return { ok: true }
})
