import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import type { KeptTemplate } from '../../core/handing/choice'
import type { TemplateSaid } from '../../core/handing/template'
import { type Caller, newId, signUp } from '../caller'
import { firmSlides, wordDocument } from '../office-files'

/* Slides wear the theme of others (ISO/IEC 29500, DrawingML), which a library made and not we. */

const url = inject('url')
let ines: Caller
let tree: string

async function attach(name: string, bytes: Uint8Array): Promise<string> {
  const response = await fetch(`${url}/api/trees/${tree}/attachments?name=${name}`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
    body: Buffer.from(bytes),
  })
  return ((await response.json()) as { file: string }).file
}
async function handed(
  template: string | null,
): Promise<{ status: number; text: string; parts: Record<string, string> }> {
  const response = await fetch(`${url}/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ as: 'pptx', with: ['tasks'], today: '2027-03-01', template }),
  })
  const bytes = new Uint8Array(await response.arrayBuffer())
  if (response.status !== 200) return { status: response.status, text: strFromU8(bytes), parts: {} }
  const parts = Object.fromEntries(
    Object.entries(unzipSync(bytes)).flatMap(([name, data]) =>
      name.endsWith('.xml') ? [[name, strFromU8(data)]] : [],
    ),
  )
  return { status: 200, text: '', parts }
}
const said = (file: string) =>
  ines.call<TemplateSaid & { error?: { message: string } }>('GET', `/api/trees/${tree}/templates/${file}`)

beforeAll(async () => {
  ines = await signUp(url)
  tree = await ines.makeTree('Move to the tannery')
  const { centre } = (await ines.open(tree)).snapshot
  await ines.edit(tree, [
    { op: 'add', topic: 'fit', parent: centre, order: 'a0', with: { title: 'Fit-out' } },
    { op: 'add', topic: 'lift', parent: 'fit', order: 'a0', with: { title: 'Lift', done: 50 } },
    { op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books' } },
  ])
})

describe('the theme of slides', () => {
  it('is read, shown before anything is made, and worn by the slides of the tree', async () => {
    const file = await attach('firm.pptx', await firmSlides())
    const { data } = await said(file)
    expect(data.theme).toMatchObject({
      ground: '#fffdf6',
      ink: '#221100',
      cover: '#6b2b1a',
      heading: 'Georgia',
      body: 'Verdana',
    })
    expect(data.theme!.hues[0]).toBe('#1f5f5b')
    const id = newId()
    const member = { ...{ id, name: 'Firm', file }, kind: 'pptx' as const }
    await ines.edit(tree, [{ op: 'tree-put', set: 'templates', member }])
    const worn = await handed(id)
    expect(worn.parts['ppt/slides/slide1.xml']).toContain('6B2B1A')
    expect(worn.parts['ppt/slides/slide2.xml']).toMatch(/FFFDF6.*1F5F5B/s)
    expect(worn.parts['ppt/slides/slide2.xml']).toContain('221100')
    expect(worn.parts['ppt/theme/theme1.xml']).toMatch(/Georgia.*Verdana/s)
    // By themselves they wear the tree's look.
    const plain = await handed(null)
    expect(plain.parts['ppt/slides/slide1.xml']).not.toContain('6B2B1A')
    // A Word document isn't written into slides.
    const word = await handed(id).then(() =>
      fetch(`${url}/api/trees/${tree}/hand-out`, {
        method: 'POST',
        headers: { cookie: ines.cookie, 'content-type': 'application/json' },
        body: JSON.stringify({ as: 'docx', with: [], today: '2027-03-01', template: id }),
      }),
    )
    expect([word.status, await word.text()]).toEqual([422, expect.stringContaining('Word document')])
  })

  it('of one’s own are at hand in every tree, known as slides', async () => {
    const kept = await fetch(`${url}/api/templates?name=Firm`, {
      method: 'POST',
      headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
      body: Buffer.from(await firmSlides()),
    })
    const { id, said: theirs } = (await kept.json()) as { id: string; said: TemplateSaid }
    expect(theirs.theme?.cover).toBe('#6b2b1a')
    const { data } = await ines.call<KeptTemplate[]>('GET', '/api/templates')
    expect(data).toMatchObject([{ id, kind: 'pptx' }])
    expect((await handed(id)).parts['ppt/slides/slide1.xml']).toContain('6B2B1A')
  })

  it('is refused with words where there’s none, or it would unfold', async () => {
    for (const [name, bytes] of [
      ['entities.pptx', await firmSlides(xml => xml.replace(/^<\?xml[^>]*\?>/, '$&<!DOCTYPE x [<!ENTITY a "b">]>'))],
      ['torn.pptx', await firmSlides(xml => xml.slice(0, 300))],
      ['empty.pptx', await firmSlides(() => '<a:theme xmlns:a="x"/>')],
      ['macros.pptx', zipSync({ ...unzipSync(await firmSlides()), 'ppt/vbaProject.bin': strToU8('x') })],
    ] as const) {
      const { status, data } = await said(await attach(name, bytes))
      expect([name, status]).toEqual([name, 422])
      expect(data.error!.message).toMatch(/Nothing was changed\.$/)
    }
    // A Word document is still one.
    expect((await said(await attach('plan.docx', await wordDocument()))).data.theme).toBeUndefined()
  })
})
