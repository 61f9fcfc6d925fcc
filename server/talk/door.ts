import { isDeepStrictEqual } from 'node:util'
import { and, eq, sql } from 'drizzle-orm'
import type { ResultSetHeader } from 'mysql2'
import pLimit, { type LimitFunction } from 'p-limit'
import { accountOf, type Principal, type Role } from '#core/contract'
import type { LinkGuest } from '#core/access/principal'
import { maySay, UNSAID } from '#core/access/may-say'
import { BENCH, type Saying, type Told, topicOfPlace } from '#core/talk/saying'
import type { About, Settled } from '#core/talk/thread'
import { diskFull, Fault, unstorable } from '../access/fault'
import { hasRoom } from '../work/disk'
import { bus } from '../bus'
import { again } from '../database/again'
import { isThere, type Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { isDiskFull, isUnstorable } from '../database/error-code'
import { comments, sayings, threads, topics } from '../database/schema'
import { log } from '../log'
import { sayingsStored } from '../metrics'
import { wordsOf } from './words'

/*
 * The one way in for what is said in a tree. Each saying gets the next number of the tree's talk in a transaction that holds the talk's
 * row, so that numbers have no gaps and everybody hears everything in the same order, whatever process stores it. Trees talk
 * independently of one another and of their edits.
 */

/** Sayings of one tree, whatever they are. */
const MOST_SAYINGS = 500_000
/**
 * Sayings of one tree wait here and not at its row: whoever talks much would hold all connections to the database. Of all trees so
 * many are stored at once.
 */
const lines = new Map<string, { readonly turn: LimitFunction; waiting: number }>()
const atOnce = pLimit(4)

type Row = typeof sayings.$inferSelect

/** Says something for somebody. Resolves when it's committed; rejects with a `Fault` that says why not. `again`: it was in already. */
export function say(treeId: string, principal: Principal, saying: Saying): Promise<{ told: Told; again: boolean }> {
  if (!hasRoom()) return Promise.reject(diskFull())
  const line = lines.get(treeId) ?? { turn: pLimit(1), waiting: 0 }
  lines.set(treeId, line)
  line.waiting++
  return line
    .turn(() => atOnce(() => sayNow(treeId, principal, saying)))
    .finally(() => {
      if (--line.waiting === 0) lines.delete(treeId)
    })
}

async function sayNow(treeId: string, principal: Principal, saying: Saying): Promise<{ told: Told; again: boolean }> {
  try {
    const told = await again(isThere, () => inTransaction(tx => store(tx, treeId, principal, saying)))
    sayingsStored.inc()
    bus.tell({ about: 'said', tree: treeId, told: [told] })
    return { told, again: false }
  } catch (error) {
    if (error instanceof Again) return { told: error.told, again: true }
    if (error instanceof Fault) throw error
    log.error({ error }, 'a saying could not be stored')
    if (isDiskFull(error)) throw diskFull()
    if (isUnstorable(error)) throw unstorable()
    throw new Fault(
      503,
      'unavailable',
      'The database doesn’t answer. What you said is kept here and will be sent again.',
    )
  }
}

/** It was said already; what was begun for it is rolled back. */
class Again extends Error {
  constructor(readonly told: Told) {
    super()
  }
}

async function store(tx: Transaction, treeId: string, principal: Principal, saying: Saying): Promise<Told> {
  const by = principal.kind === 'link' ? principal.id : accountOf(principal)
  // The next number, and with it the row that is held until all is stored. A saying that isn't stored gives it back.
  // All asked for in one go: the connection answers one after the other, and everybody else in the tree waits meanwhile.
  const [[{ insertId }], role, { before, about, threadId }] = await Promise.all([
    tx.execute<ResultSetHeader>(sql`insert into talks (tree_id, number) values (${treeId}, 1)
      on duplicate key update number = last_insert_id(number + 1)`),
    principal.kind === 'link' ? linkHeld(tx, treeId, principal) : by === null ? null : roleHeld(tx, treeId, by),
    read(tx, treeId, saying),
  ])
  if (by === null || role === null)
    throw new Fault(404, 'no-tree', 'There is no such tree, or you have no role in it any more.')
  if (before) {
    // As JSON has it: what is left out and what is undefined are one. Words that were withdrawn since can't be compared.
    const same = before.userId === by && (isWordless(before.data) || isDeepStrictEqual(before.data, plain(saying)))
    if (!same) throw new Fault(409, 'saying-id', 'Something else was said with this id already.')
    throw new Again(toldOf(before))
  }
  const why = maySay(principal, role, saying, about)
  if (why === 'no-thread' || why === 'no-comment') throw new Fault(404, why, UNSAID[why])
  if (why) throw new Fault(why === 'role' || why === 'not-yours' ? 403 : 409, why, UNSAID[why])
  if (insertId > MOST_SAYINGS)
    throw new Fault(409, 'full', 'So much has been said in this tree that no more is kept. Begin another tree.')
  if ('place' in saying && saying.place) await mustStand(tx, treeId, topicOfPlace(saying.place))
  const row = {
    treeId,
    number: insertId || 1,
    sayingId: saying.id,
    userId: by,
    at: new Date(),
    comment: 'comment' in saying ? saying.comment : '',
    threadId,
    data: plain(saying),
  }
  await Promise.all([tx.insert(sayings).values(row), write(tx, row)])
  return toldOf(row)
}

const plain = (saying: Saying): Saying => JSON.parse(JSON.stringify(saying)) as Saying
const isWordless = (saying: Saying): boolean => 'body' in saying && (saying.body as unknown) === null

/** A stored saying as it's told. */
export function toldOf({ number, userId, at, threadId, data }: Row): Told {
  return { ...data, number, by: userId, at: at.toISOString(), thread: threadId }
}

/** The role, held until the saying is stored. Throws `trashed`. */
async function roleHeld(tx: Transaction, treeId: string, by: string): Promise<Role | null> {
  const [[row]] = (await tx.execute(sql`select m.role,
    (select trashed_at from trees where id = ${treeId}) as trashed
    from members m where m.tree_id = ${treeId} and m.user_id = ${by} lock in share mode`)) as unknown as [
    { role: Role; trashed: Date | null }[],
  ]
  if (row?.trashed) throw new Fault(409, 'trashed', 'This tree is in the trash. Bring it back to talk in it.')
  return row?.role ?? null
}

/** That a link still stands and lets things be said, held until the saying is stored. Throws `trashed`. */
async function linkHeld(tx: Transaction, treeId: string, { link }: LinkGuest): Promise<Role | null> {
  const [[row]] = (await tx.execute(sql`select (select trashed_at from trees where id = ${treeId}) as trashed
    from guest_links g where g.id = ${link} and g.tree_id = ${treeId} and g.may in ('comment', 'edit')
    and (g.until is null or g.until > ${new Date().toISOString().slice(0, -1).replace('T', ' ')}) lock in share mode`)) as unknown as [
    { trashed: Date | null }[],
  ]
  if (row?.trashed) throw new Fault(409, 'trashed', 'This tree is in the trash. Nothing can be said in it now.')
  return row ? 'commenter' : null
}

/** What was said with this id, and what it's about. */
async function read(
  tx: Transaction,
  treeId: string,
  saying: Saying,
): Promise<{ before: Row | null; about: About; threadId: string }> {
  const comment = 'comment' in saying ? saying.comment : ''
  const [row] = await tx
    .select({
      before: sayings,
      comment: { by: comments.by, body: comments.body, thread: comments.threadId },
      size: threads.size,
    })
    .from(sql`(select 1) one`)
    .leftJoin(sayings, and(eq(sayings.treeId, treeId), eq(sayings.sayingId, saying.id)))
    .leftJoin(comments, and(eq(comments.treeId, treeId), eq(comments.id, comment)))
    .leftJoin(
      threads,
      and(
        eq(threads.treeId, treeId),
        eq(threads.id, 'thread' in saying ? sql`${saying.thread}` : sql`${comments.threadId}`),
      ),
    )
  return {
    before: row!.before,
    about: { comment: row!.comment?.by ? row!.comment : null, thread: row!.size === null ? null : { size: row!.size } },
    threadId: 'thread' in saying ? saying.thread : (row!.comment?.thread ?? ''),
  }
}

/** A comment hangs on a topic that is in the tree, or in its trash. */
async function mustStand(tx: Transaction, treeId: string, topic: string | null): Promise<void> {
  if (topic === null) return
  const [row] = await tx
    .select({ id: topics.id })
    .from(topics)
    .where(and(eq(topics.treeId, treeId), eq(topics.id, topic)))
  if (!row) throw new Fault(404, 'no-topic', 'That topic isn’t in this tree.')
}

/** Threads and comments as they are from now on. */
async function write(tx: Transaction, row: Row): Promise<void> {
  const { treeId, number, at, userId: by, threadId, data: saying } = row
  const thread = and(eq(threads.treeId, treeId), eq(threads.id, threadId))
  const one = and(eq(comments.treeId, treeId), eq(comments.id, row.comment))
  switch (saying.op) {
    case 'say': {
      const place = saying.place ?? { on: 'tree' as const }
      await Promise.all([
        tx
          .insert(threads)
          .values({ treeId, id: threadId, topicId: topicOfPlace(place), place, settled: null, size: 1, newest: number })
          .onDuplicateKeyUpdate({ set: { size: sql`size + 1`, newest: number, settled: null } }),
        tx.insert(comments).values({ treeId, id: saying.comment, threadId, number, by, at, ...wordsOf(saying.body) }),
      ])
      return
    }
    case 'settle': {
      const settled: Settled | null = saying.settled ? { by, at: at.toISOString() } : null
      await tx.update(threads).set({ settled, newest: number }).where(thread)
      return
    }
    case 'reword':
      await tx
        .update(comments)
        .set({ ...wordsOf(saying.body), edited: at })
        .where(one)
      break
    case 'withdraw':
      await tx.update(comments).set({ body: null, text: '', mentions: [], withdrawn: true, edited: at }).where(one)
      await forgetWords(tx, treeId, row.comment)
      break
    case 'became':
      await tx.update(comments).set({ became: saying.became }).where(one)
  }
  if (threadId !== BENCH) await tx.update(threads).set({ newest: number }).where(thread)
}

/** That a comment was said and reworded stays in the log; what it said doesn't. */
async function forgetWords(tx: Transaction, treeId: string, comment: string): Promise<void> {
  await tx
    .update(sayings)
    .set({ data: sql`json_set(${sayings.data}, '$.body', null)` })
    .where(
      and(
        eq(sayings.treeId, treeId),
        eq(sayings.comment, comment),
        sql`json_value(${sayings.data}, '$.op') in ('say', 'reword')`,
      ),
    )
}
