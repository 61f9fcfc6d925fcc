import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs'
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
  /** The end of what the app has written since it was started. */
  said(): string
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

const lastWords = (log: string): string =>
  existsSync(log) ? readFileSync(log, 'utf8').trim().split('\n').slice(-5).join('\n') : 'none'

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
  let said = ''
  const envAt = (await options.envAt?.(url)) ?? {}

  async function startApp(): Promise<void> {
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
        LOG_LEVEL: process.env.SHOW_SERVER ? 'info' : 'silent',
        ...options.env,
        ...envAt,
      },
      stdio: ['ignore', process.env.SHOW_SERVER ? 'inherit' : 'pipe', process.env.SHOW_SERVER ? 'inherit' : 'pipe'],
    })
    const started = app
    said = ''
    for (const stream of [started.stdout, started.stderr])
      stream?.setEncoding('utf8').on('data', (part: string) => {
        said = (said + part).slice(-2000)
      })
    const why = (): string =>
      [`its last words: ${said || 'none'}`, `the database's: ${lastWords(join(folder, 'mariadb.log'))}`].join('\n')
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
  return {
    url,
    databaseUrl: database.url,
    appPid: () => app!.pid!,
    databasePid: () => database.pid!,
    startApp,
    said: () => said,
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
      if (app) {
        app.kill('SIGTERM')
        await gone(app)
      }
      await database.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
