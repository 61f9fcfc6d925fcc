import { tmpdir } from 'node:os'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Change } from '../../core/tree'
import { newId, signUp } from '../caller'
import { type House, openHouse } from '../house'

/* A disk that is full: its floor is set above all that it has. One that is really full is the bench's (`npm run bench full-disk`). */

let house: House
const env = { DATA_DIR: tmpdir(), DISK_FLOOR_MB: '0' }
beforeAll(async () => {
  house = await openHouse({ env })
}, 60_000)
afterAll(() => house.close())

it('below the floor nothing is written, and why is said; one reads and signs out as ever', async () => {
  const ines = await signUp(house.url)
  const tree = await ines.makeTree()
  env.DISK_FLOOR_MB = '1000000'
  await house.killApp('SIGTERM')
  await house.startApp()
  const { snapshot } = await ines.open(tree)
  const changes: Change[] = [{ op: 'set', topic: snapshot.centre, field: 'title', value: 'Full' }]
  expect(await ines.refusal('POST', `/api/trees/${tree}/edits`, { id: newId(), changes })).toBe('507 disk-full')
  expect(await ines.refusal('POST', '/api/trees', { title: 'New' })).toBe('507 disk-full')
  // Over the line as well, where browsers wait for room.
  const line = ines.line(tree)
  await line.hello(0)
  line.say({ type: 'edit', edit: { id: newId(), changes } })
  await line.until(() => line.heard.some(one => one.type === 'refused' && one.code === 'disk-full'))
  expect((await ines.open(tree)).snapshot).toEqual(snapshot)
  expect((await ines.call('POST', '/api/sign-out', {})).status).toBe(200)
  expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
})
