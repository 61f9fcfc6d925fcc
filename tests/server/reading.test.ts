import { describe, expect, inject, it } from 'vitest'
import type { ListedMeeting, MeetingWorld } from '#core/contract'
import type { Change } from '#core/tree'
import { bringIn, type Caller, signUp } from '../caller'
import { person } from '../meeting-parts'

/* Read beforehand: who opened what a meeting is about since it was filled in, and the letter that asks for it. */

const url = inject('url')
type Reading = MeetingWorld['reading']
interface Letter {
  subject: string
  body: string
  link: string | null
}

/** Ines leads; Rana owns an item that is filled in; Lev and Mira are to read it. All were invited. */
async function staged() {
  const [ines, rana, lev, mira] = [
    await signUp(url),
    await signUp(url, 'Rana Tahiri'),
    await signUp(url, 'Lev Orlow'),
    await signUp(url, 'Mira Sand'),
  ]
  const tree = await ines.makeTree('Coordination meetings')
  await bringIn(ines, tree, rana, 'editor')
  await bringIn(ines, tree, lev, 'viewer')
  await bringIn(ines, tree, mira, 'commenter')
  const { snapshot } = await ines.open(tree)
  await ines.edit(tree, [
    {
      op: 'add',
      topic: 'm',
      parent: snapshot.centre,
      order: 'a0',
      with: {
        title: 'Meeting 3',
        meeting: [
          { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'Europe/Copenhagen' },
          person('p1', ines.id, { role: 'chair' }),
          person('p2', rana.id),
          person('p3', lev.id),
          person('p4', mira.id),
        ],
      },
    },
    {
      op: 'add',
      topic: 'i',
      parent: 'm',
      order: 'a0',
      with: {
        title: 'Two offers',
        people: [rana.id],
        item: [
          { id: 'intent', kind: 'intent', intent: 'decide' },
          { id: 'ready', kind: 'ready', at: 1, by: rana.id },
        ],
      },
    },
    { op: 'add', topic: 'n', parent: 'i', order: 'a0', with: { title: 'Hafner asks for two days' } },
  ] as Change[])
  const at = `/api/trees/${tree}/meetings/m`
  expect((await ines.call('POST', `${at}/invitation`, {})).status).toBe(200)
  const read = async (who: Caller): Promise<Reading[string]> =>
    (await who.call<{ reading: Reading[string] }>('POST', `${at}/reading`, { item: 'i' })).data.reading
  const world = async (): Promise<Reading> => (await ines.call<MeetingWorld>('GET', at)).data.reading
  return { ines, rana, lev, mira, tree, at, read, world }
}
const asked = async (who: Caller): Promise<Letter[]> =>
  (await who.call<Letter[]>('GET', '/api/letters?box=in')).data.filter(({ subject }) =>
    subject.startsWith('Please read'),
  )

describe('what a meeting is about', () => {
  it('is read by whoever opens it, until it changes; its owner and strangers are nobody’s readers', async () => {
    const { ines, rana, lev, mira, tree, at, read, world } = await staged()
    expect(await world()).toEqual({ i: { [ines.id]: 'not', [lev.id]: 'not', [mira.id]: 'not' } })
    expect((await read(lev))[lev.id]).toBe('read')
    // Two browsers of one person at once are one reading.
    await Promise.all([read(mira), read(mira), read(mira)])
    expect(Object.keys(await read(rana)).sort()).toEqual([ines.id, lev.id, mira.id].sort())
    expect(await world()).toEqual({ i: { [ines.id]: 'not', [lev.id]: 'read', [mira.id]: 'read' } })
    await rana.edit(tree, [{ op: 'set', topic: 'n', field: 'title', value: 'Hafner asks for three days' }])
    expect((await world())['i']![lev.id]).toBe('before')
    expect((await read(lev))[lev.id]).toBe('read')
    const stranger = await signUp(url, 'Stranger')
    expect(await stranger.refusal('POST', `${at}/reading`, { item: 'i' })).toBe('404 no-tree')
    expect(await lev.refusal('POST', `${at}/reading`, { item: 'n' })).toBe('404 no-item')
  })

  it('counts in how ready the meeting is, also in the list of meetings', async () => {
    const { ines, lev, mira, at, read } = await staged()
    const readiness = async () => {
      const { data } = await ines.call<ListedMeeting[]>('GET', '/api/meetings')
      const { readiness, findings } = data.find(({ id }) => id === 'm')!
      return { readiness: readiness!, findings }
    }
    const before = await readiness()
    for (const who of [ines, lev, mira]) await read(who)
    const after = await readiness()
    expect(after.findings).toBe(before.findings - 1)
    expect(after.readiness).toBeGreaterThan(before.readiness)
    await ines.call('POST', `${at}/moves`, { to: 'begin' })
    expect(await lev.refusal('POST', `${at}/reading`, { item: 'i' })).toBe('409 not-planned')
  })

  it('has documents that must be opened too', async () => {
    const { rana, lev, tree, read, world } = await staged()
    const sent = await fetch(`${url}/api/trees/${tree}/attachments?name=Offer.txt`, {
      method: 'POST',
      headers: { cookie: rana.cookie, origin: url, 'content-type': 'application/octet-stream' },
      body: 'Two days, 4,200 euros',
    })
    const { file, type, size } = (await sent.json()) as { file: string; type: string; size: number }
    const attached = { id: 'f1', file, name: 'Offer.txt', type, size, preview: null }
    await rana.edit(tree, [{ op: 'put', topic: 'n', set: 'files', member: attached }])
    expect((await read(lev))[lev.id]).toBe('not')
    const opens = `/api/trees/${tree}/files/${file}/opened`
    const opened = async () => (await rana.call<string[]>('GET', `/api/trees/${tree}/opened`)).data
    expect(await opened()).toEqual([])
    for (let i = 0; i < 2; i++) expect((await lev.call('POST', opens, {})).status).toBeLessThan(300)
    expect(await opened()).toEqual([file])
    expect((await world())['i']![lev.id]).toBe('read')
    expect(await lev.refusal('POST', `/api/trees/${tree}/files/${'0'.repeat(64)}/opened`, {})).toBe('404 no-file')
    const stranger = await signUp(url, 'Stranger')
    expect(await stranger.refusal('POST', opens, {})).toBe('404 no-tree')
    expect(await stranger.refusal('GET', `/api/trees/${tree}/opened`)).toBe('404 no-tree')
  })

  it('is told live to those in the tree, once for each opening', async () => {
    const { lev, rana, tree, read } = await staged()
    const line = rana.line(tree)
    await line.hello(0)
    await read(lev)
    await line.until(() => line.of('read').length === 1, 'the word that it was read')
    await read(lev)
    await lev.call('POST', `/api/trees/${tree}/files/${'0'.repeat(64)}/opened`)
    await rana.edit(tree, [{ op: 'set', topic: 'n', field: 'title', value: 'Hafner asks for a week' }])
    await read(lev)
    await line.until(() => line.of('read').length === 2, 'the word that it was read anew')
    await line.close()
  })

  it('is asked for by letter in one press: only of those who haven’t read it, once a day, also pressed twice at once', async () => {
    const { ines, lev, mira, rana, at, tree, read } = await staged()
    await read(ines)
    await read(lev)
    const press = () => ines.call<{ sent: number; lately: number }>('POST', `${at}/reading/letters`, { item: 'i' })
    const said = await Promise.all([press(), press(), press()])
    expect(said.map(({ data }) => data.sent).sort()).toEqual([0, 0, 1])
    expect((await asked(mira)).map(({ link }) => link)).toEqual([`/trees/${tree}?topic=i`])
    expect((await asked(mira))[0]!.body).toContain(
      'before “Meeting 3”, 2 Mar 2027, 14:00 to 15:00 (Europe/Copenhagen).',
    )
    expect([await asked(lev), await asked(rana)]).toEqual([[], []])
    expect(await lev.refusal('POST', `${at}/reading/letters`, { item: 'i' })).toBe('403 role')
    // Whoever was reminded and reads it then has read it.
    expect((await read(mira))[mira.id]).toBe('read')
    await rana.edit(tree, [{ op: 'set', topic: 'n', field: 'title', value: 'Hafner asks for three days' }])
    expect((await press()).data).toEqual({ sent: 1, lately: 1 })
    expect((await asked(lev))[0]!.body).toContain('It has changed since you read it')
  })

  it('is in what one can take home of oneself, and is forgotten with the role, the account and the tree', async () => {
    const { ines, lev, mira, tree, read, world } = await staged()
    await read(lev)
    await read(mira)
    const { data } = await lev.call<{ read: { items: { tree: string; topic: string }[] } }>('GET', '/api/account/data')
    const { read: own } = typeof data === 'string' ? (JSON.parse(data) as typeof data) : data
    expect(own.items.map(({ tree, topic }) => [tree, topic])).toEqual([[tree, 'i']])
    expect((await ines.call('DELETE', `/api/trees/${tree}/members/${mira.id}`)).status).toBeLessThan(300)
    await bringIn(ines, tree, mira, 'viewer')
    expect((await world())['i']?.[mira.id]).toBe('not')
    expect(
      (await lev.call('POST', '/api/account/farewell', { password: 'a long enough one', trees: {} })).status,
    ).toBeLessThan(300)
    expect((await world())['i']?.[lev.id] ?? 'not').toBe('not')
    expect((await ines.call('DELETE', `/api/trees/${tree}`)).status).toBeLessThan(300)
  })
})
