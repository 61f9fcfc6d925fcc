import { Document, Header, Packer, Paragraph } from 'docx'
import { strFromU8, unzipSync, zipSync } from 'fflate'
import { beforeAll, expect, inject, it } from 'vitest'
import type { TemplateSaid } from '../../core/handing/template'
import { bringIn, type Caller, signUp } from '../caller'

const url = inject('url')
let ines: Caller
let rana: Caller
let tree: string
beforeAll(async () => {
  ines = await signUp(url, 'Ines Brandt')
  rana = await signUp(url, 'Rana Tahiri')
  tree = await ines.makeTree('Move')
  await bringIn(ines, tree, rana, 'viewer')
})

const letter = (town: string): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        {
          headers: { default: new Header({ children: [new Paragraph(`${town}: {{title}}`)] }) },
          children: [new Paragraph('{{tree}}')],
        },
      ],
    }),
  )
interface Kept {
  readonly id: string
  readonly name: string
  readonly said: TemplateSaid
}
async function keep(caller: Caller, name: string, bytes: Uint8Array): Promise<{ status: number; data: Kept }> {
  const response = await fetch(`${url}/api/templates?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/octet-stream' },
    body: new Uint8Array(bytes),
  })
  return { status: response.status, data: (await response.json()) as Kept }
}
const mine = async (caller: Caller) =>
  (await caller.call<{ id: string; name: string }[]>('GET', '/api/templates')).data.map(({ id, name }) => [id, name])
async function headerOf(caller: Caller, template: string, of = tree): Promise<string> {
  const response = await fetch(`${url}/api/trees/${of}/hand-out`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ as: 'docx', template }),
  })
  if (!response.ok) return `${response.status}`
  const parts = unzipSync(new Uint8Array(await response.arrayBuffer()))
  return strFromU8(parts[Object.keys(parts).find(part => part.startsWith('word/header'))!]!)
}

it('is kept for one person, filled in in any tree they see, and nobody else’s', async () => {
  const { status, data } = await keep(rana, 'Town', await letter('Alder'))
  expect(status).toBe(200)
  expect(data.said.fields).toContain('tree')
  expect(await mine(rana)).toEqual([[data.id, 'Town']])
  expect(await mine(ines)).toEqual([])
  expect(await headerOf(rana, data.id)).toContain('Alder: ')
  const own = await rana.makeTree('Another')
  expect(await headerOf(rana, data.id, own)).toContain('Alder: ')
  // Its address is of no use to anybody else.
  expect(await headerOf(ines, data.id)).toBe('422')
  for (const method of ['GET', 'DELETE'] as const)
    expect((await ines.call(method, `/api/templates/${data.id}`)).status).toBe(404)
  // Of the same name again: in its place.
  const other = await keep(rana, 'Town', await letter('Birch'))
  expect(await mine(rana)).toEqual([[other.data.id, 'Town']])
  expect(await headerOf(rana, other.data.id)).toContain('Birch: ')
  expect((await rana.call('GET', `/api/templates/${other.data.id}`)).data).toEqual(other.data.said)
  expect((await rana.call('DELETE', `/api/templates/${other.data.id}`)).status).toBe(200)
  expect(await headerOf(rana, other.data.id)).toBe('422')
})

it('what can’t be filled in, is too large or one too many isn’t kept', async () => {
  const good = await letter('Alder')
  const macros = zipSync({ ...unzipSync(new Uint8Array(good)), 'word/vbaProject.bin': new Uint8Array(4) })
  for (const [bytes, wanted] of [
    [new TextEncoder().encode('no document'), 422],
    [macros, 422],
    [new Uint8Array(8 * 1024 * 1024 + 1), 413],
  ] as const)
    expect((await keep(ines, 'Bad', bytes)).status).toBe(wanted)
  for (let i = 0; i < 20; i++) expect((await keep(ines, `Letter ${i}`, good)).status).toBe(200)
  expect((await keep(ines, 'One more', good)).status).toBe(409)
  expect((await keep(ines, 'Letter 3', good)).status).toBe(200)
  expect((await mine(ines)).length).toBe(20)
})
