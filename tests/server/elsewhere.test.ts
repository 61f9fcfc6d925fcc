import { expect, inject, it } from 'vitest'
import type { Elsewhere } from '../../core/tree'
import { bringIn, signUp } from '../caller'

const url = inject('url')

it('the days of a topic are told to whoever sees its tree, and what waits for them elsewhere goes by what is known', async () => {
  const [ines, rana] = await Promise.all([signUp(url, 'Ines Brandt'), signUp(url, 'Rana Tahiri')])
  const [council, move] = [await ines.makeTree('Council'), await ines.makeTree('Move')]
  await bringIn(ines, move, rana, 'editor')
  const centreOf = async (id: string): Promise<string> => (await ines.open(id)).snapshot.centre
  await ines.edit(council, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    { op: 'add', topic: 'grant', parent: await centreOf(council), order: 'a0', with: { title: 'Grant', duration: 8 } },
  ])
  const days = (caller = ines, topic = 'grant') =>
    caller.call<Elsewhere>('GET', `/api/trees/${council}/topics/${topic}/days`)
  const asked = await days()
  expect(asked.data).toMatchObject({
    tree: council,
    title: 'Grant',
    treeTitle: 'Council',
    start: '2027-01-11',
    finish: '2027-01-20',
    state: 'open',
  })
  expect(Math.abs(asked.data.asked - Date.now())).toBeLessThan(60_000)
  // Rana has no part in the council’s tree, and nobody one in a topic that isn’t there.
  expect((await days(rana)).status).toBe(404)
  expect((await days(ines, 'gone')).status).toBe(404)

  const member = { id: 'w', on: 'grant', elsewhere: asked.data, kind: 'FS', lag: 1, days: 'working' } as const
  await ines.edit(move, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    { op: 'add', topic: 'lift', parent: await centreOf(move), order: 'a0', with: { title: 'Lift', duration: 2 } },
    { op: 'put', topic: 'lift', set: 'waits', member },
  ])
  // Whoever sees the waiting tree alone computes the same.
  const plan = await rana.call<{ tasks: { start: string; reason: string }[] }>('GET', `/api/trees/${move}/schedule`)
  expect(plan.data.tasks).toMatchObject([
    { start: '2027-01-22', reason: 'waits for “Grant” of “Council”, 1 working day after' },
  ])
  // Without a plan there, its dates are as they were typed.
  await ines.edit(council, [
    { op: 'tree', field: 'planFrom', value: null },
    { op: 'set', topic: 'grant', field: 'due', value: '2027-03-01' },
    { op: 'set', topic: 'grant', field: 'done', value: 100 },
  ])
  expect((await days()).data).toMatchObject({ start: null, finish: '2027-03-01', state: 'done' })
  for (const wrong of [
    { finish: '2027-02-30' },
    { asked: -1 },
    { state: 'late' },
    { title: 'x'.repeat(301) },
    { tree: '../x' },
  ])
    expect(
      (
        await ines.tryEdit(move, [
          { op: 'put', topic: 'lift', set: 'waits', member: { ...member, elsewhere: { ...asked.data, ...wrong } } },
        ] as never)
      ).status,
    ).toBe(400)
})
