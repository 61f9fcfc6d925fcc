import { test, demoVisitor, demoTree } from './porch'
test('scene', async ({ browser }) => {
  const { caller } = await demoVisitor(browser, 'ines@porch.example')
  const { id } = await demoTree(caller)
  const { snapshot } = await caller.open(id)
  const t = snapshot.topics as any[]
  const lease = t.find(x => x.title === 'Lease ends')
  const plan = async () => { const p = (await caller.call('GET', `/api/trees/${id}/schedule`)).data as any; return JSON.stringify([p.status, p.finish, p.broken, p.tasks.filter((x: any) => [lease.id, lease.waits[0].on].includes(x.topic))]) }
  console.log(JSON.stringify(snapshot.fields?.planFrom), await plan())
  console.log(JSON.stringify(t.find(x => x.id === lease.waits[0].on)), JSON.stringify(t.filter(x => x.parent === lease.waits[0].on).map(x => x.title)))
  await caller.edit(id, [{ op: 'set', topic: lease.id, field: 'start', value: '2026-12-10' }])
  console.log(await plan())
})
