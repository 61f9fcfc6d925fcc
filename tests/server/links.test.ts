import mammoth from 'mammoth'
import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, type Caller, signUp } from '../caller'
import { PULSE_SCRIPT } from '../../server/guests/pulse'
import { laidOut, link, look, say, settings, url } from './link-stage'

let ines: Caller
let tree: string
beforeAll(async () => {
  ;({ ines, tree } = await laidOut())
})

describe('a link without an account', () => {
  it('opens its branch and nothing else, with no script but the page’s own, for nobody to list or keep', async () => {
    const { address } = await link()
    const { status, text: whole, headers } = await look(address)
    expect(status).toBe(200)
    // The one script there is follows what the page shows; its hash is all that may run.
    const text = whole.replace(`<script>${PULSE_SCRIPT}</script>`, '')
    expect(text.length).toBe(whole.length - PULSE_SCRIPT.length - '<script></script>'.length)
    expect(headers.get('content-security-policy')).toMatch(/script-src 'sha256-[\w+/]{43}='; connect-src 'self'$/)
    for (const word of ['Lift &lt;script&gt;', 'Bolts', 'Measured twice', '12 May 2027', '1.1'])
      expect(text).toContain(word)
    for (const word of ['caretaker', 'Fit-out', 'Hidden away', 'secret.example', '<script', tree])
      expect(text).not.toContain(word)
    expect(text).toContain('<details')
    expect(text).toContain('<svg')
    expect(headers.get('x-robots-tag')).toContain('noindex')
    expect(headers.get('cache-control')).toBe('no-store')
    expect(headers.get('referrer-policy')).toBe('same-origin')
    expect(headers.get('content-security-policy')).toContain("default-src 'none'")
    // What isn't allowed isn't sent.
    for (const kind of ['docx', 'pdf', 'markdown', 'png'])
      expect((await look(`${address}?as=${kind}`)).status).toBe(404)
    expect(text).not.toContain('?as=')
  })

  it('shows what the tree says now', async () => {
    const { address } = await link()
    await ines.edit(tree, [{ op: 'set', topic: 'bolts', field: 'title', value: 'Bolts, M8' }])
    expect((await look(address)).text).toContain('Bolts, M8')
  })

  it('tells an open page that it changed or went, and nothing else; that isn’t counted, and needs the word', async () => {
    const { id, address } = await link({ word: 'tannery' })
    const asked = await look(`${address}?pulse`)
    expect([asked.status, asked.text.includes('A word, please')]).toEqual([403, true])
    const cookies = (await say(address, 'tannery')).headers.getSetCookie()
    const cookie = cookies.find(one => one.startsWith('sun-porch-look='))!.split(';')[0]!
    const pulse = async () => look(`${address}?pulse`, { cookie })
    const before = await pulse()
    expect(before.text).toMatch(/^[\w-]{16}$/)
    expect((await look(address, { cookie })).text).toContain(`<meta name="pulse" content="${before.text}">`)
    expect((await pulse()).text).toBe(before.text)
    await ines.edit(tree, [{ op: 'set', topic: 'sizes', field: 'title', value: 'M8, M10 and M12' }])
    expect((await pulse()).text).not.toBe(before.text)
    expect((await look(`${address}?again`, { cookie })).text).toContain('M12')
    const opened = (await ines.call<{ id: string; opened: number }[]>('GET', `/api/trees/${tree}/links`)).data
    expect(opened.find(one => one.id === id)!.opened).toBe(2)
    await ines.call('DELETE', `/api/trees/${tree}/links/${id}`)
    const gone = await pulse()
    expect([gone.status, gone.text.includes('This link leads nowhere')]).toEqual([404, true])
  })

  it('is counted, withdrawn at once, and given a new address', async () => {
    const { id, address } = await link({ name: 'For the director' })
    await look(address)
    await look(address)
    const list = async () =>
      (
        await ines.call<{ id: string; opened: number; lastOpened: string | null; name: string }[]>(
          'GET',
          `/api/trees/${tree}/links`,
        )
      ).data
    const mine = (await list()).find(one => one.id === id)!
    expect([mine.name, mine.opened, mine.lastOpened !== null]).toEqual(['For the director', 2, true])
    // Neither the address nor what is stored of it is told again.
    expect(JSON.stringify(await list())).not.toContain(address.split('/').at(-1))
    const { data } = await ines.call<{ address: string }>('POST', `/api/trees/${tree}/links/${id}/address`)
    expect([(await look(address)).status, (await look(data.address)).status]).toEqual([404, 200])
    await ines.call('DELETE', `/api/trees/${tree}/links/${id}`)
    expect((await look(data.address)).status).toBe(404)
    expect(await ines.refusal('PATCH', `/api/trees/${tree}/links/${id}`, { copying: true })).toBe('404 no-link')
  })

  it('asks for its word before anything is read, counts tries, and takes no other link’s word', async () => {
    const { id, address } = await link({ word: 'tannery' })
    const asked = await look(address)
    expect([asked.status, asked.text.includes('Bolts')]).toEqual([200, false])
    expect(asked.text).toContain('A word, please')
    const wrong = await say(address, 'porch')
    expect([wrong.status, wrong.text.includes('Bolts')]).toEqual([403, false])
    const right = await say(address, 'tannery')
    expect([right.status, right.text.includes('Bolts')]).toEqual([200, true])
    const cookie = right.headers.getSetCookie().find(one => one.startsWith('sun-porch-look='))!
    expect(cookie).toMatch(/HttpOnly/i)
    const kept = cookie.split(';')[0]!
    expect((await look(address, { cookie: kept })).text).toContain('Bolts')
    const other = await link({ word: 'another one' })
    expect((await look(other.address, { cookie: kept })).text).not.toContain('Bolts')
    // Another word asks everybody again.
    await ines.call('PATCH', `/api/trees/${tree}/links/${id}`, { word: 'drying loft' })
    expect((await look(address, { cookie: kept })).text).not.toContain('Bolts')
    const tried = await Promise.all(Array.from({ length: 40 }, (_, i) => say(address, `guess ${i}`)))
    expect(tried.filter(({ text }) => text.includes('isn’t the word')).length).toBeLessThanOrEqual(10)
    expect((await say(address, 'drying loft')).text).not.toContain('Bolts')
    // A page of another site can't try.
    expect((await say(other.address, 'another one', { origin: 'https://evil.example' })).status).toBe(403)
  })

  it('with copies allowed gives files of the same part', async () => {
    const { address } = await link({ copying: true })
    expect((await look(address)).text).toContain('?as=docx')
    const { status, bytes } = await look(`${address}?as=docx`)
    expect(status).toBe(200)
    const { value } = await mammoth.extractRawText({ buffer: bytes })
    expect(value).toContain('Bolts')
    expect(value).not.toContain('caretaker')
    expect((await look(`${address}?as=json`)).status).toBe(404)
  })

  it('ends with its day, with its branch, and with its tree', async () => {
    const past = await link({ until: '2020-01-01' })
    expect((await look(past.address)).status).toBe(404)
    expect((await look((await link({ until: '2999-01-01' })).address)).status).toBe(200)
    const gone = await link({ part: { kind: 'branch', topic: 'never' } })
    expect((await look(gone.address)).status).toBe(404)
    const other = await ines.makeTree('Short-lived')
    const whole = await link({ part: { kind: 'tree' } }, ines, other)
    expect((await look(whole.address)).status).toBe(200)
    await ines.call('DELETE', `/api/trees/${other}`)
    expect((await look(whole.address)).status).toBe(404)
  })

  it('sixty who open it at once cost one making', async () => {
    const { address } = await link({ part: { kind: 'tree' } })
    const all = await Promise.all(Array.from({ length: 60 }, () => look(address)))
    expect(all.map(({ status }) => status)).toEqual(Array<number>(60).fill(200))
  })
})

it('law: nothing is reachable without somebody’s act: neither a tree, nor a copy, nor what a letter of an address guesses', async () => {
  const { address } = await link({ part: { kind: 'tree' } })
  const token = address.split('/').at(-1)!
  const { data } = await ines.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
    notes: true,
    people: true,
    dates: true,
    progress: true,
    shift: 0,
  })
  expect((await ines.call<unknown[]>('GET', `/api/trees/${data.id}/links`)).data).toEqual([])
  const starter = await ines.makeTree('Another')
  for (const guess of [
    tree,
    data.id,
    starter,
    `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`,
    '',
    '..',
    '%00',
    'x'.repeat(500),
  ])
    expect([guess, (await look(`/look/${encodeURIComponent(guess)}`)).text.includes('Bolts')]).toEqual([guess, false])
})

it('only owners make links and see them', async () => {
  const editor = await signUp(url, 'Edda')
  await bringIn(ines, tree, editor, 'editor')
  const stranger = await signUp(url, 'Strange')
  for (const [method, path, body] of [
    ['GET', '', undefined],
    ['POST', '', settings],
    ['PATCH', '/x', {}],
    ['DELETE', '/x', undefined],
    ['POST', '/x/address', {}],
  ] as const) {
    expect(await editor.refusal(method, `/api/trees/${tree}/links${path}`, body)).toBe('403 role')
    expect(await stranger.refusal(method, `/api/trees/${tree}/links${path}`, body)).toBe('404 no-tree')
  }
  const { data } = await ines.call<{ what: string }[]>('GET', `/api/trees/${tree}/access`)
  expect(JSON.stringify(data)).toContain('link-made')
})
