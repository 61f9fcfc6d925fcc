import { beforeAll, expect, inject, it } from 'vitest'
import type { MadeTold } from '../../core/contract'
import { bringIn, type Caller, signUp } from '../caller'
import { handedTree } from '../handed-tree'
import { openHouse } from '../house'

const url = inject('url')
let ines: Caller
let rana: Caller
let tree: string

beforeAll(async () => {
  ;({ ines, tree } = await handedTree(url))
  rana = await signUp(url, 'Rana Tahiri')
  await bringIn(ines, tree, rana, 'viewer')
})

const begin = (caller: Caller, body: object) => caller.call<{ id: string }>('POST', `/api/trees/${tree}/made`, body)
const list = async (caller = ines): Promise<MadeTold[]> =>
  (await caller.call<MadeTold[]>('GET', `/api/trees/${tree}/made`)).data
const read = (id: string, caller = ines) =>
  fetch(`${url}/api/trees/${tree}/made/${id}`, { headers: { cookie: caller.cookie } })
const settled = (id: string, caller = ines): Promise<MadeTold> =>
  expect
    .poll(async () => (await list(caller)).find(one => one.id === id)?.state, { timeout: 30_000 })
    .not.toBe('making')
    .then(async () => (await list(caller)).find(one => one.id === id)!)

it('is made without being waited for, kept for whoever asked alone, and goes to them by letter', async () => {
  const { data } = await begin(ines, { as: 'text', with: ['tasks'], letter: true })
  const made = await settled(data.id)
  expect(made).toMatchObject({ state: 'made', kind: 'text', said: '' })
  expect(Date.parse(made.until) - Date.parse(made.at)).toBe(86_400_000)
  const kept = await read(data.id)
  const direct = await fetch(`${url}/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ as: 'text', with: ['tasks'] }),
  })
  const text = await direct.text()
  expect(await kept.text()).toBe(text)
  for (const header of ['content-type', 'content-disposition', 'content-security-policy'])
    expect(kept.headers.get(header)).toBe(direct.headers.get(header))
  await expect
    .poll(async () => {
      const { data: letters } = await ines.call<{ subject: string }[]>('GET', '/api/letters')
      return letters.map(({ subject }) => subject)
    })
    .toContain(`“${made.name}” is made`)
  // Rana sees the tree, and nothing of what Ines had made of it.
  expect(await list(rana)).toEqual([])
  expect((await read(data.id, rana)).status).toBe(404)
  expect((await rana.call('DELETE', `/api/trees/${tree}/made/${data.id}`)).status).toBe(404)
  // Whoever has no part in the tree gets nowhere.
  const oskar = await signUp(url, 'Oskar Moreau')
  expect((await begin(oskar, { as: 'text' })).status).toBe(404)
  expect((await ines.call('DELETE', `/api/trees/${tree}/made/${data.id}`)).status).toBe(200)
  expect((await read(data.id)).status).toBe(404)
})

it('what can’t be made says why; what is stopped is gone', async () => {
  const { data } = await begin(ines, { as: 'docx', part: { kind: 'branch', topic: 'gone' } })
  expect(await settled(data.id)).toMatchObject({ state: 'failed', name: '' })
  expect((await list()).find(({ id }) => id === data.id)!.said).not.toBe('')
  expect((await read(data.id)).status).toBe(404)
  const { data: long } = await begin(ines, { as: 'pdf', letter: true })
  expect((await ines.call('DELETE', `/api/trees/${tree}/made/${long.id}`)).status).toBe(200)
  await new Promise(done => setTimeout(done, 1500))
  expect((await list()).some(({ id }) => id === long.id)).toBe(false)
  const { data: letters } = await ines.call<{ subject: string }[]>('GET', '/api/letters')
  expect(letters.filter(({ subject }) => /\.pdf|\(pdf\)/.test(subject))).toEqual([])
})

it('ten are kept of a tree, the newest; two hundred at once are refused in words or made, and nobody waits for them', async () => {
  const answers = await Promise.all(Array.from({ length: 200 }, () => begin(rana, { as: 'text' })))
  for (const { status } of answers) expect([200, 429]).toContain(status)
  await expect
    .poll(async () => (await list(rana)).filter(({ state }) => state === 'making').length, { timeout: 60_000 })
    .toBe(0)
  const kept = await list(rana)
  expect(kept.length).toBeLessThanOrEqual(10)
  for (const { state, said } of kept) expect(state === 'made' || said.includes('already')).toBe(true)
})

it('how far it has come is told while it’s made, and never goes back', async () => {
  const nora = await signUp(inject('url'), 'Nora Feld')
  const lines = Array.from({ length: 6000 }, (_, i) => `${i % 7 ? '\t' : ''}Crate ${i} of the second room`)
  const { data } = await nora.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'text',
    name: 'crates.txt',
    text: lines.join('\n'),
  })
  const path = `/api/trees/${data.id}/made`
  const { data: begun } = await nora.call<{ id: string }>('POST', path, { as: 'pdf' })
  const parts: number[] = []
  for (;;) {
    const one = (await nora.call<MadeTold[]>('GET', path)).data.find(({ id }) => id === begun.id)!
    if (one.state !== 'making') {
      expect(one).toMatchObject({ state: 'made', part: null })
      break
    }
    expect(one.part).toBeGreaterThanOrEqual(0)
    expect(one.part).toBeLessThanOrEqual(1)
    parts.push(one.part!)
    await new Promise(done => setTimeout(done, 40))
  }
  expect(parts).toEqual([...parts].sort((a, b) => a - b))
  // More than that it has begun and that it's there.
  expect(new Set(parts).size).toBeGreaterThan(3)
}, 60_000)

it('what was being made when the app was killed is said, and nothing half-made is kept', async () => {
  const house = await openHouse()
  try {
    const nora = await signUp(house.url, 'Nora Feld')
    const lines = Array.from({ length: 4000 }, (_, i) => `${i % 7 ? '\t' : ''}Crate ${i} of the second room`)
    const { data } = await nora.call<{ id: string }>('POST', '/api/trees/import', {
      format: 'text',
      name: 'crates.txt',
      text: lines.join('\n'),
    })
    const path = `/api/trees/${data.id}/made`
    const { data: begun } = await nora.call<{ id: string }>('POST', path, { as: 'pdf' })
    const state = async () => (await nora.call<MadeTold[]>('GET', path)).data.find(({ id }) => id === begun.id)!
    expect((await state()).state).toBe('making')
    await house.killApp('SIGKILL')
    await house.startApp()
    await expect.poll(async () => (await state()).state, { timeout: 20_000 }).toBe('failed')
    expect((await state()).said).toBe('Sun Porch was restarted in the middle of it. Make it anew.')
  } finally {
    await house.close()
  }
}, 90_000)
