/*
 * npm run backup FILE: everything that Sun Porch holds, in one file, while it runs. The file is read back and checked.
 *
 * The file is gzip. Its first line says in JSON what it is and the SHA-256 of the rest, which is SQL by mariadb-dump.
 */
import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, existsSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import { fileURLToPath } from 'node:url'
import { fail, say } from './machine.mjs'
import { databaseUrl } from './running.mjs'

const FORMAT = 'sun-porch-backup'
const LAST_LINE = '-- Dump completed'

/** Settings of MariaDB's own programs for one database; the password stands in a file, not on the command line. */
export function clientOptions(url, folder) {
  const { hostname, port, username, password, pathname } = new URL(url)
  const file = join(folder, `.client-${process.pid}-${Date.now()}.cnf`)
  const lines = [
    '[client]',
    `host=${hostname}`,
    `port=${port || 3306}`,
    'protocol=tcp',
    `user=${decodeURIComponent(username)}`,
    `password="${decodeURIComponent(password).replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`,
  ]
  writeFileSync(file, lines.join('\n'), { mode: 0o600 })
  return { file, database: pathname.slice(1) }
}

function ended(child, name) {
  return new Promise((done, reject) => {
    let said = ''
    child.stderr.on('data', piece => {
      said = (said + piece).slice(-2000)
    })
    child.on('error', error =>
      reject(new Error(`${name} can't be run (${error.code}). It comes with Debian's mariadb-client.`)),
    )
    child.on('close', code => (code === 0 ? done() : reject(new Error(`${name} failed: ${said.trim()}`))))
  })
}

/** Runs MariaDB's client program over a stream of SQL. */
export async function runSql(url, folder, source) {
  const { file, database } = clientOptions(url, folder)
  try {
    const child = spawn('mariadb', [`--defaults-extra-file=${file}`, '--default-character-set=utf8mb4', database], {
      stdio: ['pipe', 'ignore', 'pipe'],
    })
    const end = ended(child, 'mariadb')
    await Promise.all([
      end,
      pipeline(source, child.stdin).catch(error => (error.code === 'EPIPE' ? undefined : Promise.reject(error))),
    ])
  } finally {
    rmSync(file, { force: true })
  }
}

/** Writes a backup and reads it back. Throws an `Error` in words when it isn't good; nothing is left under its name then. */
export async function backup(url, target) {
  const folder = join(target, '..')
  const { file, database } = clientOptions(url, folder)
  const [sql, packed] = [`${target}.sql.part`, `${target}.part`]
  try {
    const child = spawn(
      'mariadb-dump',
      [
        `--defaults-extra-file=${file}`,
        // One moment of the database, and nobody waits for it.
        '--single-transaction',
        '--quick',
        '--hex-blob',
        '--skip-lock-tables',
        '--default-character-set=utf8mb4',
        '--max-allowed-packet=512M',
        database,
      ],
      { stdio: ['ignore', 'pipe', 'pipe'] },
    )
    const hash = createHash('sha256')
    const end = ended(child, 'mariadb-dump')
    child.stdout.on('data', piece => hash.update(piece))
    await Promise.all([end, pipeline(child.stdout, createWriteStream(sql, { mode: 0o600 }))])
    const head = { format: FORMAT, version: 1, at: new Date().toISOString(), sha256: hash.digest('hex') }
    async function* whole() {
      yield `${JSON.stringify(head)}\n`
      yield* createReadStream(sql)
    }
    await pipeline(whole, createGzip({ level: 6 }), createWriteStream(packed, { mode: 0o600 }))
    await check(packed)
    renameSync(packed, target)
    return { bytes: statSync(target).size }
  } finally {
    for (const left of [file, sql, packed]) rmSync(left, { force: true })
  }
}

/** The SQL of a backup as a stream, and what its first line says. */
export async function openBackup(path) {
  const pieces = createReadStream(path).pipe(createGunzip())[Symbol.asyncIterator]()
  let before = Buffer.alloc(0)
  let at = -1
  while (at < 0 && before.length < 10_000) {
    const { value, done } = await pieces.next()
    if (done) break
    before = Buffer.concat([before, value])
    at = before.indexOf(10)
  }
  let head
  try {
    head = JSON.parse(before.subarray(0, at).toString())
  } catch {
    head = {}
  }
  if (head.format !== FORMAT || head.version !== 1) throw new Error(`${path} is no backup of Sun Porch.`)
  async function* rest() {
    yield before.subarray(at + 1)
    for (;;) {
      const { value, done } = await pieces.next()
      if (done) return
      yield value
    }
  }
  return { head, sql: rest() }
}

/** Reads a backup to its end. Throws an `Error` in words when it isn't whole. */
export async function check(path) {
  const hash = createHash('sha256')
  let tail = ''
  let head
  try {
    const opened = await openBackup(path)
    head = opened.head
    for await (const piece of opened.sql) {
      hash.update(piece)
      tail = (tail + piece.subarray(-200).toString()).slice(-200)
    }
  } catch (error) {
    throw /no backup of/.test(error.message)
      ? error
      : new Error(`${path} can't be read (${error.code ?? error.message}).`)
  }
  if (hash.digest('hex') !== head.sha256 || !tail.includes(LAST_LINE))
    throw new Error(`${path} isn’t whole: what is in it isn’t what was written.`)
  return head
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const target = process.argv[2]
  if (!target) fail('Say where to: npm run backup -- FILE')
  if (existsSync(target)) fail(`${target} is there already. Choose another name.`)
  try {
    const { bytes } = await backup(databaseUrl(), target)
    say(`Backed up to ${target}: ${Math.ceil(bytes / 1024)} kB, read back and whole.`)
  } catch (error) {
    fail(error.message)
  }
}
