import { createHash } from 'node:crypto'
import { eq, inArray, sql } from 'drizzle-orm'
import { database, type Transaction } from '../database/connect'
import { signInFailures } from '../database/schema'
import { Fault } from './fault'

/**
 * Wrong tries that cost nothing: at one account from one address, at an account from anywhere, from an address at
 * anything. So whoever guesses from elsewhere soon waits, and the owner doesn't wait for them.
 */
const FREE = { pair: 5, account: 40, address: 30 } as const
const LONGEST_WAIT_SECONDS = 15 * 60

interface Try {
  /** It was right: what was counted for it is taken back. */
  forgive(): Promise<void>
}

/**
 * Counts a try at an account before anything is looked at, so that of many at once no more are looked at than of as many
 * one after the other. Beyond the free ones each has to wait twice as long as the one before, a quarter of an hour at
 * most; an hour without any begins anew. Throws `slowed` while one has to wait.
 */
export async function countTry(email: string, address: string): Promise<Try> {
  const account = createHash('sha256').update(email).digest('hex')
  const keys = { account: `account ${account}`, address: `address ${address}`, pair: `pair ${account} ${address}` }
  // Always in one order, so that two that count at once wait for each other and never for themselves.
  const kinds = ['account', 'address', 'pair'] as const
  await database().transaction(async tx => {
    for (const kind of kinds)
      await tx.execute(sql`insert into sign_in_failures (what, count, until) values (${keys[kind]}, 0, utc_timestamp(3))
        on duplicate key update what = what`)
    const rows = await tx
      .select()
      .from(signInFailures)
      .where(inArray(signInFailures.what, Object.values(keys)))
    const wait = Math.ceil(Math.max(0, ...rows.map(row => row.until.getTime() - Date.now())) / 1000)
    if (wait > 0)
      throw new Fault(429, 'slowed', `Too many tries. Wait ${wait} seconds, then try again.`, { seconds: wait })
    for (const kind of kinds) await countOne(tx, keys[kind], FREE[kind])
  })
  return {
    async forgive() {
      const db = database()
      await db.delete(signInFailures).where(inArray(signInFailures.what, [keys.account, keys.pair]))
      await db
        .update(signInFailures)
        .set({ count: sql`greatest(count - 1, 0)`, until: sql`if(count < ${FREE.address}, utc_timestamp(3), until)` })
        .where(eq(signInFailures.what, keys.address))
    },
  }
}

async function countOne(tx: Transaction, what: string, free: number): Promise<void> {
  await tx.execute(sql`update sign_in_failures set
    count = if(until < utc_timestamp(3) - interval 1 hour, 1, count + 1),
    until = utc_timestamp(3) + interval if(count < ${free}, 0, least(${LONGEST_WAIT_SECONDS}, pow(2, count - ${free}))) second
    where what = ${what}`)
}
