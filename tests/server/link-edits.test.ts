import { beforeAll, describe, expect, it } from 'vitest'
import { bringIn, type Caller, signUp } from '../caller'
import { branch, form, laidOut, link, look, type Sitting, titles, url } from './link-stage'

let ines: Caller
beforeAll(async () => {
  ;({ ines } = await laidOut())
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
