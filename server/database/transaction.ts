import { AsyncLocalStorage } from 'node:async_hooks'
import pLimit from 'p-limit'
import { again } from './again'
import { CONNECTIONS, database, isPassing, type Transaction } from './connect'

/**
 * Transactions at once. A few connections are always left to statements by themselves: what counts letters or reads a
 * setting may be asked from within a transaction, and were all connections held by such, each would wait for another
 * for ever.
 */
const gate = pLimit(CONNECTIONS - 4)

/** The transaction that the work which runs just now belongs to. */
const inside = new AsyncLocalStorage<{ tx: Transaction; open: boolean }>()

/**
 * A transaction that is made again, whole, when it met another: two at the same moment may lock each other out. `work`
 * changes nothing but what it's given to change. One within another is part of it.
 */
export async function inTransaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  const around = inside.getStore()
  if (around?.open) return work(around.tx)
  return gate(() =>
    again(isPassing, () =>
      database().transaction(async tx => {
        const here = { tx, open: true }
        try {
          return await inside.run(here, () => work(tx))
        } finally {
          here.open = false
        }
      }),
    ),
  )
}
