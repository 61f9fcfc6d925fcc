import { eq, inArray } from 'drizzle-orm'
import { changedWays, USUAL_WAYS, type Ways, type WaysChange, waysSchema } from '#core/telling/kinds'
import { isZone } from '#core/meeting/zones'
import { database, type Database, type Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { tellingWays } from '../database/schema'

/** What was kept before a kind was known is filled up with what is usual. */
function whole(kept: Ways | null | undefined): Ways {
  if (!kept) return USUAL_WAYS
  const parsed = waysSchema.safeParse({ ...USUAL_WAYS, ...kept, kinds: { ...USUAL_WAYS.kinds, ...kept.kinds } })
  return parsed.success ? parsed.data : USUAL_WAYS
}

/** How each of these accounts wants to be told. */
export async function waysOf(
  ids: readonly string[],
  db: Database | Transaction = database(),
): Promise<ReadonlyMap<string, Ways>> {
  const rows =
    ids.length === 0
      ? []
      : await db
          .select({ id: tellingWays.userId, ways: tellingWays.ways })
          .from(tellingWays)
          .where(inArray(tellingWays.userId, [...ids]))
  const kept = new Map(rows.map(({ id, ways }) => [id, ways]))
  return new Map(ids.map(id => [id, whole(kept.get(id))]))
}

/** Two choices at once, from one hand or two devices, are both kept: each is put into what stands, under a lock. */
export function changeWays(userId: string, change: WaysChange): Promise<void> {
  return inTransaction(async tx => {
    await tx.insert(tellingWays).values({ userId }).onDuplicateKeyUpdate({ set: { userId } })
    const [row] = await tx
      .select({ ways: tellingWays.ways })
      .from(tellingWays)
      .where(eq(tellingWays.userId, userId))
      .for('update')
    await tx
      .update(tellingWays)
      .set({ ways: changedWays(whole(row?.ways), change) })
      .where(eq(tellingWays.userId, userId))
  })
}

/** The zone of the browser that somebody uses, for the hours of those whose account names none. */
export async function noteZone(userId: string, zone: string): Promise<void> {
  if (zone.length <= 64 && isZone(zone))
    // In one, since many tabs of a person say it at the same moment and may lock each other out.
    await inTransaction(tx => tx.insert(tellingWays).values({ userId, zone }).onDuplicateKeyUpdate({ set: { zone } }))
}
