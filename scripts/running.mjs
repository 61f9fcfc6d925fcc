/*
 * Which Sun Porch runs on a data folder, as it says itself in a file there: so that other commands find its database, and a start
 * finds what one that was killed left behind.
 */
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { isAbsolute, join, resolve } from 'node:path'
import { fail, root } from './machine.mjs'

/** The data folder that the environment names. */
export function dataFolder() {
  const given = process.env.DATA_DIR || '.data'
  return isAbsolute(given) ? given : resolve(root, given)
}

const fileIn = folder => join(folder, 'running.json')

/** Whether a process lives whose command line holds a word: numbers are used again. */
export function isAlive(pid, word) {
  if (!pid) return false
  try {
    process.kill(pid, 0)
    return !existsSync('/proc') || readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word)
  } catch {
    return false
  }
}

/** What the file says: `{ pid, databasePid, url }`; null when there is none that can be read. */
export function readRunning(folder) {
  try {
    return JSON.parse(readFileSync(fileIn(folder), 'utf8'))
  } catch {
    return null
  }
}

export function writeRunning(folder, about) {
  writeFileSync(fileIn(folder), JSON.stringify(about), { mode: 0o600 })
}

export function forgetRunning(folder) {
  rmSync(fileIn(folder), { force: true })
}

/** The database that commands work on: the one that is given, or that of the Sun Porch that runs on the data folder. */
export function databaseUrl() {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL
  const running = readRunning(dataFolder())
  if (!running?.url || !isAlive(running.databasePid, 'mariadbd'))
    fail('No database runs. Start Sun Porch with `npm start` first, or set DATABASE_URL.')
  return running.url
}
