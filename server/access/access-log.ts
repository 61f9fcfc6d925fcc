import { desc, eq, inArray } from 'drizzle-orm'
import { cut } from '#core/tree'
import { database, type Database, type Transaction } from '../database/connect'
import { accessLog, users } from '../database/schema'

/** What the log of a tree's access tells. */
export const ACCESS_EVENTS = [
  'invited',
  'invitation-withdrawn',
  'joined',
  'role',
  'removed',
  'left',
  'handed-over',
  'trashed',
  'brought-back',
  'exported',
  'guest-asked',
  'link-made',
  'link-changed',
  'link-withdrawn',
  'purged',
] as const

export interface AccessEvent {
  readonly treeId: string
  /** Who did it; null for the app itself. */
  readonly by: string | null
  readonly what: (typeof ACCESS_EVENTS)[number]
  /** Whom or what it was about: an account's id, an address, a role, a format. */
  readonly about: string
}

/** Notes who was let into a tree or out of it, or what left it. */
export async function writeAccess(event: AccessEvent, db: Database | Transaction = database()): Promise<void> {
  await db.insert(accessLog).values({ ...event, about: cut(event.about, 300), at: new Date() })
}

const MOST = 1000
/** An account's id, at the start. */
const ID = /^[\w-]{16}(?=$|:)/

/** The newest first, with names instead of ids. */
export async function readAccess(treeId: string) {
  const rows = await database()
    .select({ event: accessLog, name: users.name })
    .from(accessLog)
    .leftJoin(users, eq(users.id, accessLog.by))
    .where(eq(accessLog.treeId, treeId))
    .orderBy(desc(accessLog.id))
    .limit(MOST)
  const named = [...new Set(rows.flatMap(({ event }) => ID.exec(event.about)?.[0] ?? []))]
  const people =
    named.length === 0
      ? []
      : await database().select({ id: users.id, name: users.name }).from(users).where(inArray(users.id, named))
  const names = new Map(people.map(({ id, name }) => [id, name]))
  return rows.map(({ event, name }) => ({
    at: event.at.toISOString(),
    by: name ?? (event.by === null ? 'Sun Porch' : 'a former member'),
    what: event.what,
    about: event.about.replace(ID, id => names.get(id) ?? id),
  }))
}
