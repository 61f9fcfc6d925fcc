/*
 * npm run restore FILE: everything as it was in a backup. What is there now is backed up first. A Sun Porch that runs on this
 * data folder pauses meanwhile and goes on by itself.
 */
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { backup, check, openBackup, runSql } from './backup.mjs'
import { fail, say } from './machine.mjs'
import { dataFolder, databaseUrl, isAlive, readRunning } from './running.mjs'

const path = process.argv[2]
if (!path) fail('Say from where: npm run restore -- FILE')
if (!existsSync(path)) fail(`There is no file ${path}.`)
const folder = dataFolder()
const url = databaseUrl()
const running = process.env.DATABASE_URL ? null : readRunning(folder)

/** Pauses or wakes the Sun Porch that runs, and waits until it says so. */
async function pause(on) {
  if (!running || !isAlive(running.pid, 'start.mjs')) return
  process.kill(running.pid, 'SIGUSR2')
  for (let waited = 0; waited < 600; waited++) {
    if (Boolean(readRunning(folder)?.paused) === on) return
    await new Promise(done => setTimeout(done, 100))
  }
  throw new Error(on ? 'Sun Porch doesn’t pause. Nothing was changed.' : 'Sun Porch doesn’t go on. Start it again.')
}

let before = ''
try {
  const { at } = await check(path)
  mkdirSync(join(folder, 'backups'), { recursive: true, mode: 0o700 })
  before = join(folder, 'backups', `before-restore-${new Date().toISOString().replaceAll(':', '-')}.backup`)
  await pause(true)
  try {
    await backup(url, before)
    const tables = Readable.from(
      (async function* () {
        yield 'SET FOREIGN_KEY_CHECKS = 0;\n'
        // Tables that the backup doesn't know must go too: else a newer schema would stay half there.
        yield "SET @all = (SELECT GROUP_CONCAT(CONCAT('`', table_name, '`')) FROM information_schema.tables WHERE table_schema = DATABASE());\n"
        yield "SET @drop = IF(@all IS NULL, 'SELECT 1', CONCAT('DROP TABLE ', @all));\nPREPARE one FROM @drop;\nEXECUTE one;\n"
        yield* (await openBackup(path)).sql
        // Browsers that waited through it must know that numbers mean other edits now. Who had signed out since then stays so.
        // A file that was taken out before then still tells by it which of its edits are the tree's. Older backups have no such table.
        yield "\nSET @note = IF((SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'tree_epochs') = 0, 'SELECT 1', 'INSERT INTO tree_epochs (tree_id, epoch, until) SELECT id, epoch, version FROM trees ON DUPLICATE KEY UPDATE until = version');\nPREPARE one FROM @note;\nEXECUTE one;\n"
        yield `\nUPDATE trees SET epoch = CONCAT('${randomBytes(6).toString('hex')}', LEFT(MD5(id), 6));\n`
        yield 'DELETE FROM sessions;\n'
      })(),
    )
    await runSql(url, folder, tables)
  } finally {
    await pause(false)
  }
  say(`Restored as it was at ${at}. All have to sign in again. What was there before is in ${resolve(before)}`)
} catch (error) {
  fail(existsSync(before) ? `${error.message}\nWhat was there before is in ${resolve(before)}` : error.message)
}
