import { Document, HeadingLevel, ImageRun, Packer, Paragraph } from 'docx'
import sharp from 'sharp'
import { expect, inject, it } from 'vitest'
import type { Left } from '../../core/formats/markdown'
import { type Caller, signUp } from '../caller'

/* Pictures of a Word document come along: the first of a topic shows in it, the others hang on it. */

const url = inject('url')
const dot = (width: number, height: number, background: string): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background } })
    .png()
    .toBuffer()
const shown = (data: Buffer): Paragraph =>
  new Paragraph({ children: [new ImageRun({ type: 'png', data, transformation: { width: 60, height: 40 } })] })
const bring = (caller: Caller, bytes: Uint8Array) =>
  caller.call<{ id: string; left: Left[] }>('POST', '/api/trees/import', {
    ...{ format: 'docx', name: 'move.docx' },
    text: Buffer.from(bytes).toString('base64'),
  })

it('a document’s pictures are drawn anew and kept with the tree, all or nothing; what can’t be drawn is counted', async () => {
  const ines = await signUp(url)
  const written = await Packer.toBuffer(
    new Document({
      sections: [
        {
          children: [
            shown(await dot(600, 400, '#806040')),
            new Paragraph({ text: 'Fit-out', heading: HeadingLevel.HEADING_1 }),
            new Paragraph('Dry first'),
            shown(await dot(120, 60, '#204060')),
            shown(await dot(30, 60, '#206040')),
            shown(Buffer.from('no picture at all')),
            new Paragraph({ text: 'Books', heading: HeadingLevel.HEADING_1 }),
          ],
        },
      ],
    }),
  )
  const { status, data } = await bring(ines, written)
  expect([status, data.left]).toEqual([200, [{ what: 'image', count: 1 }]])
  const { topics, centre } = (await ines.open(data.id)).snapshot
  const fitOut = topics.find(({ title }) => title === 'Fit-out')!
  expect(topics.find(({ id }) => id === centre)!.picture).toMatchObject({ ratio: 400 / 600, width: 220 })
  expect(fitOut.picture).toMatchObject({ ratio: 0.5, width: 120, place: 'above' })
  expect(fitOut.files).toMatchObject([{ name: 'Picture 2.webp', type: 'image/webp', preview: { ratio: 2 } }])
  for (const file of [fitOut.picture!.file, fitOut.files![0]!.file]) {
    const response = await fetch(`${url}/api/trees/${data.id}/files/${file}`, { headers: { cookie: ines.cookie } })
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'image/webp'])
    expect((await sharp(Buffer.from(await response.arrayBuffer())).metadata()).format).toBe('webp')
  }
  // Nobody else has them.
  const lev = await signUp(url, 'Lev')
  expect(await lev.refusal('GET', `/api/trees/${data.id}/files/${fitOut.picture!.file}`)).toBe('404 no-tree')
})

it('pictures that a page holds itself come along, drawn anew; what it only names stays behind, and nothing is fetched', async () => {
  const ines = await signUp(url)
  const held = async (width: number, height: number, colour: string): Promise<string> =>
    `data:image/png;base64,${(await dot(width, height, colour)).toString('base64')}`
  const wide = await held(120, 60, '#204060')
  const page = `<h1>Move</h1><h2>Fit-out</h2><p>Dry first</p><img src="${wide}"><p><img src='${await held(30, 60, '#206040')}'></p>
    <h2>Books</h2><img alt="" src="${wide}"><img src="https://haven.example/loft.jpg"><img src="data:image/png;base64,AAAA">
    <img src="data:image/svg+xml,<svg onload=alert(1)>"><img src="data:text/html;base64,PHA+">`
  const { status, data } = await ines.call<{ id: string; left: Left[] }>('POST', '/api/trees/import', {
    ...{ format: 'html', name: 'move.html', text: page },
  })
  expect(status).toBe(200)
  expect(data.left).toContainEqual({ what: 'image', count: 4 })
  const { topics } = (await ines.open(data.id)).snapshot
  const of = (title: string) => topics.find(one => one.title === title)!
  expect(of('Fit-out').picture).toMatchObject({ ratio: 0.5, width: 120 })
  expect(of('Fit-out').files).toHaveLength(1)
  // The same picture twice is one file.
  expect(of('Books').picture!.file).toBe(of('Fit-out').picture!.file)
  const response = await fetch(`${url}/api/trees/${data.id}/files/${of('Books').picture!.file}`, {
    headers: { cookie: ines.cookie },
  })
  expect((await sharp(Buffer.from(await response.arrayBuffer())).metadata()).format).toBe('webp')
})

it('a tree that went out as a page comes back with its pictures', async () => {
  const ines = await signUp(url)
  const tree = await ines.makeTree('Move')
  const { centre } = (await ines.open(tree)).snapshot
  const response = await fetch(`${url}/api/trees/${tree}/pictures`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
    body: new Uint8Array(await dot(90, 30, '#806040')),
  })
  const { id: file } = (await response.json()) as { id: string }
  await ines.edit(tree, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift', note: null } },
    { op: 'set', topic: 'lift', field: 'picture', value: { file, width: 90, ratio: 1 / 3, place: 'above' } },
    { op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books' } },
  ])
  const { data: html } = await ines.call<string>('POST', `/api/trees/${tree}/hand-out`, {
    as: 'html',
    with: ['pictures'],
  })
  const { data } = await ines.call<{ id: string }>('POST', '/api/trees/import', {
    ...{ format: 'html', name: 'move.html', text: String(html) },
  })
  const { topics } = (await ines.open(data.id)).snapshot
  expect(topics.find(({ title }) => /Lift/.test(title ?? ''))!.picture).toMatchObject({ ratio: 1 / 3 })
})
