import type { EventHandler, H3Event } from 'h3'
import type { z } from 'zod'
import { LIMITS } from '#core/tree'
import type { Operation, Role } from '#core/contract'
import { Unreadable } from '#core/capture/nested'
import { databaseErrorCode } from '../database/connect'
import { type Account, whoIs } from './accounts'
import { Fault } from './fault'
import { packed } from './packed'
import { needRole } from './roles'

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
  try {
    return JSON.parse(raw.toString('utf8'))
  } catch {
    throw new Fault(400, 'not-json', 'The body isn’t JSON.')
  }
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
    try {
      const account = await whoIs(event)
      if (operation.access !== 'nobody' && !account) throw new Fault(401, 'sign-in', 'Please sign in.')
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
      return await packed(event, result === undefined ? { done: true } : result)
    } catch (error) {
      return sayError(event, error)
    }
  })
}

export function sayError(
  event: H3Event,
  error: unknown,
): { error: { code: string; message: string; details?: unknown } } {
  const fault =
    error instanceof Fault
      ? error
      : error instanceof Unreadable
        ? new Fault(422, 'unreadable', error.message)
        : unforeseen(error)
  setResponseStatus(event, fault.status)
  return {
    error: {
      code: fault.code,
      message: fault.message,
      ...(fault.details === undefined ? {} : { details: fault.details }),
    },
  }
}

/** Neither queries nor stacks leave the house; the log gets the kind of error, not the data in it. */
function unforeseen(error: unknown): Fault {
  const code = databaseErrorCode(error)
  if (code) {
    console.error('Database error:', code)
    return new Fault(503, 'unavailable', 'The database doesn’t answer. Please try again in a moment.')
  }
  console.error('Unforeseen error:', error instanceof Error ? error.stack : 'not an Error')
  return new Fault(500, 'unforeseen', 'Something went wrong here. Nothing was changed.')
}
