import type { EventHandler, H3Event } from 'h3'
import { nanoid } from 'nanoid'
import { RateLimiterMemory } from 'rate-limiter-flexible'
import type { z } from 'zod'
import { LIMITS, Refused } from '#core/tree'
import { nestsDeeper, OPERATIONS, type Operation, type Role } from '#core/contract'
import { Unreadable } from '#core/capture/nested'
import { isAway, isDiskFull } from '../database/error-code'
import { log } from '../log'
import { requests } from '../metrics'
import { settings } from '../settings'
import { type Account, whoIs } from './accounts'
import { addressOf } from './address'
import { diskFull, Fault } from './fault'
import { packed } from './packed'
import { needRole } from './roles'
import { hasRoom } from '../work/disk'

type Given<O extends Operation> = {
  event: H3Event
  params: z.output<O['params']>
  query: z.output<O['query']>
  body: z.output<O['body']>
} & (O['access'] extends 'nobody' ? { account: Account | null } : { account: Account }) &
  (O['access'] extends Role ? { role: Role; version: number; epoch: string } : unknown)

function check<T extends z.ZodType>(schema: T, value: unknown, where: string): z.output<T> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]
  throw new Fault(
    400,
    'invalid',
    `${[where, ...(issue?.path ?? [])].join('.')}: ${issue?.message ?? 'not understood'}`,
    parsed.error.issues.slice(0, 20).map(({ path, message }) => ({ path, message })),
  )
}

/** The bytes that were sent, as they are. */
export async function rawBody(event: H3Event, most: number): Promise<Buffer> {
  const declared = Number(getHeader(event, 'content-length') ?? 0)
  const tooLong = new Fault(
    413,
    'too-long',
    `A request holds ${Math.floor(most / 1024 / 1024)} MB at most. Nothing was changed.`,
  )
  if (declared > most) throw tooLong
  const pieces: Buffer[] = []
  let size = 0
  for await (const piece of event.node.req) {
    size += (piece as Buffer).length
    if (size > most) throw tooLong
    pieces.push(piece as Buffer)
  }
  return Buffer.concat(pieces)
}

async function bodyOf(event: H3Event, most: number): Promise<unknown> {
  const raw = await rawBody(event, most)
  if (raw.length === 0) return {}
  if (!/^application\/json\b/.test(getHeader(event, 'content-type') ?? ''))
    throw new Fault(415, 'not-json', 'Send JSON with the content type application/json.')
  const text = raw.toString('utf8')
  if (nestsDeeper(text)) throw new Fault(400, 'deep', 'The body nests too deeply. Nothing was changed.')
  try {
    return JSON.parse(text)
  } catch {
    throw new Fault(400, 'not-json', 'The body isn’t JSON.')
  }
}

let writes: RateLimiterMemory | undefined

/** Beside what deletes: one can sign out on a full disk too. */
const MAKES_ROOM: ReadonlySet<string> = new Set([OPERATIONS.signOut.path, OPERATIONS.signOutEverywhere.path])

/** Throws for what a token may not do, and when somebody writes more than one may in a minute. */
async function checkDoing(operation: Operation, account: Account): Promise<void> {
  const reads = operation.method === 'GET'
  if (account.token) {
    if (operation.path.startsWith('/api/account') || operation.path === OPERATIONS.signOutEverywhere.path)
      throw new Fault(403, 'token', 'A token doesn’t reach the account itself. Do this in the app.')
    if (account.token.scope === 'read' && !reads) throw new Fault(403, 'scope', 'This token may read and nothing else.')
  }
  if (reads) return
  if (!MAKES_ROOM.has(operation.path) && operation.method !== 'DELETE' && !hasRoom()) throw diskFull()
  writes ??= new RateLimiterMemory({ points: settings().WRITES_A_MINUTE, duration: 60 })
  await writes.consume(account.id).catch((left: { msBeforeNext: number }) => {
    const seconds = Math.max(1, Math.ceil(left.msBeforeNext / 1000))
    throw new Fault(429, 'slowed', `Too many requests at once. Wait ${seconds} seconds.`, { seconds })
  })
}

function prepared(prepare: (body: unknown) => unknown, body: unknown): unknown {
  try {
    return prepare(body)
  } catch (error) {
    if (error instanceof RangeError) throw new Fault(400, 'invalid', `body: ${error.message}`)
    throw error
  }
}

/**
 * Answers an operation: checks sign-in, role and input as it says, calls, and turns what goes wrong into the one error
 * shape.
 * `most`: bytes that the body may have; 0 leaves the body to `handle`. `prepare`: what becomes of the body before it's checked; a
 * `RangeError` from it refuses the body.
 */
export function answer<O extends Operation>(
  operation: O,
  handle: (given: Given<O>) => unknown,
  most: number = LIMITS.message,
  prepare: (body: unknown) => unknown = body => body,
): EventHandler {
  return defineEventHandler(async event => {
    const began = performance.now()
    const name = `${operation.method} ${operation.path}`
    const request = nanoid(12)
    setResponseHeader(event, 'x-request-id', request)
    event.node.res.once('close', () => {
      const status = event.node.res.statusCode
      const seconds = (performance.now() - began) / 1000
      requests.observe({ operation: name, status: String(status) }, seconds)
      // The path as it's described, not as it was asked for: that may hold a token.
      log.debug({ request, operation: name, status, ms: Math.round(seconds * 1000) }, 'answered')
    })
    try {
      const account = await whoIs(event)
      if (operation.access !== 'nobody' && !account) throw new Fault(401, 'sign-in', 'Please sign in.')
      if (account) await checkDoing(operation, account)
      const params = check(operation.params, getRouterParams(event, { decode: true }), 'path')
      const role =
        operation.access === 'nobody' || operation.access === 'person'
          ? {}
          : await needRole((params as { id: string }).id, account!.id, operation.access)
      const query = check(operation.query, getQuery(event), 'query')
      const body =
        operation.method === 'GET' || most === 0
          ? {}
          : check(operation.body, prepared(prepare, await bodyOf(event, most)), 'body')
      const result = await handle({ event, params, query, body, account, ...role } as never)
      // Sent already: a way elsewhere, a stream.
      if (event.handled) return undefined
      return await packed(event, result === undefined ? { done: true } : result)
    } catch (error) {
      if (error instanceof Fault && SECURITY.includes(error.code))
        log.warn(
          { security: true, request, operation: name, refused: error.code, address: addressOf(event) },
          'refused',
        )
      return sayError(event, error, { request, operation: name })
    }
  })
}

/** Refusals that whoever watches over the house wants to see. */
const SECURITY = ['wrong', 'code', 'slowed', 'locked', 'token', 'scope', 'no-link', 'closed']

export function sayError(
  event: H3Event,
  error: unknown,
  about: object = {},
): { error: { code: string; message: string; details?: unknown } } {
  const fault =
    error instanceof Fault
      ? error
      : error instanceof Unreadable
        ? new Fault(422, 'unreadable', error.message)
        : error instanceof Refused
          ? new Fault(413, error.code, error.message)
          : unforeseen(error, about)
  setResponseStatus(event, fault.status)
  const seconds = (fault.details as { seconds?: unknown } | undefined)?.seconds
  if (typeof seconds === 'number') setResponseHeader(event, 'retry-after', seconds)
  return {
    error: {
      code: fault.code,
      message: fault.message,
      ...(fault.details === undefined ? {} : { details: fault.details }),
    },
  }
}

/** Neither queries nor stacks leave the house; the log gets the kind of error, not the data in it. */
function unforeseen(error: unknown, about: object): Fault {
  log.error({ ...about, error }, 'a request failed')
  if (isDiskFull(error)) return diskFull()
  if (isAway(error)) return new Fault(503, 'unavailable', 'The database doesn’t answer. Please try again in a moment.')
  return new Fault(500, 'unforeseen', 'Something went wrong here. Nothing was changed.')
}
