import { inArray } from 'drizzle-orm'
import { database } from '../database/connect'
import { linkGuests, users } from '../database/schema'

/** Of whoever gave a name and nothing that shows it's theirs. */
const asGuest = (name: string): string => `${name} (guest)`

/** Names of people by id, those too who have left the tree, and guests who came by a link. */
export async function namesOf(ids: readonly string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {}
  const rows = await database()
    .select({ id: users.id, name: users.name })
    .from(users)
    .where(inArray(users.id, [...new Set(ids)]))
  const names = Object.fromEntries(rows.map(({ id, name }) => [id, name]))
  const unknown = [...new Set(ids)].filter(id => !(id in names))
  if (unknown.length > 0)
    for (const { id, name } of await database()
      .select({ id: linkGuests.id, name: linkGuests.name })
      .from(linkGuests)
      .where(inArray(linkGuests.id, unknown)))
      names[id] = asGuest(name)
  return names
}
