import { sql } from 'drizzle-orm'
import { bus } from '../bus'
import { database } from '../database/connect'
import { log } from '../log'
import { tellOf } from './derive'
import { writeLetters } from './letters'

/** What happens in this time is told in one go: ms. */
const GATHER_MS = 700
const LETTERS_EVERY_MS = 60_000

let stopHearing = (): void => {}
let timer: NodeJS.Timeout | undefined
let round: NodeJS.Timeout | undefined
let running: Promise<void> = Promise.resolve()
const waiting = new Set<string>()

/** From now on people are told what happens; what happened while nothing ran is told first. */
export function startTelling(): void {
  stopHearing = bus.hear(word => {
    if (word.about !== 'edits' && word.about !== 'said') return
    waiting.add(word.tree)
    round ??= setTimeout(go, GATHER_MS)
  })
  const write = (): Promise<unknown> =>
    writeLetters(Date.now()).catch((error: unknown) => log.error({ error }, 'letters wait for the next round'))
  running = catchUp()
    .catch((error: unknown) => log.error({ error }, 'what happened meanwhile is told with the next word of each tree'))
    .then(write)
    .then(() => {})
  timer = setInterval(write, LETTERS_EVERY_MS)
  timer.unref()
}

export async function stopTelling(): Promise<void> {
  stopHearing()
  clearInterval(timer)
  clearTimeout(round)
  round = undefined
  waiting.clear()
  await running
}

function go(): void {
  const some = [...waiting]
  waiting.clear()
  running = running
    .then(() => tellAll(some))
    .finally(() => {
      round = waiting.size > 0 ? setTimeout(go, GATHER_MS) : undefined
    })
}

async function catchUp(): Promise<void> {
  const [rows] = (await database().execute(sql`select t.id from trees t left join talks k on k.tree_id = t.id
    left join telling_marks m on m.tree_id = t.id
    where t.version > coalesce(m.edits, 0) or coalesce(k.number, 0) > coalesce(m.said, 0)`)) as unknown as [
    { id: string }[],
  ]
  await tellAll(rows.map(({ id }) => id))
}

/** One after the other: who edits and talks comes first. */
async function tellAll(trees: readonly string[]): Promise<void> {
  for (const tree of trees)
    try {
      await tellOf(tree)
    } catch (error) {
      // The mark stands where it stood: with the next word of this tree it's tried again.
      log.error({ error, tree }, 'what happened in a tree could not be told')
    }
}
