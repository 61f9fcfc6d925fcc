import { database, isPassing, type Transaction } from './connect'

const TRIES = 5

/** A transaction that is made again when it met another: two at the same moment may lock each other out. */
export async function inTransaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++)
    try {
      return await database().transaction(work)
    } catch (error) {
      if (attempt === TRIES || !isPassing(error)) throw error
    }
}
