import { and, eq, inArray } from 'drizzle-orm'
import type { Change } from '#core/tree'
import { ownersOf } from '../access/roles'
import { database } from '../database/connect'
import { members } from '../database/schema'
import { newEditId, type Outcome, submit } from '../trees/door'

/**
 * Makes an edit for somebody who may answer but not edit (a guest, a viewer): in the name of whoever invited them, or
 * of an owner when that person may no longer edit. The part itself says who answered.
 */
export async function submitFor(
  treeId: string,
  wanted: readonly string[],
  changes: readonly Change[],
): Promise<Outcome> {
  const rows = await database()
    .select({ id: members.userId })
    .from(members)
    .where(
      and(
        eq(members.treeId, treeId),
        inArray(members.userId, [...wanted, '']),
        inArray(members.role, ['editor', 'owner']),
      ),
    )
  const able = wanted.find(id => rows.some(row => row.id === id)) ?? (await ownersOf(treeId))[0]!
  return submit(treeId, able, { id: newEditId(), changes })
}
