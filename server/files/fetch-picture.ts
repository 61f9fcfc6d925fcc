import { lookup } from 'node:dns/promises'
import { request } from 'node:https'
import { isIP, type LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'
import { Fault } from '../access/fault'

const MOST_BYTES = 25 * 1024 * 1024
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

/**
 * The bytes at a public https address. Follows no redirects and never speaks to an inner address: the name is looked
 * up once, and that address is used.
 */
export async function fetchPicture(text: string): Promise<Buffer> {
  const refuse = (why: string): Fault => new Fault(422, 'no-picture', `${why} Nothing was changed.`)
  let url: URL
  try {
    url = new URL(text)
  } catch {
    throw refuse('That isn’t a web address.')
  }
  if (url.protocol !== 'https:' || url.username || url.password)
    throw refuse('Pictures are fetched from addresses that begin with https:// only.')
  const host = url.hostname.replace(/^\[|\]$/g, '')
  const found = isIP(host) ? [{ address: host, family: isIP(host) }] : await lookup(host, { all: true }).catch(() => [])
  if (found.length === 0) throw refuse('Nobody answers at that address.')
  if (found.some(({ address }) => leadsInward(address)))
    throw refuse('That address leads into a private network, so it isn’t opened.')
  const { address, family } = found[0]!
  return new Promise((resolve, reject) => {
    const call = request(
      url,
      {
        lookup: pinned(address, family),
        timeout: PATIENCE_MS,
        signal: AbortSignal.timeout(DEADLINE_MS),
        headers: { accept: 'image/*' },
      },
      response => {
        if (response.statusCode !== 200) {
          response.resume()
          reject(refuse(`The address answered with ${response.statusCode}.`))
          return
        }
        const pieces: Buffer[] = []
        let size = 0
        response.on('data', (piece: Buffer) => {
          size += piece.length
          if (size > MOST_BYTES) call.destroy(refuse('This picture is larger than 25 MB.'))
          else pieces.push(piece)
        })
        response.on('end', () => resolve(Buffer.concat(pieces)))
        response.on('error', () => reject(refuse('The picture broke off on its way.')))
      },
    )
    call.on('timeout', () => call.destroy(refuse('The address took longer than ten seconds.')))
    call.on('error', error => reject(error instanceof Fault ? error : refuse('Nobody answers at that address.')))
    call.end()
  })
}
