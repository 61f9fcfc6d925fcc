import mysql from 'mysql2/promise'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ToldCount, ToldWays, TidingsPage } from '../../core/contract'
import type { Body } from '../../core/talk/body'
import { bodyOf } from '../../core/talk/body'
import { grouped, tidingsInWords } from '../../core/telling/grouped'
import { TOLD_KINDS, USUAL_WAYS, type Ways } from '../../core/telling/kinds'
import type { Change } from '../../core/tree'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'

let house: House
let ines: Caller
let rana: Caller
let carl: Caller
let id: string
let centre: string

const listOf = async (who: Caller): Promise<TidingsPage> => (await who.call<TidingsPage>('GET', '/api/told')).data
/** What somebody hasn't read, in words, newest first. */
const told = async (who: Caller): Promise<string[]> =>
  grouped((await listOf(who)).all.filter(({ read }) => !read)).map(tidingsInWords)
const countOf = async (who: Caller): Promise<ToldCount> => (await who.call<ToldCount>('GET', '/api/told/count')).data
const clear = async (who: Caller): Promise<void> => {
  await who.call('POST', '/api/told/read', { upTo: 2 ** 40 })
}
const waysOf = async (who: Caller): Promise<ToldWays> => (await who.call<ToldWays>('GET', '/api/told/ways')).data
const setWays = (who: Caller, change: Partial<Ways['kinds']>, more: Partial<Ways> = {}) =>
  who.call('PATCH', '/api/told/ways', {
    ...USUAL_WAYS,
    quiet: null,
    ...more,
    kinds: { ...USUAL_WAYS.kinds, ...change },
  })
const eventually = (who: Caller) => expect.poll(() => told(who), { timeout: 15_000, interval: 100 })
/** Time for what must not be told to be told all the same. */
async function nothingMore(who: Caller, thenTells: () => Promise<unknown>, words: string): Promise<void> {
  await thenTells()
  await eventually(who).toEqual([words])
}
const named = (person: Caller, words = 'look'): Body => ({
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'person', attrs: { id: person.id, label: 'x' } },
        { type: 'text', text: ` ${words}` },
      ],
    },
  ],
})
function say(who: Caller, body: Body, thread?: string, comment = newId()) {
  const place = thread ? {} : { place: { on: 'topic', topic: 'lift' } }
  return who.call('POST', `/api/trees/${id}/talk`, {
    id: newId(),
    op: 'say',
    comment,
    thread: thread ?? comment,
    ...place,
    body,
  })
}
const put = (topic: string, member: string): Change => ({ op: 'put', topic, set: 'people', member })
const due = (topic: string, value: string): Change => ({ op: 'set', topic, field: 'due', value })

beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
  rana = await signUp(house.url, 'Rana Tahiri')
  carl = await signUp(house.url, 'Carl Commenter')
  id = await ines.makeTree()
  await bringIn(ines, id, rana, 'editor')
  await bringIn(ines, id, carl, 'commenter')
  centre = (await ines.open(id)).snapshot.centre
  await ines.edit(id, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'bolt', parent: 'lift', order: 'a0', with: { title: 'Bolt' } },
    { op: 'add', topic: 'lamps', parent: centre, order: 'a1', with: { title: 'Lamps' } },
  ])
}, 60_000)
afterAll(() => house.close())

it('an invitation is told in the app as well, and what one may do now', async () => {
  await eventually(rana).toEqual(['Ines Brandt invites you to “Move to the tannery”'])
  await clear(rana)
  await clear(carl)
  expect(await countOf(rana)).toMatchObject({ count: 0, newest: 0 })
  await ines.call('PUT', `/api/trees/${id}/members/${carl.id}`, { role: 'viewer' })
  await ines.call('PUT', `/api/trees/${id}/members/${carl.id}`, { role: 'commenter' })
  await eventually(carl).toEqual(['Ines Brandt made you commenter of “Move to the tannery”'])
  await clear(carl)
})

it('tasks, dates, mentions and replies of others are told, once, and never one’s own', async () => {
  const comment = newId()
  await ines.edit(id, [put('lift', rana.id), put('lift', ines.id)])
  await rana.edit(id, [due('lift', '2026-05-12')])
  await say(rana, named(carl, 'is it wide enough?'), undefined, comment)
  await say(carl, bodyOf('By 4 cm.'), comment)
  await eventually(rana).toEqual(['Carl Commenter replied on “Lift”', 'Ines Brandt put you on “Lift”'])
  await eventually(carl).toEqual(['Rana Tahiri mentioned you on “Lift”'])
  await eventually(ines).toEqual(['Rana Tahiri set the due date of “Lift” to 12 May 2026'])
  expect((await listOf(carl)).all.find(({ kind }) => kind === 'mention')!.said).toEqual({
    thread: comment,
    words: '@x is it wide enough?',
  })
  // Read on one device is read on all.
  const other = rana.line(id)
  await other.hello(0)
  await rana.call('POST', '/api/told/read', { ids: (await listOf(rana)).all.map(one => one.id) })
  await other.until(() => other.of('told').length > 0, 'the word that it was read')
  await other.close()
  expect((await countOf(rana)).count).toBe(0)
  // The comments of a topic that are looked at are read with it; the rest isn't.
  await ines.edit(id, [put('lift', carl.id)])
  await eventually(carl).toHaveLength(2)
  await carl.call('POST', '/api/told/read', { tree: id, topic: 'lift' })
  expect(await told(carl)).toEqual(['Ines Brandt put you on “Lift”'])
  await clear(carl)
  await clear(ines)
})

it('a comment that is withdrawn is told no more; one that is taken out of a tree hears nothing of it', async () => {
  const comment = newId()
  await say(rana, named(carl, 'the secret'), undefined, comment)
  await eventually(carl).toHaveLength(1)
  await rana.call('POST', `/api/trees/${id}/talk`, { id: newId(), op: 'withdraw', comment })
  await eventually(carl).toEqual([])
  await say(rana, named(carl, 'again'))
  await eventually(carl).toHaveLength(1)
  await ines.call('DELETE', `/api/trees/${id}/members/${carl.id}`)
  expect(await told(carl)).toEqual(['Ines Brandt took you out of “Move to the tannery”'])
  await bringIn(ines, id, carl, 'commenter')
  await clear(carl)
})

it('what is never to be told isn’t; what isn’t a way is refused', async () => {
  await setWays(carl, { mention: 'never' })
  expect((await waysOf(carl)).ways.kinds.mention).toBe('never')
  await say(rana, named(carl, 'are you there?'))
  await nothingMore(carl, () => ines.edit(id, [put('lamps', carl.id)]), 'Ines Brandt put you on “Lamps”')
  await clear(carl)
  await setWays(carl, {})
  // Many choices at once, of one hand or of two devices: all of them hold.
  await Promise.all(
    [
      ...TOLD_KINDS.map(kind => ({ kinds: { [kind]: 'never' } })),
      { letters: false },
      { quiet: { from: '21:00', to: '06:00' } },
    ].map(change => carl.call('PATCH', '/api/told/ways', change)),
  )
  expect((await waysOf(carl)).ways).toEqual({
    kinds: Object.fromEntries(TOLD_KINDS.map(kind => [kind, 'never'])),
    letters: false,
    quiet: { from: '21:00', to: '06:00' },
  })
  await setWays(carl, { ...USUAL_WAYS.kinds })
  expect((await waysOf(carl)).ways).toEqual({ ...USUAL_WAYS, quiet: null })
  const bad = { ...USUAL_WAYS, quiet: { from: 'noon', to: '07:00' } }
  expect(await carl.refusal('PATCH', '/api/told/ways', bad)).toBe('400 invalid')
  expect(await carl.refusal('POST', '/api/told/read', {})).toBe('400 invalid')
})

it('a change of thousands of topics at once is told as one matter', async () => {
  const topics = Array.from({ length: 3000 }, (_, i) => `d${i}`)
  const order = (i: number): string => `c${String(i).padStart(4, '0')}V`
  await ines.edit(
    id,
    topics.map((topic, i): Change => ({
      op: 'add',
      topic,
      parent: 'lift',
      order: order(i),
      with: { title: topic, ...(i < 2 ? { people: [rana.id] } : {}) },
    })),
  )
  await eventually(rana).toEqual(['Ines Brandt put you on “d1” and 1 more'])
  await clear(rana)
  await ines.edit(
    id,
    topics.map(topic => due(topic, '2026-06-01')),
  )
  await eventually(rana).toEqual(['Ines Brandt moved dates of “d1” and 1 more'])
  await clear(rana)
})

it('a date says what it was; whoever was on what went with a branch is told', async () => {
  await ines.edit(id, [
    { op: 'add', topic: 'hall', parent: centre, order: 'a2', with: { title: 'Hall' } },
    {
      op: 'add',
      topic: 'door',
      parent: 'hall',
      order: 'a0',
      with: { title: 'Door', people: [rana.id], due: '2027-05-12' },
    },
    { op: 'add', topic: 'old', parent: 'hall', order: 'a1', with: { title: 'Old door', people: [rana.id] } },
  ])
  await eventually(rana).toEqual(['Ines Brandt put you on “Old door” and 1 more'])
  await clear(rana)
  await ines.edit(id, [{ op: 'remove', topic: 'old' }])
  await eventually(rana).toEqual(['Ines Brandt took away “Old door”, which you were on'])
  await clear(rana)
  await ines.edit(id, [due('door', '2027-05-14')])
  await eventually(rana).toEqual(['Ines Brandt moved the due date of “Door” from 12 May 2027 to 14 May 2027'])
  await clear(rana)
  // Of the branch, what had gone before isn't told again.
  await ines.edit(id, [{ op: 'remove', topic: 'hall' }])
  await eventually(rana).toEqual(['Ines Brandt took away “Door”, which you were on'])
  await clear(rana)
})

it('what could not be told when it happened is told a little later, though nobody does anything more', async () => {
  const direct = await mysql.createConnection(house.databaseUrl)
  await direct.query('rename table tellings to tellings_aside')
  await ines.edit(id, [put('lamps', rana.id)])
  await expect.poll(() => house.said(), { timeout: 15_000 }).toContain('could not be told')
  await direct.query('rename table tellings_aside to tellings')
  await direct.end()
  await eventually(rana).toEqual(['Ines Brandt put you on “Lamps”'])
  await clear(rana)
})

describe('what is watched', () => {
  it('is told where something is moved out of it', async () => {
    await carl.call('PUT', `/api/trees/${id}/watched/lift`)
    await rana.edit(id, [{ op: 'place', topic: 'bolt', parent: 'lamps', order: 'a0' }])
    await eventually(carl).toEqual(['Rana Tahiri changed “Lift”'])
    await clear(carl)
    await rana.edit(id, [{ op: 'place', topic: 'bolt', parent: 'lift', order: 'a0' }])
    await eventually(carl).toEqual(['Rana Tahiri changed “Lift”'])
    // A copy has no log of how it was made: then the tree as it was tells.
    const copy = (
      await carl.call<{ id: string }>('POST', `/api/trees/${id}/duplicate`, {
        notes: true,
        people: true,
        dates: true,
        progress: true,
        shift: 0,
      })
    ).data.id
    const lamps = (await carl.open(copy)).snapshot.topics
    const [lift, bolt, to] = ['Lift', 'Bolt', 'Lamps'].map(title => lamps.find(one => one.title === title)!.id)
    await bringIn(carl, copy, rana, 'editor')
    await carl.call('PUT', `/api/trees/${copy}/watched/${lift}`)
    await clear(carl)
    await rana.edit(copy, [{ op: 'place', topic: bolt!, parent: to!, order: 'a5' }])
    await eventually(carl).toEqual(['Rana Tahiri changed “Lift”'])
    await clear(carl)
    await carl.call('DELETE', `/api/trees/${id}/watched/lift`)
    await carl.call('DELETE', `/api/trees/${copy}/watched/${lift}`)
    // That she was asked into the copy.
    await clear(rana)
  })

  it('is told by where a topic was when it was changed, not by where it was moved to right after', async () => {
    await carl.call('PUT', `/api/trees/${id}/watched/lift`)
    await ines.edit(id, [{ op: 'place', topic: 'bolt', parent: 'lamps', order: 'a0' }])
    await eventually(carl).toEqual(['Ines Brandt changed “Lift”'])
    await clear(carl)
    // Within one round of telling: renamed elsewhere twice, and moved in by a third edit.
    for (const changes of [
      { op: 'set', topic: 'bolt', field: 'title', value: 'Bolt, M8' },
      { op: 'set', topic: 'bolt', field: 'title', value: 'Bolt' },
      { op: 'place', topic: 'bolt', parent: 'lift', order: 'a0' },
    ] satisfies Change[])
      await ines.edit(id, [changes])
    await eventually(carl).toEqual(['Ines Brandt changed “Lift”'])
    await clear(carl)
    await carl.call('DELETE', `/api/trees/${id}/watched/lift`)
  })

  it('is told when others change it or what is below, together, until it’s seen', async () => {
    expect((await carl.call('PUT', `/api/trees/${id}/watched/lift`)).status).toBe(200)
    await carl.call('PUT', `/api/trees/${id}/watched/lift`)
    expect((await carl.call('GET', `/api/trees/${id}/watched`)).data).toEqual(['lift'])
    expect((await waysOf(carl)).watching).toEqual([
      { tree: { id, title: 'Move to the tannery' }, topic: { id: 'lift', title: 'Lift' }, watched: 'lift' },
    ])
    for (const value of ['Bolts', 'Bolts, M8', 'Bolts, M10'])
      await rana.edit(id, [{ op: 'set', topic: 'bolt', field: 'title', value }])
    await rana.edit(id, [{ op: 'set', topic: 'lamps', field: 'title', value: 'All lamps' }])
    await eventually(carl).toEqual(['Rana Tahiri changed “Lift” 3 times'])
    await carl.call('POST', `/api/trees/${id}/seen`, { version: 1 })
    expect(await told(carl)).toEqual([])
    // At the centre it's the whole tree; oneself is told nothing of one's own.
    await rana.call('PUT', `/api/trees/${id}/watched/${centre}`)
    await rana.edit(id, [{ op: 'set', topic: 'lamps', field: 'title', value: 'Lamps' }])
    await nothingMore(
      rana,
      () => ines.edit(id, [{ op: 'tree', field: 'description', value: 'From May on' }]),
      'Ines Brandt changed “Move to the tannery”',
    )
    await clear(rana)
    await carl.call('DELETE', `/api/trees/${id}/watched/lift`)
    await rana.call('DELETE', `/api/trees/${id}/watched/${centre}`)
    expect((await waysOf(carl)).watching).toEqual([])
  })

  it('must be in a tree that is open to one', async () => {
    const stranger = await signUp(house.url, 'Stranger')
    expect(await stranger.refusal('PUT', `/api/trees/${id}/watched/lift`)).toBe('404 no-tree')
    expect(await carl.refusal('PUT', `/api/trees/${id}/watched/nothing`)).toBe('404 no-topic')
  })
})

it('of two hundred edits and words at once nothing is missed and nothing told twice, though the house falls in between', async () => {
  await clear(rana)
  const members = Array.from({ length: 100 }, (_, i) => `t${i}`)
  await ines.edit(
    id,
    members.map((topic, i): Change => ({
      op: 'add',
      topic,
      parent: centre,
      order: `b${String(i).padStart(3, '0')}V`,
      with: { title: topic },
    })),
  )
  const comment = newId()
  await say(ines, bodyOf('All of it'), undefined, comment)
  const work = members.flatMap(topic => [ines.edit(id, [put(topic, rana.id)]), say(ines, named(rana), comment)])
  await Promise.all(work)
  await house.killApp('SIGKILL')
  await house.startApp()
  await expect.poll(async () => (await countOf(rana)).count, { timeout: 20_000 }).toBe(200)
  const seen: number[] = []
  let before: number | null = null
  do {
    const page: TidingsPage = (
      await rana.call<TidingsPage>('GET', before === null ? '/api/told' : `/api/told?before=${before}`)
    ).data
    seen.push(...page.all.filter(({ read }) => !read).map(one => one.id))
    before = page.next
  } while (before !== null)
  expect(new Set(seen).size).toBe(200)
  expect(await told(rana)).toEqual(
    expect.arrayContaining([expect.stringMatching(/^Ines Brandt mentioned you \d+ times on “Lift”$/)]),
  )
  await clear(rana)
}, 60_000)

describe('letters', () => {
  const mine = async (who: Caller): Promise<{ subject: string; body: string }[]> =>
    (await who.call<{ subject: string; body: string }[]>('GET', '/api/letters')).data.filter(
      ({ subject }) => !/invites|Welcome|Confirm/.test(subject),
    )
  /** As if all of it had happened a while ago. */
  async function later(): Promise<void> {
    const pool = await mysql.createConnection(house.databaseUrl)
    await pool.query('update tellings set at = at - interval 10 minute where written_at is null')
    await pool.query("update telling_ways set now_at = now_at - interval 1 hour, daily_on = '2020-01-01'")
    await pool.end()
    await house.killApp('SIGTERM')
    await house.startApp()
  }

  it('come at once or once a day, with the words, and once; not of what was read, nor in quiet hours', async () => {
    await setWays(rana, { date: 'never' })
    await setWays(carl, {}, { quiet: { from: '00:00', to: '23:59' } })
    await carl.call('PUT', `/api/trees/${id}/watched/lift`)
    await say(ines, named(rana, 'is the shaft wide enough?'))
    await say(ines, named(carl, 'hush'))
    await eventually(rana).toHaveLength(1)
    await eventually(carl).toHaveLength(1)
    await later()
    await expect.poll(() => mine(rana), { timeout: 15_000 }).toHaveLength(1)
    const [letter] = await mine(rana)
    expect(letter!.subject).toBe('Ines Brandt mentioned you on “Lift”')
    expect(letter!.body).toContain('“@x is the shaft wide enough?”')
    expect(letter!.body).toContain(`/trees/${id}?topic=lift&panel=comments`)
    await later()
    expect(await mine(rana)).toHaveLength(1)
    expect(await mine(carl)).toEqual([])
    // What is read needs no letter.
    await clear(carl)
    await setWays(carl, { watched: 'now' })
    await ines.edit(id, [{ op: 'set', topic: 'bolt', field: 'title', value: 'Bolts, M12' }])
    await eventually(carl).toHaveLength(1)
    await later()
    await expect.poll(() => mine(carl), { timeout: 15_000 }).toHaveLength(1)
    const [watched] = await mine(carl)
    expect(watched!.subject).toBe('Ines Brandt changed “Lift”')
    expect(watched!.body).toContain('changed: Bolts, M12 – title (Move to the tannery › Lift)')
  }, 90_000)
})
