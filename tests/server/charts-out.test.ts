import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strFromU8, unzipSync } from 'fflate'
import sharp from 'sharp'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import type { Caller } from '../caller'
import { handedTree } from '../handed-tree'

const url = inject('url')
let ines: Caller
let tree: string

async function out(body: object): Promise<Buffer> {
  const response = await fetch(`${url}/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ today: '2027-01-01', with: ['figures'], ...body }),
  })
  expect(response.status).toBe(200)
  return Buffer.from(await response.arrayBuffer())
}

/** Whether a picture has a bar of a colour that is neither paper nor letters: so many dots of one strong colour. */
async function strongDots(bytes: Uint8Array): Promise<number> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  let strong = 0
  for (let i = 0; i < data.length; i += info.channels) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!]
    if (Math.max(r, g, b) - Math.min(r, g, b) > 60) strong++
  }
  return strong
}
/** Dark dots: letters. */
async function darkDots(bytes: Uint8Array): Promise<number> {
  const { data, info } = await sharp(bytes).removeAlpha().greyscale().raw().toBuffer({ resolveWithObject: true })
  let dark = 0
  for (let i = 0; i < data.length; i += info.channels) if (data[i]! < 150) dark++
  return dark
}

beforeAll(async () => {
  ;({ ines, tree } = await handedTree(url))
  const { centre } = (await ines.open(tree)).snapshot
  const chart = (id: string, kind: string, measure = 'kosten') => ({
    op: 'put',
    topic: centre,
    set: 'charts',
    member: { id, order: id, kind, measure, each: 'year' },
  })
  await ines.edit(tree, [
    chart('a0', 'bars'),
    chart('a1', 'rings'),
    // What has nothing to show, or no measure any more, is in no document.
    chart('a2', 'target'),
    chart('a3', 'bars', 'gone'),
  ] as never)
})

describe('long words', () => {
  it('are parted in a picture as on the screen, by the language of the tree', async () => {
    const title = 'Lastenaufzugswartungsvertragsverhandlungen'
    const change = async (...changes: object[]): Promise<number> => ines.edit(tree, changes as never)
    await change({ op: 'set', topic: 'fitout', field: 'title', value: title })
    expect((await out({ as: 'svg', with: [] })).toString()).not.toContain('verhand-<')
    await change({ op: 'tree', field: 'language', value: 'de' })
    const parted = (await out({ as: 'svg', with: [] })).toString()
    expect(parted).toContain('verhand-<')
    expect(parted).toContain('>lungen<')
    await change(
      { op: 'tree', field: 'language', value: null },
      { op: 'set', topic: 'fitout', field: 'title', value: 'Fit-out' },
    )
  })
})

describe('charts that hang on topics', () => {
  it('are drawn in a Word document, with what they are of for those who hear it', async () => {
    const parts = unzipSync(await out({ as: 'docx' }))
    const words = strFromU8(parts['word/document.xml']!)
    expect(words.match(/descr="[^"]*: Kosten"/g)).toHaveLength(2)
    const pictures = Object.entries(parts).filter(([name]) => /^word\/media\//.test(name))
    expect(pictures).toHaveLength(2)
    for (const [, bytes] of pictures) {
      expect((await sharp(bytes).metadata()).width).toBe(1280)
      expect(await strongDots(bytes)).toBeGreaterThan(2_000)
    }
    // The names beside the bars are there, in the fonts of documents.
    expect(await darkDots(pictures[0]![1])).toBeGreaterThan(200)
  })

  it('in a PDF and on slides of their own', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'charts-'))
    writeFileSync(join(folder, 'a.pdf'), await out({ as: 'pdf' }))
    execFileSync('pdfimages', ['-png', join(folder, 'a.pdf'), join(folder, 'p')])
    const pictures = readdirSync(folder).filter(name => name.endsWith('.png'))
    const sizes = await Promise.all(
      pictures.map(async name => (await sharp(readFileSync(join(folder, name))).metadata()).width),
    )
    expect(sizes.filter(width => width === 1280)).toHaveLength(2)
    const slides = Object.keys(unzipSync(await out({ as: 'pptx' }))).filter(name => /^ppt\/slides\/[^/]+$/.test(name))
    const bare = Object.keys(unzipSync(await out({ as: 'pptx', with: [] }))).filter(name =>
      /^ppt\/slides\/[^/]+$/.test(name),
    )
    expect(slides.length - bare.length).toBe(2)
  })

  it('beside a Markdown text as files', async () => {
    const parts = unzipSync(await out({ as: 'markdown' }))
    const text = strFromU8(parts[Object.keys(parts).find(name => name.endsWith('.md'))!]!)
    const named = [...text.matchAll(/^!\[[^\]]*: Kosten\]\(<?([^)>]+)>?\)$/gm)].map(([, at]) => decodeURIComponent(at!))
    expect(named).toHaveLength(2)
    expect(new Set(named).size).toBe(2)
    for (const at of named) {
      expect((await sharp(parts[at]!).metadata()).width).toBe(1280)
      expect(await strongDots(parts[at]!)).toBeGreaterThan(2_000)
    }
    // Without figures there is nothing to lie beside it.
    expect((await out({ as: 'markdown', with: [] })).subarray(0, 2).toString()).not.toBe('PK')
  })

  it('as a drawing with words in a page for the browser; not at all where figures don’t go along', async () => {
    const page = (await out({ as: 'html', language: 'de' })).toString()
    const drawings = [...page.matchAll(/src="data:image\/svg\+xml,([^"]+)" alt="[^"]*: Kosten"/g)]
    expect(drawings).toHaveLength(2)
    const svg = decodeURIComponent(drawings[0]![1]!.replaceAll('&amp;', '&'))
    expect(svg).toContain('Fit-out')
    expect(svg).toContain('10.000')
    expect((await out({ as: 'html', with: [] })).toString()).not.toContain('image/svg+xml')
    // What is in another language says so, for the voice that reads it.
    await ines.edit(tree, [{ op: 'set', topic: 'fitout', field: 'language', value: 'fr' }] as never)
    const spoken = (await out({ as: 'html', with: [] })).toString()
    expect(spoken).toMatch(/<h2 dir="auto" lang="fr">[^<]*Fit-out/)
    expect(spoken.match(/ lang="fr"/g)).toHaveLength(1)
    // A part has no bar of what isn't in it.
    const part = (await out({ as: 'html', part: { kind: 'branch', topic: 'fitout' } })).toString()
    expect(part).not.toContain('Books')
  })
})
