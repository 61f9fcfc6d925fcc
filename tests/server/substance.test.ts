import { createHash, randomBytes } from 'node:crypto'
import { connect } from 'node:net'
import mysql from 'mysql2/promise'
import sharp from 'sharp'
import { afterAll, describe, expect, inject, it } from 'vitest'
import { rangeOf } from '../../server/files/range'
import type { Caller } from '../caller'
import { bringIn, signUp } from '../caller'
import { openHouse } from '../house'

const url = inject('url')
const database = mysql.createPool(inject('databaseUrl'))
afterAll(() => database.end())

interface Sent {
  file?: string
  type?: string
  size?: number
  preview?: { file: string; ratio: number } | null
  error?: { code: string; message: string }
}
async function attach(
  caller: Caller,
  tree: string,
  name: string,
  body: Uint8Array,
): Promise<{ status: number; data: Sent }> {
  const response = await fetch(`${url}/api/trees/${tree}/attachments?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/octet-stream' },
    body: Buffer.from(body),
  })
  return { status: response.status, data: (await response.json()) as Sent }
}
async function fetchFile(
  caller: Caller,
  tree: string,
  file: string,
  headers: Record<string, string> = {},
  query = '',
): Promise<Response> {
  return fetch(`${url}/api/trees/${tree}/files/${file}${query}`, { headers: { cookie: caller.cookie, ...headers } })
}
const counted = async (query: string, values: string[]): Promise<number> => {
  const [rows] = (await database.query(query, values)) as unknown as [{ n: number }[]]
  return Number(rows[0]!.n)
}
const chunksIn = (id: string): Promise<number> => counted('select count(*) as n from file_chunks where id like ?', [id])
/** Parts of files that belong to none: what an upload that failed would leave. Others may be arriving just now. */
const nothingIsLeft = () =>
  expect
    .poll(
      () => counted('select count(*) as n from file_chunks left join files using (id) where files.id is null', []),
      { timeout: 10_000 },
    )
    .toBe(0)
const filesOf = (tree: string): Promise<number> => counted('select count(*) as n from files where tree_id = ?', [tree])

describe('files', () => {
  it('come in whole, go out whole or in part, and only to whoever may see the tree', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const bytes = randomBytes(3 * 512 * 1024 + 777)
    const sent = await attach(ines, tree, 'Plans of the loft.bin', bytes)
    expect(sent).toMatchObject({
      status: 200,
      data: {
        size: bytes.length,
        type: 'application/octet-stream',
        preview: null,
        file: createHash('sha256').update(bytes).digest('hex'),
      },
    })
    const whole = await fetchFile(ines, tree, sent.data.file!, {}, '?name=Plans%20of%20the%20loft.bin')
    expect(Buffer.from(await whole.arrayBuffer()).equals(bytes)).toBe(true)
    expect(whole.headers.get('content-disposition')).toBe(
      `attachment; filename="Plans of the loft.bin"; filename*=UTF-8''Plans%20of%20the%20loft.bin`,
    )
    expect(whole.headers.get('x-content-type-options')).toBe('nosniff')
    for (const [from, to] of [
      [0, 9],
      [512 * 1024 - 3, 512 * 1024 + 3],
      [1_000_000, 1_400_000],
      [bytes.length - 5, bytes.length - 1],
    ] as const) {
      const part = await fetchFile(ines, tree, sent.data.file!, { range: `bytes=${from}-${to}` })
      expect([part.status, part.headers.get('content-range')]).toEqual([206, `bytes ${from}-${to}/${bytes.length}`])
      expect(Buffer.from(await part.arrayBuffer()).equals(bytes.subarray(from, to + 1))).toBe(true)
    }
    expect(
      Buffer.from(await (await fetchFile(ines, tree, sent.data.file!, { range: 'bytes=-100' })).arrayBuffer()).equals(
        bytes.subarray(-100),
      ),
    ).toBe(true)
    expect((await fetchFile(ines, tree, sent.data.file!, { range: `bytes=${bytes.length}-` })).status).toBe(416)
    // The same bytes again are kept once.
    const before = await chunksIn(sent.data.file!)
    expect((await attach(ines, tree, 'again.bin', bytes)).data.file).toBe(sent.data.file)
    expect([before > 0, await chunksIn(sent.data.file!)]).toEqual([true, before])

    const stranger = await signUp(url, 'Lev Aalto')
    expect((await fetchFile(stranger, tree, sent.data.file!)).status).toBe(404)
    expect((await attach(stranger, tree, 'x.txt', Buffer.from('x'))).status).toBe(404)
    const viewer = await signUp(url, 'Ada Quist')
    await bringIn(ines, tree, viewer, 'viewer')
    expect((await fetchFile(viewer, tree, sent.data.file!)).status).toBe(200)
    expect((await attach(viewer, tree, 'x.txt', Buffer.from('x'))).status).toBe(403)
    const other = await stranger.makeTree()
    expect((await fetchFile(stranger, other, sent.data.file!)).status).toBe(404)
  })

  it('pictures get a preview that was drawn here; nothing else is ever shown in the page', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const picture = await attach(
      ines,
      tree,
      'loft.png',
      await sharp({ create: { width: 300, height: 150, channels: 3, background: '#17616b' } })
        .png()
        .toBuffer(),
    )
    expect(picture.data).toMatchObject({ type: 'image/png', preview: { ratio: 0.5 } })
    expect((await fetchFile(ines, tree, picture.data.file!)).headers.get('content-disposition')).toMatch(/^attachment/)
    expect((await fetchFile(ines, tree, picture.data.preview!.file)).headers.get('content-type')).toBe('image/webp')
    for (const [name, body] of [
      ['page.html', '<script>alert(1)</script>'],
      ['drawing.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'],
    ] as const) {
      const sent = await attach(ines, tree, name, Buffer.from(body))
      expect(sent.data.preview).toBeNull()
      const back = await fetchFile(ines, tree, sent.data.file!)
      expect([back.headers.get('content-type'), back.headers.get('content-disposition')]).toEqual([
        'application/octet-stream',
        'attachment',
      ])
      expect(back.headers.get('content-security-policy')).toContain('sandbox')
    }
    expect(
      (await attach(ines, tree, 'plan.pdf', Buffer.from('%PDF-1.7\n%\xE2\xE3\xCF\xD3\n', 'latin1'))).data.type,
    ).toBe('application/pdf')
  })

  it('what is too large, empty, no picture, a bomb, or named to leave its folder is refused in words and leaves nothing', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const bomb = await sharp({
      create: { width: 12_000, height: 12_000, channels: 3, background: '#fff' },
      limitInputPixels: false,
    })
      .png({ compressionLevel: 9 })
      .toBuffer()
    for (const [name, body, code, words] of [
      ['big.bin', Buffer.alloc(25 * 1024 * 1024 + 1), 'too-large', /larger than 25 MB/],
      ['empty.txt', Buffer.alloc(0), 'empty', /nothing in/],
      ['loft.png', Buffer.from('not a picture at all'), 'no-picture', /name of a picture/],
      ['wall.png', Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), randomBytes(300)]), 'no-picture', /picture/],
      ['bomb.png', bomb, 'no-picture', /50 million pixels/],
      ['../../etc/cron.d/x', Buffer.from('x'), 'file-name', /folder/],
      ['..\\x', Buffer.from('x'), 'file-name', /folder/],
    ] as const) {
      const { status, data } = await attach(ines, tree, name, body)
      expect([name, status >= 400, data.error?.code]).toEqual([name, true, code])
      expect(data.error!.message).toMatch(words)
      expect(data.error!.message).toMatch(/Nothing was changed/)
    }
    await nothingIsLeft()
    expect(await filesOf(tree)).toBe(0)
  })

  it('an upload that is cut in the middle leaves nothing behind', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { hostname, port } = new URL(url)
    const socket = connect(Number(port), hostname)
    await new Promise(done => socket.once('connect', done))
    socket.write(
      `POST /api/trees/${tree}/attachments?name=half.bin HTTP/1.1\r\nHost: ${hostname}:${port}\r\nCookie: ${ines.cookie}\r\nContent-Type: application/octet-stream\r\nContent-Length: 20000000\r\n\r\n`,
    )
    socket.write(randomBytes(3_000_000))
    await expect.poll(() => chunksIn('arriving-%'), { timeout: 10_000 }).toBeGreaterThan(0)
    socket.destroy()
    await expect.poll(() => chunksIn('arriving-%'), { timeout: 10_000 }).toBe(0)
    await nothingIsLeft()
    expect(await filesOf(tree)).toBe(0)
    // And the tree is as it was.
    expect((await ines.open(tree)).version).toBe(0)
  })

  it('go along to another tree for whoever may see the one and edit the other', async () => {
    const ines = await signUp(url)
    const rana = await signUp(url, 'Rana Tahiri')
    const [from, to, hers] = [await ines.makeTree(), await ines.makeTree(), await rana.makeTree()]
    const { file } = (await attach(ines, from, 'a.txt', Buffer.from('oak'))).data
    expect((await fetchFile(ines, to, file!)).status).toBe(404)
    expect(await rana.refusal('POST', `/api/trees/${hers}/files/from-tree`, { tree: from, files: [file] })).toBe(
      '404 no-tree',
    )
    expect((await fetchFile(rana, hers, file!)).status).toBe(404)
    await bringIn(ines, to, rana, 'viewer')
    expect(await rana.refusal('POST', `/api/trees/${to}/files/from-tree`, { tree: hers, files: [] })).toBe('403 role')
    await ines.call('POST', `/api/trees/${to}/files/from-tree`, { tree: from, files: [file, 'f'.repeat(64)] })
    expect(await (await fetchFile(ines, to, file!)).text()).toBe('oak')
    expect((await fetchFile(ines, to, 'f'.repeat(64))).status).toBe(404)
  })

  it('may be as large as the setting says, and a browser is told how large that is', async () => {
    const house = await openHouse({ env: { FILE_LIMIT_MB: '1' } })
    try {
      const ines = await signUp(house.url)
      const tree = await ines.makeTree()
      expect((await ines.call<{ fileLimit: number }>('GET', `/api/trees/${tree}`)).data.fileLimit).toBe(1024 * 1024)
      const send = async (bytes: number): Promise<[number, string?]> => {
        const response = await fetch(`${house.url}/api/trees/${tree}/attachments?name=a.bin`, {
          method: 'POST',
          headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
          body: Buffer.alloc(bytes, 7),
        })
        return [response.status, ((await response.json()) as Sent).error?.message]
      }
      expect(await send(1024 * 1024)).toEqual([200, undefined])
      expect(await send(1024 * 1024 + 1)).toEqual([
        413,
        '“a.bin” is larger than 1 MB, which is the most a file may have. Nothing was changed.',
      ])
    } finally {
      await house.close()
    }
  })

  // RFC 9110, section 14.1.2: its examples for a representation of 10 000 bytes.
  it.each([
    ['bytes=0-499', { from: 0, to: 499 }],
    ['bytes=500-999', { from: 500, to: 999 }],
    ['bytes=-500', { from: 9500, to: 9999 }],
    ['bytes=9500-', { from: 9500, to: 9999 }],
    ['bytes=0-20000', { from: 0, to: 9999 }],
    ['bytes=10000-', 'outside'],
    ['bytes=-0', 'outside'],
    ['bytes=500-400', null],
    ['bytes=0-0,-1', null],
    ['items=0-5', null],
    [undefined, null],
  ])('the range %s', (header, range) => expect(rangeOf(header, 10_000)).toEqual(range))
})
