import { describe, expect, inject, it } from 'vitest'
import { bringIn, newId, signUp } from '../caller'

const url = inject('url')

describe('groups of people', () => {
  it('of one’s own are kept, changed and forgotten, and are nobody else’s', async () => {
    const [ines, rana] = [await signUp(url), await signUp(url, 'Rana Tahiri')]
    const group = { name: 'Board', who: ['Ida@Town.example', 'ida@town.example'], shared: {} }
    const { status, data } = await ines.call<{ who: string[] }>('PUT', '/api/groups/board', group)
    expect(status).toBe(200)
    expect(data.who).toEqual(['ida@town.example'])
    const shared = { t1: { role: 'editor', who: ['ida@town.example'] } }
    await ines.call('PUT', '/api/groups/board', { ...group, name: 'The board', who: [], shared })
    expect((await ines.call('GET', '/api/groups')).data).toEqual([{ id: 'board', name: 'The board', who: [], shared }])
    expect((await rana.call('GET', '/api/groups')).data).toEqual([])
    await rana.call('DELETE', '/api/groups/board')
    expect((await ines.call<unknown[]>('GET', '/api/groups')).data).toHaveLength(1)
    for (const bad of [
      { ...group, name: ' ' },
      { ...group, who: ['u1'] },
      { ...group, shared: { t1: { role: 'owner', who: [] } } },
      { ...group, more: 1 },
    ])
      expect(await ines.refusal('PUT', '/api/groups/board', bad)).toBe('400 invalid')
    expect((await ines.call<{ groups: unknown[] }>('GET', '/api/account/data')).data.groups).toHaveLength(1)
    await ines.call('DELETE', '/api/groups/board')
    expect((await ines.call('GET', '/api/groups')).data).toEqual([])
  })

  it('one keeps forty at most, also when they come at once', async () => {
    const ines = await signUp(url)
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_, i) =>
        ines.call('PUT', `/api/groups/g${i}`, { name: `G${i}`, who: [], shared: {} }),
      ),
    )
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(40)
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(20)
    expect((await ines.call<unknown[]>('GET', '/api/groups')).data).toHaveLength(40)
  })

  it('are found by: what is handed out holds the tasks of a tree’s group and of one’s own, by account and by address', async () => {
    const [ines, rana, oskar] = [await signUp(url), await signUp(url, 'Rana Tahiri'), await signUp(url, 'Oskar Lind')]
    const tree = await ines.makeTree('Move')
    for (const guest of [rana, oskar]) await bringIn(ines, tree, guest, 'editor')
    const { centre } = (await ines.open(tree)).snapshot
    const task = (id: string, person: string) =>
      [
        { op: 'add', topic: id, parent: centre, order: `a${id.length}`, with: { title: `Task ${id}` } },
        { op: 'put', topic: id, set: 'people', member: person },
      ] as const
    const group = { id: 'hands', name: 'Volunteers', who: [rana.email, 'ida@town.example'], shared: null }
    await ines.edit(tree, [
      ...task('a', rana.id),
      ...task('bb', oskar.id),
      ...task('ccc', ines.id),
      { op: 'tree-put', set: 'groups', member: group },
    ])
    await ines.call('PUT', '/api/groups/mine', { name: 'Mine', who: [oskar.email], shared: {} })
    const found = async (id: string, not = false): Promise<string> => {
      const filter = { about: 'group', group: id, ...(not ? { not } : {}) }
      const { data } = await ines.call<string>('POST', `/api/trees/${tree}/hand-out`, {
        as: 'text',
        with: [],
        part: { kind: 'filter', query: filter },
      })
      return [...String(data).matchAll(/Task (\w+)/g)].map(([, name]) => name).join(' ')
    }
    expect(await found('hands')).toBe('a')
    expect(await found('mine')).toBe('bb')
    expect(await found('hands', true)).toBe('bb ccc')
    // Somebody else's group is none of theirs.
    await rana.call('PUT', '/api/groups/theirs', { name: 'Theirs', who: [ines.email], shared: {} })
    expect(await found('theirs')).toBe('')
  })

  it('of a tree go into no copy without people, no document’s data and no link', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree('Move')
    const secret = `${newId().toLowerCase()}@town.example`
    await ines.edit(tree, [
      { op: 'tree-put', set: 'groups', member: { id: 'board', name: 'Board', who: [secret], shared: null } },
    ])
    expect(JSON.stringify((await ines.open(tree)).snapshot)).toContain(secret)
    const { data: copy } = await ines.call<{ id: string }>('POST', `/api/trees/${tree}/duplicate`, {
      ...{ notes: true, people: false, dates: true, progress: true, shift: 0 },
    })
    expect(JSON.stringify((await ines.open(copy.id)).snapshot)).not.toContain(secret)
    for (const as of ['html', 'markdown', 'svg'])
      expect(JSON.stringify((await ines.call('POST', `/api/trees/${tree}/hand-out`, { as })).data)).not.toContain(
        secret,
      )
    const { data: link } = await ines.call<{ address: string }>('POST', `/api/trees/${tree}/links`, {
      part: { kind: 'tree' },
      with: ['notes', 'tasks'],
      may: 'edit',
    })
    expect(link.address, JSON.stringify(link)).toBeTruthy()
    const page = await fetch(new URL(link.address, url))
    expect(await page.text()).not.toContain(secret)
  })
})
