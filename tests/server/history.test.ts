import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { SaidThen, SittingPage, ToldEdit } from '../../core/contract'
import { bodyOf } from '../../core/talk/body'
import type { KeptMoment } from '../../core/history/kept'
import type { Difference } from '../../core/compare/differences'
import { fromSnapshot, toSnapshot, type Snapshot } from '../../core/tree'
import type { Caller } from '../caller'
import { bringIn, signUp } from '../caller'
import { type House, openHouse } from '../house'

let house: House
let ines: Caller
let rana: Caller
let viewer: Caller
let id: string
let centre: string
/** The tree as it was after each edit. */
const was: Snapshot[] = []

const edit = async (who: Caller, changes: Parameters<Caller['edit']>[1]): Promise<void> => {
  await who.edit(id, changes)
  was.push((await ines.open(id)).snapshot)
}
const moment = async (number: number): Promise<Snapshot> =>
  (await ines.call<{ snapshot: Snapshot }>('GET', `/api/trees/${id}/moments/${number}`)).data.snapshot
const plain = (snapshot: Snapshot): unknown => {
  const { topics, ...rest } = toSnapshot(fromSnapshot(snapshot))
  return { ...rest, topics: [...topics].sort((a, b) => (a.id < b.id ? -1 : 1)) }
}

beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
  rana = await signUp(house.url, 'Rana Tahiri')
  viewer = await signUp(house.url, 'Viewer')
  id = await ines.makeTree()
  await bringIn(ines, id, rana, 'editor')
  await bringIn(ines, id, viewer, 'viewer')
  const opened = await ines.open(id)
  centre = opened.snapshot.centre
  was.push(opened.snapshot)
  await edit(ines, [
    { op: 'add', topic: 'fit', parent: centre, order: 'a0', with: { title: 'Fit-out' } },
    { op: 'add', topic: 'lift', parent: 'fit', order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'ramp', parent: 'fit', order: 'a1', with: { title: 'Ramp' } },
  ])
  await edit(ines, [{ op: 'set', topic: 'lift', field: 'due', value: '2027-05-12' }])
  await edit(rana, [{ op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books' } }])
  await edit(rana, [
    { op: 'place', topic: 'lift', parent: 'books', order: 'a0' },
    { op: 'set', topic: 'lift', field: 'title', value: 'Goods lift' },
  ])
  await edit(rana, [{ op: 'remove', topic: 'fit' }])
}, 60_000)
afterAll(() => house.close())

it('every moment opens as it was, in every field, for a viewer too; one that hasn’t come doesn’t', async () => {
  for (const [number, snapshot] of was.entries()) expect(plain(await moment(number))).toEqual(plain(snapshot))
  expect((await viewer.call('GET', `/api/trees/${id}/moments/3`)).status).toBe(200)
  expect(await viewer.refusal('GET', `/api/trees/${id}/moments/99`)).toBe('404 no-moment')
  const stranger = await signUp(house.url, 'Stranger')
  for (const path of ['moments/1', 'history', 'history/1/2', 'differences?from=0'])
    expect(await stranger.refusal('GET', `/api/trees/${id}/${path}`)).toMatch(/^404 /)
})

describe('sittings', () => {
  const history = async (query = ''): Promise<SittingPage> =>
    (await viewer.call<SittingPage>('GET', `/api/trees/${id}/history${query}`)).data
  it('have their edits and people, by name, narrowed by person, kind, branch and period', async () => {
    const { sittings, names, next, version } = await history()
    expect(sittings).toMatchObject([{ from: 1, to: 5, edits: 5 }])
    expect(sittings[0]!.people.map(({ by, edits }) => [names[by], edits])).toEqual([
      ['Rana Tahiri', 3],
      ['Ines Brandt', 2],
    ])
    expect([next, version]).toEqual([null, 5])
    expect((await history(`?person=${ines.id}`)).sittings).toMatchObject([{ from: 1, to: 2, edits: 2 }])
    expect((await history('?kind=moved')).sittings).toMatchObject([{ from: 4, to: 4 }])
    expect((await history('?kind=renamed')).sittings).toMatchObject([{ from: 4, to: 4 }])
    expect((await history('?branch=books')).sittings).toMatchObject([{ from: 1, to: 4, edits: 4 }])
    expect((await history('?until=2001-01-01T00:00:00Z')).sittings).toEqual([])
    expect((await history(`?since=${new Date(Date.now() + 60_000).toISOString()}`)).sittings).toEqual([])
    expect((await history('?since=2001-01-01T00:00:00Z')).sittings).toMatchObject([{ from: 1, to: 5 }])
    expect((await history('?before=3')).sittings).toMatchObject([{ from: 1, to: 2 }])
    expect(await viewer.refusal('GET', `/api/trees/${id}/history?kind=nonsense`)).toBe('400 invalid')
  })
  it('are told in happenings with the titles of that time', async () => {
    const { edits, names } = (
      await viewer.call<{ edits: ToldEdit[]; names: Record<string, string> }>('GET', `/api/trees/${id}/history/2/5`)
    ).data
    expect(edits.map(({ number, by }) => [number, names[by]])).toEqual([
      [2, 'Ines Brandt'],
      [3, 'Rana Tahiri'],
      [4, 'Rana Tahiri'],
      [5, 'Rana Tahiri'],
    ])
    expect(edits[0]!.happenings).toMatchObject([{ kind: 'task', title: 'Lift', value: '2027-05-12' }])
    expect(edits[2]!.happenings).toMatchObject([
      { kind: 'moved', title: 'Goods lift', under: 'Books' },
      { kind: 'renamed', was: 'Lift' },
    ])
    expect(edits[3]!.happenings).toMatchObject([{ kind: 'removed', title: 'Fit-out', along: 1 }])
  })
})

it('what was said stands between the edits by its time, and is gone where it was withdrawn', async () => {
  const comment = 'c1'
  const say = (saying: object) => rana.call('POST', `/api/trees/${id}/talk`, saying)
  await say({
    id: 's1',
    op: 'say',
    comment,
    thread: comment,
    place: { on: 'topic', topic: 'lift' },
    body: bodyOf('By 4 cm.'),
  })
  await say({ id: 's2', op: 'settle', thread: comment, settled: true })
  const said = async (from: number, to: number): Promise<string[]> =>
    (await viewer.call<{ said: SaidThen[] }>('GET', `/api/trees/${id}/history/${from}/${to}`)).data.said.map(
      one => `${one.what} ${one.topic?.id} ${one.words}`,
    )
  expect(await said(5, 5)).toEqual(['said lift By 4 cm.', 'settled lift '])
  expect(await said(1, 4)).toEqual([])
  await say({ id: 's3', op: 'withdraw', comment })
  expect(await said(5, 5)).toEqual(['said lift ', 'settled lift '])
})

it('two moments are compared topic by topic, what only changed places among its siblings once', async () => {
  const { differences } = (
    await viewer.call<{ differences: Difference[] }>('GET', `/api/trees/${id}/differences?from=1&to=4`)
  ).data
  expect(differences.map(({ kind, id: topic }) => `${kind} ${topic}`)).toEqual([
    'moved lift',
    'changed lift',
    'added books',
  ])
})

it('two hundred at once are answered in turn or told to wait, and the rest of the house goes on', async () => {
  const asked = Array.from({ length: 200 }, (_, i) =>
    viewer.call(
      'GET',
      `/api/trees/${id}/${i % 2 ? `moments/${i % 5}` : i % 4 ? 'differences?from=0' : 'history?branch=books'}`,
    ),
  )
  expect((await rana.call('GET', `/api/trees/${id}/moments/2`)).status).toBe(200)
  const answers = (await Promise.all(asked)).map(({ status }) => status)
  expect(new Set(answers)).toEqual(new Set([200, 429]))
  expect((await viewer.call('GET', `/api/trees/${id}/moments/1`)).status).toBe(200)
})

it('a copy of a moment is a tree of one’s own', async () => {
  const { data } = await viewer.call<{ id: string }>('POST', `/api/trees/${id}/moments/2/copy`, {
    title: 'As we began',
  })
  const copy = await viewer.open(data.id)
  expect(copy.role).toBe('owner')
  expect(copy.snapshot.topics.map(({ title }) => title).sort()).toEqual(['As we began', 'Fit-out', 'Lift', 'Ramp'])
})

describe('bringing back', () => {
  const back = (who: Caller, number: number, body: object) =>
    who.call<{ number: number; under: string[] | null }>('POST', `/api/trees/${id}/moments/${number}/return`, body)
  it('one field, one topic alone, a branch whose parent is gone, the whole: each an edit that can be taken back', async () => {
    expect((await back(viewer, 1, {})).status).toBe(403)
    // One field: the title as it was, its place and due date as they are.
    expect((await back(rana, 2, { topic: 'lift', part: 'title' })).data.under).toBeNull()
    const topic = async (of: string) => (await ines.open(id)).snapshot.topics.find(one => one.id === of)!
    expect(await topic('lift')).toMatchObject({ title: 'Lift', parent: 'books', due: '2027-05-12' })
    // It hung under what is gone: it's told where it hangs now, and asked again there is nothing left to do.
    expect((await back(rana, 4, { branch: 'ramp' })).data.under).toEqual(['Move to the tannery'])
    expect(await topic('ramp')).toMatchObject({ parent: centre, title: 'Ramp' })
    expect(await rana.refusal('POST', `/api/trees/${id}/moments/4/return`, { branch: 'ramp' })).toBe('409 same')
    expect(await rana.refusal('POST', `/api/trees/${id}/moments/1/return`, { branch: 'books' })).toBe('404 no-branch')
    const { edits } = (await ines.call<{ edits: { source?: unknown }[] }>('GET', `/api/trees/${id}/edits?since=6`)).data
    expect(edits.map(({ source }) => source)).toEqual([{ kind: 'moment', number: 4, branch: 'ramp' }])
    expect((await back(rana, 1, {})).status).toBe(200)
    const now = await ines.open(id)
    expect(plain(now.snapshot)).toMatchObject({ centre })
    const live = now.snapshot.topics.filter(one => !one.removed).map(({ id: one, parent }) => `${one}<${parent}`)
    expect(live.sort()).toEqual([`${centre}<null`, `fit<${centre}`, 'lift<fit', 'ramp<fit'].sort())
    const { status } = await rana.call('POST', `/api/trees/${id}/edits/${now.version}/take-back`, {})
    expect(status).toBe(200)
  })
})

it('moments are kept by name, and by themselves before something large; a viewer only reads them', async () => {
  const name = (who: Caller, number: number, words: string) =>
    who.refusal('PUT', `/api/trees/${id}/moments/${number}/name`, { name: words })
  const kept = async (who = ines) => (await who.call<KeptMoment[]>('GET', `/api/trees/${id}/moments`)).data
  expect(await name(viewer, 2, 'Mine')).toBe('403 role')
  expect(await name(ines, 99_999, 'Never')).toBe('404 no-moment')
  expect(await name(ines, 2, '  ')).toBe('400 invalid')
  expect(await name(ines, 2, 'Before Rana came')).toBe('200 no error')
  expect(await name(rana, 2, 'Before I came')).toBe('200 no error')
  expect((await kept(viewer)).filter(({ why }) => why === 'named')).toEqual([
    expect.objectContaining({ number: 2, name: 'Before I came', by: rana.id }),
  ])
  const { version } = await ines.open(id)
  await ines.edit(
    id,
    Array.from({ length: 40 }, (_, i) => ({
      op: 'add' as const,
      topic: `shelf${i}`,
      parent: centre,
      order: `a${i.toString(36).padStart(3, '0')}1`,
      with: { title: `Shelf ${i}` },
    })),
  )
  // It's kept beside the edit, a moment later.
  await expect
    .poll(async () => (await kept()).find(({ why }) => why === 'brought-in'), { timeout: 10_000 })
    .toMatchObject({ number: version, by: null })
  await ines.call('DELETE', `/api/trees/${id}/moments/2/name`)
  expect((await kept()).filter(({ why }) => why === 'named')).toEqual([])
})
