import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import mysql from 'mysql2/promise'
import type { NewsEdit } from '../../core/contract'
import { applyChanges, type Change, fromSnapshot, type Snapshot, toSnapshot, type Tree } from '../../core/tree'
import { type House, openHouse } from '../house'
import { type Caller, newId, signUp } from '../caller'

/*
 * The house is broken for real: processes are killed in the middle of a stream of edits. What was acknowledged must be
 * there.
 */
let house: House
let ines: Caller
beforeAll(async () => {
  house = await openHouse()
  ines = await signUp(house.url)
})
afterAll(() => house.close())

/** One edit that touches every kind of row: a topic, its people and markers, what has no column, the tree itself. */
const add = (topic: string, parent: string): Change[] => [
  { op: 'add', topic, parent, order: 'a0', with: { title: topic, due: '2027-05-12', people: ['ines'] } },
  { op: 'put', topic, set: 'markers', member: 'risk' },
  { op: 'set', topic, field: 'hue', value: '3' },
  { op: 'tree', field: 'description', value: topic },
]

/**
 * Sends edits as fast as they are answered, by several at once, until `stop` says so. Returns the topics that were
 * acknowledged.
 */
function stream(
  tree: string,
  centre: string,
  senders: number,
): { acknowledged: Set<string>; stop: () => Promise<void> } {
  const acknowledged = new Set<string>()
  let going = true
  let made = 0
  const work = Array.from({ length: senders }, async () => {
    while (going) {
      const topic = `t${made++}`
      const answer = await ines.tryEdit(tree, add(topic, centre)).catch(() => null)
      if (answer?.status === 200) acknowledged.add(topic)
      else await new Promise(done => setTimeout(done, 20))
    }
  })
  return {
    acknowledged,
    async stop() {
      going = false
      await Promise.all(work)
    },
  }
}

const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 1000 && !holds(); i++) await new Promise(done => setTimeout(done, 10))
  expect(holds()).toBe(true)
}

/** The whole log, applied by somebody who saw none of it as it was made. */
async function replay(tree: string, base: Snapshot): Promise<Tree> {
  const replayed = fromSnapshot(base)
  for (let since = 0; ;) {
    const { data } = await ines.call<{ edits: NewsEdit[] }>('GET', `/api/trees/${tree}/edits?since=${since}`)
    for (const { number, changes } of data.edits) {
      expect(number).toBe(since + 1)
      applyChanges(replayed, changes)
      since = number
    }
    if (data.edits.length === 0) return replayed
  }
}
const byId = (topics: readonly { id: string }[]): unknown[] => [...topics].sort((a, b) => (a.id < b.id ? -1 : 1))

/** What was acknowledged is there; and log, tree and every row of the database say the same. */
async function checkAll(tree: string, base: Snapshot, acknowledged: ReadonlySet<string>): Promise<void> {
  const { snapshot, version } = await ines.open(tree)
  const there = new Set(snapshot.topics.map(topic => topic.id))
  expect([...acknowledged].filter(topic => !there.has(topic))).toEqual([])
  const replayed = await replay(tree, base)
  expect(byId(toSnapshot(replayed).topics)).toEqual(byId(snapshot.topics))

  const database = await mysql.createConnection({ uri: house.databaseUrl })
  const rows = async <T>(sql: string): Promise<T[]> => (await database.query(sql, [tree]))[0] as T[]
  const [row] = await rows<{ version: number; topic_count: number; described: string }>(
    'select version, topic_count, json_value(fields, "$.description") as described from trees where id = ?',
  )
  expect(row).toEqual({ version, topic_count: replayed.topics.size, described: replayed.fields.description })
  const topics = [...replayed.topics.values()].sort((a, b) => (a.id < b.id ? -1 : 1))
  expect(
    await rows(
      'select id, parent, order_key as `order`, removed, title, due, json_value(rest, "$.hue") as hue from topics where tree_id = ? order by id',
    ),
  ).toEqual(
    topics.map(({ id, parent, order, removed, title, due, hue }) => ({
      id,
      parent,
      order,
      removed: Number(removed),
      title,
      due,
      hue,
    })),
  )
  for (const [set, table, column] of [
    ['people', 'topic_people', 'user_id'],
    ['markers', 'topic_markers', 'marker'],
  ] as const)
    expect(
      await rows(`select topic_id as id, ${column} as member from ${table} where tree_id = ? order by topic_id, place`),
    ).toEqual(topics.flatMap(topic => topic[set].map(member => ({ id: topic.id, member }))))
  expect((await rows<{ n: number }>('select count(*) as n from edit_topics where tree_id = ?'))[0]!.n).toBe(version)
  await database.end()
}

describe('nothing acknowledged is lost', () => {
  it('when the app is killed with edits in hand', async () => {
    const tree = await ines.makeTree()
    const base = (await ines.open(tree)).snapshot
    const { centre } = base
    const running = stream(tree, centre, 8)
    await until(() => running.acknowledged.size > 150)
    await house.killApp('SIGKILL')
    const before = running.acknowledged.size
    await house.startApp()
    await until(() => running.acknowledged.size > before + 50)
    await running.stop()
    await checkAll(tree, base, running.acknowledged)
  })

  it('when MariaDB is killed with edits in hand; the app says so and goes on by itself', async () => {
    const tree = await ines.makeTree()
    const base = (await ines.open(tree)).snapshot
    const { centre } = base
    const running = stream(tree, centre, 8)
    await until(() => running.acknowledged.size > 150)
    await house.killDatabase()
    expect(
      await ines.refusal('POST', `/api/trees/${tree}/edits`, { id: newId(), changes: add('while-away', centre) }),
    ).toBe('503 unavailable')
    expect(await ines.refusal('GET', '/api/trees')).toBe('503 unavailable')
    const before = running.acknowledged.size
    await house.startDatabaseAgain()
    await until(() => running.acknowledged.size > before + 50)
    await running.stop()
    await checkAll(tree, base, running.acknowledged)
  })

  it('when the app is asked to stop: edits in hand are finished first', async () => {
    const tree = await ines.makeTree()
    const base = (await ines.open(tree)).snapshot
    const { centre } = base
    const line = ines.line(tree)
    await line.hello(0)
    const running = stream(tree, centre, 8)
    await until(() => running.acknowledged.size > 60)
    await house.killApp('SIGTERM')
    await line.until(() => line.closed !== null)
    expect(line.closed!.code).toBe(1012)
    await house.startApp()
    await running.stop()
    await checkAll(tree, base, running.acknowledged)
  })

  it('a client that comes back with an old number hears just what it missed', async () => {
    const tree = await ines.makeTree()
    const { centre } = (await ines.open(tree)).snapshot
    const line = ines.line(tree)
    await line.hello(0)
    for (let i = 0; i < 20; i++) line.say({ type: 'edit', edit: { id: `a${i}`, changes: add(`a${i}`, centre) } })
    await line.until(() => line.numbers().length === 20)
    line.socket.terminate()
    for (let i = 0; i < 15; i++) await ines.edit(tree, add(`b${i}`, centre))
    await house.killApp('SIGKILL')
    await house.startApp()
    const back = ines.line(tree)
    await back.hello(20)
    await back.until(() => back.numbers().length === 15)
    // What it sends again because the answer got lost counts once.
    back.say({ type: 'edit', edit: { id: 'a7', changes: add('a7', centre) } })
    await back.until(() => back.of('news').some(news => news.edits[0]!.id === 'a7'))
    expect((await ines.open(tree)).version).toBe(35)
    await back.close()
  })

  it('what the database can’t hold is refused for good, and keeps nobody else’s edits from being stored', async () => {
    const tree = await ines.makeTree()
    const { centre } = (await ines.open(tree)).snapshot
    const connection = await mysql.createConnection(house.databaseUrl)
    await connection.query(
      `create trigger too_small before insert on topics for each row
       if new.title = 'unstorable' then signal sqlstate '22001'; end if`,
    )
    const line = ines.line(tree)
    await line.hello(0)
    const edits = ['before', 'unstorable', 'after'].map(title => ({ id: newId(), changes: add(title, centre) }))
    for (const edit of edits) line.say({ type: 'edit', edit })
    await line.until(() => line.of('refused').length > 0 && line.numbers().length === 2)
    expect(line.of('refused')).toMatchObject([{ edit: edits[1]!.id, code: 'unstorable' }])
    await line.close()
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits`, edits[1])).toBe('422 unstorable')
    await connection.query('drop trigger too_small')
    // Of what is said as well.
    await connection.query("create trigger too_small before insert on comments for each row signal sqlstate '22001'")
    const comment = newId()
    const saying = { id: newId(), op: 'say', comment, thread: comment, place: { on: 'topic', topic: centre } }
    const body = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Wide enough?' }] }] }
    expect(await ines.refusal('POST', `/api/trees/${tree}/talk`, { ...saying, body })).toBe('422 unstorable')
    await connection.query('drop trigger too_small')
    await connection.end()
    const titles = (await ines.open(tree)).snapshot.topics.map(({ title }) => title)
    expect(titles.sort()).toEqual(['Move to the tannery', 'after', 'before'])
    // It was refused, not remembered: the same goes through once there is room for it.
    await ines.edit(tree, edits[1]!.changes, edits[1]!.id)
  })

  it('a tree of many edits opens from a snapshot and the few edits after it', async () => {
    const tree = await ines.makeTree()
    const { centre } = (await ines.open(tree)).snapshot
    for (let i = 0; i < 60; i++)
      await ines.edit(tree, Array.from({ length: 20 }, (_, k) => add(`m${i}-${k}`, centre)).flat())
    const before = (await ines.open(tree)).snapshot
    await house.killApp('SIGKILL')
    await house.startApp()
    const after = (await ines.open(tree)).snapshot
    const sorted = (snapshot: Snapshot): unknown => [...snapshot.topics].sort((a, b) => (a.id < b.id ? -1 : 1))
    expect(sorted(after)).toEqual(sorted(before))
    const connection = await mysql.createConnection(house.databaseUrl)
    const [rows] = (await connection.query('select count(*) as n from snapshots where tree_id = ?', [
      tree,
    ])) as unknown as [{ n: number }[]]
    await connection.end()
    expect(rows[0]!.n).toBeGreaterThan(1)
  })
})
