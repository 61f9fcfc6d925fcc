import { inArray } from 'drizzle-orm'
import { database } from '../database/connect'
import { users } from '../database/schema'

/** Names of people by id, those too who have left the tree. */
export async function namesOf(ids: readonly string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {}
  const rows = await database()
    .select({ id: users.id, name: users.name })
    .from(users)
    .where(inArray(users.id, [...new Set(ids)]))
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]))
}
