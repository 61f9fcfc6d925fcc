import mysql from 'mysql2/promise'
import { afterAll, describe, expect, inject, it } from 'vitest'
import { applyChanges, type Change, fromSnapshot, LIMITS, toSnapshot } from '../../core/tree'
import { bringIn, newId, signUp } from '../caller'

const url = inject('url')
const pool = mysql.createPool({ uri: inject('databaseUrl'), timezone: 'Z' })
afterAll(() => pool.end())

const add = (topic: string, parent: string, title: string, order = 'a0'): Change => ({
  op: 'add',
  topic,
  parent,
  order,
  with: { title },
})

describe('trees', () => {
  it('new, list, rename, to the trash and back', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Fit-out')
    const list = async (scope: string): Promise<string[]> =>
      (await ines.call<{ id: string }[]>('GET', `/api/trees?scope=${scope}`)).data.map(one => one.id)
    expect(await list('mine')).toEqual([tree])
    await ines.call('PATCH', `/api/trees/${tree}`, { title: 'Fit-out of the tannery' })
    expect((await ines.call<{ title: string }[]>('GET', '/api/trees')).data[0]!.title).toBe('Fit-out of the tannery')
    await ines.call('DELETE', `/api/trees/${tree}`)
    expect([await list('all'), await list('trash')]).toEqual([[], [tree]])
    expect((await ines.tryEdit(tree, [add('a', (await ines.open(tree)).snapshot.centre, 'x')])).data.error?.code).toBe(
      'trashed',
    )
    await ines.call('POST', `/api/trees/${tree}/restore`)
    expect(await list('all')).toEqual([tree])
  })

  it('what is shared shows under shared, and to members alone', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url)]
    const tree = await ines.makeTree()
    expect((await rana.call('GET', '/api/trees')).data).toEqual([])
    await bringIn(ines, tree, rana, 'editor')
    expect((await rana.call<{ id: string }[]>('GET', '/api/trees?scope=shared')).data.map(one => one.id)).toEqual([
      tree,
    ])
    expect((await rana.call('GET', '/api/trees?scope=mine')).data).toEqual([])
  })
})

describe('what is worked out', () => {
  it('is the same on the server after each edit, for whoever may look', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { centre } = (await ines.open(tree)).snapshot
    const rollUps = async (): Promise<Record<string, [number, number, number | null]>> =>
      Object.fromEntries(
        (
          await ines.call<{ topic: string; tasks: number; done: number; percent: number | null }[]>(
            'GET',
            `/api/trees/${tree}/roll-ups`,
          )
        ).data.map(({ topic, tasks, done, percent }) => [topic, [done, tasks, percent]]),
      )
    expect(await rollUps()).toEqual({})
    await ines.edit(tree, [add('lift', centre, 'Lift'), add('shaft', 'lift', 'Shaft'), add('cab', 'lift', 'Cab', 'a1')])
    await ines.edit(tree, [
      { op: 'set', topic: 'shaft', field: 'done', value: 100 },
      { op: 'set', topic: 'cab', field: 'done', value: 50 },
    ])
    expect(await rollUps()).toEqual({ [centre]: [1, 2, 75], lift: [1, 2, 75] })
    await ines.edit(tree, [{ op: 'remove', topic: 'cab' }])
    expect(await rollUps()).toEqual({ [centre]: [1, 1, 100], lift: [1, 1, 100] })
    // One that is refused in the middle leaves nothing behind.
    const refused = await ines.tryEdit(tree, [
      { op: 'set', topic: 'shaft', field: 'done', value: 0 },
      { op: 'set', topic: 'nowhere', field: 'done', value: 0 },
    ])
    expect(refused.status).toBe(409)
    expect(await rollUps()).toEqual({ [centre]: [1, 1, 100], lift: [1, 1, 100] })
    expect(await (await signUp(url)).refusal('GET', `/api/trees/${tree}/roll-ups`)).toBe('404 no-tree')
  })
})

describe('the door', () => {
  it('numbers edits, counts one id once, and keeps rows as they are now', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const {
      snapshot: { centre },
    } = await ines.open(tree)
    const changes: Change[] = [
      add('a', centre, 'Shelving'),
      { op: 'put', topic: 'a', set: 'people', member: ines.id },
      { op: 'put', topic: 'a', set: 'markers', member: 'at-risk' },
    ]
    const first = await ines.edit(tree, changes, 'edit-1')
    const again = await ines.edit(tree, changes, 'edit-1')
    expect([first, again]).toEqual([1, 1])
    // Other changes under an id that was used are refused, not taken for made.
    expect((await ines.tryEdit(tree, [add('b', centre, 'Lamps')], 'edit-1')).data.error?.code).toBe('edit-id')
    const both = await Promise.all(
      [add('c', centre, 'One'), add('d', centre, 'Two')].map(one => ines.tryEdit(tree, [one], 'edit-2')),
    )
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409])
    await ines.edit(tree, [{ op: 'remove', topic: both[0]!.status === 200 ? 'c' : 'd' }])
    await ines.edit(tree, [
      { op: 'set', topic: 'a', field: 'due', value: '2027-05-12' },
      { op: 'take', topic: 'a', set: 'markers', member: 'at-risk' },
    ])
    const [rows] = await pool.query('select title, due, removed from topics where tree_id = ? and id = ?', [tree, 'a'])
    expect(rows).toEqual([{ title: 'Shelving', due: '2027-05-12', removed: 0 }])
    expect((await pool.query('select user_id from topic_people where tree_id = ?', [tree]))[0]).toEqual([
      { user_id: ines.id },
    ])
    expect((await pool.query('select * from topic_markers where tree_id = ?', [tree]))[0]).toEqual([])
    expect((await ines.call<{ tasks: { id: string }[] }>('GET', '/api/home')).data.tasks.map(task => task.id)).toEqual([
      'a',
    ])
    await ines.edit(tree, [{ op: 'remove', topic: 'a' }])
    expect((await ines.call<{ tasks: unknown[] }>('GET', '/api/home')).data.tasks).toEqual([])
  })

  it.each<[string, (centre: string) => unknown, string]>([
    ['a topic that is missing', () => [{ op: 'set', topic: 'zz', field: 'title', value: 'x' }], '409 missing'],
    ['a topic twice', c => [add('a', c, 'x'), add('a', c, 'y')], '409 exists'],
    [
      'a loop',
      c => [add('a', c, 'x'), add('b', 'a', 'y'), { op: 'place', topic: 'a', parent: 'b', order: 'a0' }],
      '409 loop',
    ],
    ['the centre removed', c => [{ op: 'remove', topic: c }], '409 centre'],
    ['a field of no topic', c => [{ op: 'set', topic: c, field: 'id', value: 'x' }], '400 invalid'],
    ['__proto__ as a field', c => [{ op: 'set', topic: c, field: '__proto__', value: 'x' }], '400 invalid'],
    ['a day that is none', c => [{ op: 'set', topic: c, field: 'due', value: '2027-02-30' }], '400 invalid'],
    ['done over 100', c => [{ op: 'set', topic: c, field: 'done', value: 101 }], '400 invalid'],
    [
      'a title over 10,000 characters',
      c => [{ op: 'set', topic: c, field: 'title', value: 'x'.repeat(10_001) }],
      '400 invalid',
    ],
    ['half a character', c => [{ op: 'set', topic: c, field: 'title', value: '\ud83d' }], '400 invalid'],
    [
      'an address that runs something',
      c => [{ op: 'put', topic: c, set: 'links', member: { id: 'l', url: ' java\nscript:alert(1)', title: '' } }],
      '400 invalid',
    ],
    ['a note of noise', c => [{ op: 'note', topic: c, update: 'AQH/////' }], '409 note'],
    [
      'an order key that breaks the order',
      c => [{ op: 'add', topic: 'a', parent: c, order: "'; drop table topics" }],
      '400 invalid',
    ],
    ['no changes', () => [], '400 invalid'],
    ['an unknown change', c => [{ op: 'explode', topic: c }], '400 invalid'],
  ])('refuses %s and changes nothing', async (_, changes, refusal) => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const before = await ines.open(tree)
    expect(
      await ines.refusal('POST', `/api/trees/${tree}/edits`, { id: newId(), changes: changes(before.snapshot.centre) }),
    ).toBe(refusal)
    expect(await ines.open(tree)).toEqual(before)
  })

  it('refuses more than 2 MB by REST and by the line, and goes on', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const {
      snapshot: { centre },
    } = await ines.open(tree)
    const changes = Array.from({ length: 300 }, (_, i) => add(`t${i}`, centre, 'x'.repeat(9000)))
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits`, { id: newId(), changes })).toBe('413 too-long')
    const line = ines.line(tree)
    await line.hello(0)
    line.say({ type: 'edit', edit: { id: 'big', changes } })
    // Cut off while it arrives (RFC 6455, section 7.4.1: 1009), so that nobody fills the memory with one.
    await line.until(() => line.closed !== null)
    expect(line.closed!.code).toBe(1009)
    const next = ines.line(tree)
    await next.hello(0)
    next.say({ type: 'edit', edit: { id: 'small', changes: [add('a', centre, 'x')] } })
    await next.until(() => next.numbers().includes(1))
    await next.close()
  })

  it('holds 100,000 topics and refuses one more, in words', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Many')
    const {
      snapshot: { centre },
    } = await ines.open(tree)
    const topics = Array.from({ length: LIMITS.topics - 1 }, (_, i) =>
      add(`t${i}`, i < 100 ? centre : `t${i % 100}`, ''),
    )
    for (let at = 0; at < topics.length; at += 10_000) await ines.edit(tree, topics.slice(at, at + 10_000))
    expect(
      await ines.refusal('POST', `/api/trees/${tree}/edits`, { id: newId(), changes: [add('one-more', centre, 'x')] }),
    ).toBe('409 full')
    await ines.edit(tree, [{ op: 'set', topic: centre, field: 'title', value: 'Full' }])
  }, 120_000)

  it('a lone edit that asks for what the database can’t hold doesn’t take its neighbours along', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const {
      snapshot: { centre },
    } = await ines.open(tree)
    const results = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        ines.tryEdit(tree, [
          i === 7 ? { op: 'set', topic: 'zz', field: 'title', value: 'x' } : add(`n${i}`, centre, `n${i}`),
        ]),
      ),
    )
    expect(results.map(result => result.status).filter(status => status === 200)).toHaveLength(19)
    expect(results[7]!.status).toBe(409)
    expect(
      results
        .filter(result => result.status === 200)
        .map(result => result.data.number)
        .sort((a, b) => a - b),
    ).toEqual(Array.from({ length: 19 }, (_, i) => i + 1))
  })
})

describe('live', () => {
  it('tells others in order, and a latecomer what it missed', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url)]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const { snapshot } = await ines.open(tree)
    const [one, two] = [ines.line(tree), rana.line(tree)]
    await Promise.all([one.hello(0), two.hello(0)])
    for (let i = 0; i < 30; i++)
      (i % 2 ? one : two).say({
        type: 'edit',
        edit: { id: `e${i}`, changes: [add(`t${i}`, snapshot.centre, `t${i}`)] },
      })
    await Promise.all([one, two].map(line => line.until(() => line.numbers().length === 30)))
    const expected = Array.from({ length: 30 }, (_, i) => i + 1)
    expect(one.numbers()).toEqual(expected)
    expect(two.numbers()).toEqual(expected)
    const late = rana.line(tree)
    await late.hello(12)
    await late.until(() => late.numbers().length === 18)
    expect(late.numbers()).toEqual(expected.slice(12))
    const copy = fromSnapshot(snapshot)
    for (const news of one.of('news')) for (const edit of news.edits) applyChanges(copy, edit.changes)
    const byId = (list: readonly { id: string }[]): unknown => [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
    expect(byId(toSnapshot(copy).topics)).toEqual(byId((await ines.open(tree)).snapshot.topics))
    await Promise.all([one.close(), two.close(), late.close()])
  })

  it('shows who is here and what they have selected, and when they leave', async () => {
    const [ines, rana] = [await signUp(url, 'Ines'), await signUp(url, 'Rana')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const one = ines.line(tree)
    await one.hello(0)
    const two = rana.line(tree)
    await two.hello(0)
    two.say({ type: 'presence', selected: ['a'], typing: null })
    await one.until(() =>
      one.of('presence').some(message => message.present.name === 'Rana' && message.present.selected[0] === 'a'),
    )
    expect(two.of('welcome')[0]!.present.map(person => person.name)).toEqual(['Ines'])
    await two.close()
    await one.until(() => one.of('left').length === 1)
    await one.close()
  })

  it('asks those who are here to look, a few times at once; a viewer asks nobody', async () => {
    const [ines, rana] = [await signUp(url, 'Ines'), await signUp(url, 'Rana')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const [one, two] = [ines.line(tree), rana.line(tree)]
    for (const line of [one, two]) await line.hello(0)
    two.say({ type: 'look', topic: 'a' })
    for (let i = 0; i < 5; i++) one.say({ type: 'look', topic: 'a' })
    await one.until(() => one.of('refused').length === 2)
    await two.until(() => two.of('look').length === 3)
    expect(two.of('look')[0]).toMatchObject({ by: { name: 'Ines' }, topic: 'a' })
    // What Rana asked was heard before, and told to nobody.
    expect(one.of('look')).toEqual([])
    for (const line of [one, two]) await line.close()
  })

  it('refuses hostile, replayed and out-of-order messages and lives on', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const {
      snapshot: { centre },
    } = await ines.open(tree)
    const line = ines.line(tree)
    // Before hello: an edit is still checked and counted; nothing else is told.
    await new Promise(done => line.socket.once('open', done))
    line.socket.send('not json')
    line.socket.send('{"type":"hello","since":-1}')
    line.socket.send('{"type":"own","the":"server"}')
    line.socket.send(
      JSON.stringify({
        type: 'edit',
        edit: { id: 'x', changes: [{ op: 'set', topic: centre, field: 'title', value: { $ne: 1 } }] },
      }),
    )
    line.socket.send(
      JSON.stringify({ type: 'presence', selected: Array.from({ length: 999 }, () => 'a'), typing: null }),
    )
    line.socket.send(Buffer.from([0xff, 0xfe, 0x00]))
    await line.until(() => line.of('refused').length === 6)
    expect(line.of('refused').map(message => message.code)).toEqual([
      'not-json',
      'invalid',
      'invalid',
      'invalid',
      'invalid',
      'not-json',
    ])
    await line.hello(null)
    await line.until(() => line.of('tree').length === 1)
    const edit = { id: 'replayed', changes: [add('a', centre, 'once')] }
    for (let i = 0; i < 5; i++) line.say({ type: 'edit', edit })
    line.say({ type: 'edit', edit: { id: 'child-first', changes: [add('c', 'b', 'before its parent')] } })
    line.say({ type: 'edit', edit: { id: 'last', changes: [add('b', centre, 'late parent')] } })
    await line.until(() => line.numbers().includes(2) && line.of('refused').length === 7)
    expect(line.of('refused').at(-1)).toMatchObject({ edit: 'child-first', code: 'missing' })
    expect((await ines.open(tree)).snapshot.topics.map(topic => topic.title)).toEqual([
      'Move to the tannery',
      'once',
      'late parent',
    ])
    expect((await ines.open(tree)).version).toBe(2)
    await line.close()
  })

  it('a flood from one line is slowed, and others go on', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const line = ines.line(tree)
    await line.hello(0)
    for (let i = 0; i < 1500; i++) line.say({ type: 'ping' })
    await line.until(() => line.of('refused').some(message => message.code === 'slowed'))
    await ines.edit(tree, [
      { op: 'set', topic: (await ines.open(tree)).snapshot.centre, field: 'title', value: 'still here' },
    ])
    await line.close()
  })
})
