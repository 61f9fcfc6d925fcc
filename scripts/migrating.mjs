/* A copy of everything before the schema is changed. */
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root, say } from './machine.mjs'

/** Backs up into the data folder when the database holds something and its schema is older than this version's. */
export async function copyBeforeMigration(url, folder) {
  const { createConnection } = await import('mysql2/promise')
  const { entries } = JSON.parse(readFileSync(join(root, 'server/database/migrations/meta/_journal.json'), 'utf8'))
  let done
  const database = await createConnection({ uri: url })
  try {
    const [[row]] = await database.query('SELECT COUNT(*) AS done FROM __drizzle_migrations')
    done = Number(row.done)
  } catch {
    return // A database that holds nothing yet.
  } finally {
    await database.end()
  }
  if (done === 0 || done >= entries.length) return
  const { backup } = await import('./backup.mjs')
  mkdirSync(join(folder, 'backups'), { recursive: true, mode: 0o700 })
  const target = join(
    folder,
    'backups',
    `before-migration-${done}-to-${entries.length}-${new Date().toISOString().replaceAll(':', '-')}.backup`,
  )
  await backup(url, target)
  say(`Before the database is brought up to date, a copy: ${target}`)
}
