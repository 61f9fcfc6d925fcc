import { nanoid } from 'nanoid'
import { and, eq, isNotNull, isNull } from 'drizzle-orm'
import type { Role } from '#core/contract'
import type { Database, Transaction } from '../database/connect'
import { tellings, users } from '../database/schema'
import { settings } from '../settings'
import { waysOf } from './ways'

/* What somebody may do in a tree is other than it was, or they are invited: told by whoever did it, in the same transaction. */

async function tell(
  db: Database | Transaction,
  { user, treeId, by, data, once }: { user: string; treeId: string; by: string; data: object; once: string },
): Promise<void> {
  if (user === by || (await waysOf([user], db)).get(user)!.kinds.invited === 'never') return
  await db
    .insert(tellings)
    .ignore()
    .values({ userId: user, kind: 'invited', treeId, topicId: null, comment: null, by, at: new Date(), data, once })
}

/** A role was given; null: taken. */
export async function tellRole(
  db: Database | Transaction,
  treeId: string,
  user: string,
  role: Role | null,
  by: string,
): Promise<void> {
  await tell(db, { user, treeId, by, data: { role }, once: `r ${nanoid(12)}` })
}

/** Somebody is invited by mail address: whoever has an account with it is told in the app as well. */
export async function tellInvited(
  db: Database | Transaction,
  treeId: string,
  email: string,
  role: Role,
  by: string,
): Promise<void> {
  const [user] = await db
    .select({ id: users.id })
    .from(users)
    .where(
      and(
        eq(users.email, email),
        isNull(users.deletedAt),
        ...(settings().CONFIRM ? [isNotNull(users.confirmedAt)] : []),
      ),
    )
  if (user) await tell(db, { user: user.id, treeId, by, data: { role, waits: true }, once: `i ${nanoid(12)}` })
}
