/* Starts Sun Porch: installs what is missing, starts a database, builds when stale, serves. */
import { spawn } from 'node:child_process'
import { isAbsolute, join, resolve } from 'node:path'
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

const dev = process.argv.includes('--dev')
const host = process.env.HOST || '127.0.0.1'
const port = Number(process.env.PORT || 3000)
const given = process.env.DATA_DIR || '.data'
const folder = isAbsolute(given) ? given : resolve(root, given)
const began = Date.now()

if (Number(process.versions.node.split('.')[0]) < 20)
  fail(`Node ${process.versions.node} is too old: Sun Porch needs Node 20 or newer.`)
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`PORT is “${process.env.PORT}”, which is no port number.`)
const taken = await tryPort(host, port)
if (taken === 'EADDRINUSE')
  fail(`Port ${port} on ${host} is taken. Stop what uses it, or choose another: PORT=3001 npm start`)
if (taken === 'EACCES') fail(`You have no right to listen on port ${port}. Choose one above 1023: PORT=3000 npm start`)
if (taken) fail(`${host}:${port} can't be listened on (${taken}). Set HOST and PORT to an address of this machine.`)

needFolder(folder, 200)
const ownDatabase = !process.env.DATABASE_URL
try {
  if (ownDatabase) await needPackages({ mariadbd: 'mariadb-server' })
  await needModules()
  if (!dev) await needBuild()
} catch (error) {
  fail(error.message)
}

let database
let server
let stopping = false
async function stop(code) {
  if (stopping) return
  stopping = true
  say('\nStopping: finishing edits in hand …')
  if (server && server.exitCode === null) {
    await new Promise(done => {
      server.on('exit', done)
      server.kill('SIGTERM')
      setTimeout(() => server.kill('SIGKILL'), 15_000).unref()
    })
  }
  await database?.stop()
  say('Stopped.')
  process.exit(code)
}
process.on('SIGINT', () => stop(0))
process.on('SIGTERM', () => stop(0))
process.on('SIGHUP', () => stop(0))

if (ownDatabase) {
  say('Starting the database …')
  database = await startDatabase(folder, await freePort())
}
const env = {
  ...process.env,
  HOST: host,
  PORT: String(port),
  NITRO_HOST: host,
  NITRO_PORT: String(port),
  NUXT_DATABASE_URL: process.env.DATABASE_URL || database.url,
  NUXT_SESSION_PASSWORD: process.env.NUXT_SESSION_PASSWORD || keptSecret(folder, 'session-key'),
  NUXT_SMTP_URL: process.env.SMTP_URL || '',
  NODE_ENV: dev ? 'development' : 'production',
}
// In a group of its own, so that Ctrl+C reaches this script alone and it stops things in order.
server = dev
  ? spawn('npx', ['nuxt', 'dev', '--host', host, '--port', String(port)], {
      cwd: root,
      env,
      stdio: ['ignore', 'inherit', 'inherit'],
      detached: true,
    })
  : spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
      cwd: root,
      env,
      stdio: ['ignore', 'ignore', 'inherit'],
      detached: true,
    })
server.on('exit', code => {
  if (!stopping) {
    process.stderr.write(`The app stopped by itself (code ${code}).\n`)
    stop(1)
  }
})

const address = `http://${host === '0.0.0.0' || host === '::' ? 'localhost' : host.includes(':') ? `[${host}]` : host}:${port}`
for (let waited = 0; waited < 1200 && !stopping; waited++) {
  const answer = await fetch(`${address}/api/health`).then(
    response => response.ok,
    () => false,
  )
  if (answer) break
  await new Promise(done => setTimeout(done, 100))
}
if (!stopping) {
  say(`Ready in ${Math.round((Date.now() - began) / 100) / 10} s.`)
  say(`\n  Sun Porch   ${address}\n`)
  say('  Demo sign-ins (password “tannery porch 2027”):')
  say('    ines@porch.example    owns the move and the meetings')
  say('    rana@porch.example    edits')
  say('    oskar@porch.example   edits')
  say('    lev@porch.example     edits, and comments in the meetings')
  say('\n  Ctrl+C stops everything.')
}
