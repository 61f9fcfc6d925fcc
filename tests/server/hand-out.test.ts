import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strFromU8, unzipSync } from 'fflate'
import mammoth from 'mammoth'
import sharp from 'sharp'
import { beforeAll, describe, expect, inject, it } from 'vitest'
import { KIND_NAMES, KINDS, TAKEN, type Taken } from '../../core/handing/choice'
import { bringIn, type Caller, newId, signUp } from '../caller'
import { handedTree, TITLES } from '../handed-tree'

const url = inject('url')
let ines: Caller
let tree: string

/** A word for each thing that may go along, by which it's found in what comes out. */
const WORDS: Readonly<Record<Exclude<Taken, 'key' | 'pictures' | 'numbers'>, string>> = {
  notes: 'Zementestrich',
  tasks: '12 May 2027',
  markers: 'Decision',
  links: 'Liftwerk',
  files: 'offer-of-the-lift.txt',
  comments: 'Fahrkorbtiefe',
  'cross-links': 'same lorry',
  figures: '9,876.50',
}

async function out(
  body: object,
  caller = ines,
): Promise<{ status: number; type: string; name: string; bytes: Buffer }> {
  const response = await fetch(`${url}/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { cookie: caller.cookie, 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })
  return {
    status: response.status,
    type: response.headers.get('content-type') ?? '',
    name: response.headers.get('content-disposition') ?? '',
    bytes: Buffer.from(await response.arrayBuffer()),
  }
}
const folder = mkdtempSync(join(tmpdir(), 'hand-out-'))
function pdf(bytes: Buffer): { text: string; info: string } {
  const file = join(folder, `${newId()}.pdf`)
  writeFileSync(file, bytes)
  return {
    text: execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }),
    info: execFileSync('pdfinfo', [file], { encoding: 'utf8' }),
  }
}
const xmlText = (xml: string): string =>
  xml
    .replace(/<a:br\/>|<\/a:p>/g, '\n')
    .replace(/<[^>]+>/g, '')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replaceAll('&apos;', "'")
    .replaceAll('&amp;', '&')

/** All text of a file, by a reader that isn't ours. */
async function textOf(kind: keyof typeof KINDS, bytes: Buffer): Promise<string> {
  switch (kind) {
    case 'docx':
      return (await mammoth.extractRawText({ buffer: bytes })).value
    case 'pdf':
    case 'sheet':
      return pdf(bytes).text
    case 'pptx': {
      const parts = unzipSync(bytes)
      return Object.entries(parts)
        .filter(([name]) => /^ppt\/(?:slides|notesSlides)\/[^/]+\.xml$/.test(name))
        .map(([, part]) => xmlText(strFromU8(part)))
        .join('\n')
    }
    case 'xlsx':
      return Object.entries(unzipSync(bytes))
        .filter(([name]) => /^xl\/(?:sharedStrings|worksheets\/sheet1)\.xml$/.test(name))
        .map(([, part]) => xmlText(strFromU8(part)))
        .join('\n')
    case 'markdown':
      // With files beside it it's packed.
      return bytes[0] === 0x50
        ? strFromU8(Object.entries(unzipSync(bytes)).find(([name]) => name.endsWith('.md'))![1])
        : bytes.toString()
    case 'png':
      return ''
    case 'svg':
    case 'html':
      return xmlText(bytes.toString())
    default:
      return bytes.toString()
  }
}

beforeAll(async () => {
  ;({ ines, tree } = await handedTree(url))
})

describe('every kind', () => {
  for (const kind of KIND_NAMES)
    it(`${KINDS[kind].name}: says every title, and of the rest what it holds and what was chosen, in a file that others read`, async () => {
      const full = await out({ as: kind, with: [...TAKEN], today: '2027-01-01' })
      expect([full.status, full.type.split(';')[0]]).toEqual([
        200,
        kind === 'markdown' ? 'application/zip' : KINDS[kind].type,
      ])
      expect(full.name).toContain(kind === 'markdown' ? '.zip' : `.${KINDS[kind].extension}`)
      const bare = await out({ as: kind, with: [], today: '2027-01-01' })
      if (kind === 'png') {
        const about = await sharp(full.bytes).metadata()
        expect([about.format, about.width! > 400]).toEqual(['png', true])
        expect(full.bytes.equals(bare.bytes)).toBe(false)
        return
      }
      const text = await textOf(kind, full.bytes)
      const bareText = await textOf(kind, bare.bytes)
      // pdftotext gives Hebrew in the order it's read in.
      for (const title of TITLES)
        expect((kind === 'markdown' ? text.replaceAll('\\', '') : text).replace(/\s+/g, ' ')).toContain(
          kind === 'opml'
            ? title.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
            : kind === 'csv'
              ? title.replaceAll('"', '""')
              : title,
        )
      const holds: readonly string[] = KINDS[kind].holds
      for (const [what, word] of Object.entries(WORDS)) {
        // In pictures a note, link, file is a sign; people are their initials. OPML and CSV know markers by their ids.
        const shown =
          KINDS[kind].group === 'picture'
            ? { tasks: 'IB', 'cross-links': word, figures: word }[what]
            : (kind === 'opml' || kind === 'csv') && what === 'markers'
              ? 'decision'
              : (kind === 'opml' || kind === 'csv') && what === 'tasks'
                ? '2027-05-12'
                : (kind === 'xlsx' || kind === 'csv') && what === 'figures'
                  ? '9876.5'
                  : word
        if (shown === undefined) continue
        expect([what, text.includes(shown)]).toEqual([what, holds.includes(what)])
        expect([what, bareText.includes(shown)]).toEqual([what, false])
      }
    })
})

describe('pictures', () => {
  it('an SVG is drawn alike by another reader (librsvg) and by the one that made the PNG (resvg), without a font', async () => {
    const svg = (await out({ as: 'svg', shapes: true, with: [...TAKEN], today: '2027-01-01' })).bytes.toString()
    const theirs = sharp(Buffer.from(svg))
    const ours = sharp((await out({ as: 'png', scale: 1, with: [...TAKEN], today: '2027-01-01' })).bytes)
    const [theirSize, size] = [await theirs.metadata(), await ours.metadata()]
    expect([theirSize.width, theirSize.height]).toEqual([size.width, size.height])
    const a = await theirs.ensureAlpha().raw().toBuffer()
    const b = await ours.ensureAlpha().raw().toBuffer()
    let [inked, differ] = [0, 0]
    const ground = [b[0]!, b[1]!, b[2]!]
    for (let i = 0; i < b.length; i += 4) {
      const off = (x: Uint8Array, y: readonly number[]): number =>
        Math.max(Math.abs(x[i]! - y[0]!), Math.abs(x[i + 1]! - y[1]!), Math.abs(x[i + 2]! - y[2]!))
      if (off(b, ground) < 12 && off(a, ground) < 12) continue
      inked++
      if (off(a, [b[i]!, b[i + 1]!, b[i + 2]!]) > 96) differ++
    }
    expect(inked).toBeGreaterThan(5000)
    expect(differ / inked).toBeLessThan(0.01)
  })
  it('leads nowhere: no address of a file, a script or another house is in it', async () => {
    for (const shapes of [true, false]) {
      const svg = (await out({ as: 'svg', shapes, with: [...TAKEN] })).bytes.toString()
      expect(svg.match(/href="(?!data:image\/|#l\d)[^"]*"/g)).toBeNull()
      expect(svg).not.toMatch(/<script|onload|javascript:/i)
    }
  })
  it('is tiled over paper, each sheet of its size, and has letters that are found', async () => {
    const { text, info } = pdf((await out({ as: 'sheet', paper: 'a4' })).bytes)
    expect(info).toMatch(/Page size:\s+(?:841\.89 x 595\.28|595\.28 x 841\.89)/)
    expect(text).toContain('Fit-out')
    expect(pdf((await out({ as: 'sheet' })).bytes).info).toMatch(/Pages:\s+1\n/)
  })
  it('on no ground the corner is clear', async () => {
    const corner = async (clear: boolean): Promise<number> =>
      (
        await sharp((await out({ as: 'png', scale: 1, clear })).bytes)
          .ensureAlpha()
          .raw()
          .toBuffer()
      )[3]!
    expect([await corner(true), await corner(false)]).toEqual([0, 255])
  })
})

describe('documents', () => {
  it('a Word document has headings by level, links, tables, pictures, and cross-links that lead to their topic', async () => {
    const { bytes } = await out({ as: 'docx', with: [...TAKEN], headings: 2, language: 'de', drawn: true })
    const { value } = await mammoth.convertToHtml({ buffer: bytes })
    const html = value.replace(/src="data:[^"]*"/g, '')
    expect(html).toMatch(/<h1>(?:<a id="_Toc\d+"><\/a>)?<a id="t_fitout"><\/a>1 Fit-out<\/h1>/)
    expect(html).toMatch(/<h2>(?:<a id="_Toc\d+"><\/a>)?<a id="t_lift"><\/a>1\.1 Lift<\/h2>/)
    expect(html).toContain('href="https://lift.example/?a=1&amp;b=2"')
    expect(html).toContain('<strong>bold</strong>')
    expect(html).toMatch(/<a href="#t_books">same lorry: siehe 2 Books<\/a>/)
    for (const word of ['Aufgaben', 'Wer was macht', '12. Mai 2027']) expect(html).toContain(word)
    // On the picture of the whole, the largest in the document, the topic's own red one is seen.
    const pictures = Object.entries(unzipSync(bytes)).filter(([name]) => /^word\/media\/.*\.png$/.test(name))
    const sizes = await Promise.all(pictures.map(async ([, part]) => ({ part, about: await sharp(part).metadata() })))
    const whole = sizes.reduce((most, one) => (one.about.width > most.about.width ? one : most))
    const dots = await sharp(whole.part).removeAlpha().raw().toBuffer()
    let red = 0
    for (let i = 0; i < dots.length; i += 3)
      if (Math.abs(dots[i]! - 192) + Math.abs(dots[i + 1]! - 64) + Math.abs(dots[i + 2]! - 32) < 24) red++
    expect(red).toBeGreaterThan(3000)
    // The picture of the whole, the topic's and the note's.
    expect(html.match(/<img /g)).toHaveLength(3)
    const document = strFromU8(unzipSync(bytes)['word/document.xml']!)
    expect(document).toContain('w:bidi')
    for (const refused of ['\u0007', '\uFFFE']) expect(document).not.toContain(refused)
  })
  it('a PDF is tagged, has bookmarks, language, a title, and contents with the right pages', async () => {
    const { bytes } = await out({ as: 'pdf', with: [...TAKEN], headings: 3, language: 'fr' })
    const { text, info } = pdf(bytes)
    expect(info).toMatch(/Tagged:\s+yes/)
    expect(info).toMatch(/Title:\s+Move <to> & "tannery"/)
    expect(text).toContain('Sommaire')
    const pages = text.split('\f')
    const onPage = pages.findIndex((page, i) => i > 0 && /^\s*1 Fit-out/m.test(page)) + 1
    expect(pages[0]).toMatch(new RegExp(`1 Fit-out\\s+${onPage}\\n`))
    const raw = bytes.toString('latin1')
    expect(raw).toContain('/Lang (fr-FR)')
    expect(raw).toContain('/Outlines')
  })
  it('says of a topic in a language of its own which that is: for spelling, and for whoever hears it', async () => {
    const speak = (lift: string | null, books: string | null) =>
      ines.edit(tree, [
        { op: 'set', topic: 'lift', field: 'language', value: lift },
        { op: 'set', topic: 'books', field: 'language', value: books },
      ])
    await speak('da', 'ja')
    const document = strFromU8(unzipSync((await out({ as: 'docx', with: [...TAKEN] })).bytes)['word/document.xml']!)
    // The heading, and its note.
    expect(document.match(/<w:lang w:val="da"\/>/g)!.length).toBeGreaterThan(1)
    expect(document).toContain('<w:lang w:eastAsia="ja"/>')
    const raw = (await out({ as: 'pdf', with: [...TAKEN] })).bytes.toString('latin1')
    expect(raw.match(/\/Lang \(da\)/g)!.length).toBeGreaterThan(1)
    expect(raw).toContain('/Lang (ja)')
    const slides = Object.entries(unzipSync((await out({ as: 'pptx', with: [...TAKEN] })).bytes))
    expect(
      slides.some(([name, part]) => /slides\/slide\d+\.xml$/.test(name) && /lang="da"/.test(strFromU8(part))),
    ).toBe(true)
    await speak(null, null)
  })
  it('a page for the browser folds without a script and reads nothing from elsewhere', async () => {
    const { bytes } = await out({ as: 'html', with: [...TAKEN], drawn: true })
    const html = bytes.toString()
    expect(html).toContain('<details class="topic" id="t-lift" open>')
    expect(html).not.toMatch(/<script|<link |src="(?!data:)|url\(/i)
    expect(html).toContain('Move &lt;to&gt; &amp; &quot;tannery&quot;')
    // Its picture takes the light of whoever looks, unless one of them was asked for.
    expect(html).toMatch(
      /<style>svg\.drawn\{--light-0:#[0-9a-f]{6};.*@media screen and \(prefers-color-scheme:dark\)\{svg/,
    )
    expect((await out({ as: 'html', with: [...TAKEN], drawn: true, dusk: true })).bytes.toString()).not.toContain(
      '--light-',
    )
  })
  it('Markdown has headings as deep as one wants, its files beside it, and lists all through when one wants none', async () => {
    const { bytes } = await out({ as: 'markdown', with: [...TAKEN], headings: 1 })
    const parts = unzipSync(bytes)
    const files = Object.keys(parts).filter(name => name.startsWith('files/'))
    expect(files).toHaveLength(2)
    expect(strFromU8(parts[files.find(name => name.endsWith('.txt'))!]!)).toBe('the offer')
    const text = strFromU8(Object.entries(parts).find(([name]) => name.endsWith('.md'))![1])
    expect(text).toMatch(/^## 1 Fit-out$/m)
    expect(text).toMatch(/^- 1\.1 Lift – \*Decision · Ines Brandt/m)
    expect((await out({ as: 'markdown', with: [], headings: 0 })).bytes.toString()).not.toMatch(/^##/m)
  })
  it('slides have notes for whoever speaks, and what is too long goes on to the next', async () => {
    const many = Array.from({ length: 30 }, (_, i) => ({
      op: 'add' as const,
      topic: `many${i}`,
      parent: 'japan',
      order: `c${String(i).padStart(4, '0')}V`,
      with: { title: `Shelf ${i}`, due: '2027-04-01' },
    }))
    await ines.edit(tree, many)
    const parts = unzipSync((await out({ as: 'pptx', with: [...TAKEN] })).bytes)
    const slides = Object.keys(parts).filter(name => /^ppt\/slides\/slide\d+\.xml$/.test(name))
    const texts = slides.map(name => xmlText(strFromU8(parts[name]!)))
    expect(texts.filter(text => text.includes('(goes on)')).length).toBeGreaterThanOrEqual(2)
    for (let i = 0; i < 30; i++) expect(texts.some(text => new RegExp(`Shelf ${i}\\b`).test(text))).toBe(true)
    // What is said of a topic in small print never goes on to the next slide without it.
    for (const text of texts.filter(one => one.includes('(goes on)')))
      expect(
        text
          .split('\n')
          .map(line => line.trim())
          .filter(Boolean)[1],
      ).not.toMatch(/^Due /)
    const notes = Object.entries(parts).filter(([name]) => name.startsWith('ppt/notesSlides/notesSlide'))
    expect(notes.map(([, part]) => xmlText(strFromU8(part))).join()).toContain('Zementestrich')
    await ines.edit(
      tree,
      many.map(({ topic }) => ({ op: 'remove' as const, topic })),
    )
  })
})

describe('what can go wrong', () => {
  const refusal = async (body: object, caller = ines): Promise<string> => {
    const { status, bytes } = await out(body, caller)
    return `${status} ${(JSON.parse(bytes.toString()) as { error: { code: string } }).error.code}`
  }
  it('a stranger gets nothing, a viewer a file; both halves of that are told', async () => {
    const [stranger, viewer] = [await signUp(url, 'Strange'), await signUp(url, 'Vera')]
    await bringIn(ines, tree, viewer, 'viewer')
    expect(await refusal({ as: 'text' }, stranger)).toBe('404 no-tree')
    expect((await out({ as: 'text' }, viewer)).status).toBe(200)
    const { data } = await ines.call<{ what: string; by: string }[]>('GET', `/api/trees/${tree}/access`)
    expect(JSON.stringify(data)).toContain('exported')
  })
  it('a branch that is gone, a filter that leaves nothing, and a choice that isn’t one, are told apart', async () => {
    expect(await refusal({ as: 'docx', part: { kind: 'branch', topic: 'never' } })).toBe('422 nothing')
    expect(await refusal({ as: 'docx', part: { kind: 'filter', query: { about: 'marker', marker: 'risk' } } })).toBe(
      '422 nothing',
    )
    expect(await refusal({ as: 'exe' })).toBe('400 invalid')
    expect(await refusal({ as: 'png', scale: 900 })).toBe('400 invalid')
  })
  it('a file that went missing leaves its place, not an error', async () => {
    await ines.edit(tree, [
      {
        op: 'set',
        topic: 'books',
        field: 'picture',
        value: { file: 'd'.repeat(64), width: 80, ratio: 1, place: 'above' },
      },
    ])
    for (const as of ['docx', 'pdf', 'html', 'png', 'pptx'])
      expect([as, (await out({ as, with: [...TAKEN] })).status]).toEqual([as, 200])
    await ines.edit(tree, [{ op: 'set', topic: 'books', field: 'picture', value: null }])
  })
})

it('the table in the docs says what every kind takes', () => {
  const table = readFileSync('docs/handing-out.md', 'utf8')
  for (const kind of KIND_NAMES) {
    const holds: readonly string[] = KINDS[kind].holds
    expect(table).toContain(
      `| ${KINDS[kind].name} | ${TAKEN.map(what => (holds.includes(what) ? 'yes' : '–')).join(' | ')} |`,
    )
  }
})
