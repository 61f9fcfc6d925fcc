import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Comparison, Kin, ToldEdit } from '../../core/contract'
import type { KeptMoment } from '../../core/history/kept'
import type { Change, Snapshot } from '../../core/tree'
import { bringIn, type Caller, signUp } from '../caller'
import { type House, openHouse } from '../house'

let house: House
let ines: Caller
let rana: Caller
let stranger: Caller
/** Last year's opening day, and this year's, which is a copy of it. */
let old: string
let now: string
let centre: string

const title = (topic: string, value: string): Change => ({ op: 'set', topic, field: 'title', value })
async function edit(who: Caller, id: string, ...changes: Change[]): Promise<void> {
  await who.edit(id, changes)
}
const compared = async (who: Caller, id: string, other: object, here?: number): Promise<Comparison> =>
  (
    await who.call<Comparison>('POST', `/api/trees/${id}/compare`, {
      with: other,
      ...(here === undefined ? {} : { here }),
    })
  ).data
const told = ({ pieces }: Comparison): string[] =>
  // Colours and sides are given out anew to each copy.
  pieces
    .filter(({ part }) => part !== 'branchHue' && part !== 'split')
    .map(({ key, by, snag }) => [key, by, snag].filter(Boolean).join(' '))
const titles = async (id: string): Promise<Record<string, string | undefined>> =>
  Object.fromEntries((await ines.open(id)).snapshot.topics.map(({ id: topic, title: words }) => [topic, words]))

beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
  rana = await signUp(house.url, 'Rana Tahiri')
  stranger = await signUp(house.url, 'Stranger')
  old = await ines.makeTree('Opening day')
  centre = (await ines.open(old)).snapshot.centre
  await edit(
    ines,
    old,
    { op: 'add', topic: 'music', parent: centre, order: 'a0', with: { title: 'Music', due: '2026-05-12' } },
    { op: 'add', topic: 'guests', parent: centre, order: 'a1', with: { title: 'Guests' } },
    { op: 'add', topic: 'chairs', parent: 'guests', order: 'a0', with: { title: 'Chairs', done: 100 } },
  )
  const copied = await ines.call<{ id: string }>('POST', `/api/trees/${old}/duplicate`, {
    notes: true,
    people: true,
    dates: false,
    progress: false,
    shift: 0,
    title: 'Opening day, again',
  })
  now = copied.data.id
}, 60_000)
afterAll(() => house.close())

describe('a moment', () => {
  it('is compared with the tree: all that is different was changed here, and is taken back piece by piece', async () => {
    await edit(ines, old, title('music', 'Brass band'), { op: 'remove', topic: 'chairs' })
    const comparison = await compared(ines, old, { kind: 'moment', number: 1 })
    expect(told(comparison)).toEqual(['music title here', 'chairs there here'])
    expect(comparison).toMatchObject({ number: 2, version: 2, role: 'owner', other: { tree: old, number: 1 } })
    const { data } = await ines.call<{ number: number }>('POST', `/api/trees/${old}/merge`, {
      with: { kind: 'moment', number: 1 },
      at: 2,
      take: ['chairs there'],
    })
    expect(data.number).toBe(3)
    expect(await titles(old)).toMatchObject({ music: 'Brass band', chairs: 'Chairs' })
    // It's told in the history where it comes from, and the moment before it is kept.
    const { data: happened } = await ines.call<{ edits: ToldEdit[] }>('GET', `/api/trees/${old}/history/3/3`)
    expect(happened.edits[0]!.source).toEqual({ kind: 'merged', tree: old, number: 1 })
    const { data: kept } = await ines.call<KeptMoment[]>('GET', `/api/trees/${old}/moments`)
    expect(kept).toContainEqual(expect.objectContaining({ number: 2, why: 'merged' }))
  })

  it('that hasn’t come, or in which nothing is different, is said', async () => {
    expect(await ines.refusal('POST', `/api/trees/${old}/compare`, { with: { kind: 'moment', number: 99 } })).toBe(
      '404 no-moment',
    )
    expect(
      await ines.refusal('POST', `/api/trees/${old}/merge`, {
        with: { kind: 'moment', number: 3 },
        at: 3,
        take: ['music title'],
      }),
    ).toBe('409 same')
  })
})

describe('a copy', () => {
  it('is told apart by what was done since it was copied, not by what the copy left behind', async () => {
    await edit(ines, old, title('music', 'Brass band, 6 of them'), {
      op: 'set',
      topic: 'guests',
      field: 'done',
      value: 10,
    })
    await edit(ines, now, title('guests', 'Guests and speakers'), title('chairs', 'Chairs: 40 too few'), {
      op: 'add',
      topic: 'lamps',
      parent: 'guests',
      order: 'a1',
      with: { title: 'Lamps for the evening' },
    })
    const comparison = await compared(ines, old, { kind: 'tree', tree: now })
    expect(told(comparison).sort()).toEqual(
      [
        `${centre} title neither`,
        'chairs done neither',
        'chairs title there',
        'guests done here',
        'guests title there',
        'lamps there there',
        'music due neither',
        'music title here',
      ].sort(),
    )
    const { data } = await ines.call<{ trees: Kin[] }>('GET', `/api/trees/${old}/kin`)
    expect(data.trees.map(({ id }) => id)).toEqual([now])
    // What was learned goes back.
    await ines.call('POST', `/api/trees/${old}/merge`, {
      with: { kind: 'tree', tree: now },
      at: comparison.version,
      take: comparison.pieces.filter(({ by }) => by === 'there').map(({ key }) => key),
    })
    expect(await titles(old)).toMatchObject({
      music: 'Brass band, 6 of them',
      guests: 'Guests and speakers',
      chairs: 'Chairs: 40 too few',
      lamps: 'Lamps for the evening',
    })
    expect((await ines.open(old)).snapshot.topics.find(({ id }) => id === 'chairs')).toMatchObject({ done: 100 })
  })

  it('asks what both have changed, and takes nothing over that somebody has changed since', async () => {
    await edit(ines, old, title('music', 'Strings'))
    await edit(ines, now, title('music', 'Choir'))
    const comparison = await compared(ines, old, { kind: 'tree', tree: now })
    expect(told(comparison)).toContain('music title both')
    await edit(ines, old, title('music', 'Strings and a choir'))
    const take = { with: { kind: 'tree', tree: now }, at: comparison.version, take: ['music title'] }
    expect(await ines.refusal('POST', `/api/trees/${old}/merge`, take)).toBe('409 moved-on')
    expect(await titles(old)).toMatchObject({ music: 'Strings and a choir' })
    // Elsewhere in the tree others may go on.
    await edit(ines, old, title('guests', 'All guests'))
    await ines.call('POST', `/api/trees/${old}/merge`, { ...take, at: comparison.version + 1 })
    expect(await titles(old)).toMatchObject({ music: 'Choir', guests: 'All guests' })
  })

  it('is taken over as it was compared, whatever somebody does in it meanwhile', async () => {
    const { data: copied } = await ines.call<{ id: string }>('POST', `/api/trees/${old}/duplicate`, {
      notes: true,
      people: true,
      dates: true,
      progress: true,
      shift: 0,
      title: 'Seen',
    })
    await edit(ines, copied.id, title('music', 'As it was seen'))
    const seen = await compared(ines, old, { kind: 'tree', tree: copied.id })
    await edit(ines, copied.id, title('music', 'Nobody has seen this'))
    const merged = await ines.call('POST', `/api/trees/${old}/merge`, {
      with: { kind: 'tree', tree: copied.id, number: seen.other.number },
      at: seen.version,
      take: ['music title'],
    })
    expect(merged.status).toBe(200)
    expect(await titles(old)).toMatchObject({ music: 'As it was seen' })
  })

  it('brings along the files of what is taken over, and no other', async () => {
    const { data: copied } = await ines.call<{ id: string }>('POST', `/api/trees/${old}/duplicate`, {
      notes: true,
      people: true,
      dates: true,
      progress: true,
      shift: 0,
      title: 'With pictures',
    })
    const store = async (width: number): Promise<string> => {
      const bytes = await sharp({ create: { width, height: 30, channels: 3, background: '#17616b' } })
        .png()
        .toBuffer()
      const sent = await fetch(`${house.url}/api/trees/${copied.id}/pictures`, {
        method: 'POST',
        headers: { cookie: ines.cookie, origin: house.url, 'content-type': 'image/png' },
        body: new Uint8Array(bytes),
      })
      return ((await sent.json()) as { id: string }).id
    }
    const [taken, left] = [await store(60), await store(70)]
    const picture = (topic: string, file: string): Change => ({
      op: 'set',
      topic,
      field: 'picture',
      value: { file, ratio: 0.5, width: 60, place: 'above' },
    })
    await edit(ines, copied.id, picture('guests', taken), picture('chairs', left))
    const seen = await compared(ines, old, { kind: 'tree', tree: copied.id })
    const { status } = await ines.call('POST', `/api/trees/${old}/merge`, {
      with: { kind: 'tree', tree: copied.id, number: seen.other.number },
      at: seen.version,
      take: ['guests picture'],
    })
    expect(status).toBe(200)
    const found = async (file: string): Promise<number> =>
      (await ines.call('GET', `/api/trees/${old}/files/${file}`)).status
    expect([await found(taken), await found(left)]).toEqual([200, 404])
  })

  it('of a copy has the moment in common that both began from', async () => {
    const { data } = await ines.call<{ id: string }>('POST', `/api/trees/${now}/moments/1/copy`, {})
    await edit(ines, data.id, title('chairs', 'Chairs, 120'))
    expect(told(await compared(ines, data.id, { kind: 'tree', tree: now }))).toEqual(
      expect.arrayContaining(['chairs title here', 'music title there']),
    )
    // Grandmother and grandchild: what was done in the mother before the copy was done on the grandchild's side.
    expect(told(await compared(ines, data.id, { kind: 'tree', tree: old }))).toEqual(
      expect.arrayContaining(['chairs title both']),
    )
  })
})

describe('a file', () => {
  const fileOf = async (id: string): Promise<{ of: object; tree: Snapshot }> =>
    (await ines.call<{ of: object; tree: Snapshot }>('GET', `/api/trees/${id}/export/json`)).data

  it('that went elsewhere and came back changed is merged from the moment at which it went', async () => {
    const file = await fileOf(old)
    await edit(ines, old, { op: 'set', topic: 'lamps', field: 'due', value: '2027-05-02' })
    const text = JSON.stringify({
      ...file,
      tree: {
        ...file.tree,
        topics: file.tree.topics.map(topic => (topic.id === 'lamps' ? { ...topic, title: 'Lamps, warm' } : topic)),
      },
    })
    const comparison = await compared(ines, old, { kind: 'file', text })
    expect(told(comparison)).toEqual(['lamps title there', 'lamps due here'].sort().reverse())
    await ines.call('POST', `/api/trees/${old}/merge`, {
      with: { kind: 'file', text },
      at: comparison.version,
      take: ['lamps title'],
    })
    expect((await ines.open(old)).snapshot.topics.find(({ id }) => id === 'lamps')).toMatchObject({
      title: 'Lamps, warm',
      due: '2027-05-02',
    })
  })

  it('of another tree, one that is none, and one that claims a number that never was, do no harm', async () => {
    const other = await ines.makeTree('Budget')
    expect(
      await ines.refusal('POST', `/api/trees/${old}/compare`, {
        with: { kind: 'file', text: JSON.stringify(await fileOf(other)) },
      }),
    ).toBe('422 strangers')
    expect(await ines.refusal('POST', `/api/trees/${old}/compare`, { with: { kind: 'file', text: '{"a":' } })).toBe(
      '422 unreadable',
    )
    const file = await fileOf(old)
    const claims = { ...file, of: { ...file.of, number: 100_000 } }
    const comparison = await compared(ines, old, { kind: 'file', text: JSON.stringify(claims) })
    expect(comparison.sides.common).toBeNull()
    expect(told(comparison)).toEqual([])
    // Nobody’s name is learned by naming them in a file.
    const named = {
      ...file,
      tree: {
        ...file.tree,
        topics: file.tree.topics.map(topic =>
          topic.id === 'lamps' ? { ...topic, people: [stranger.id, ines.id] } : topic,
        ),
      },
    }
    const { names } = await compared(ines, old, { kind: 'file', text: JSON.stringify(named) })
    expect(names).toEqual({ [ines.id]: 'Ines Brandt' })
  })
})

describe('rights', () => {
  it('of both trees are asked for: reading the other, editing this one', async () => {
    const take = { with: { kind: 'tree', tree: now }, at: 1, take: ['music title'] }
    expect(await stranger.refusal('POST', `/api/trees/${old}/compare`, { with: take.with })).toBe('404 no-tree')
    const own = await rana.makeTree('Ours')
    expect(await rana.refusal('POST', `/api/trees/${own}/compare`, { with: { kind: 'tree', tree: old } })).toBe(
      '404 no-tree',
    )
    await bringIn(ines, old, rana, 'viewer')
    expect(await rana.refusal('POST', `/api/trees/${old}/merge`, take)).toBe('403 role')
    expect(await rana.refusal('POST', `/api/trees/${old}/compare`, { with: take.with })).toBe('404 no-tree')
    expect((await rana.call<{ trees: Kin[] }>('GET', `/api/trees/${old}/kin`)).data.trees).toEqual([])
    expect((await compared(rana, old, { kind: 'moment', number: 1 })).role).toBe('viewer')
  })

  it('a common moment in a tree one may not see isn’t told', async () => {
    const [first, second] = await Promise.all(
      [0, 1].map(async () => (await ines.call<{ id: string }>('POST', `/api/trees/${now}/moments/1/copy`, {})).data.id),
    )
    await bringIn(ines, first!, rana, 'editor')
    await bringIn(ines, second!, rana, 'editor')
    expect((await compared(ines, first!, { kind: 'tree', tree: second! })).sides.common).not.toBeNull()
    expect((await compared(rana, first!, { kind: 'tree', tree: second! })).sides.common).toBeNull()
  })
})
