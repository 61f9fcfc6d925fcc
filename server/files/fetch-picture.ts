import { lookup } from 'node:dns/promises'
import { request } from 'node:https'
import { BlockList, isIP, type LookupFunction } from 'node:net'
import { Fault } from '../access/fault'

const MOST_BYTES = 25 * 1024 * 1024
const PATIENCE_MS = 10_000

/**
 * Addresses that lead inward: this machine, private networks, link-local, shared, test and multicast ranges (IANA
 * special-purpose registries).
 */
const INNER = new BlockList()
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 3],
] as const)
  INNER.addSubnet(net, bits, 'ipv4')
for (const [net, bits] of [
  ['::', 96],
  ['64:ff9b::', 96],
  ['100::', 64],
  ['2001:db8::', 32],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  INNER.addSubnet(net, bits, 'ipv6')

export function leadsInward(address: string): boolean {
  const family = isIP(address)
  if (family === 0) return true
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1]
  return mapped ? INNER.check(mapped, 'ipv4') : INNER.check(address, family === 4 ? 'ipv4' : 'ipv6')
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
      { lookup: pinned(address, family), timeout: PATIENCE_MS, headers: { accept: 'image/*' } },
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
