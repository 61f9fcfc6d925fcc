import { and, asc, count, eq, isNull } from 'drizzle-orm'
import type { Principal, RunningVote } from '#core/contract'
import { type Cast, MOST_VOTERS, type Vote, type VoteKind } from '#core/tree'
import { added, nothing, tally, wrongWith } from '#core/vote/tally'
import { Fault } from '../access/fault'
import { bus } from '../bus'
import { database, type Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { ballots, topics, votes } from '../database/schema'
import { submit } from '../trees/door'

/** Votes that run in one tree at once. */
const MOST_RUNNING = 20

type Row = typeof votes.$inferSelect

const tell = (tree: string): void => bus.tell({ about: 'votes', tree })
const isVote = (tree: string, id: string) => and(eq(votes.treeId, tree), eq(votes.id, id))

/** The votes that run in a tree, as one person sees them. */
export async function runningVotes(tree: string, me: string): Promise<RunningVote[]> {
  const db = database()
  const rows = await db.select().from(votes).where(eq(votes.treeId, tree)).orderBy(asc(votes.at), asc(votes.id))
  if (rows.length === 0) return []
  const cast = await db.select().from(ballots).where(eq(ballots.treeId, tree)).orderBy(asc(ballots.userId))
  return rows.map(row => {
    const own = cast.filter(({ voteId }) => voteId === row.id)
    const { id, topicId, question, kind, choices, points, secret, by, at } = row
    return {
      id,
      topic: topicId,
      question,
      kind,
      choices,
      points,
      secret,
      by,
      at: at.toISOString(),
      voters: own.map(({ userId }) => userId),
      mine: own.find(({ userId }) => userId === me)?.cast ?? null,
      // Sums that grow vote by vote would say who said what.
      counts: secret ? null : tally(row, castsOf(own)).counts,
    }
  })
}

const castsOf = (rows: readonly (typeof ballots.$inferSelect)[]): Cast[] =>
  rows.flatMap(({ cast }) => (cast ? [cast] : []))

/** Throws `no-topic`, `full`, `vote-id`. */
export async function beginVote(
  tree: string,
  by: string,
  asked: {
    readonly id: string
    readonly topic: string
    readonly question: string
    readonly kind: VoteKind
    readonly choices: readonly string[]
    readonly points: number
    readonly secret: boolean
  },
): Promise<void> {
  const { id, topic, question, kind, choices, points, secret } = asked
  await inTransaction(async tx => {
    const [there] = await tx.select().from(votes).where(eq(votes.id, id)).for('update')
    if (there) {
      if (there.treeId === tree && there.by === by) return
      throw new Fault(409, 'vote-id', 'Another vote has this id already.')
    }
    const [about] = await tx
      .select({ removed: topics.removed })
      .from(topics)
      .where(and(eq(topics.treeId, tree), eq(topics.id, topic)))
    if (!about || about.removed) throw new Fault(404, 'no-topic', 'That topic isn’t in this tree.')
    const [many] = await tx
      .select({ count: count() })
      .from(votes)
      .where(and(eq(votes.treeId, tree), isNull(votes.closedAt)))
    if (many!.count >= MOST_RUNNING)
      throw new Fault(409, 'full', `${MOST_RUNNING} votes run in this tree at most. Close one first.`)
    const sums = secret ? nothing({ kind, choices }) : null
    await tx
      .insert(votes)
      .values({ id, treeId: tree, topicId: topic, question, kind, choices, points, secret, by, at: new Date(), sums })
  })
  tell(tree)
}

/** The vote, held, as long as it runs. Throws `no-vote`, `closed`. */
async function running(tx: Transaction, tree: string, id: string): Promise<Row> {
  const [row] = await tx.select().from(votes).where(isVote(tree, id)).for('update')
  if (!row) throw new Fault(404, 'no-vote', 'There is no such vote any more.')
  if (row.closedAt) throw new Fault(409, 'closed', 'This vote has been closed. What you said wasn’t counted.')
  return row
}

/** Throws `no-vote`, `closed`, `invalid`, `voted`, `full`. */
export async function castVote(tree: string, id: string, me: string, cast: Cast): Promise<void> {
  await inTransaction(async tx => {
    const row = await running(tx, tree, id)
    const wrong = wrongWith(cast, row)
    if (wrong) throw new Fault(400, 'invalid', wrong)
    const voted = await tx.select({ user: ballots.userId }).from(ballots).where(eq(ballots.voteId, id))
    const before = voted.some(({ user }) => user === me)
    if (!before && voted.length >= MOST_VOTERS) throw new Fault(409, 'full', `${MOST_VOTERS} people vote at most.`)
    if (!row.secret) {
      await tx
        .insert(ballots)
        .values({ voteId: id, userId: me, treeId: tree, cast })
        .onDuplicateKeyUpdate({ set: { cast } })
      return
    }
    if (before)
      throw new Fault(409, 'voted', 'You have voted. In secret it can’t be said anew: nobody keeps who said what.')
    await tx.insert(ballots).values({ voteId: id, userId: me, treeId: tree, cast: null })
    await tx
      .update(votes)
      .set({ sums: added(row.sums!, cast) })
      .where(isVote(tree, id))
  })
  tell(tree)
}

/**
 * Closes a vote and keeps what it came to with its topic. From the moment it's closed nobody votes; should the edit fail, closing
 * again makes it, once. Throws `no-vote` and what the door throws.
 */
export async function closeVote(tree: string, id: string, principal: Principal, me: string): Promise<void> {
  const closed = await inTransaction(async tx => {
    const [row] = await tx.select().from(votes).where(isVote(tree, id)).for('update')
    if (!row) throw new Fault(404, 'no-vote', 'There is no such vote any more.')
    const now = { closedAt: row.closedAt ?? new Date(), closedBy: row.closedBy ?? me }
    await tx.update(votes).set(now).where(isVote(tree, id))
    return { ...row, ...now }
  })
  const own = await database().select().from(ballots).where(eq(ballots.voteId, id)).orderBy(asc(ballots.userId))
  try {
    await submit(tree, principal, {
      id: `vote-${id}`,
      // The same deed, whoever closes it at the same moment.
      deed: true,
      changes: [{ op: 'put', topic: closed.topicId, set: 'votes', member: voteOf(closed, own) }],
    })
  } catch (error) {
    // It runs on, as if nobody had closed it.
    await database().update(votes).set({ closedAt: null, closedBy: null }).where(isVote(tree, id))
    tell(tree)
    throw error
  }
  // All that is to be known stands with the topic now.
  try {
    await inTransaction(async tx => {
      await tx.delete(ballots).where(eq(ballots.voteId, id))
      await tx.delete(votes).where(isVote(tree, id))
    })
  } finally {
    // Whoever hears of it asks at once: it has to be gone by then.
    tell(tree)
  }
}

function voteOf(row: Row, own: readonly (typeof ballots.$inferSelect)[]): Vote {
  const casts = row.secret ? null : own.map(({ cast }) => [...cast!])
  const { counts, pairs } = casts ? tally(row, casts) : row.sums!
  return {
    id: row.id,
    question: row.question,
    kind: row.kind,
    secret: row.secret,
    choices: [...row.choices],
    counts: [...counts],
    pairs: pairs && pairs.map(line => [...line]),
    voters: own.map(({ userId }) => userId),
    casts,
    by: row.by,
    at: row.closedAt!.getTime(),
  }
}

export async function dropVote(tree: string, id: string): Promise<void> {
  await inTransaction(async tx => {
    await tx.delete(ballots).where(eq(ballots.voteId, id))
    await tx.delete(votes).where(isVote(tree, id))
  })
  tell(tree)
}
