import type { Choice } from '#core/handing/choice'
import type { Account } from '../access/accounts'
import { Fault } from '../access/fault'
import { sendLetter } from '../letters/send'
import { log } from '../log'
import { makeFor, type MakeAsked } from './make-for'
import { beginMade, dropMade, endMade, failMade } from './made-store'

/* Files that are made while whoever asked for them does something else. */

/** What is being made here: what stops it, and how far it has come, 0 to 1. */
const going = new Map<string, { readonly stop: AbortController; part: number }>()

/** How far one has come that is being made here; null where it isn't. */
export const partOf = (id: string): number | null => going.get(id)?.part ?? null

/** Bytes that go along with a letter; what is larger waits under Hand out. */
const MOST_IN_LETTER = 8_000_000

/** Begins to make a file and returns the id under which it will be found. */
export async function makeMeanwhile(asked: MakeAsked, letter: boolean): Promise<string> {
  const { treeId, account, choice } = asked
  const { id, gone } = await beginMade(treeId, account.id, choice.as)
  // What made room isn't made for nobody.
  for (const one of gone) going.get(one)?.stop.abort()
  const stop = new AbortController()
  going.set(id, { stop, part: 0 })
  void work(id, asked, letter, stop.signal)
    .catch(async (error: unknown) => {
      if (!(error instanceof Fault)) log.error({ error, id }, 'a file that was to be made meanwhile failed')
      const said = error instanceof Fault ? error.message : 'It couldn’t be made. Please try again.'
      await failMade(id, said)
      if (letter && !stop.signal.aborted) await tellFailed(treeId, account, choice, said)
    })
    .catch((error: unknown) => log.error({ error, id }, 'that a file failed couldn’t be said'))
    .finally(() => going.delete(id))
  return id
}

async function work(id: string, asked: MakeAsked, letter: boolean, signal: AbortSignal): Promise<void> {
  const made = await makeFor(asked, signal, part => {
    const one = going.get(id)
    // It never goes back: what is told late isn't older for that.
    if (one && part > one.part) one.part = part
  })
  if (signal.aborted) return
  const isKept = await endMade(id, made)
  if (!isKept || !letter) return
  const { treeId, account } = asked
  const fits = made.bytes.byteLength <= MOST_IN_LETTER
  await sendLetter({
    to: account.email,
    by: account.id,
    tree: treeId,
    subject: `“${made.name}” is made`,
    body: fits
      ? `“${made.name}”, which you asked for, goes along with this letter. It’s kept for a day under Hand out of its tree.`
      : `“${made.name}”, which you asked for, is made. It’s too large for a letter: it’s kept for a day under Hand out of its tree.`,
    link: `/trees/${treeId}`,
    ...(fits
      ? {
          attachments: [
            { name: made.name, type: made.type, text: Buffer.from(made.bytes).toString('base64'), packed: true },
          ],
        }
      : {}),
  })
}

async function tellFailed(treeId: string, { id: by, email }: Account, { as }: Choice, said: string): Promise<void> {
  await sendLetter({
    to: email,
    by,
    tree: treeId,
    subject: `What you asked for couldn’t be made (${as})`,
    body: said,
    link: `/trees/${treeId}`,
  })
}

/** Takes one away, and stops it where it's being made. False where there is none of theirs. */
export async function dropMeanwhile(treeId: string, userId: string, id: string): Promise<boolean> {
  const found = await dropMade(treeId, userId, id)
  if (found) going.get(id)?.stop.abort()
  return found
}
