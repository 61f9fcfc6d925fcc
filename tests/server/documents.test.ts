import fc from 'fast-check'
import mammoth from 'mammoth'
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { describe, expect, it } from 'vitest'
import type { Minutes, MinutesLine } from '#core/meeting/minutes'
import { FONT_NAMES } from '../../server/documents/fonts'
import { minutesAsDocx } from '../../server/documents/minutes-docx'
import { minutesAsPdf } from '../../server/documents/minutes-pdf'
import { emojiPicture } from '../../server/documents/colour-emoji'
import { MOST_PICTURES, PageWriter } from '../../server/documents/page-writer'
import { Typesetter } from '../../server/documents/typesetter'
import { warmUp } from '../../server/documents/warm-up'
import { layOutParagraph, type Ruler } from '../../server/documents/paragraph'

const line = (title: string): MinutesLine => ({
  id: 'x',
  kind: 'decision',
  title,
  by: 'Ines',
  at: '14:32',
  owners: [],
  due: null,
  done: false,
  note: '',
})
const NOTE = 'The first paragraph of a note.\nThe second stands apart.\nשלום עולם 12,500 (כן)'
const minutes: Minutes = {
  title: 'Coordination 🪵',
  why: '',
  where: '',
  day: '2027-03-02',
  began: null,
  ended: null,
  zone: 'Europe/Copenhagen',
  people: [],
  musts: [],
  actions: [],
  besides: [],
  planned: 20,
  actual: 18,
  items: [
    {
      id: 'i',
      number: '1',
      title: '図書館の引っ越し',
      intent: 'decide',
      owners: [],
      planned: 20,
      actual: 18,
      serves: [],
      note: NOTE,
      prepared: [],
      lines: [line('Gut ✅')],
      links: [],
      files: [],
    },
  ],
} as unknown as Minutes

interface Item {
  readonly str: string
  readonly transform: readonly number[]
  readonly fontName: string
}
async function itemsOf(data: Buffer): Promise<Item[]> {
  const task = getDocument({ data: new Uint8Array(data), useSystemFonts: false, verbosity: 0 })
  const page = await (await task.promise).getPage(1)
  const { items } = await page.getTextContent()
  await task.destroy()
  return items.filter(item => 'str' in item && item.str.trim() !== '') as unknown as Item[]
}

describe('the PDF', () => {
  it('has a glyph for every letter, Hebrew in its order, paragraphs apart', async () => {
    const items = await itemsOf(await minutesAsPdf(minutes))
    const text = items.map(({ str }) => str).join(' ')
    for (const part of ['図書館の引っ越し', '🪵', '✅', '12,500']) expect(text).toContain(part)
    const at = (word: string): Item => items.find(({ str }) => str.includes(word))!
    const [x, y] = [4, 5]
    // Read from the right: an independent reader puts the words back in the order they were written; the figure stands
    // left of them, all at the right margin.
    const words = items.find(({ str }) => str.includes('שלום'))!
    expect(words.str.replace(/\s+/g, ' ')).toMatch(/^שלום עולם/)
    expect(words.transform[x]!).toBeGreaterThan(at('12,500').transform[x]!)
    expect(words.transform[x]!).toBeGreaterThan(450)
    // Lines of one paragraph stand about 14 points apart, paragraphs further.
    expect(at('first').transform[y]! - at('second').transform[y]!).toBeGreaterThan(17)
    expect(new Set(items.map(({ fontName }) => fontName)).size).toBeGreaterThanOrEqual(4)
  })
})

describe('the DOCX', () => {
  it('says which paragraphs and runs are read from the right, and leaves page numbers to the reader’s program', async () => {
    const data = await minutesAsDocx({ minutes, author: 'Ines Brandt', template: null })
    const { unzipSync, strFromU8 } = await import('fflate')
    const xml = strFromU8(unzipSync(new Uint8Array(data))['word/document.xml']!)
    const hebrew = /<w:p>(?:(?!<\/w:p>).)*שלום.*?<\/w:p>/s.exec(xml)![0]
    expect(hebrew).toContain('<w:bidi/>')
    expect(hebrew).toContain('<w:rtl/>')
    expect(/<w:p>(?:(?!<\/w:p>).)*The second stands.*?<\/w:p>/s.exec(xml)![0]).not.toContain('<w:bidi/>')
    // The contents are a field that the program fills in; no number of ours stands in it.
    expect(xml).toMatch(/TOC [^<]*\\o (?:"|&quot;)1-2/)
    expect(xml).toMatch(/w:dirty="(?:true|1)"/)
    expect((await mammoth.convertToHtml({ buffer: data })).value).toContain('図書館の引っ越し')
  })
})

it('each font of a PDF is read once, however many words there are', () => {
  const writer = new PageWriter('Opening day')
  for (let i = 0; i < 50; i++) writer.write([['Books by van, ', { bold: i % 2 === 0 }], ['図書館 🎉 ημέρα']])
  expect((writer.doc as unknown as { _fontCount: number })._fontCount).toBeLessThanOrEqual(FONT_NAMES.length)
})

it('what one PDF has read and set serves the next, which is the same, letter by letter', async () => {
  const made = async (): Promise<string> =>
    (await minutesAsPdf(minutes))
      .toString('latin1')
      .replace(/\(D:\d{14}Z\)|CreateDate>[^<]*</g, '')
      .replace(/\/ID \[[^\]]*\]/, '')
  const first = await made()
  expect(await made()).toBe(first)
  expect(first.length).toBeGreaterThan(10_000)
})

it('a thread is got ready for documents', async () => {
  await expect(warmUp()).resolves.toBeUndefined()
})

describe('letters of a picture', () => {
  const face = { family: 'text', weight: 550, size: 16, slanted: false } as const
  const setter = new Typesetter()

  it('stand word by word where they were measured, in one design between two weights', () => {
    const text = 'Move the reading  room 117'
    const letters = setter.outlines(text, face, 10, 20)
    expect(letters).toHaveLength(text.replaceAll(' ', '').length)
    let at = 0
    for (const word of text.split(/(?<= )/)) {
      const start = text.indexOf(word, at)
      at = start + word.length
      if (word === ' ') continue
      const first = letters[text.slice(0, start).replaceAll(' ', '').length]!
      expect(first.x).toBeCloseTo(10 + setter.ruler(text.slice(0, start), face), 6)
    }
    // Once drawn, a letter is the same wherever it stands.
    const [o, again] = letters.filter((_, i) => text.replaceAll(' ', '')[i] === 'o')
    expect([o!.key, o!.d]).toEqual([again!.key, again!.d])
    expect(setter.outlines('o', { ...face, weight: 600 }, 0, 0)[0]!.d).not.toBe(o!.d)
  })

  it('are the same whatever was drawn before them, also in words that join their letters', () => {
    const words = fc.stringMatching(/^[fijltoTÄß ]{1,8}$/)
    const faces = fc.record({
      family: fc.constantFrom('text', 'display', 'book', 'hand'),
      weight: fc.integer({ min: 400, max: 800 }),
      size: fc.constant(16),
      slanted: fc.boolean(),
    })
    const shared = new Typesetter()
    fc.assert(
      fc.property(fc.array(fc.tuple(words, faces), { minLength: 1, maxLength: 4 }), lines => {
        for (const [word, one] of lines)
          expect(shared.outlines(word, one as never, 0, 0)).toEqual(new Typesetter().outlines(word, one as never, 0, 0))
      }),
      { numRuns: 150 },
    )
  })
})

describe('emoji in a PDF', () => {
  /** How many shapes are filled on the first page, and its words. */
  async function drawn(text: string): Promise<{ fills: number; words: string }> {
    const writer = new PageWriter('Opening day')
    writer.write([[text]])
    const data = await writer.finish()
    const task = getDocument({ data: new Uint8Array(data), useSystemFonts: false, verbosity: 0 })
    const page = await (await task.promise).getPage(1)
    const { fnArray, argsArray } = await page.getOperatorList()
    const fills = fnArray.filter(
      (op, i) => op === OPS.fill || (op === OPS.constructPath && (argsArray[i] as unknown[])[0] === OPS.fill),
    ).length
    const { items } = await page.getTextContent()
    await task.destroy()
    return { fills, words: items.map(item => ('str' in item ? item.str : '')).join('') }
  }
  it('are drawn in their colours, a person of several characters as one, and can still be searched', async () => {
    const plain = await drawn('Books by van')
    const lively = await drawn('Books 📚 by 👩‍🚒')
    const layers = ['📚', '👩‍🚒'].map(one => emojiPicture(one)!.shapes.length)
    expect(layers.every(count => count > 3)).toBe(true)
    expect(lively.fills - plain.fills).toBe(layers[0]! + layers[1]!)
    for (const emoji of ['📚', '👩‍🚒']) expect(lively.words).toContain(emoji)
  })
  it('are drawn in colour up to a number, so that a page of nothing else doesn’t hold everybody up', async () => {
    const many = await drawn('🎉 '.repeat(MOST_PICTURES + 500))
    expect(many.fills).toBeLessThanOrEqual(MOST_PICTURES * emojiPicture('🎉')!.shapes.length)
  })
  it('that have no colours in the font stay in ink', async () => {
    // U+1FAE9 came with Unicode 16, after the font.
    expect(emojiPicture('\u{1FAE9}')).toBeNull()
    expect((await drawn('Tired \u{1FAE9}')).fills).toBe((await drawn('Tired')).fills)
  })
})

describe('a paragraph', () => {
  it('law: what is plain stands the same, whether or not graphemes, directions and breaks are looked for', () => {
    const odd: Ruler<number> = {
      fontFor: (letter, style) => (/\d/.test(letter) ? 'otherText' : style > 1 ? 'bold' : 'text'),
      // Not the sum of its letters, as in a font that kerns.
      width: (text, font, style) =>
        text.length * (font === 'bold' ? 6 : 5) + (text.includes('AV') ? -1.5 : 0) + style / 7,
    }
    const piece = fc.tuple(fc.stringMatching(/^[ -~¡-¬®-ɏ‐-‧‰-⁞€]{0,30}$/), fc.integer({ min: 0, max: 3 }))
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 4 }), fc.integer({ min: 8, max: 700 }), (runs, width) => {
        expect(layOutParagraph(runs, width, odd)).toEqual(layOutParagraph(runs, width, odd, false))
      }),
      { numRuns: 1000 },
    )
  })
  const ruler: Ruler<null> = { fontFor: () => 'text', width: text => [...text].length * 10 }
  const lines = (text: string, width: number): string[] =>
    layOutParagraph([[text, null]], width, ruler).lines.map(line => line.pieces.map(piece => piece.text).join('|'))
  it('breaks where Unicode allows it, between letters where nothing else fits', () => {
    expect(lines('one two three', 70)).toEqual(['one|two', 'three'])
    expect(lines('図書館の引越', 30)).toEqual(['図書館', 'の引越'])
    expect(lines('unbreakable', 40)).toEqual(['unbr', 'eaka', 'ble'])
    expect(lines('', 40)).toEqual([])
  })
  it('orders words and figures as UAX #9 says', () => {
    // The examples of UAX #9, section 3.4, with Hebrew letters in place of capitals: “car means CAR.” and “he said
    // ‘CAR’”.
    expect(
      layOutParagraph([['car means אבג.', null]], 999, ruler).lines[0]!.pieces.map(({ text, x }) => [text, x]),
    ).toEqual([
      ['car', 0],
      ['means', 40],
      ['אבג', 100],
      ['.', 130],
    ])
    const right = layOutParagraph([['אבג abc 12', null]], 999, ruler)
    expect([right.rightToLeft, right.lines[0]!.pieces.map(({ text }) => text)]).toEqual([true, ['abc', '12', 'אבג']])
    expect(
      layOutParagraph([['אבג (12)', null]], 999, ruler)
        .lines[0]!.pieces.map(({ text }) => text)
        .join(''),
    ).toBe('(12)אבג')
  })
})
