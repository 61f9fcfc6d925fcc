import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { beforeAll, expect, inject, it } from 'vitest'
import { bringIn, type Caller, signUp } from '../caller'

const url = inject('url')
let ines: Caller
let rana: Caller
let tree: string

async function out(body: object, caller = ines, of = tree): Promise<{ status: number; bytes: Buffer; code: string }> {
  const response = await fetch(`${url}/api/trees/${of}/hand-out`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ shows: 'bars', today: '2027-01-11', ...body }),
  })
  const bytes = Buffer.from(await response.arrayBuffer())
  const code = response.ok ? '' : (JSON.parse(bytes.toString()) as { error: { code: string } }).error.code
  return { status: response.status, bytes, code }
}
const wordsIn = (svg: Buffer): string => svg.toString().replace(/<[^>]+>/g, '\n')

beforeAll(async () => {
  ines = await signUp(url, 'Ines Brandt')
  rana = await signUp(url, 'Rana Tahiri')
  tree = await ines.makeTree('Move')
  await bringIn(ines, tree, rana, 'viewer')
  const { centre } = (await ines.open(tree)).snapshot
  const add = (topic: string, parent: string, more: object) => ({
    ...{ op: 'add', topic, parent, order: `a${topic}` },
    with: { title: `Work on ${topic}`, ...more },
  })
  await ines.edit(tree, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    add('fitout', centre, {}),
    add('permit', 'fitout', { duration: 4, done: 25, people: [ines.id] }),
    add('lift', 'fitout', { title: 'Lift <script>alert(1)</script>', duration: 3 }),
    add('books', centre, { duration: 2 }),
    { op: 'put', topic: 'lift', set: 'waits', member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' } },
  ] as never)
})

it('the schedule leaves as a drawing, a picture and a page, for whoever may read', async () => {
  const { status, bytes } = await out({ as: 'svg' }, rana)
  expect(status).toBe(200)
  const words = wordsIn(bytes)
  for (const said of ['Work on permit', 'January 2027', 'must not slip', 'IB', 'today', 'Lift &lt;script&gt;'])
    expect(words).toContain(said)
  expect(bytes.toString()).not.toMatch(/<script|onload|href="(?!data:|#l\d)/i)
  const [, width, height] = /width="([\d.]+)" height="([\d.]+)"/.exec(bytes.toString())!
  // Another reader (librsvg) draws it as large as the one that makes the picture (resvg).
  const theirs = await sharp(Buffer.from((await out({ as: 'svg', shapes: true })).bytes)).metadata()
  const ours = await sharp((await out({ as: 'png', scale: 2 })).bytes).metadata()
  expect([theirs.width, theirs.height]).toEqual([Math.round(Number(width)), Math.round(Number(height))])
  expect([ours.width, ours.height]).toEqual([theirs.width * 2, theirs.height * 2])
  const file = join(mkdtempSync(join(tmpdir(), 'bars-')), 'bars.pdf')
  writeFileSync(file, (await out({ as: 'sheet', paper: 'a4' })).bytes)
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
  expect(text).toContain('Work on permit')
})

it('a part shows its own rows alone, by the plan of the whole; what was agreed lies under the bars', async () => {
  const part = wordsIn((await out({ as: 'svg', part: { kind: 'branch', topic: 'books' } })).bytes)
  expect(part).toContain('Work on books')
  for (const other of ['Work on permit', 'Work on fitout']) expect(part).not.toContain(other)
  expect(wordsIn((await out({ as: 'svg' })).bytes)).not.toMatch(/^\+1 d$/m)
  const { version: number } = await ines.open(tree)
  expect((await ines.call('PUT', `/api/trees/${tree}/moments/${number}/baseline`, { name: 'Agreed' })).status).toBe(200)
  await ines.edit(tree, [{ op: 'set', topic: 'permit', field: 'duration', value: 5 }])
  expect(wordsIn((await out({ as: 'svg' })).bytes)).toMatch(/^\+1 d$/m)
})

it('says why it can’t be made: no plan, no tasks along, nothing planned', async () => {
  expect(await out({ as: 'svg', with: ['notes'] })).toMatchObject({ status: 422, code: 'no-tasks' })
  const bare = await ines.makeTree('Bare')
  expect(await out({ as: 'png' }, ines, bare)).toMatchObject({ status: 422, code: 'no-plan' })
  await ines.edit(bare, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
  expect(await out({ as: 'png' }, ines, bare)).toMatchObject({ status: 422, code: 'nothing' })
  // What isn't a picture shows the tree, whatever was chosen.
  expect((await out({ as: 'markdown' }, ines, bare)).status).toBe(200)
})
