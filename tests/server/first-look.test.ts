import { request } from 'node:http'
import { brotliDecompressSync, gunzipSync } from 'node:zlib'
import { expect, inject, it } from 'vitest'
import { newId, signUp } from '../caller'

const url = inject('url')

/** An answer as it came over the wire, with nothing unpacked. */
function raw(path: string, headers: Record<string, string>) {
  return new Promise<{ headers: Record<string, string | string[] | undefined>; body: Buffer }>((done, fail) => {
    request(url + path, { headers }, response => {
      const pieces: Buffer[] = []
      response.on('data', (piece: Buffer) => pieces.push(piece))
      response.on('end', () => done({ headers: response.headers, body: Buffer.concat(pieces) }))
    })
      .on('error', fail)
      .end()
  })
}

it('scripts come packed and without a cookie', async () => {
  const ines = await signUp(url)
  const page = (await raw('/trees', { cookie: ines.cookie })).body.toString()
  const script = /"(\/_nuxt\/[^"]+\.js)"/.exec(page)![1]!
  const plain = await raw(script, {})
  for (const [coding, unpack] of [
    ['br', brotliDecompressSync],
    ['gzip', gunzipSync],
  ] as const) {
    const { headers, body } = await raw(script, { 'accept-encoding': coding, cookie: ines.cookie })
    expect([headers['content-encoding'], headers['set-cookie'], headers.vary]).toEqual([
      coding,
      undefined,
      expect.stringMatching(/accept-encoding/i),
    ])
    expect(unpack(body).equals(plain.body)).toBe(true)
    expect(body.length).toBeLessThan(plain.body.length / 2)
  }
})

it('every page begins with one document, packed for whoever takes it, and nobody gets a cookie by looking', async () => {
  const plain = await raw('/trees/abcdefgh?at=k', {})
  expect(plain.headers['content-encoding']).toBeUndefined()
  expect(plain.headers.link).toContain('</api/trees/abcdefgh>; rel=preload')
  expect(plain.body.toString()).toMatch(/^<!DOCTYPE html>/)
  for (const [coding, unpack] of [
    ['br', brotliDecompressSync],
    ['gzip', gunzipSync],
  ] as const) {
    const other = await raw('/meetings', { 'accept-encoding': coding })
    expect([other.headers['content-encoding'], other.headers.vary]).toEqual([coding, 'accept-encoding'])
    expect(unpack(other.body).equals(plain.body)).toBe(true)
    expect(other.body.length).toBeLessThan(25_000)
    for (const same of ['content-type', 'content-security-policy', 'x-frame-options'])
      expect([same, other.headers[same]]).toEqual([same, plain.headers[same]])
    expect(other.headers.link).not.toContain('/api/trees')
  }
  // What isn't wanted isn't sent.
  const refused = await raw('/', { 'accept-encoding': 'br;q=0, gzip' })
  expect(refused.headers['content-encoding']).toBe('gzip')
  const script = /"(\/_nuxt\/[^"]+\.js)"/.exec(plain.body.toString())![1]!
  for (const path of ['/', '/sign-in', script, '/porch.svg', '/api/health', '/api/me'])
    expect([path, (await raw(path, {})).headers['set-cookie']]).toEqual([path, undefined])
})

it('a long answer is packed for whoever takes it, and says the same', async () => {
  const ines = await signUp(url)
  const tree = await ines.makeTree()
  const { centre } = (await ines.open(tree)).snapshot
  await ines.edit(
    tree,
    Array.from({ length: 200 }, (_, i) => ({
      op: 'add' as const,
      topic: newId(),
      parent: centre,
      order: `a${i.toString(36).padStart(3, '0')}1`,
      with: { title: `Shelf ${i}` },
    })),
  )
  const path = `/api/trees/${tree}`
  const plain = await raw(path, { cookie: ines.cookie })
  const zipped = await raw(path, { cookie: ines.cookie, 'accept-encoding': 'gzip, br' })
  expect([plain.headers['content-encoding'], zipped.headers['content-encoding']]).toEqual([undefined, 'gzip'])
  expect(zipped.headers['content-type']).toMatch(/^application\/json/)
  expect(zipped.headers.vary).toMatch(/accept-encoding/)
  expect(JSON.parse(gunzipSync(zipped.body).toString())).toEqual(JSON.parse(plain.body.toString()))
  expect(zipped.body.length).toBeLessThan(plain.body.length / 2)
  const short = await raw('/api/me', { cookie: ines.cookie, 'accept-encoding': 'gzip' })
  expect([short.headers['content-encoding'], JSON.parse(short.body.toString())]).toEqual([
    undefined,
    expect.objectContaining({ id: ines.id }),
  ])
})
