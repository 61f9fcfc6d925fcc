import pLimit from 'p-limit'
import { Fault } from '../access/fault'

/*
 * Opening a tree as it was takes as much memory as the tree and a while of the processor, and nothing of it is kept: so it's done
 * for few at once, in turn, and nobody may have many that wait.
 */

const AT_ONCE = 2
/** Askings of one person that are worked on or wait, at most. */
const MOST_OF_ONE = 8

const turns = pLimit(AT_ONCE)
const asking = new Map<string, number>()

/** Does something heavy when it's its turn. Throws a `Fault` when too many of the same person wait already. */
export async function inTurn<T>(person: string, work: () => Promise<T>): Promise<T> {
  const count = asking.get(person) ?? 0
  if (count >= MOST_OF_ONE)
    throw new Fault(429, 'slowed', 'You have asked for many moments at once. Wait until some have come.')
  asking.set(person, count + 1)
  try {
    return await turns(work)
  } finally {
    const left = asking.get(person)! - 1
    if (left > 0) asking.set(person, left)
    else asking.delete(person)
  }
}
