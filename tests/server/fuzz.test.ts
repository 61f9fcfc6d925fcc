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

it.each(Object.entries<Operation>(OPERATIONS).filter(([, operation]) => !ENDING.includes(operation)))(
  'the operation %s',
  async (_, operation) => {
    const values = fc.sample(
      fc.record({
        params: valuesOf(operation.params),
        query: valuesOf(operation.query),
        body: valuesOf(operation.body),
        own: fc.boolean(),
        in: fc.boolean(),
      }),
      { numRuns: RUNS, seed: 2027 },
    )
    const nobody = new Caller(house.url)
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
                  String(params?.[name] ?? 'x')
                    .toWellFormed()
                    .slice(0, 300),
                ),
          )
          const query = new URLSearchParams(
            Object.entries((value.query ?? {}) as object).map(
              ([key, one]) => [key, String(one).slice(0, 300)] as [string, string],
            ),
          )
          const began = Date.now()
          const caller = value.in ? ines : nobody
          const ask = () =>
            caller.call(
              '' + operation.method,
              `${path}?${query}`,
              operation.method === 'GET' ? undefined : (value.body ?? {}),
            )
          // A kept connection may close just as it's used again: what only reads is asked once more (RFC 9112, section 9.3.1).
          const { status, data } = await ask().catch((error: unknown) => {
            if (operation.method !== 'GET') throw error
            return ask()
          })
          expect([operation.path, path.slice(0, 200), status < 500, JSON.stringify(value.body)?.slice(0, 400)]).toEqual(
            [operation.path, path.slice(0, 200), true, JSON.stringify(value.body)?.slice(0, 400)],
          )
          expect(Date.now() - began).toBeLessThan(SLOWEST_MS)
          expect(JSON.stringify(data)).not.toContain(SECRET)
        }),
      )
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
