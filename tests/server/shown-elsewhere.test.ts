import { describe, expect, inject, it } from 'vitest'
import type { ShownTopic } from '../../core/contract'
import type { SavedView } from '../../core/tree/view'
import type { Caller } from '../caller'
import { add, bringIn, newId, signUp } from '../caller'

const url = inject('url')

describe('references to another tree', () => {
  async function shown(caller: Caller, tree: string): Promise<ShownTopic[]> {
    return (await caller.call<ShownTopic[]>('GET', `/api/trees/${tree}/shown`)).data
  }
  it('show the original as it is now, live, to those who may see it, and to nobody else', async () => {
    const ines = await signUp(url)
    const tomas = await signUp(url, 'Tomas Vale')
    const [plan, meeting] = [await ines.makeTree('Move plan'), await ines.makeTree('Coordination')]
    await ines.edit(plan, [
      add('shelves', (await ines.open(plan)).snapshot.centre, 'Order shelving', {
        due: '2027-05-12',
        done: 40,
        people: [ines.id],
        markers: ['risk'],
      }),
    ])
    await ines.edit(meeting, [
      add('ref', (await ines.open(meeting)).snapshot.centre, 'Order shelving', {
        reference: { tree: plan, topic: 'shelves' },
      }),
    ])
    await bringIn(ines, meeting, tomas, 'editor')
    expect(await shown(ines, meeting)).toMatchObject([
      {
        state: 'shown',
        title: 'Order shelving',
        treeTitle: 'Move plan',
        due: '2027-05-12',
        done: 40,
        people: ['Ines Brandt'],
        markers: [{ id: 'risk' }],
      },
    ])
    const hidden = await shown(tomas, meeting)
    expect(hidden).toEqual([
      {
        tree: plan,
        topic: 'shelves',
        state: 'closed',
        title: '',
        treeTitle: '',
        markers: [],
        people: [],
        due: null,
        done: null,
      },
    ])

    const line = ines.line(meeting)
    await line.hello(null)
    line.say({ type: 'watch', trees: [plan] })
    const stranger = tomas.line(meeting)
    await stranger.hello(null)
    stranger.say({ type: 'watch', trees: [plan] })
    await expect
      .poll(async () => {
        await ines.edit(plan, [{ op: 'set', topic: 'shelves', field: 'title', value: 'Order oak shelving' }])
        return line.of('elsewhere').map(message => message.tree)
      })
      .toContain(plan)
    expect(stranger.of('elsewhere')).toEqual([])
    expect((await shown(ines, meeting))[0]!.title).toBe('Order oak shelving')

    await ines.edit(plan, [{ op: 'remove', topic: 'shelves' }])
    expect((await shown(ines, meeting))[0]).toMatchObject({ state: 'trashed', title: '' })
    await ines.edit(plan, [{ op: 'restore', topic: 'shelves' }])
    await ines.call('DELETE', `/api/trees/${plan}`)
    expect((await shown(ines, meeting))[0]).toMatchObject({ state: 'trashed', title: '', treeTitle: '' })
    await line.close()
    await stranger.close()
  })
  it('are heard of as they were asked for last, though more were asked for just before', async () => {
    const ines = await signUp(url)
    const [open, ...plans] = await Promise.all(['Open', 'First', 'Second'].map(title => ines.makeTree(title)))
    const [first, second] = plans as [string, string]
    const line = ines.line(open!)
    await line.hello(null)
    // Whichever of the two is looked up sooner.
    line.say({ type: 'watch', trees: [first, ...Array.from({ length: 30 }, () => first)] })
    line.say({ type: 'watch', trees: [second] })
    const centreOf = async (tree: string): Promise<string> => (await ines.open(tree)).snapshot.centre
    const [a, b] = [await centreOf(first), await centreOf(second)]
    await expect
      .poll(async () => {
        await ines.edit(first, [{ op: 'set', topic: a, field: 'title', value: newId() }])
        await ines.edit(second, [{ op: 'set', topic: b, field: 'title', value: newId() }])
        return line.of('elsewhere').length
      })
      .toBeGreaterThan(2)
    expect(new Set(line.of('elsewhere').map(message => message.tree))).toEqual(new Set([second]))
    // And of nothing when nothing is asked for.
    line.say({ type: 'watch', trees: [] })
    await line.hello(null)
    const heard = line.of('elsewhere').length
    await ines.edit(second, [{ op: 'set', topic: b, field: 'title', value: 'Last' }])
    await line.close()
    expect(line.of('elsewhere')).toHaveLength(heard)
  })
  it('that lead round in a circle through two trees say so; one in a tree is refused', async () => {
    const ines = await signUp(url)
    const [a, b] = [await ines.makeTree('A'), await ines.makeTree('B')]
    await ines.edit(a, [
      add('x', (await ines.open(a)).snapshot.centre, 'x', { reference: { tree: b, topic: 'y' } }),
      add('z', (await ines.open(a)).snapshot.centre, 'z'),
    ])
    await ines.edit(b, [add('y', (await ines.open(b)).snapshot.centre, 'y', { reference: { tree: a, topic: 'x' } })])
    expect((await shown(ines, a))[0]!.state).toBe('loop')
    const refused = await ines.tryEdit(a, [
      { op: 'set', topic: 'z', field: 'reference', value: { tree: null, topic: 'z' } },
    ])
    expect([refused.status, refused.data.error?.code]).toEqual([409, 'loop'])
  })
})

describe('who changed what', () => {
  it('is read from the log, each person’s last change of a topic', async () => {
    const ines = await signUp(url)
    const tomas = await signUp(url, 'Tomas Vale')
    const tree = await ines.makeTree()
    const { centre } = (await ines.open(tree)).snapshot
    await bringIn(ines, tree, tomas, 'editor')
    await ines.edit(tree, [add('a', centre, 'a'), add('b', centre, 'b'), { op: 'tree', field: 'along', value: 120 }])
    await tomas.edit(tree, [{ op: 'set', topic: 'a', field: 'done', value: 50 }])
    const began = Date.now()
    await tomas.edit(tree, [{ op: 'set', topic: 'a', field: 'done', value: 100 }])
    const { data } = await ines.call<{ topic: string; user: string; at: string }[]>('GET', `/api/trees/${tree}/changes`)
    expect(data.map(({ topic, user }) => [topic, user === ines.id ? 'ines' : 'tomas']).sort()).toEqual([
      ['a', 'ines'],
      ['a', 'tomas'],
      ['b', 'ines'],
    ])
    expect(Date.parse(data.find(({ user, topic }) => user === tomas.id && topic === 'a')!.at)).toBeGreaterThanOrEqual(
      began - 1,
    )
    expect(await (await signUp(url)).refusal('GET', `/api/trees/${tree}/changes`)).toBe('404 no-tree')
  })
})

describe('saved views', () => {
  const view: Omit<SavedView, 'id'> = {
    name: 'Mine and late',
    query: {
      join: 'all',
      of: [
        { about: 'person', person: 'me' },
        { about: 'due', is: 'late' },
      ],
    },
    text: '',
    rest: 'hide',
    view: 'outline',
    depth: 3,
    outline: null,
  }
  it('of one’s own are kept and dropped, and nobody else sees them', async () => {
    const ines = await signUp(url)
    const tomas = await signUp(url, 'Tomas Vale')
    const tree = await ines.makeTree()
    await bringIn(ines, tree, tomas, 'viewer')
    const id = newId()
    expect((await ines.call('PUT', `/api/trees/${tree}/views/${id}`, view)).status).toBe(200)
    await ines.call('PUT', `/api/trees/${tree}/views/${id}`, { ...view, name: 'Late' })
    expect((await ines.call('GET', `/api/trees/${tree}/views`)).data).toEqual([{ ...view, id, name: 'Late' }])
    expect((await tomas.call('GET', `/api/trees/${tree}/views`)).data).toEqual([])
    expect(await ines.refusal('PUT', `/api/trees/${tree}/views/${id}`, { ...view, query: { about: 'nonsense' } })).toBe(
      '400 invalid',
    )
    await ines.call('DELETE', `/api/trees/${tree}/views/${id}`)
    expect((await ines.call('GET', `/api/trees/${tree}/views`)).data).toEqual([])
  })
  it('that a team shares are in the tree, by an edit', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    await ines.edit(tree, [{ op: 'tree-put', set: 'views', member: { ...view, id: 'v1' } }])
    expect((await ines.open(tree)).snapshot.fields.views).toEqual([{ ...view, id: 'v1' }])
  })
})

describe('places', () => {
  it('are found by name, the largest first, with their coordinates', async () => {
    const ines = await signUp(url)
    const { data } = await ines.call<{ name: string; where: string; lat: number; lon: number }[]>(
      'GET',
      '/api/places?text=vien',
    )
    // From memory: Vienna lies at about 48.2° N, 16.37° E.
    expect(data[0]!.name).toBe('Vienna')
    expect(data[0]!.lat).toBeCloseTo(48.2, 1)
    expect(data[0]!.lon).toBeCloseTo(16.4, 1)
    expect((await ines.call<unknown[]>('GET', '/api/places?text=zurich')).data.length).toBeGreaterThan(0)
    expect((await ines.call<unknown[]>('GET', '/api/places?text=')).data).toEqual([])
  })
})
