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
