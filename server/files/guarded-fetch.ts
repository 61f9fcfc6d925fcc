import { lookup } from 'node:dns/promises'
import { request as requestPlain } from 'node:http'
import { request as requestTls } from 'node:https'
import { isIP, type LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'
import { settings } from '../settings'

/*
 * The one way in which this app asks the web for something that people name: public addresses alone, each looked up once and
 * pinned, with limits on bytes and time. Every step of a redirect goes through the same door.
 */

/** How long nothing may come, and how long the whole may take, ms. */
const PATIENCE_MS = 10_000
const DEADLINE_MS = 30_000

/** Where public IPv6 addresses are given out (RFC 4291, section 2.4; IANA's registry of the address space). */
const PUBLIC_IPV6 = ipaddr.IPv6.parseCIDR('2000::/3')

/**
 * Whether an address leads inward, or could: this machine, private networks, link-local, shared, test and multicast ranges, and
 * those that carry another address in them, which a relay would go on to (IANA special-purpose registries, as ipaddr.js has
 * them). What is no address does too.
 */
export function leadsInward(address: string): boolean {
  if (!ipaddr.isValid(address)) return true
  // An IPv4 address in IPv6 clothes is looked at as what it is.
  const at = ipaddr.process(address)
  if (at.range() !== 'unicast') return true
  return at instanceof ipaddr.IPv6 && !at.match(PUBLIC_IPV6)
}

/** A lookup that always answers with one address, in whichever of the two ways Node asks for it. */
export function pinned(address: string, family: number): LookupFunction {
  return (_, options, done) => {
    if (options.all) done(null, [{ address, family }])
    else done(null, address, family)
  }
}

/** Why something wasn't fetched. */
export type FetchTrouble =
  'no-address' | 'scheme' | 'nobody' | 'inward' | 'slow' | 'large' | 'broken' | 'redirects' | 'status'
export class NotFetched extends Error {
  constructor(
    readonly why: FetchTrouble,
    /** The status that was answered, where one was. */
    readonly status: number | null = null,
  ) {
    super(why)
    this.name = 'NotFetched'
  }
}

export interface Fetched {
  /** Where it came from in the end. */
  readonly address: string
  /** Its media type in small letters with parameters; '' where nothing is said. */
  readonly type: string
  readonly data: Buffer
}

export interface FetchLimits {
  readonly accept: string
  readonly mostBytes: number
  /** Beyond `mostBytes`: take what came until then instead of refusing. */
  readonly cut?: boolean
  /** How many redirects are followed. */
  readonly redirects?: number
  /** Whether http: is spoken too, where nothing of the answer is shown. */
  readonly plain?: boolean
  readonly patienceMs?: number
}

/** The bytes at a public web address. Throws `NotFetched`. */
export async function fetchGuarded(text: string, limits: FetchLimits): Promise<Fetched> {
  let address = text
  const deadline = AbortSignal.timeout(DEADLINE_MS)
  for (let left = limits.redirects ?? 0; ; left--) {
    const step = await fetchOnce(address, limits, deadline)
    if (!('to' in step)) return step
    if (left === 0) throw new NotFetched('redirects', step.status)
    address = step.to
  }
}

/** A stand-in for the web, where the settings name one: it's asked instead, and told by the path whom was meant. */
const standIn = (): URL | null => (settings().WEB_STAND_IN ? new URL(settings().WEB_STAND_IN!) : null)

async function whereTo(text: string, plain: boolean): Promise<{ url: URL; address: string; family: number }> {
  let url: URL
  try {
    url = new URL(text)
  } catch {
    throw new NotFetched('no-address')
  }
  if (!(url.protocol === 'https:' || (plain && url.protocol === 'http:')) || url.username || url.password)
    throw new NotFetched('scheme')
  const host = url.hostname.replace(/^\[|\]$/g, '')
  if (isIP(host) && leadsInward(host)) throw new NotFetched('inward')
  const instead = standIn()
  if (instead)
    return { url: new URL(`/${url.host}${url.pathname}${url.search}`, instead), address: '127.0.0.1', family: 4 }
  const found = isIP(host) ? [{ address: host, family: isIP(host) }] : await lookup(host, { all: true }).catch(() => [])
  if (found.length === 0) throw new NotFetched('nobody')
  if (found.some(one => leadsInward(one.address))) throw new NotFetched('inward')
  return { url, ...found[0]! }
}

async function fetchOnce(
  text: string,
  { accept, mostBytes, cut = false, plain = false, patienceMs = PATIENCE_MS }: FetchLimits,
  signal: AbortSignal,
): Promise<Fetched | { readonly to: string; readonly status: number }> {
  const { url, address, family } = await whereTo(text, plain)
  const request = url.protocol === 'http:' ? requestPlain : requestTls
  return new Promise((resolve, reject) => {
    const call = request(
      url,
      { lookup: pinned(address, family), timeout: patienceMs, signal, headers: { accept } },
      response => {
        const status = response.statusCode ?? 0
        const to = response.headers.location
        if (status >= 300 && status < 400 && to !== undefined) {
          response.resume()
          try {
            resolve({ to: new URL(to, text).href, status })
          } catch {
            reject(new NotFetched('redirects', status))
          }
          return
        }
        if (status !== 200) {
          response.resume()
          reject(new NotFetched('status', status))
          return
        }
        const pieces: Buffer[] = []
        let size = 0
        const done = (): void =>
          resolve({
            address: text,
            type: (response.headers['content-type'] ?? '').toLowerCase(),
            data: Buffer.concat(pieces).subarray(0, mostBytes),
          })
        response.on('data', (piece: Buffer) => {
          size += piece.length
          pieces.push(piece)
          if (size <= mostBytes) return
          if (!cut) call.destroy(new NotFetched('large'))
          else {
            done()
            call.destroy()
          }
        })
        response.on('end', done)
        response.on('error', () => reject(new NotFetched('broken')))
      },
    )
    call.on('timeout', () => call.destroy(new NotFetched('slow')))
    call.on('error', error =>
      reject(error instanceof NotFetched ? error : new NotFetched(signal.aborted ? 'slow' : 'nobody')),
    )
    call.end()
  })
}
