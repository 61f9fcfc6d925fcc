import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { closeSync, existsSync, mkdirSync, mkdtempSync, openSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, root, setUpDataFolder, startDatabase } from '../scripts/machine.mjs'

/** A whole Sun Porch of its own: a database in a temporary folder and the built app, to use and to break. */
export interface House {
  readonly url: string
  readonly databaseUrl: string
  readonly appPid: () => number
  readonly databasePid: () => number
  killApp(signal: NodeJS.Signals): Promise<void>
  startApp(): Promise<void>
  /** The end of what the app has written since it was started, and the file that it's in. */
  said(): string
  readonly log: string
  killDatabase(): Promise<void>
  startDatabaseAgain(): Promise<void>
  close(): Promise<void>
}

const gone = (child: ChildProcess): Promise<void> =>
  new Promise(done => {
    if (child.exitCode !== null || child.signalCode !== null) done()
    else
      child.once('exit', () => {
        done()
      })
  })

/** An empty data folder of MariaDB, made once: copying it takes a moment, setting one up some seconds. */
async function copyTemplate(folder: string): Promise<void> {
  const template = join(root, '.data', 'database-template')
  if (!existsSync(template)) {
    mkdirSync(join(root, '.data'), { recursive: true })
    const made = mkdtempSync(join(root, '.data', 'template-'))
    await setUpDataFolder(join(made, 'mariadb'))
    try {
      renameSync(made, template)
    } catch {
      // Somebody else was quicker.
      rmSync(made, { recursive: true })
    }
  }
  spawnSync('cp', ['-a', join(template, 'mariadb'), folder])
}

/** Ports of its own for each worker: between the draw and the start another would draw the same, rarely. */
const PARTS = 8
async function twoPorts(): Promise<[number, number]> {
  const part = Number(process.env.VITEST_POOL_ID ?? 0) % PARTS
  const first = await freePort(part, PARTS)
  for (;;) {
    const second = await freePort(part, PARTS)
    if (second !== first) return [first, second]
  }
}

/** Those that this worker has open. */
export const openHouses = new Set<House>()

/** The end of a log; empty when there's none. */
export const endOf = (log: string): string =>
  existsSync(log) ? readFileSync(log, 'utf8').trim().split('\n').slice(-8).join('\n').slice(-2000) : ''

export async function openHouse(
  options: {
    demo?: boolean
    env?: Record<string, string>
    /** What depends on where the house stands. */
    envAt?: (url: string) => Promise<Record<string, string>>
  } = {},
): Promise<House> {
  const folder = mkdtempSync(join(tmpdir(), 'sun-porch-test-'))
  await copyTemplate(folder)
  const [databasePort, port] = await twoPorts()
  const url = `http://127.0.0.1:${port}`
  let database = await startDatabase(folder, databasePort)
  let app: ChildProcess | undefined
  const log = join(folder, 'app.log')
  const envAt = (await options.envAt?.(url)) ?? {}

  async function startApp(): Promise<void> {
    const out = process.env.SHOW_SERVER ? 'inherit' : openSync(log, 'w')
    app = spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
      cwd: root,
      env: {
        ...process.env,
        NODE_ENV: 'production',
        HOST: '127.0.0.1',
        PORT: String(port),
        NITRO_HOST: '127.0.0.1',
        NITRO_PORT: String(port),
        NUXT_DATABASE_URL: database.url,
        NUXT_SESSION_PASSWORD: 'only for tests, and long enough for it',
        NUXT_DEMO: options.demo ? 'on' : 'off',
        // Tests come from one address and do in a minute what people do in a day; those about the limits set them.
        SIGN_UPS_AN_HOUR: '1000000',
        WRITES_A_MINUTE: '1000000',
        MAIL_PER_PERSON: '100000',
        MAIL_PER_TREE: '100000',
        CONFIRM: 'off',
        LOG_LEVEL: process.env.SHOW_SERVER ? 'info' : 'warn',
        ...options.env,
        ...envAt,
      },
      stdio: ['ignore', out, out],
    })
    if (typeof out === 'number') closeSync(out)
    const started = app
    const why = (): string =>
      [`its last words: ${endOf(log) || 'none'}`, `the database's: ${endOf(join(folder, 'mariadb.log'))}`].join('\n')
    for (let i = 0; i < 900; i++) {
      if (
        started.exitCode === null &&
        (await fetch(`${url}/api/ready`).then(
          response => response.ok,
          () => false,
        ))
      )
        return
      if (started.exitCode !== null || started.signalCode !== null)
        throw new Error(`the app ended by itself with ${started.exitCode ?? started.signalCode}; ${why()}`)
      await new Promise(done => setTimeout(done, 100))
    }
    throw new Error(`the app did not answer in 90 s; ${why()}`)
  }
  await startApp()
  const house: House = {
    url,
    databaseUrl: database.url,
    appPid: () => app!.pid!,
    databasePid: () => database.pid!,
    startApp,
    log,
    said: () => endOf(log),
    async killApp(signal) {
      app!.kill(signal)
      await gone(app!)
    },
    async killDatabase() {
      database.process.kill('SIGKILL')
      await gone(database.process)
    },
    async startDatabaseAgain() {
      database = await startDatabase(folder, databasePort)
    },
    async close() {
      openHouses.delete(house)
      if (app) {
        app.kill('SIGTERM')
        await gone(app)
      }
      await database.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
  openHouses.add(house)
  return house
}
