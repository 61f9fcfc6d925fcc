import mysql from 'mysql2/promise'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { RunningVote } from '../../core/contract'
import type { Vote } from '../../core/tree'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'

let house: House
let ines: Caller
let rana: Caller
let carl: Caller
let viewer: Caller
let id: string

const ask = (vote: string, change: object = {}, who = ines) =>
  who.call('POST', `/api/trees/${id}/votes`, {
    id: vote,
    topic: 'floor',
    question: 'Carpet?',
    kind: 'yes-no',
    choices: ['Yes', 'No', 'Abstain'],
    secret: false,
    ...change,
  })
const cast = (who: Caller, vote: string, ...said: number[]) =>
  who.call<{ error?: { code: string } }>('POST', `/api/trees/${id}/votes/${vote}`, { cast: said })
const refused = (who: Caller, vote: string, ...said: number[]) =>
  who.refusal('POST', `/api/trees/${id}/votes/${vote}`, { cast: said })
const running = async (who = ines): Promise<RunningVote[]> =>
  (await who.call<RunningVote[]>('GET', `/api/trees/${id}/votes`)).data
const kept = async (): Promise<readonly Vote[]> =>
  ((await ines.open(id)).snapshot.topics.find(topic => topic.id === 'floor') as { votes?: readonly Vote[] }).votes ?? []
const close = (vote: string, who = ines) => who.call('POST', `/api/trees/${id}/votes/${vote}/close`)

beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
  rana = await signUp(house.url, 'Rana Tahiri')
  carl = await signUp(house.url, 'Carl Commenter')
  viewer = await signUp(house.url, 'Viola Viewer')
  id = await ines.makeTree()
  await bringIn(ines, id, rana, 'editor')
  await bringIn(ines, id, carl, 'commenter')
  await bringIn(ines, id, viewer, 'viewer')
  const { centre } = (await ines.open(id)).snapshot
  await ines.edit(id, [{ op: 'add', topic: 'floor', parent: centre, order: 'a0', with: { title: 'Floor' } }])
}, 60_000)
afterAll(() => house.close())

it('an open vote is heard of by everybody, said anew until it’s closed, and kept with the topic by name', async () => {
  const line = carl.line(id)
  await line.hello(0)
  const vote = newId()
  expect((await ask(vote)).status).toBe(200)
  await line.until(() => line.of('votes').length > 0, 'word of a vote')
  // The same once more asks once.
  expect((await ask(vote)).status).toBe(200)
  expect(await running(carl)).toMatchObject([{ id: vote, by: ines.id, voters: [], mine: null, counts: [0, 0, 0] }])
  await cast(carl, vote, 0, 1, 0)
  await cast(rana, vote, 1, 0, 0)
  await cast(carl, vote, 1, 0, 0)
  expect((await running(carl))[0]).toMatchObject({ mine: [1, 0, 0], counts: [2, 0, 0] })
  await close(vote)
  await line.close()
  expect(await running()).toEqual([])
  const [found] = await kept()
  expect(found).toMatchObject({ id: vote, question: 'Carpet?', secret: false, counts: [2, 0, 0], by: ines.id })
  expect(new Set(found!.voters)).toEqual(new Set([carl.id, rana.id]))
  expect(found!.casts).toEqual([
    [1, 0, 0],
    [1, 0, 0],
  ])
  // What stands in the record is in what goes out, too.
  const { data } = await ines.call<{ tree: { topics: object[] } }>('GET', `/api/trees/${id}/export/json`)
  expect(JSON.stringify(data.tree)).toContain('"Carpet?"')
})

it('of a secret vote nobody keeps who said what: not while it runs, not in the database, not afterwards', async () => {
  const vote = newId()
  await ask(vote, { secret: true, kind: 'order', choices: ['Cork', 'Carpet', 'Oak'] })
  await cast(carl, vote, 1, 2, 3)
  await cast(rana, vote, 1, 3, 2)
  expect(await refused(rana, vote, 3, 2, 1)).toBe('409 voted')
  expect((await running(rana))[0]).toMatchObject({ mine: null, counts: null, secret: true })
  expect(new Set((await running(rana))[0]!.voters)).toEqual(new Set([carl.id, rana.id]))
  const pool = await mysql.createConnection(house.databaseUrl)
  const [ballots] = (await pool.query('select user_id, cast from ballots where vote_id = ?', [vote])) as unknown as [
    { cast: unknown }[],
  ]
  expect(ballots.map(one => one.cast)).toEqual([null, null])
  await close(vote, rana)
  const [left] = (await pool.query('select count(*) as n from ballots')) as unknown as [{ n: number }[]]
  expect(left[0]!.n).toBe(0)
  await pool.end()
  expect((await kept()).find(one => one.id === vote)).toMatchObject({
    counts: [4, 1, 1],
    pairs: [
      [0, 2, 2],
      [0, 0, 1],
      [0, 1, 0],
    ],
    casts: null,
  })
})

it('many answers at once are all counted, and none after it was closed', async () => {
  const vote = newId()
  await ask(vote, { secret: true })
  const people = await Promise.all(Array.from({ length: 12 }, (_, i) => signUp(house.url, `Voter ${i}`)))
  for (const person of people) await bringIn(ines, id, person, 'commenter')
  const said = await Promise.all(
    people.flatMap(person => [cast(person, vote, 1, 0, 0), cast(person, vote, 0, 1, 0), cast(person, vote, 1, 0, 0)]),
  )
  expect(said.filter(({ status }) => status === 200)).toHaveLength(12)
  const [closing] = await Promise.all([close(vote), close(vote, rana), cast(carl, vote, 1, 0, 0)])
  expect(closing.status).toBe(200)
  expect(await refused(viewer, vote, 1, 0, 0)).toBe('403 role')
  expect(await refused(rana, vote, 1, 0, 0)).toBe('404 no-vote')
  const found = (await kept()).filter(one => one.id === vote)
  expect(found).toHaveLength(1)
  const sum = found[0]!.counts.reduce((all, one) => all + one, 0)
  expect(found[0]!.voters).toHaveLength(sum)
  expect(sum).toBeGreaterThanOrEqual(12)
}, 60_000)

describe('what isn’t a vote', () => {
  it('is refused: by role, by what it asks, by what it says', async () => {
    expect(await carl.refusal('POST', `/api/trees/${id}/votes`, { id: newId() })).toBe('403 role')
    const status = async (change: object): Promise<number> => (await ask(newId(), change)).status
    expect(await status({ choices: ['Yes'] })).toBe(400)
    expect(await status({ choices: ['Yes', 'Yes'] })).toBe(400)
    expect(await status({ topic: 'nothing' })).toBe(404)
    expect(await status({ kind: 'loudest' })).toBe(400)
    const vote = newId()
    await ask(vote, { kind: 'points', choices: ['a', 'b'], points: 5 })
    expect(await refused(carl, vote, 3, 3)).toBe('400 invalid')
    expect(await refused(carl, vote, 5)).toBe('400 invalid')
    expect(await refused(carl, vote, 1e9, 0)).toBe('400 invalid')
    expect(await carl.refusal('POST', `/api/trees/${id}/votes/${vote}/close`)).toBe('403 role')
    expect((await ask(vote, {}, rana)).status).toBe(409)
    expect((await ines.call('DELETE', `/api/trees/${id}/votes/${vote}`)).status).toBe(200)
    expect(await running()).toEqual([])
  })

  it('about a topic that is removed meanwhile is kept with it', async () => {
    await ines.edit(id, [{ op: 'add', topic: 'gone', parent: 'floor', order: 'a0', with: { title: 'Gone' } }])
    const vote = newId()
    await ask(vote, { topic: 'gone' })
    await cast(carl, vote, 0, 0, 1)
    await rana.edit(id, [{ op: 'remove', topic: 'gone' }])
    expect((await close(vote)).status).toBe(200)
    await ines.edit(id, [{ op: 'restore', topic: 'gone' }])
    const topic = (await ines.open(id)).snapshot.topics.find(one => one.id === 'gone') as { votes?: readonly Vote[] }
    expect(topic.votes).toMatchObject([{ id: vote, counts: [0, 0, 1] }])
  })
})

it('whoever hears that a vote is closed and asks at once finds it gone', async () => {
  for (let i = 0; i < 8; i++) {
    const vote = newId()
    await ask(vote)
    await cast(rana, vote, 1, 0, 0)
    const line = carl.line(id)
    await line.hello(0)
    const before = line.of('votes').length
    const closing = close(vote)
    await line.until(() => line.of('votes').length > before, 'word that it’s closed')
    expect((await running(carl)).map(one => one.id)).not.toContain(vote)
    expect((await closing).status).toBe(200)
    line.socket.close()
  }
})
