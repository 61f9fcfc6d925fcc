import mysql from 'mysql2/promise'
import { afterAll, describe, expect, inject, it } from 'vitest'
import type { NewsEdit } from '../../core/contract'
import { type Change, fromSnapshot, topicOf } from '../../core/tree'
import { bringIn, type Caller, newId, signUp } from '../caller'

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
const titled = (topic: string, value: string): Change => ({ op: 'set', topic, field: 'title', value })

async function opened(caller: Caller, tree: string) {
  const { snapshot, version } = await caller.open(tree)
  return { tree: fromSnapshot(snapshot), version }
}
const log = async (caller: Caller, tree: string, query = ''): Promise<NewsEdit[]> =>
  (await caller.call<{ edits: NewsEdit[] }>('GET', `/api/trees/${tree}/edits?${query}`)).data.edits

describe('who acts', () => {
  async function asked() {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Haddad')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'viewer')
    const { tree: mine } = await opened(ines, tree)
    const person = (id: string, user: string) =>
      ({ id, kind: 'person', user, mail: null, name: '', needed: true, role: null }) as const
    await ines.edit(tree, [
      {
        op: 'add',
        topic: 'm',
        parent: mine.centre,
        order: 'a0',
        with: { title: 'Coordination', meeting: [person('p1', ines.id), person('p2', rana.id)] },
      },
    ])
    return { ines, rana, tree }
  }
  const answer = (of: string): Change => ({
    op: 'put',
    topic: 'm',
    set: 'meeting',
    member: { id: `a-${of}`, kind: 'answer', of, answer: 'accepted', comment: '', at: 1 },
  })

  it('a viewer gives their own answer over either door, as themselves, and nothing else', async () => {
    const { ines, rana, tree } = await asked()
    await rana.edit(tree, [answer('p2')])
    expect((await log(ines, tree)).at(-1)!.user).toBe(rana.id)
    expect((await rana.tryEdit(tree, [answer('p1')])).data.error?.code).toBe('role')
    expect((await rana.tryEdit(tree, [answer('p2'), titled('m', 'Mine')])).data.error?.code).toBe('role')
    expect(topicOf((await opened(ines, tree)).tree, 'm').title).toBe('Coordination')
    const line = rana.line(tree)
    await line.hello(null)
    await line.until(() => line.heard.some(one => one.type === 'tree'))
    line.say({ type: 'edit', edit: { id: 'live-answer', changes: [{ ...answer('p2') } as never] } })
    line.say({ type: 'edit', edit: { id: 'live-title', changes: [titled('m', 'Mine') as never] } })
    await line.until(() => line.heard.some(one => one.type === 'refused' && one.edit === 'live-title'))
    await line.until(() => line.heard.some(one => one.type === 'news' && one.edits[0]!.id === 'live-answer'))
    line.close()
  })

  it('a role that changes while edits are on their way counts as it is when they are stored', async () => {
    const { ines, rana, tree } = await asked()
    const setRole = (role: string) => ines.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role })
    await setRole('editor')
    await rana.edit(tree, [titled('m', 'One')])
    // Behind the app’s back, as another process would.
    await pool.query('update members set role = ? where tree_id = ? and user_id = ?', ['viewer', tree, rana.id])
    expect((await rana.tryEdit(tree, [titled('m', 'Two')])).data.error?.code).toBe('role')
    await pool.query('update members set role = ? where tree_id = ? and user_id = ?', ['editor', tree, rana.id])
    await setRole('editor')
    await rana.edit(tree, [titled('m', 'Three')])
  })
})

describe('a right that goes', () => {
  it('goes before the next edit: nothing that is made after the answer is told to who was removed', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { tree: mine } = await opened(ines, tree)
    await ines.edit(tree, [add('a', mine.centre, 'Lift')])
    const gone = await Promise.all(Array.from({ length: 6 }, () => signUp(url)))
    for (const person of gone) {
      await bringIn(ines, tree, person, 'viewer')
      const line = person.line(tree)
      await line.hello(0)
      await line.until(() => line.numbers().length > 0)
      const told = line.numbers().length
      await ines.call('DELETE', `/api/trees/${tree}/members/${person.id}`)
      await Promise.all(['x', 'y', 'z'].map(words => ines.edit(tree, [titled('a', words)])))
      await line.until(() => line.closed !== null, 'the cut')
      expect(line.numbers()).toHaveLength(told)
    }
  })
})

describe('the log', () => {
  it('has an index from a topic to its edits', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { tree: mine } = await opened(ines, tree)
    await ines.edit(tree, [add('a', mine.centre, 'Lift'), add('b', mine.centre, 'Lamps', 'a1')])
    await ines.edit(tree, [titled('b', 'Lamps in brass')])
    await ines.edit(tree, [titled('a', 'The lift')])
    expect((await log(ines, tree, 'topic=a')).map(({ number }) => number)).toEqual([1, 3])
    expect((await log(ines, tree, 'topic=b&since=1')).map(({ number }) => number)).toEqual([2])
    expect(await log(ines, tree, 'topic=nothing')).toEqual([])
  })

  it('says that it doesn’t know a format that is newer than itself', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const edit = { id: newId(), format: 7, changes: [{ op: 'set', topic: 'c', field: 'shade', value: 1 }] }
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits`, edit)).toBe('400 invalid')
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits`, { ...edit, format: 1 })).toBe('400 invalid')
  })

  it('a fold on topics with large notes doesn’t write the notes again', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { tree: mine } = await opened(ines, tree)
    const note = Buffer.alloc(300_000, 7).toString('base64')
    await ines.edit(tree, [add('a', mine.centre, 'Lift')])
    await pool.query('update topics set note = from_base64(?) where tree_id = ? and id = ?', [note, tree, 'a'])
    await ines.edit(tree, [{ op: 'set', topic: 'a', field: 'folded', value: true }])
    const [rows] = (await pool.query(
      'select length(note) as note, json_value(rest, "$.folded") as folded from topics where tree_id = ? and id = ?',
      [tree, 'a'],
    )) as unknown as [{ note: number; folded: string }[]]
    // What the tree in memory never had would be gone, if the note were written.
    expect(rows[0]).toEqual({ note: 300_000, folded: '1' })
  })
})

describe('what is made here because it may be large', () => {
  it('a moment, whole or one branch, is brought back as one edit and taken back as one', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Haddad')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const { tree: mine } = await opened(ines, tree)
    const many = Array.from({ length: 900 }, (_, i) =>
      add(`n${i}`, 'a', `Shelf ${i}`, `a${i.toString().padStart(4, '0')}1`),
    )
    await ines.edit(tree, [add('a', mine.centre, 'Shelves'), add('b', mine.centre, 'Lamps', 'a1'), ...many])
    const good = (await opened(ines, tree)).version
    await rana.edit(tree, [...many.map((_, i) => titled(`n${i}`, 'x')), titled('b', 'Wrecked')])
    await rana.edit(tree, [{ op: 'remove', topic: 'a' }])
    const watching = ines.line(tree)
    await watching.hello(null)
    await watching.until(() => watching.heard.some(one => one.type === 'tree'))

    expect(await ines.call('POST', `/api/trees/${tree}/moments/${good}/return`, { branch: 'a' })).toMatchObject({
      status: 200,
    })
    let now = (await opened(ines, tree)).tree
    expect([topicOf(now, 'n7').title, topicOf(now, 'a').removed, topicOf(now, 'b').title]).toEqual([
      'Shelf 7',
      false,
      'Wrecked',
    ])
    const { data: whole } = await ines.call<{ number: number }>('POST', `/api/trees/${tree}/moments/${good}/return`, {})
    now = (await opened(ines, tree)).tree
    expect(topicOf(now, 'b').title).toBe('Lamps')
    expect((await log(ines, tree)).at(-1)).toMatchObject({
      user: ines.id,
      source: { kind: 'moment', number: good, branch: null },
    })
    await watching.until(() =>
      watching.heard.some(one => one.type === 'news' && one.edits.at(-1)!.number === whole.number),
    )
    watching.close()
    expect(await ines.refusal('POST', `/api/trees/${tree}/moments/${good}/return`, {})).toBe('409 same')

    await ines.call('POST', `/api/trees/${tree}/edits/${whole.number}/take-back`)
    expect(topicOf((await opened(ines, tree)).tree, 'b').title).toBe('Wrecked')
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits/${whole.number}/take-back`)).toBe('409 nothing-left')
  })

  it('is refused to those who may not edit, and for moments and branches that never were', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Haddad')]
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'commenter')
    const { tree: mine } = await opened(ines, tree)
    await ines.edit(tree, [add('a', mine.centre, 'Lift')])
    expect(await rana.refusal('POST', `/api/trees/${tree}/moments/0/return`, {})).toBe('403 role')
    expect(await rana.refusal('POST', `/api/trees/${tree}/edits/1/take-back`)).toBe('403 role')
    expect(await ines.refusal('POST', `/api/trees/${tree}/moments/99/return`, {})).toBe('409 no-moment')
    expect(await ines.refusal('POST', `/api/trees/${tree}/moments/0/return`, { branch: 'a' })).toBe('404 no-branch')
    expect(await ines.refusal('POST', `/api/trees/${tree}/edits/99/take-back`)).toBe('404 no-edit')
  })
})

describe('an epoch', () => {
  it('that is another than the browser’s has the whole tree sent, and edits go on from there', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const { tree: mine } = await opened(ines, tree)
    await ines.edit(tree, [add('a', mine.centre, 'Lift')])
    const line = ines.line(tree)
    await line.hello(1, '')
    await ines.edit(tree, [titled('a', 'The lift')])
    await line.until(() => line.numbers().includes(2))
    expect(line.of('tree')).toEqual([])
    await line.close()
    // A restore: an older state under a new epoch.
    await pool.query('delete from edits where tree_id = ?', [tree])
    await pool.query('delete from topics where tree_id = ? and id = ?', [tree, 'a'])
    await pool.query('update trees set epoch = ?, version = 0 where id = ?', ['autumn', tree])
    const other = ines.line(tree)
    await other.hello(2, '')
    await other.until(() => other.of('tree').length === 1)
    expect(other.of('tree')[0]!.version).toBe(0)
    await other.close()
    expect((await opened(ines, tree)).tree.topics.has('a')).toBe(false)
    expect((await ines.tryEdit(tree, [add('b', mine.centre, 'Lamps')])).data.number).toBe(1)
    expect((await ines.call<{ epoch: string }>('GET', `/api/trees/${tree}`)).data.epoch).toBe('autumn')
  })
})
