import { createServer, get, type RequestOptions } from 'node:http'
import type { AddressInfo } from 'node:net'
import sharp from 'sharp'
import { describe, expect, inject, it } from 'vitest'
import { leadsInward, pinned } from '../../server/files/guarded-fetch'
import type { Caller } from '../caller'
import { add, bringIn, signUp } from '../caller'

const url = inject('url')
const titlesOf = async (caller: Caller, id: string): Promise<string[]> =>
  (await caller.open(id)).snapshot.topics.map(topic => topic.title ?? '')

/** Sends bytes as they are. */
async function send(
  caller: Caller,
  path: string,
  body: Uint8Array,
): Promise<{
  status: number
  data: { id?: string; width?: number; height?: number; error?: { code: string; message: string } }
}> {
  const response = await fetch(url + path, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/octet-stream' },
    body: Buffer.from(body),
  })
  return { status: response.status, data: (await response.json()) as object }
}
const png = (width: number, height: number): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#b05a12' } })
    .png()
    .toBuffer()

describe('beginning a tree', () => {
  it('blank in a chosen arrangement, from a starter that came with the app, and from one of one’s own', async () => {
    const ines = await signUp(url)
    const blank = await ines.call<{ id: string }>('POST', '/api/trees', { title: 'Move', arrangement: 'down' })
    expect((await ines.open(blank.data.id)).snapshot.fields.arrangement).toBe('down')
    const starters = (await ines.call<{ id: string; name: string; topics: number }[]>('GET', '/api/starters')).data
    expect(starters.length).toBeGreaterThanOrEqual(10)
    const budget = starters.find(starter => starter.id === 'budget')!
    const begun = (
      await ines.call<{ id: string }>('POST', '/api/trees', { starter: 'budget', title: 'Fit-out budget' })
    ).data.id
    const made = (await ines.open(begun)).snapshot
    expect(made.topics.length).toBe(budget.topics)
    expect(made.topics.find(topic => topic.id === made.centre)!.title).toBe('Fit-out budget')
    expect(made.fields.look).toBe('ledger')

    await ines.edit(begun, [
      { op: 'put', topic: made.topics[1]!.id, set: 'people', member: ines.id },
      { op: 'set', topic: made.topics[1]!.id, field: 'done', value: 50 },
    ])
    const own = (
      await ines.call<{ id: string }>('POST', `/api/trees/${begun}/duplicate`, {
        notes: true,
        people: false,
        dates: true,
        progress: false,
        shift: 0,
        starter: true,
        title: 'Our budget',
      })
    ).data.id
    expect((await ines.call<{ id: string; title: string }[]>('GET', '/api/trees?scope=starters')).data).toMatchObject([
      { id: own, title: 'Our budget' },
    ])
    expect((await ines.call<{ id: string }[]>('GET', '/api/trees')).data.map(tree => tree.id)).not.toContain(own)
    const again = (await ines.call<{ id: string }>('POST', '/api/trees', { starter: own })).data.id
    const copy = (await ines.open(again)).snapshot
    expect(copy.topics.length).toBe(made.topics.length)
    expect(copy.topics.some(topic => (topic.people ?? []).length > 0 || topic.done != null)).toBe(false)
    const stranger = await signUp(url, 'Lev Aalto')
    expect(await stranger.refusal('POST', '/api/trees', { starter: own })).toBe('404 no-tree')
    expect(await ines.refusal('POST', '/api/trees', { starter: 'nothing-like-it' })).toBe('404 no-tree')
  })

  it('a calendar comes in as meetings and tasks, and says who stayed behind; a broken one makes nothing', async () => {
    const ines = await signUp(url)
    const lines = (...more: string[]): string =>
      ['BEGIN:VCALENDAR', 'VERSION:2.0', 'X-WR-CALNAME:Move week', ...more, 'END:VCALENDAR'].join('\r\n')
    const text = lines(
      ...['BEGIN:VEVENT', 'DTSTART;TZID=Europe/Copenhagen:20270222T090000', 'DURATION:PT45M', 'SUMMARY:Coordination'],
      ...['ATTENDEE:mailto:rana@porch.example', 'ATTENDEE:mailto:lev@porch.example', 'END:VEVENT'],
      ...['BEGIN:VTODO', 'SUMMARY:Keys', 'DUE;VALUE=DATE:20270220', 'STATUS:COMPLETED', 'END:VTODO'],
    )
    const { data } = await ines.call<{ id: string; left: unknown }>('POST', '/api/trees/import', {
      format: 'calendar',
      name: 'move.ics',
      text,
    })
    expect(data.left).toEqual([{ what: 'person', count: 2 }])
    const { topics } = (await ines.open(data.id)).snapshot
    const titled = (title: string) => topics.find(topic => topic.title === title)
    expect(titled('Move week')).toMatchObject({ parent: null })
    expect(titled('Coordination')!.meeting).toContainEqual(
      expect.objectContaining({ kind: 'begins', day: '2027-02-22', time: '09:00', zone: 'Europe/Copenhagen' }),
    )
    expect(titled('Keys')).toMatchObject({ due: '2027-02-20', done: 100 })
    for (const broken of ['', lines(), lines('BEGIN:VEVENT', 'DTSTART:20270230T090000', 'END:VEVENT')])
      expect(
        await ines.refusal('POST', '/api/trees/import', { format: 'calendar', name: 'x.ics', text: broken }),
      ).toMatch(/^4\d\d /)
  })

  it('a table comes in and goes out; one with a loop of parents makes nothing and names the rows', async () => {
    const ines = await signUp(url)
    const { data } = await ines.call<{ id: string }>('POST', '/api/trees/import', {
      format: 'csv',
      name: 'plan.csv',
      text: 'id,parent,title,due\n1,,Fit-out,\n2,1,Shelving,2027-05-12\n3,,Books,',
    })
    expect(await titlesOf(ines, data.id)).toEqual(['plan', 'Fit-out', 'Shelving', 'Books'])
    expect((await ines.call<string>('GET', `/api/trees/${data.id}/export/csv`)).data).toContain(
      '3,Shelving,,2027-05-12',
    )
    const before = (await ines.call<unknown[]>('GET', '/api/trees')).data.length
    const loop = await ines.call<{ error: { message: string } }>('POST', '/api/trees/import', {
      format: 'csv',
      name: 'x.csv',
      text: 'id,parent,title\n1,2,A\n2,1,B',
    })
    expect([loop.status, loop.data.error.message]).toEqual([
      422,
      expect.stringMatching(/“A” \(row 2\), “B” \(row 3\).*Nothing was changed/),
    ])
    expect(
      await ines.refusal('POST', '/api/trees/import', {
        format: 'text',
        name: 'x.txt',
        text: 'line\n'.repeat(1_000_000),
      }),
    ).toBe('422 unreadable')
    expect((await ines.call<unknown[]>('GET', '/api/trees')).data.length).toBe(before)
  })

  it('duplicating takes along what was asked for, for whoever may see the tree', async () => {
    const [ines, rana, lev] = [await signUp(url), await signUp(url, 'Rana Tahiri'), await signUp(url, 'Lev Aalto')]
    const tree = await ines.makeTree('Move')
    const { centre } = (await ines.open(tree)).snapshot
    await ines.edit(tree, [add('A', centre, 'Lift', { due: '2027-05-12', done: 30, people: [ines.id] })])
    await bringIn(ines, tree, rana, 'viewer')
    const copy = (
      await rana.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
        notes: true,
        people: false,
        dates: true,
        progress: true,
        shift: 364,
      })
    ).data.id
    expect((await rana.open(copy)).snapshot.topics).toMatchObject([
      { title: 'Move (copy)' },
      { title: 'Lift', due: '2028-05-10', done: 30 },
    ])
    expect((await rana.open(copy)).role).toBe('owner')
    expect(await ines.refusal('GET', `/api/trees/${copy}`)).toBe('404 no-tree')
    expect(
      await lev.refusal('POST', `/api/trees/${tree}/duplicate`, {
        notes: true,
        people: true,
        dates: true,
        progress: true,
        shift: 0,
      }),
    ).toBe('404 no-tree')
    expect(
      await rana.refusal('POST', `/api/trees/${tree}/duplicate`, {
        notes: true,
        people: true,
        dates: true,
        progress: true,
        shift: 1e9,
      }),
    ).toBe('400 invalid')
  })
})

describe('the list of trees', () => {
  it('is searched by title, description, tag and text of topics, without case and accents, and filtered by tag', async () => {
    const ines = await signUp(url)
    const move = await ines.makeTree('Move to the tannery')
    const other = await ines.makeTree('Training 100%')
    const { centre } = (await ines.open(move)).snapshot
    await ines.edit(move, [
      add('A', centre, 'Rundgänge am Abend'),
      { op: 'tree', field: 'description', value: 'Until the branch opens' },
      { op: 'tree', field: 'tags', value: ['river', 'plan'] },
    ])
    const found = async (query: string): Promise<string[]> =>
      (await ines.call<{ id: string }[]>('GET', `/api/trees?${query}`)).data.map(tree => tree.id)
    for (const text of ['TANNERY', 'rundgange', 'branch opens', 'river'])
      expect(await found(`text=${encodeURIComponent(text)}`), text).toEqual([move])
    expect(await found('text=100%25')).toEqual([other])
    expect(await found('text=nothing')).toEqual([])
    expect(await found('tag=plan')).toEqual([move])
    expect(await found('tag=pla')).toEqual([])
    await ines.edit(move, [{ op: 'remove', topic: 'A' }])
    expect(await found('text=rundgange')).toEqual([])
    expect(
      (await ines.call<{ tags: string[]; description: string }[]>('GET', '/api/trees?text=tannery')).data[0],
    ).toMatchObject({ tags: ['river', 'plan'], description: 'Until the branch opens' })
  })

  it('shows a small picture of each tree, anew only when it has changed, and to members alone', async () => {
    const [ines, lev] = [await signUp(url), await signUp(url, 'Lev Aalto')]
    const tree = await ines.makeTree('Move')
    const first = await ines.call<string>('GET', `/api/trees/${tree}/picture.svg`)
    expect([first.headers.get('content-type'), first.data.startsWith('<svg ')]).toEqual(['image/svg+xml', true])
    const mark = first.headers.get('etag')!
    expect(
      (await ines.call('GET', `/api/trees/${tree}/picture.svg`, undefined, { 'if-none-match': mark })).status,
    ).toBe(304)
    const { centre } = (await ines.open(tree)).snapshot
    await ines.edit(tree, [add('A', centre, 'Lift')])
    const second = await ines.call<string>('GET', `/api/trees/${tree}/picture.svg`, undefined, {
      'if-none-match': mark,
    })
    expect(second.status).toBe(200)
    expect(second.data.match(/<rect/g)!.length).toBe(first.data.match(/<rect/g)!.length + 1)
    expect(await lev.refusal('GET', `/api/trees/${tree}/picture.svg`)).toBe('404 no-tree')
  })
})

describe('pictures', () => {
  it('are drawn anew, kept with the tree, shown to its members and come along when it’s copied', async () => {
    const [ines, rana, lev] = [await signUp(url), await signUp(url, 'Rana Tahiri'), await signUp(url, 'Lev Aalto')]
    const tree = await ines.makeTree('Move')
    await bringIn(ines, tree, rana, 'viewer')
    const hidden = Buffer.concat([await png(3000, 1500), Buffer.from('<script>alert(1)</script>')])
    const stored = await send(ines, `/api/trees/${tree}/pictures`, hidden)
    expect(stored).toMatchObject({ status: 200, data: { width: 2000, height: 1000 } })
    const path = `/api/trees/${tree}/files/${stored.data.id}`
    const shown = await fetch(url + path, { headers: { cookie: rana.cookie } })
    expect(
      Object.fromEntries(
        ['content-type', 'content-security-policy', 'x-content-type-options', 'content-disposition'].map(name => [
          name,
          shown.headers.get(name),
        ]),
      ),
    ).toEqual({
      'content-type': 'image/webp',
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'content-disposition': 'inline',
    })
    const bytes = Buffer.from(await shown.arrayBuffer())
    expect(bytes.includes('script')).toBe(false)
    expect(await sharp(bytes).metadata()).toMatchObject({ format: 'webp', width: 2000, height: 1000 })
    expect(await lev.refusal('GET', path)).toBe('404 no-tree')
    expect((await send(rana, `/api/trees/${tree}/pictures`, hidden)).data.error?.code).toBe('role')
    expect(await ines.refusal('GET', `/api/trees/${await ines.makeTree('Other')}/files/${stored.data.id}`)).toBe(
      '404 no-file',
    )
    // One that is shown comes along; one that is stored and shown nowhere, or that isn't to come, doesn't.
    const other = await send(ines, `/api/trees/${tree}/pictures`, await png(60, 60))
    const { centre } = (await ines.open(tree)).snapshot
    const picture = { file: stored.data.id, ratio: 0.5, width: 200, place: 'above' }
    await ines.edit(tree, [{ op: 'set', topic: centre, field: 'picture', value: picture }] as never)
    const copied = async (more: object): Promise<number[]> => {
      const { id } = (
        await rana.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
          notes: true,
          people: true,
          dates: true,
          progress: true,
          shift: 0,
          ...more,
        })
      ).data
      return Promise.all(
        [stored, other].map(
          async one =>
            (await fetch(`${url}/api/trees/${id}/files/${one.data.id}`, { headers: { cookie: rana.cookie } })).status,
        ),
      )
    }
    expect(await copied({})).toEqual([200, 404])
    expect(await copied({ files: false })).toEqual([404, 404])
  })

  it('what isn’t one, breaks off, holds programs, unpacks to too much or is too large is refused, and nothing is kept', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Move')
    const whole = await png(400, 400)
    // A PNG that says it is 30,000 by 30,000 pixels: its header alone, as a decompression bomb would begin.
    const bomb = Buffer.from(whole)
    bomb.writeUInt32BE(30_000, 16)
    bomb.writeUInt32BE(30_000, 20)
    for (const [what, body, words] of [
      ['text', Buffer.from('not a picture'), /isn’t a picture/],
      ['nothing', Buffer.alloc(0), /nothing in this file/],
      ['half a picture', whole.subarray(0, whole.length / 2), /broken|isn’t a picture/],
      ['a header and junk', Buffer.concat([whole.subarray(0, 60), Buffer.alloc(4000, 7)]), /broken|isn’t a picture/],
      [
        'SVG',
        Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>'),
        /SVG files can hold programs/,
      ],
      ['a bomb', bomb, /50 million pixels|isn’t a picture/],
    ] as const) {
      const answer = await send(ines, `/api/trees/${tree}/pictures`, body)
      expect([answer.status, answer.data.error?.message], what).toEqual([422, expect.stringMatching(words)])
      expect(answer.data.error?.message).toContain('Nothing was changed')
    }
    expect((await send(ines, `/api/trees/${tree}/pictures`, Buffer.alloc(26 * 1024 * 1024))).status).toBe(413)
  })

  it('are never fetched from an address that leads inward', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Move')
    for (const address of [
      'https://127.0.0.1/x.png',
      'https://localhost/x.png',
      'https://[::1]/x.png',
      'https://10.1.2.3/',
      'https://169.254.169.254/latest',
      'http://tannery.example/x.png',
      'file:///etc/passwd',
      'https://a:b@tannery.example/',
      'no address',
    ])
      expect(await ines.refusal('POST', `/api/trees/${tree}/pictures/from-address`, { address }), address).toBe(
        '422 no-picture',
      )
    // IANA IPv4 and IPv6 special-purpose address registries.
    for (const inner of [
      // What carries another address in it goes through a relay: RFC 6052, RFC 8215, RFC 3056, RFC 4380; and site-local, RFC 3879.
      '64:ff9b::7f00:1',
      '64:ff9b:1::1',
      '2002:7f00:1::',
      '2001::1',
      'fec0::1',
      '192.88.99.1',
      'nowhere',

      '0.0.0.0',
      '10.0.0.1',
      '100.64.0.1',
      '127.9.9.9',
      '169.254.1.1',
      '172.16.0.1',
      '172.31.255.255',
      '192.168.1.1',
      '198.18.0.1',
      '224.0.0.1',
      '255.255.255.255',
      '::',
      '::1',
      '::ffff:10.0.0.1',
      '64:ff9b::a00:1',
      'fc00::1',
      'fd12::1',
      'fe80::1',
      'ff02::1',
      '2001:db8::1',
    ])
      expect(leadsInward(inner), inner).toBe(true)
    for (const outer of ['8.8.8.8', '172.32.0.1', '100.128.0.1', '193.0.6.139', '2a00:1450::1'])
      expect(leadsInward(outer), outer).toBe(false)
  })

  it('are fetched from the very address that was looked at, whatever the name would answer later', async () => {
    const house = createServer((request, response) => response.end(request.headers.host)).listen(0, '127.0.0.1')
    await new Promise(done => house.once('listening', done))
    const { port } = house.address() as AddressInfo
    for (const autoSelectFamily of [true, false]) {
      const said = await new Promise<string>((resolve, reject) => {
        const asked = {
          host: 'pictures.example',
          port,
          lookup: pinned('127.0.0.1', 4),
          autoSelectFamily,
        } as RequestOptions
        get(asked, response => {
          response.setEncoding('utf8').on('data', resolve)
        }).on('error', reject)
      })
      expect(said).toBe(`pictures.example:${port}`)
    }
    house.close()
  })
})
