import { and, asc, eq, ne, sql } from 'drizzle-orm'
import type { NewsEdit } from '#core/contract'
import { type KeptMoment, worthKeeping } from '#core/history/kept'
import { Fault } from '../access/fault'
import { bus } from '../bus'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { keptMoments } from '../database/schema'
import { log } from '../log'
import { heldNow } from './held'

/** Moments of one tree that people may name, and that are kept by themselves; of the latter the oldest go. */
const MOST_NAMED = 500
const MOST_BY_THEMSELVES = 500

export async function keptOf(treeId: string): Promise<KeptMoment[]> {
  const rows = await database()
    .select()
    .from(keptMoments)
    .where(eq(keptMoments.treeId, treeId))
    .orderBy(asc(keptMoments.number))
  return rows.map(({ number, why, name, by, at }) => ({ number, why, name, by, at: at.toISOString() }))
}

/** Names a moment, or gives it another name; or keeps it as a baseline of the plan. Throws `full`. */
export async function nameMoment(
  treeId: string,
  number: number,
  name: string,
  by: string,
  why: 'named' | 'baseline' = 'named',
): Promise<void> {
  await inTransaction(async tx => {
    const named = and(eq(keptMoments.treeId, treeId), eq(keptMoments.why, why))
    const [count] = await tx
      .select({ count: sql<number>`count(*)` })
      .from(keptMoments)
      .where(and(named, ne(keptMoments.number, number)))
    if (Number(count!.count) >= MOST_NAMED)
      throw new Fault(409, 'full', `A tree keeps ${MOST_NAMED} moments by name. Let one go first.`)
    await tx
      .insert(keptMoments)
      .values({ treeId, number, why, name, by, at: new Date() })
      .onDuplicateKeyUpdate({ set: { name, by } })
  })
}

/** Lets a moment go by its name, or as a baseline. What happened stays in the log. */
export async function letMomentGo(treeId: string, number: number, why: 'named' | 'baseline' = 'named'): Promise<void> {
  await database()
    .delete(keptMoments)
    .where(and(eq(keptMoments.treeId, treeId), eq(keptMoments.number, number), eq(keptMoments.why, why)))
}

async function keepByItself(treeId: string, edits: readonly NewsEdit[]): Promise<void> {
  for (const edit of edits) {
    const found = worthKeeping(edit)
    if (!found) continue
    const title = found.topic === null ? '' : (heldNow(treeId)?.tree.topics.get(found.topic)?.title ?? '')
    const name = [...title].slice(0, 180).join('').toWellFormed()
    await database()
      .insert(keptMoments)
      .values({ treeId, number: found.number, why: found.why, name, by: null, at: new Date(edit.at) })
      .onDuplicateKeyUpdate({ set: { name } })
    await database()
      .execute(sql`delete from kept_moments where tree_id = ${treeId} and why not in ('named', 'baseline') and number < (
      select number from (select number from kept_moments where tree_id = ${treeId} and why not in ('named', 'baseline')
        order by number desc limit 1 offset ${MOST_BY_THEMSELVES}) old)`)
  }
}

/** From now on moments are kept by themselves. Returns what ends that. */
export const startKeeping = (): (() => void) =>
  bus.hear(word => {
    if (word.about === 'edits')
      keepByItself(word.tree, word.edits).catch((error: unknown) => log.error({ error }, 'a moment could not be kept'))
  })
