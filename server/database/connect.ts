import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2'
import { migrate } from 'drizzle-orm/mysql2/migrator'
import mysql from 'mysql2/promise'
import { settings } from '../settings'
import { again } from './again'
import { databaseErrorCode } from './error-code'
import * as schema from './schema'

export { databaseErrorCode }

export type Database = MySql2Database<typeof schema>
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Connections to the database that this process has at most. */
export const CONNECTIONS = 12

let pool: mysql.Pool | undefined
let handle: Database | undefined
let ready: Promise<void> | undefined

/** The one pool of this process. Times go in and out as UTC. */
export function database(): Database {
  if (!handle) {
    const url = settings().DATABASE_URL
    if (!url) throw new Error('DATABASE_URL is not set. Start the app with `npm start`, which also starts a database.')
    pool = mysql.createPool({
      uri: url,
      connectionLimit: CONNECTIONS,
      timezone: 'Z',
      charset: 'utf8mb4',
      enableKeepAlive: true,
      jsonStrings: false,
      // Where each statement was called from is worth 2 % of the processor; what fails is told with its text.
      trace: false,
      supportBigNumbers: true,
    })
    handle = drizzle(patient(pool), { schema, mode: 'default' })
  }
  return handle
}

/**
 * A statement by itself is a transaction of its own: where it meets another and is the one that is sent back, it's made
 * again.
 */
function patient(connections: mysql.Pool): mysql.Pool {
  const sentBack = (error: unknown): boolean => databaseErrorCode(error) === 'ER_LOCK_DEADLOCK'
  const patiently =
    (make: (...given: unknown[]) => Promise<unknown>) =>
    (...given: unknown[]): Promise<unknown> =>
      again(sentBack, () => make(...given))
  return Object.assign(Object.create(connections) as mysql.Pool, {
    query: patiently(connections.query.bind(connections) as never),
    execute: patiently(connections.execute.bind(connections) as never),
  })
}

/** The connections themselves, for statements that are prepared once on each. */
export function connections(): mysql.Pool {
  database()
  return pool!
}

/** The name of the database that the connections lead to. */
export const databaseName = (): string => new URL(settings().DATABASE_URL!).pathname.slice(1)

export async function closeDatabase(): Promise<void> {
  await pool?.end()
}

/** In a build the migrations lie beside the server's entry, in development where they are written. */
function migrationsFolder(): string {
  const built = join(dirname(resolve(process.argv[1] ?? '.')), 'migrations')
  return existsSync(built) ? built : resolve('server/database/migrations')
}

const afterwards: (() => Promise<void>)[] = []
/** Something that has to be in the database besides the schema, made after it's up to date. */
export function afterMigrating(make: () => Promise<void>): void {
  afterwards.push(make)
}

/** Brings the schema up to date, once a process; processes that start together wait for each other. */
export function migrated(): Promise<void> {
  ready ??= (async () => {
    const db = database()
    const lock = await pool!.getConnection()
    try {
      await lock.query("SELECT GET_LOCK('sun-porch-migrate', 120)")
      await migrate(db, { migrationsFolder: migrationsFolder() })
      for (const make of afterwards) await make()
      await lock.query("SELECT RELEASE_LOCK('sun-porch-migrate')")
    } finally {
      lock.release()
    }
  })()
  ready.catch(() => {
    ready = undefined
  })
  return ready
}

/** Whether something is there already: it was quicker, and is found there when it's looked for again. */
export const isThere = (error: unknown): boolean => databaseErrorCode(error) === 'ER_DUP_ENTRY'

/** Errors after which the same transaction may go through when tried again whole. */
export function isPassing(error: unknown): boolean {
  return ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD', 'ER_ERROR_DURING_COMMIT'].includes(
    databaseErrorCode(error),
  )
}
