import { createHash } from 'node:crypto'
import { accountOf, type Principal } from '#core/contract'
import { type Move, moveOn } from '#core/meeting/running'
import { Fault } from '../access/fault'
import { submit } from '../trees/door'
import { openMeeting } from './meeting'

/*
 * Moves of a running meeting, timed here. Two chairs who press at once: in one process they queue; between processes
 * the edit's id is made from the step, so that the door counts it once.
 */

const queues = new Map<string, Promise<unknown>>()

function inTurn<T>(key: string, work: () => Promise<T>): Promise<T> {
  const turn = (queues.get(key) ?? Promise.resolve()).then(work, work)
  const settled = turn
    .catch(() => {
      /* told to whoever asked */
    })
    .finally(() => {
      if (queues.get(key) === settled) queues.delete(key)
    })
  queues.set(key, settled)
  return turn
}

/**
 * Moves a meeting on. `from`: the step that whoever pressed had before them. `already`: it had been moved before this
 * was heard. `step`: where it is now.
 */
export function moveMeeting(
  treeId: string,
  topicId: string,
  principal: Principal,
  version: number,
  move: Move,
  from: number | null,
): Promise<{ already: boolean; at: number; step: number }> {
  return inTurn(`${treeId}/${topicId}`, async () => {
    const { tree, version: number, brief } = await openMeeting(treeId, topicId, version)
    const now = Date.now()
    const moved = moveOn(tree, topicId, move, from, now, accountOf(principal)!, number)
    if (moved.kind === 'refused') throw new Fault(409, 'not-now', moved.words)
    if (moved.kind === 'already') return { already: true, at: now, step: brief.run?.step ?? 0 }
    const id = createHash('sha256')
      .update(`${treeId}/${topicId}/${brief.run?.began ?? number}/${moved.step}`)
      .digest('base64url')
      .slice(0, 32)
    const { again } = await submit(treeId, principal, { id, changes: moved.changes, deed: true })
    return { already: again, at: now, step: moved.step }
  })
}
