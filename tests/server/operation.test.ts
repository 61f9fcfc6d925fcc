import { execFile, spawn } from 'node:child_process'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { type AddressInfo, createServer } from 'node:net'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { gunzipSync, gzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort, root } from '../../scripts/machine.mjs'
import type { Comparison } from '../../core/contract'
import { Caller, newId } from '../caller'
import { endRuns, folder, type Run, start } from './run'

/* Running it: what is killed comes back, what is lost is restored, and whoever runs it can see to accounts. */

let data = ''
let port = 0
let run: Run
const url = (): string => `http://127.0.0.1:${port}`
const env = (): Record<string, string> => ({ PORT: String(port), DATA_DIR: data, NODE_ENV: 'production' })
const exec = promisify(execFile)

async function script(name: string, ...given: string[]): Promise<{ code: number; said: string }> {
  try {
    const { stdout, stderr } = await exec(process.execPath, [join(root, 'scripts', `${name}.mjs`), ...given], {
      env: { ...process.env, DATABASE_URL: '', DATA_DIR: data },
    })
    return { code: 0, said: stdout + stderr }
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number; stdout: string; stderr: string }
    return { code, said: stdout + stderr }
  }
}
interface Running {
  pid: number
  appPid: number
  databasePid: number
}
const running = (): Running => JSON.parse(readFileSync(join(data, 'running.json'), 'utf8')) as Running
const alive = (): Promise<boolean> =>
  fetch(`${url()}/api/ready`).then(
    answer => answer.ok,
    () => false,
  )
const comesBack = (): Promise<void> => expect.poll(alive, { timeout: 40_000, interval: 200 }).toBe(true)

beforeAll(async () => {
  data = folder()
  port = await freePort()
  run = start(env())
  await run.until(/Ctrl\+C stops/)
}, 120_000)
afterAll(endRuns)

async function person(email: string): Promise<Caller> {
  const { said } = await script('account', 'add', email, 'Ines Brandt')
  const link = /\/account\/reset\/\S+/.exec(said)![0]
  const caller = new Caller(url())
  caller.email = email
  await caller.call('POST', `/api${link}`, { password: 'a long enough one' })
  await caller.call('POST', '/api/sign-in', { email, password: 'a long enough one' })
  return caller
}

/** Whether a process runs. One that has ended and that its parent hasn't asked after yet is still listed, as a zombie. */
function lives(pid: number): boolean {
  try {
    return !/^\d+ \(.*\) [ZX]/s.test(readFileSync(`/proc/${pid}/stat`, 'utf8'))
  } catch {
    return false
  }
}

describe('npm start in earnest', () => {
  it('has no demo, and says how the first account is made', async () => {
    expect(run.said()).toContain('No demo.')
    expect(run.said()).not.toContain('tannery porch 2027')
    expect(
      await new Caller(url()).refusal('POST', '/api/sign-in', {
        email: 'ines@porch.example',
        password: 'tannery porch 2027',
      }),
    ).toBe('401 wrong')
    expect((await new Caller(url()).call('GET', '/api/about')).data).toEqual({
      signUp: 'open',
      confirm: true,
      demo: false,
      organisation: null,
    })
  })

  it('says which setting is wrong, and ends', async () => {
    const wrong = start({
      ...env(),
      PORT: String(await freePort()),
      DATA_DIR: folder(),
      SIGN_UP: 'sometimes',
      NOTE_MB: 'much',
    })
    await wrong.until(/The setting SIGN_UP is “open”, “invited” or “closed”\.\nThe setting NOTE_MB is a number\./)
    expect(await wrong.ended).toBe(1)
  })

  it('doesn’t stay behind where it can’t listen: the app ends, and says so', async () => {
    const taken = createServer().listen(0, '127.0.0.1')
    await new Promise(done => taken.once('listening', done))
    const { port } = taken.address() as AddressInfo
    const app = spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
      env: {
        ...process.env,
        ...{ NITRO_HOST: '127.0.0.1', NITRO_PORT: String(port), NUXT_DATABASE_URL: 'mysql://nobody@127.0.0.1:1/none' },
        NUXT_SESSION_PASSWORD: 'only for tests, and long enough for it',
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    })
    let said = ''
    app.stderr.setEncoding('utf8').on('data', (part: string) => (said += part))
    // EX_UNAVAILABLE of sysexits.h (from memory).
    expect(await new Promise(done => app.once('exit', done))).toBe(69)
    expect(said).toContain('EADDRINUSE')
    taken.close()
  })

  it('starts the app again when it’s killed, and the database, and loses nothing', async () => {
    const ines = await person('first@porch.example')
    const tree = await ines.makeTree('Shelves')
    for (const which of ['appPid', 'databasePid'] as const) {
      const before = running()[which]
      process.kill(before, 'SIGKILL')
      await run.until(which === 'appPid' ? /The app ended by itself/ : /The database ended by itself/)
      await expect.poll(() => running()[which], { timeout: 40_000 }).not.toBe(before)
      await comesBack()
      await ines.edit(tree, [{ op: 'add', topic: newId(), parent: null, order: 'a0' }])
    }
    expect((await ines.open(tree)).version).toBe(2)
  }, 120_000)

  it('stops what a start that was killed left behind, and starts anew on the same port', async () => {
    const before = running()
    process.kill(before.pid, 'SIGKILL')
    await run.ended
    run = start(env())
    await run.until(/Ctrl\+C stops/)
    expect(running().databasePid).not.toBe(before.databasePid)
    expect([before.appPid, before.databasePid].filter(lives)).toEqual([])
  }, 120_000)
})

describe('a backup', () => {
  it('is taken while people write, is read back, and brings all back; browsers and sessions know', async () => {
    const ines = await person('second@porch.example')
    const tree = await ines.makeTree('Shelves')
    await ines.edit(tree, [{ op: 'add', topic: 'a', parent: null, order: 'a0', with: { title: 'Lift 🛗 – “größer”' } }])
    const line = ines.line(tree)
    await line.hello(1)
    const { epoch } = line.of('welcome')[0]!
    let writing = true
    const writes = (async () => {
      for (let i = 0; writing; i++) await ines.edit(tree, [{ op: 'set', topic: 'a', field: 'duration', value: i % 5 }])
    })()
    const file = join(data, 'all.backup')
    const taken = await script('backup', file)
    writing = false
    await writes
    expect(taken).toMatchObject({ code: 0, said: expect.stringContaining('read back and whole') as string })
    expect((await script('backup', file)).said).toContain('is there already')

    await ines.edit(tree, [{ op: 'set', topic: 'a', field: 'title', value: 'Lost' }])
    const later = await ines.makeTree('Made later')
    const { data: away } = await ines.call('GET', `/api/trees/${tree}/export/json`)
    const restored = await script('restore', file)
    expect(restored).toMatchObject({ code: 0 })
    await comesBack()
    await line.until(() => line.closed !== null)
    // Whoever was signed in signs in again.
    expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
    await ines.call('POST', '/api/sign-in', { email: ines.email, password: 'a long enough one' })
    const { snapshot, version } = await ines.open(tree)
    expect(snapshot.topics.find(({ id }) => id === 'a')!.title).toBe('Lift 🛗 – “größer”')
    expect(await ines.refusal('GET', `/api/trees/${later}`)).toBe('404 no-tree')
    const again = ines.line(tree)
    await again.hello(version, epoch)
    await again.until(() => again.of('tree').length > 0, 'the whole tree, for numbers mean other edits now')
    expect(again.of('welcome')[0]!.epoch).not.toBe(epoch)
    await again.close()
    // A file that was taken out after the backup is merged from what the tree and it have in common: the backup.
    await ines.edit(tree, [{ op: 'set', topic: 'a', field: 'due', value: '2027-05-02' }])
    const { data: compared } = await ines.call<Comparison>('POST', `/api/trees/${tree}/compare`, {
      with: { kind: 'file', text: JSON.stringify(away) },
    })
    expect(compared.pieces.map(({ part, by }) => `${part} ${by}`).filter(one => !one.startsWith('duration'))).toEqual([
      'title there',
      'due here',
    ])
    // What was there before stands in a backup of its own.
    expect(readdirSync(join(data, 'backups')).some(name => name.startsWith('before-restore'))).toBe(true)
  }, 120_000)

  it('that isn’t whole, or is something else, is refused and changes nothing', async () => {
    const file = join(data, 'part.backup')
    await script('backup', file)
    const whole = gunzipSync(readFileSync(file)).toString('latin1')
    const cut = join(data, 'cut.backup')
    for (const text of [whole.slice(0, -2000), whole.replace('Ines Brandt', 'Mallory XXX'), 'DROP TABLE users;']) {
      writeFileSync(cut, gzipSync(Buffer.from(text, 'latin1')))
      expect(await script('restore', cut)).toMatchObject({
        code: 1,
        said: expect.stringMatching(/isn’t whole|no backup/) as string,
      })
    }
    writeFileSync(cut, readFileSync(file).subarray(0, 500))
    expect((await script('restore', cut)).code).toBe(1)
    expect(await alive()).toBe(true)
    expect((await script('account', 'list')).said).toContain('second@porch.example')
  }, 120_000)
})

describe('npm run account', () => {
  it('lists, locks and unlocks, and gives a tree an owner', async () => {
    const [ines, rana] = [await person('third@porch.example'), await person('fourth@porch.example')]
    const tree = await ines.makeTree()
    await script('account', 'lock', ines.email)
    expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
    expect(await ines.refusal('POST', '/api/sign-in', { email: ines.email, password: 'a long enough one' })).toBe(
      '403 locked',
    )
    expect((await script('account', 'list')).said).toMatch(/third@porch\.example.*locked/)
    await script('account', 'owner', tree, rana.email)
    expect((await rana.open(tree)).role).toBe('owner')
    await script('account', 'unlock', ines.email)
    expect((await ines.call('POST', '/api/sign-in', { email: ines.email, password: 'a long enough one' })).status).toBe(
      200,
    )
    expect((await script('account', 'lock', 'nobody@porch.example')).code).toBe(1)
    expect((await script('account', 'owner', tree)).code).toBe(1)
  }, 60_000)
})
