import { and, asc, eq, lt, lte } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { createTransport, type SendMailOptions } from 'nodemailer'
import { cut } from '#core/tree'
import { database, type Database, type Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { letters, mailQueue, users } from '../database/schema'
import { log } from '../log'
import { settings } from '../settings'

/*
 * Mail waits in the database until the mail server has taken it: written in the transaction of what it's about, tried again with
 * growing pauses, and given back to whoever sent it when the server says no, or never answers.
 */

export type Mail = SendMailOptions & { readonly to: string; readonly subject: string }

/** Pauses before the second, third… try, in seconds. After the last the letter comes back. */
const PAUSES = [5, 60, 300, 1800, 7200, 28_800, 86_400]
const LOOK_MS = 5000
const AT_ONCE = 20
/** While a letter is being sent it's nobody else's: another process looks again after this. */
const LEASE_MS = 120_000
const KEPT_DAYS = 30

export async function enqueue(mail: Mail, fromUser: string | null, db: Database | Transaction): Promise<void> {
  const now = new Date()
  await db
    .insert(mailQueue)
    .values({ id: nanoid(16), toEmail: mail.to, mail: mail, fromUser, nextAt: now, createdAt: now })
}

type Row = typeof mailQueue.$inferSelect

/** By which a report about a letter names it (RFC 5322, section 3.6.4); read by `scripts/delivery-report.mjs`. */
function messageId(id: string): string {
  const domain = /@([\w.-]+)>?\s*$/.exec(settings().MAIL_FROM)?.[1] ?? 'localhost'
  return `<${id}.letter@${domain}>`
}

/** Sends what is due. Resolves to how many were tried. */
export async function sendDue(): Promise<number> {
  const db = database()
  const due = await db
    .select()
    .from(mailQueue)
    .where(and(eq(mailQueue.state, 'waiting'), lte(mailQueue.nextAt, new Date())))
    .orderBy(asc(mailQueue.nextAt))
    .limit(AT_ONCE)
  if (due.length === 0) return 0
  const transport = createTransport(settings().SMTP_URL!)
  try {
    for (const row of due) {
      const [leased] = await db
        .update(mailQueue)
        .set({ nextAt: new Date(Date.now() + LEASE_MS), tries: row.tries + 1 })
        .where(and(eq(mailQueue.id, row.id), eq(mailQueue.tries, row.tries), eq(mailQueue.state, 'waiting')))
      if (leased.affectedRows === 0) continue
      try {
        const { subject } = row.mail as Mail
        await transport.sendMail({ ...(row.mail as Mail), messageId: messageId(row.id) })
        // What it was about is kept for a while: a report that it couldn't be delivered may come days later.
        await db.update(mailQueue).set({ state: 'sent', mail: { subject } }).where(eq(mailQueue.id, row.id))
      } catch (error) {
        await later(row, error as Error & { responseCode?: number })
      }
    }
  } finally {
    transport.close()
  }
  return due.length
}

async function later(row: Row, error: Error & { responseCode?: number }): Promise<void> {
  const why = (
    error.responseCode ? `the mail server said ${error.responseCode}` : 'the mail server didn’t answer'
  ).slice(0, 300)
  // RFC 5321, section 4.2.1: 5xx is for good, 4xx passes.
  const forGood = (error.responseCode ?? 0) >= 500 || row.tries >= PAUSES.length
  log.warn({ mail: row.id, code: error.responseCode, again: !forGood }, 'a letter could not be sent')
  if (!forGood) {
    const nextAt = new Date(Date.now() + PAUSES[row.tries]! * 1000)
    await database().update(mailQueue).set({ nextAt, why }).where(eq(mailQueue.id, row.id))
    return
  }
  await inTransaction(async tx => {
    await tx.update(mailQueue).set({ state: 'returned', why, mail: {} }).where(eq(mailQueue.id, row.id))
    const [sender] = row.fromUser ? await tx.select().from(users).where(eq(users.id, row.fromUser)) : []
    if (!sender) return
    const subject = String((row.mail as { subject?: unknown }).subject ?? '')
    await tx
      .insert(letters)
      .values({
        id: nanoid(16),
        toEmail: sender.email,
        subject: cut(`Came back: ${subject}`, 300),
        body: `Your letter “${subject}” to ${row.toEmail} couldn’t be delivered: ${why}. Is the address right?`,
        createdAt: new Date(),
      })
  })
}

let timer: NodeJS.Timeout | undefined
let busy: Promise<unknown> = Promise.resolve()

export function startSending(): void {
  if (!settings().SMTP_URL) return
  const round = (): void => {
    busy = sendDue()
      .catch((error: unknown) => {
        log.error({ error }, 'letters wait for the next round')
        return 0
      })
      .then(count => {
        if (timer) timer = setTimeout(round, count === AT_ONCE ? 0 : LOOK_MS)
      })
  }
  timer = setTimeout(round, 200)
}

/** Lets the letter in hand go out. */
export async function stopSending(): Promise<void> {
  clearTimeout(timer)
  timer = undefined
  await busy
}

/** Takes out what was dealt with a month ago. */
export async function pruneQueue(): Promise<void> {
  const old = new Date(Date.now() - KEPT_DAYS * 86_400_000)
  for (const state of ['sent', 'returned'] as const)
    await database()
      .delete(mailQueue)
      .where(and(eq(mailQueue.state, state), lt(mailQueue.createdAt, old)))
}
