import { sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { database, migrated } from '../database/connect'

/** 503 in the one error shape while the database is away or not up to date. */
export default answer(OPERATIONS.ready, async () => {
  await migrated()
  await database().execute(sql`select 1`)
  return { ok: true }
})
