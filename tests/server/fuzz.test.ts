import fc from 'fast-check'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { OPERATIONS, type Operation } from '../../core/contract'
import { clientMessage } from '../../core/contract/live'
import { bringIn, Caller, signUp } from '../caller'
import { type House, openHouse } from '../house'
import { valuesOf } from './arbitrary'

/*
 * Whatever is sent, valid or mutated: no answer says 5xx, none takes long, nothing of one tree shows in another's, and the app
 * is there afterwards. RUNS requests an operation.
 */

const RUNS = Number(process.env.FUZZ ?? 200)
const SLOWEST_MS = 5000
/** Words of a query: what is longer than 16 kB Node itself refuses, before any of our code hears of it. */
const MOST_ASKED = 40
/** Values made at one time: ten thousand would be gigabytes. */
const MOST_MADE = 500
/** These end the session that the others need. */
const ENDING: readonly Operation[] = [OPERATIONS.signOut, OPERATIONS.signOutEverywhere]

let house: House
let ines: Caller
let tree = ''
const SECRET = 'what is in the other tree'

beforeAll(async () => {
  house = await openHouse({ env: { JOB_SECONDS: '3' } })
  ines = await signUp(house.url)
  const [rana, other] = [await signUp(house.url, 'Rana'), await signUp(house.url, 'Other')]
  tree = await ines.makeTree('Move')
  await bringIn(ines, tree, rana, 'viewer')
  await other.makeTree(SECRET)
}, 60_000)
afterAll(() => house.close())

/** How long, ms, this machine itself has stood still so far: then no timer of this process comes either, and nobody's answer. */
let stoodStill = 0
let due = Date.now()
const watch = setInterval(() => {
  const late = Date.now() - due
  if (late > 250) stoodStill += late
  due = Date.now() + 50
}, 50)
afterAll(() => clearInterval(watch))

/** Whether a kept connection had been closed before anything was sent on it, so that the app has heard nothing. */
function wasClosed(error: unknown): boolean {
  const { code, syscall } = ((error as Error).cause ?? {}) as { code?: string; syscall?: string }
  return syscall === 'write' && (code === 'EPIPE' || code === 'ECONNRESET')
}

/** As an address says it. An object may have no way to become a word by itself. */
const inPath = (value: unknown): string => (typeof value === 'string' ? value : (JSON.stringify(value) ?? ''))

it.each(Object.entries<Operation>(OPERATIONS).filter(([, operation]) => !ENDING.includes(operation)))(
  'the operation %s',
  async (_, operation) => {
    const whole = fc.record({
      params: valuesOf(operation.params),
      query: valuesOf(operation.query),
      body: valuesOf(operation.body),
      own: fc.boolean(),
      in: fc.boolean(),
    })
    const nobody = new Caller(house.url)
    for (let from = 0; from < RUNS; from += MOST_MADE) {
      const values = fc.sample(whole, { numRuns: Math.min(MOST_MADE, RUNS - from), seed: 2027 + from })
      // Making the values holds up this process for seconds: what the server closed meanwhile is heard of before it's used again.
      await new Promise(done => setTimeout(done, 50))
      for (let i = 0; i < values.length; i += 16)
        await Promise.all(
          values.slice(i, i + 16).map(async value => {
            const params = value.params as Record<string, unknown>
            const path = operation.path.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
              name === 'id' && value.own
                ? tree
                : encodeURIComponent(
                    inPath(params?.[name] ?? 'x')
                      .toWellFormed()
                      .slice(0, 300),
                  ),
            )
            // Before its letters are made into entries: there may be a hundred thousand.
            const wanted = typeof value.query === 'string' ? value.query.slice(0, MOST_ASKED) : value.query
            const query = new URLSearchParams(
              Object.entries((wanted ?? {}) as object)
                .slice(0, MOST_ASKED)
                .map(([key, one]) => [key, inPath(one).slice(0, 300)] as [string, string]),
            )
            const [began, stood] = [Date.now(), stoodStill]
            const caller = value.in ? ines : nobody
            const ask = () =>
              caller.call(
                '' + operation.method,
                `${path}?${query}`,
                operation.method === 'GET' ? undefined : (value.body ?? {}),
              )
            // A kept connection may close just as it's used again: what only reads is asked once more (RFC 9112, section 9.3.1).
            let answer = await ask().catch((error: unknown) => error)
            // After the machine stood still all kept connections are such, sixteen at most.
            for (let tries = 0; answer instanceof Error && tries < 16; tries++) {
              if (!wasClosed(answer) && (operation.method !== 'GET' || tries > 0)) throw answer
              answer = await ask().catch((error: unknown) => error)
            }
            if (answer instanceof Error) throw answer
            const { status, data } = answer as Awaited<ReturnType<typeof ask>>
            const took = Date.now() - began - (stoodStill - stood)
            const wrong = [
              ...(status < 500 ? [] : [`answers ${status}`]),
              ...(took < SLOWEST_MS ? [] : [`takes ${took} ms`]),
              ...(JSON.stringify(data).includes(SECRET) ? ['shows what is another’s'] : []),
            ]
            // Asked of everything that is sent, so that only what went wrong is put into words.
            if (wrong.length > 0)
              expect.fail(
                `${operation.path} ${wrong.join(', ')}: ${path.slice(0, 200)} ${JSON.stringify(value.body)?.slice(0, 400)}`,
              )
          }),
        )
    }
    expect((await fetch(`${house.url}/api/ready`)).status).toBe(200)
  },
)

it('the live line', async () => {
  const mine = await ines.makeTree('Fuzzed')
  const messages = fc.sample(valuesOf(clientMessage), { numRuns: RUNS * 5, seed: 2027 })
  const line = ines.line(mine)
  await line.hello(0)
  for (const message of messages)
    line.socket.send(typeof message === 'string' ? message : (JSON.stringify(message) ?? ''))
  line.say({ type: 'ping' })
  await line.until(() => line.of('pong').length > 0 || line.closed !== null, 'an answer')
  expect((await fetch(`${house.url}/api/ready`)).status).toBe(200)
  // By somebody else, since whoever sent so many hellos was cut off for a while.
  const rana = await signUp(house.url, 'Rana')
  await bringIn(ines, mine, rana, 'viewer')
  const again = rana.line(mine)
  await again.hello(null)
  await again.until(() => again.of('tree').length === 1, 'the tree')
  await again.close()
})
