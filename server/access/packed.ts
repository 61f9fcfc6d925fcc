import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import type { H3Event } from 'h3'

const zip = promisify(gzip)

/** Characters from which on an answer is worth packing. */
const WORTH = 4096

/**
 * JSON as it's sent: packed by gzip where it's long and the other end takes it (RFC 9110, section 12.5.3), off the event loop.
 * Whatever isn't JSON is left as it is.
 */
export async function packed(event: H3Event, result: unknown): Promise<unknown> {
  const isText =
    (typeof result === 'string' || Buffer.isBuffer(result)) &&
    /json/.test(String(getResponseHeader(event, 'content-type') ?? ''))
  const isData = typeof result === 'object' && result !== null && isPlain(result)
  if (!isText && !isData) return result
  const text = isText ? (result as string | Buffer) : JSON.stringify(result)
  if (!isText) setResponseHeader(event, 'content-type', 'application/json')
  appendResponseHeader(event, 'vary', 'accept-encoding')
  if (text.length < WORTH || !/\bgzip\b/.test(getHeader(event, 'accept-encoding') ?? '')) return text
  setResponseHeader(event, 'content-encoding', 'gzip')
  return zip(text, { level: 1 })
}

const isPlain = (value: object): boolean => {
  const proto: unknown = Object.getPrototypeOf(value)
  return proto === Object.prototype || proto === Array.prototype
}
