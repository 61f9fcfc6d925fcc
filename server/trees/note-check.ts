import type { Change, Tree, TopicId } from '#core/tree'
import { Fault } from '../access/fault'
import { runJob } from '../jobs/runner'
import type { NoteToCheck } from '../jobs/work'

/*
 * Notes are bytes that some browser made. What is typed is joined where it comes in: so few bytes can't hold up anybody. What is larger,
 * and what makes a note cross one of the sizes below, is joined and opened in a thread first, with limits on time and memory: no note gets
 * into a tree that can't be opened in reasonable time.
 */

/** Letters of Base64: 12 kB. */
const STEP = 16_384

const updateOf = (change: Change): { topic: TopicId; update: string } | null =>
  change.op === 'note'
    ? { topic: change.topic, update: change.update }
    : change.op === 'add' && change.with?.note
      ? { topic: change.topic, update: change.with.note }
      : null

/** The notes of an edit that have to be opened in a thread before it's made. */
export function notesToCheck(tree: Tree, changes: readonly Change[]): NoteToCheck[] {
  const found = new Map<TopicId, string[]>()
  for (const change of changes) {
    const one = updateOf(change)
    if (!one) continue
    const updates = found.get(one.topic)
    if (updates) updates.push(one.update)
    else found.set(one.topic, [one.update])
  }
  return [...found].flatMap(([topic, updates]) => {
    const note = tree.topics.get(topic)?.note ?? null
    const before = note?.length ?? 0
    const after = updates.reduce((size, update) => size + update.length, before)
    return Math.floor(before / STEP) === Math.floor(after / STEP) ? [] : [{ note, updates }]
  })
}

/** Opens them; answers with why the edit can't be made, null when it can. */
export async function whyNotNotes(notes: readonly NoteToCheck[], person: string): Promise<Fault | null> {
  try {
    const sound = await runJob('notes', { notes }, { person })
    return sound.every(Boolean) ? null : new Fault(409, 'note', 'That note can’t be read.')
  } catch (error) {
    if (error instanceof Fault) return error
    throw error
  }
}
