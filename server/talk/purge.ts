import { and, eq, or, sql } from 'drizzle-orm'
import type { Transaction } from '../database/connect'
import { comments, sayings, threads, votes } from '../database/schema'
import { likeAnywhere } from '../database/like'
import { wordsOf } from './words'

/** What of a saying is words; the rest says what is what. */
const WORDS = new Set(['text', 'label', 'alt', 'words', 'href'])

/** Takes a text out of what was said, in the log of it too, and out of votes that run. Answers with how many comments had it. */
export async function purgeTalk(tx: Transaction, treeId: string, text: string, instead: string): Promise<number> {
  const without = <T>(said: T): T =>
    JSON.parse(JSON.stringify(said), (name, value: unknown) =>
      WORDS.has(name) && typeof value === 'string' ? value.replaceAll(text, instead) : value,
    ) as T
  // JSON writes some characters otherwise; what is in question is looked at again.
  const like = likeAnywhere(JSON.stringify(text).slice(1, -1))
  if (like === null) return 0
  const said = await tx
    .select()
    .from(comments)
    .where(and(eq(comments.treeId, treeId), sql`${comments.body} like ${like}`))
  for (const { id, body } of said) {
    const clean = without(body!)
    await tx
      .update(comments)
      .set(wordsOf(clean))
      .where(and(eq(comments.treeId, treeId), eq(comments.id, id)))
  }
  const told = await tx
    .select()
    .from(sayings)
    .where(and(eq(sayings.treeId, treeId), sql`${sayings.data} like ${like}`))
  for (const { number, data } of told)
    await tx
      .update(sayings)
      .set({ data: without(data) })
      .where(and(eq(sayings.treeId, treeId), eq(sayings.number, number)))
  const about = await tx
    .select()
    .from(threads)
    .where(and(eq(threads.treeId, treeId), sql`${threads.place} like ${like}`))
  for (const { id, place } of about)
    await tx
      .update(threads)
      .set({ place: without(place) })
      .where(and(eq(threads.treeId, treeId), eq(threads.id, id)))
  const asked = await tx
    .select()
    .from(votes)
    .where(and(eq(votes.treeId, treeId), or(sql`${votes.question} like ${like}`, sql`${votes.choices} like ${like}`)))
  for (const { id, question, choices } of asked)
    await tx
      .update(votes)
      .set({
        question: question.replaceAll(text, instead).slice(0, 500),
        choices: choices.map(one => one.replaceAll(text, instead).slice(0, 200)),
      })
      .where(eq(votes.id, id))
  return said.length + asked.length
}
