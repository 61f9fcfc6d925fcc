import { sql } from 'drizzle-orm'
import { bus } from '../bus'
import { database } from '../database/connect'
import { log } from '../log'
import { tellOf } from './derive'
import { writeLetters } from './letters'

/** What happens in this time is told in one go: ms. */
const GATHER_MS = 700
/** After a round that took long there's a pause of as many times its length, so that telling never keeps from editing; ms at most. */
const REST = 3
const LONGEST_REST_MS = 5000
/** What could not be told is tried again after this, and then after twice as long each time: ms. */
const AGAIN_MS = 1000
const LONGEST_MS = 60_000
const LETTERS_EVERY_MS = 60_000

let stopHearing = (): void => {}
let timer: NodeJS.Timeout | undefined
let round: NodeJS.Timeout | undefined
let running: Promise<void> = Promise.resolve()
const waiting = new Set<string>()
/** Times in a row that a tree's people could not be told. */
const failures = new Map<string, number>()
const retries = new Set<NodeJS.Timeout>()

/** From now on people are told what happens; what happened while nothing ran is told first. */
export function startTelling(): void {
  stopHearing = bus.hear(word => {
    if (word.about === 'edits' || word.about === 'said') tellSoon(word.tree)
  })
  const write = (): Promise<unknown> =>
    writeLetters(Date.now()).catch((error: unknown) => log.error({ error }, 'letters wait for the next round'))
  inTurn(() => catchUp(1))
  inTurn(write)
  timer = setInterval(write, LETTERS_EVERY_MS)
  timer.unref()
}

export async function stopTelling(): Promise<void> {
  stopHearing()
  clearInterval(timer)
  clearTimeout(round)
  round = undefined
  waiting.clear()
  forgetRetries()
  await running
  // What was in hand may have failed meanwhile.
  forgetRetries()
  failures.clear()
}

function forgetRetries(): void {
  for (const retry of retries) clearTimeout(retry)
  retries.clear()
}

/** One thing after the other, so that whoever stops can wait for the last. */
function inTurn(work: () => Promise<unknown>): void {
  running = running.then(work).then(
    () => {},
    (error: unknown) => log.error({ error }, 'a round of telling broke off'),
  )
}

function tellSoon(tree: string): void {
  waiting.add(tree)
  if (!round) roundAfter(GATHER_MS)
}

function roundAfter(ms: number): void {
  const mine = setTimeout(() => {
    inTurn(async () => {
      const some = [...waiting]
      waiting.clear()
      const began = Date.now()
      try {
        await tellAll(some)
      } finally {
        if (round === mine) {
          round = undefined
          const rest = Math.min(LONGEST_REST_MS, REST * (Date.now() - began))
          if (waiting.size > 0) roundAfter(Math.max(GATHER_MS, rest))
        }
      }
    })
  }, ms)
  round = mine
}

/** Does something after as long as befits the times that it has failed in a row. */
function later(times: number, what: () => void): void {
  const retry = setTimeout(
    () => {
      retries.delete(retry)
      what()
    },
    Math.min(LONGEST_MS, AGAIN_MS * 2 ** (times - 1)),
  )
  retry.unref()
  retries.add(retry)
}

async function catchUp(attempt: number): Promise<void> {
  try {
    const [rows] = (await database().execute(sql`select t.id from trees t left join talks k on k.tree_id = t.id
      left join telling_marks m on m.tree_id = t.id
      where t.version > coalesce(m.edits, 0) or coalesce(k.number, 0) > coalesce(m.said, 0)`)) as unknown as [
      { id: string }[],
    ]
    await tellAll(rows.map(({ id }) => id))
  } catch (error) {
    log.error({ error }, 'what happened meanwhile is told a little later')
    later(attempt, () => {
      inTurn(() => catchUp(attempt + 1))
    })
  }
}

/** One after the other: who edits and talks comes first. */
async function tellAll(trees: readonly string[]): Promise<void> {
  for (const tree of trees)
    try {
      await tellOf(tree)
      failures.delete(tree)
    } catch (error) {
      // The mark stands where it stood: nothing is lost, and nobody has to do something in the tree for it to be told.
      log.error({ error, tree }, 'what happened in a tree could not be told; it’s tried again')
      const times = (failures.get(tree) ?? 0) + 1
      failures.set(tree, times)
      later(times, () => {
        tellSoon(tree)
      })
    }
}
