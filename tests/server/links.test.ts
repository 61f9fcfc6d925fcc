import mammoth from 'mammoth'
import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, type Caller, signUp } from '../caller'
import { PULSE_SCRIPT } from '../../server/guests/pulse'
import { branch, form, laidOut, link, look, say, settings, type Sitting, titles, url } from './link-stage'

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

describe('a link by which one may comment or edit', () => {
  it('lets nobody do anything who only may look', async () => {
    const { address, tree: id } = await branch()
    expect((await look(address)).text).not.toContain('?at=')
    expect((await look(`${address}?at=bolts`)).status).toBe(404)
    expect((await form(address, { do: 'keep', name: 'Tove', text: 'Too narrow' })).status).toBe(404)
    expect((await form(address, { do: 'keep', name: 'Tove', title: 'Nuts', wasTitle: 'Bolts' })).status).toBe(404)
    expect(await titles(id)).toContain('Bolts')
  })

  it('asks for a name, keeps what is said under it, says on the page and in the tree that it’s a guest’s', async () => {
    const { address, tree: id } = await branch({ may: 'comment' })
    const before = await look(`${address}?pulse`)
    expect((await look(address)).text).toContain('aria-label="Comment: Bolts"')
    const nameless = await form(address, { do: 'keep', name: ' ', text: 'M8 is too thin' })
    expect([nameless.status, nameless.text.includes('M8 is too thin')]).toEqual([422, true])
    const said = await form(address, { do: 'keep', name: 'Ines <b>Brandt</b>', text: 'M8 is too thin' })
    expect([said.status, said.location]).toEqual([303, '?said#t-bolts'])
    // The page that others have open is told, and shows it.
    expect((await look(`${address}?pulse`)).text).not.toBe(before.text)
    const page = (await look(address)).text
    expect(page).toContain('M8 is too thin')
    expect(page).toContain('Ines &lt;b&gt;Brandt&lt;/b&gt; (guest)')
    // Once more, in the same thread, with the name that the browser keeps.
    expect((await form(address, { do: 'keep', text: 'Or are they?' }, { cookie: said.cookie })).status).toBe(303)
    const { data } = await ines.call<{ threads: { comments: { by: string }[] }[]; names: Record<string, string> }>(
      'GET',
      `/api/trees/${id}/talk/threads?topic=bolts`,
    )
    expect(data.threads.map(({ comments }) => comments.length)).toEqual([2])
    expect(Object.values(data.names)).toEqual(['Ines <b>Brandt</b> (guest)'])
    // Commenting is all.
    expect((await form(address, { do: 'keep', title: 'Nuts', wasTitle: 'Bolts' }, said)).status).toBe(403)
    expect((await form(address, { do: 'remove' }, said)).status).toBe(403)
    expect(await titles(id)).toContain('Bolts')
  })

  it('finishes a turn of what comes again as members do, and takes it back; of the rest of it a guest changes nothing', async () => {
    const { address, tree: id } = await branch({ may: 'edit' })
    await ines.edit(id, [
      { op: 'set', topic: 'bolts', field: 'due', value: '2099-03-02' },
      { op: 'set', topic: 'bolts', field: 'start', value: '2099-03-01' },
      { op: 'set', topic: 'bolts', field: 'again', value: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2099-03-02' } },
      {
        op: 'put',
        topic: 'bolts',
        set: 'checks',
        member: { id: 'k', order: 'a0', text: 'Torque', done: true, due: null, priority: null },
      },
    ])
    const bolts = async () => (await ines.open(id)).snapshot.topics.find(topic => topic.id === 'bolts')!
    const fields = { do: 'keep', name: 'Tove', done: '100', wasDone: '0', due: '2099-03-02', wasDue: '2099-03-02' }
    const sent = await form(address, fields)
    expect(sent.status).toBe(303)
    expect(await bolts()).toMatchObject({
      start: '2099-03-08',
      due: '2099-03-09',
      done: 0,
      turns: [{ id: '2099-03-02' }],
    })
    expect((await bolts()).checks![0]!.done).toBe(false)
    // The form that was written for the turn before doesn't finish the next.
    expect((await form(address, fields, sent)).status).toBe(409)
    const number = /did=(\d+)/.exec(sent.location)![1]!
    expect((await form(address, { do: 'undo', edit: number }, sent)).status).toBe(303)
    expect(await bolts()).toMatchObject({ start: '2099-03-01', due: '2099-03-02', done: 0 })
    expect((await bolts()).turns ?? []).toEqual([])
    expect((await bolts()).checks![0]!.done).toBe(true)
  })

  it('moves a topic a place on though two people chose the same place for what is there', async () => {
    const { address, tree: id } = await branch({ may: 'edit' })
    await ines.edit(
      id,
      ['nuts', 'pins', 'rods'].map(topic => ({
        op: 'add' as const,
        topic,
        parent: 'lift',
        order: 'a1',
        with: { title: topic },
      })),
    )
    const below = async () =>
      (await ines.open(id)).snapshot.topics
        .filter(({ parent, removed }) => parent === 'lift' && !removed)
        .sort((a, b) => (a.order === b.order ? (a.id < b.id ? -1 : 1) : a.order < b.order ? -1 : 1))
        .map(topic => topic.id)
        .filter(one => one !== 'sizes')
    expect(await below()).toEqual(['bolts', 'nuts', 'pins', 'rods'])
    const first = await form(address, { do: 'down', name: 'Tove Lind' })
    expect([first.status, await below()]).toEqual([303, ['nuts', 'bolts', 'pins', 'rods']])
    await form(address, { do: 'down' }, first)
    expect(await below()).toEqual(['nuts', 'pins', 'bolts', 'rods'])
    await form(address, { do: 'up' }, { ...first, at: 'rods' })
    expect(await below()).toEqual(['nuts', 'pins', 'rods', 'bolts'])
  })

  it('changes, adds, moves, takes away and undoes in the guest’s name, within what it shows', async () => {
    const { address, tree: id } = await branch({ may: 'edit' })
    const first = await form(address, {
      do: 'keep',
      name: 'Tove Lind',
      title: 'Bolts, M10',
      wasTitle: 'Bolts',
      done: '50',
      wasDone: '0',
      due: '2027-05-12',
      wasDue: '',
    })
    expect([first.status, first.location]).toEqual([303, expect.stringMatching(/^\?did=\d+&t=bolts#t-bolts$/)])
    const now = (await ines.open(id)).snapshot.topics.find(topic => topic.id === 'bolts')!
    expect([now.title, now.done, now.due]).toEqual(['Bolts, M10', 50, '2027-05-12'])
    const added = await form(address, { do: 'keep', titles: 'Nuts\r\n\r\nWashers' }, first)
    expect(added.status).toBe(303)
    expect(await titles(id)).toEqual(expect.arrayContaining(['Nuts', 'Washers']))
    expect((await form(address, { do: 'down' }, first)).status).toBe(303)
    const removed = await form(address, { do: 'remove' }, { ...first, at: 'sizes' })
    expect([removed.status, removed.location]).toEqual([303, expect.stringMatching(/#t-lift$/)])
    expect(await titles(id)).not.toContain('Sizes')
    const number = /did=(\d+)/.exec(removed.location)![1]!
    expect((await form(address, { do: 'undo', edit: number }, { ...first, at: 'lift' })).status).toBe(303)
    expect(await titles(id)).toContain('Sizes')
    // What others did isn't theirs to undo; nor is what the link doesn't show theirs to touch.
    await ines.edit(id, [{ op: 'set', topic: 'sizes', field: 'title', value: 'Sizes of bolts' }])
    const { version } = await ines.open(id)
    expect((await form(address, { do: 'undo', edit: String(version) }, { ...first, at: 'lift' })).status).toBe(404)
    for (const fields of [
      { do: 'keep', title: 'Mine', wasTitle: 'What we pay the caretaker' },
      { do: 'keep', titles: 'Mine' },
      { do: 'remove' },
      { do: 'keep', text: 'Mine' },
    ] as Record<string, string>[])
      expect((await form(address, fields, { ...first, at: 'salary' })).text).not.toContain('caretaker')
    expect((await form(address, { do: 'remove' }, { ...first, at: 'lift' })).status).toBe(403)
    expect((await titles(id)).filter(title => title === 'Mine')).toEqual([])
    const { data } = await ines.call<{ sittings: Sitting[]; names: Record<string, string> }>(
      'GET',
      `/api/trees/${id}/history`,
    )
    expect(Object.values(data.names)).toContain('Tove Lind (guest)')
  })

  it('shows what others wrote meanwhile before it writes over it, and keeps one’s own in the field', async () => {
    const { address, tree: id } = await branch({ may: 'edit' })
    const { cookie } = await form(address, { do: 'keep', name: 'Tove', titles: 'Nuts' })
    await ines.edit(id, [{ op: 'set', topic: 'bolts', field: 'title', value: 'Bolts, M12' }])
    const sent = await form(address, { do: 'keep', title: 'Bolts, M6', wasTitle: 'Bolts' }, { cookie })
    expect([sent.status, await titles(id)]).toEqual([409, expect.arrayContaining(['Bolts, M12'])])
    for (const word of ['Bolts, M12', 'value="Bolts, M6"', 'name="wasTitle" value="Bolts, M12"'])
      expect(sent.text).toContain(word)
    expect((await form(address, { do: 'keep', title: 'Bolts, M6', wasTitle: 'Bolts, M12' }, { cookie })).status).toBe(
      303,
    )
    expect(await titles(id)).toContain('Bolts, M6')
  })

  it('leaves the line breaks of a title alone, and days and progress that others set meanwhile', async () => {
    const { address, tree: id } = await branch({ may: 'edit' })
    await ines.edit(id, [{ op: 'set', topic: 'bolts', field: 'title', value: 'Bolts\nM8' }])
    const page = (await look(`${address}?at=bolts`)).text
    expect(page).toContain('<textarea name="title"')
    const both = { title: 'Bolts\r\nM8', wasTitle: 'Bolts\r\nM8' }
    const { cookie } = await form(address, { do: 'keep', name: 'Tove', text: 'Too thin', ...both })
    expect(await titles(id)).toContain('Bolts\nM8')
    await ines.edit(id, [
      { op: 'set', topic: 'bolts', field: 'done', value: 75 },
      { op: 'set', topic: 'bolts', field: 'due', value: '2027-05-12' },
    ])
    for (const stale of [
      { done: '25', wasDone: '0' },
      { due: '2027-06-01', wasDue: '' },
    ] as Record<string, string>[])
      expect((await form(address, { do: 'keep', ...both, ...stale }, { cookie })).status).toBe(409)
    const now = (await ines.open(id)).snapshot.topics.find(topic => topic.id === 'bolts')!
    expect([now.done, now.due]).toEqual([75, '2027-05-12'])
  })

  it('that is withdrawn while somebody types gives them their words back, and keeps nothing', async () => {
    const { address, id: link_, tree: id } = await branch({ may: 'edit' })
    const { cookie } = await form(address, { do: 'keep', name: 'Tove', titles: 'Nuts' })
    await ines.call('DELETE', `/api/trees/${id}/links/${link_}`)
    for (const [fields, words] of [
      [{ do: 'keep', text: 'A long thought <of mine>' }, 'A long thought &lt;of mine&gt;'],
      [{ do: 'keep', titles: 'Washers' }, 'Washers'],
    ] as const) {
      const sent = await form(address, fields, { cookie })
      expect([sent.status, sent.text.includes(words)]).toEqual([404, true])
    }
    expect(await titles(id)).not.toContain('Washers')
    // The name stays with what was done.
    const { data } = await ines.call<{ names: Record<string, string> }>('GET', `/api/trees/${id}/history`)
    expect(Object.values(data.names)).toContain('Tove (guest)')
  })

  it('asks for its word again without losing what was written, and then shows the topic', async () => {
    const { address } = await branch({ may: 'edit', word: 'tannery' })
    const sent = await form(address, { do: 'keep', text: 'Written for an hour' })
    expect([sent.status, sent.text.includes('A word, please'), sent.text.includes('Written for an hour')]).toEqual([
      200,
      true,
      true,
    ])
    const known = await form(address, { word: 'tannery' })
    expect([known.status, known.text.includes('name="title"')]).toEqual([200, true])
  })

  it('takes no other link’s guest, no form from elsewhere, and no flood', async () => {
    const one = await branch({ may: 'edit' })
    const other = await link({ may: 'edit', part: { kind: 'branch', topic: 'lift' } }, ines, one.tree)
    const { cookie } = await form(one.address, { do: 'keep', name: 'Tove', titles: 'Nuts' })
    const elsewhere = await form(other.address, { do: 'keep', titles: 'Washers' }, { cookie })
    expect([elsewhere.status, await titles(one.tree)]).toEqual([422, expect.not.arrayContaining(['Washers'])])
    const foreign = await look(`${one.address}?at=bolts`, {
      method: 'POST',
      cookie,
      body: new URLSearchParams({ do: 'remove' }),
      headers: { origin: 'https://elsewhere.example' },
    })
    expect([foreign.status, await titles(one.tree)]).toEqual([403, expect.arrayContaining(['Bolts'])])
    expect((await form(one.address, { do: 'keep', text: 'x'.repeat(300_000) }, { cookie })).status).toBe(413)
    const many = await Promise.all(Array.from({ length: 230 }, () => form(one.address, { do: 'down' }, { cookie })))
    expect(new Set(many.map(({ status }) => status))).toEqual(new Set([303, 429]))
  })

  it('is made by owners alone', async () => {
    const rana = await signUp(url, 'Rana Tahiri')
    const { tree: id, id: link_ } = await branch()
    await bringIn(ines, id, rana, 'editor')
    expect(await rana.refusal('PATCH', `/api/trees/${id}/links/${link_}`, { may: 'edit' })).toBe('403 role')
  })
})
