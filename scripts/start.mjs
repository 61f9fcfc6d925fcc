/* Starts Sun Porch: installs what is missing, starts a database, builds when stale, serves. */
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import {
  fail,
  freePort,
  keptSecret,
  needBuild,
  needFolder,
  needModules,
  needPackages,
  root,
  say,
  startDatabase,
  tryPort,
} from './machine.mjs'
import { copyBeforeMigration } from './migrating.mjs'
import { dataFolder, forgetRunning, isAlive, readRunning, writeRunning } from './running.mjs'
import { Supervisor } from './supervisor.mjs'

const dev = process.argv.includes('--dev')
const host = process.env.HOST || '127.0.0.1'
const port = Number(process.env.PORT || 3000)
const folder = dataFolder()
const began = Date.now()

if (Number(process.versions.node.split('.')[0]) < 20)
  fail(`Node ${process.versions.node} is too old: Sun Porch needs Node 20 or newer.`)
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`PORT is “${process.env.PORT}”, which is no port number.`)
/** What a start that was killed left running goes first. */
async function takeOver() {
  const left = readRunning(folder)
  if (!left || isAlive(left.pid, 'start.mjs')) return
  for (const [pid, word, signal] of [
    [left.appPid, 'index.mjs', 'SIGTERM'],
    [left.databasePid, 'mariadbd', 'SIGTERM'],
  ]) {
    if (!isAlive(pid, word)) continue
    say('The last start was cut off; what it left running is stopped first …')
    process.kill(pid, signal)
    for (let waited = 0; waited < 300 && isAlive(pid, word); waited++) await new Promise(done => setTimeout(done, 100))
  }
  forgetRunning(folder)
}
await takeOver()

const taken = await tryPort(host, port)
if (taken === 'EADDRINUSE')
  fail(`Port ${port} on ${host} is taken. Stop what uses it, or choose another: PORT=3001 npm start`)
if (taken === 'EACCES') fail(`You have no right to listen on port ${port}. Choose one above 1023: PORT=3000 npm start`)
if (taken) fail(`${host}:${port} can't be listened on (${taken}). Set HOST and PORT to an address of this machine.`)

needFolder(folder, 200)
const ownDatabase = !process.env.DATABASE_URL
// The demo's passwords are known to everybody: never by itself where it's meant earnestly.
const demo = process.env.DEMO || (process.env.NODE_ENV === 'production' || !ownDatabase ? 'off' : 'on')
try {
  if (ownDatabase) await needPackages({ mariadbd: 'mariadb-server' })
  await needModules()
  if (!dev) await needBuild()
} catch (error) {
  fail(error.message)
}

let stopping = false
let paused = false
let database
let databasePort

const note = () =>
  writeRunning(folder, {
    pid: process.pid,
    databasePid: database?.pid,
    appPid: app.pid,
    url: env?.NUXT_DATABASE_URL,
    paused,
  })

const keeper = new Supervisor('The database', {
  async start() {
    database = await startDatabase(folder, databasePort)
    return database.process
  },
  stop: () => database?.stop(),
  started: () => note(),
  gaveUp: words => stop(1, words),
})
const app = new Supervisor('The app', {
  // In a group of its own, so that Ctrl+C reaches this script alone and it stops things in order; with a channel, so that it ends
  // when this script is killed.
  async start() {
    return dev
      ? spawn('npx', ['nuxt', 'dev', '--host', host, '--port', String(port)], {
          cwd: root,
          env,
          stdio: ['ignore', 'inherit', 'inherit'],
          detached: true,
        })
      : spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
          cwd: root,
          env,
          stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
          detached: true,
        })
  },
  started: () => note(),
  gaveUp: words => stop(1, words),
})
let env

async function stop(code, words) {
  if (stopping) {
    if (code === 0) process.exit(130)
    return
  }
  stopping = true
  if (words) process.stderr.write(`${words}\n`)
  say('\nStopping: finishing edits in hand …')
  await app.stop()
  await keeper.stop()
  forgetRunning(folder)
  say('Stopped.')
  process.exit(code)
}
// Any of them ends it; a second one at once.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP', 'SIGQUIT']) process.on(signal, () => stop(0))
// However this ends, nothing is left behind.
process.on('exit', () => {
  app.kill()
  keeper.kill()
})

if (ownDatabase) {
  say('Starting the database …')
  databasePort = await freePort()
  await keeper.start()
}
env = {
  ...process.env,
  HOST: host,
  PORT: String(port),
  NITRO_HOST: host,
  NITRO_PORT: String(port),
  DATA_DIR: folder,
  OUTBOX_DIR: process.env.OUTBOX_DIR || join(folder, 'outbox'),
  NUXT_DATABASE_URL: process.env.DATABASE_URL || database.url,
  NUXT_SESSION_PASSWORD: process.env.NUXT_SESSION_PASSWORD || keptSecret(folder, 'session-key'),
  NUXT_DEMO: demo,
  NODE_ENV: dev ? 'development' : 'production',
}
try {
  if (!dev) await copyBeforeMigration(env.NUXT_DATABASE_URL, folder)
} catch (error) {
  await stop(1, error.message)
}
// A restore asks for a pause, and for the end of it.
process.on('SIGUSR2', async () => {
  if (stopping) return
  paused = !paused
  if (paused) await app.stop()
  else await app.start()
  note()
})
await app.start()

const address = `http://${host === '0.0.0.0' || host === '::' ? 'localhost' : host.includes(':') ? `[${host}]` : host}:${port}`
for (let waited = 0; waited < 1200 && !stopping; waited++) {
  const answer = await fetch(`${address}/api/ready`).then(
    response => response.ok,
    () => false,
  )
  if (answer) break
  await new Promise(done => setTimeout(done, 100))
}
if (!stopping) {
  say(`Ready in ${Math.round((Date.now() - began) / 100) / 10} s.`)
  say(`\n  Sun Porch   ${address}\n`)
  if (demo === 'on') {
    say('  This is the demo. Everybody knows its password, so show it to nobody from outside;')
    say('  DEMO=off npm start begins without it.')
    say('  Demo sign-ins (password “tannery porch 2027”):')
    say('    ines@porch.example    owns the move and the meetings')
    say('    rana@porch.example    edits')
    say('    oskar@porch.example   edits')
    say('    lev@porch.example     edits, and comments in the meetings')
  } else {
    say('  No demo. Make the first account there, or: npm run account -- add ADDRESS NAME')
    if (!process.env.SMTP_URL)
      say(`  No mail server (SMTP_URL): letters about accounts are written to ${env.OUTBOX_DIR}`)
  }
  say('\n  Ctrl+C stops everything.')
}
