import PDFDocument from 'pdfkit'
import { emojiPicture } from './colour-emoji'
import { FONT_NAMES, fontFor, type FontName, fontOf } from './fonts'
import { layOutParagraph, type Ruler } from './paragraph'

/*
 * Pages of a PDF: A4, text that can be searched and copied, in every script that the fonts have and in its own
 * direction.
 */

export const INK = '#16292D'
export const QUIET = '#4F6468'
export const PORCH = '#17616B'
const LINE = '#D5E2E0'
const CEILING = '#E4F0EE'
const MARGIN = 62
const USUAL_SIZE = 10.5
/** Points between lines, and between the paragraphs of one text. */
const LEADING = 1.5
const BETWEEN = 5
/** Where a picture among letters stands, of its size below the top of its line. */
const EMOJI_FOOT = 0.95
/** Pictures of one document that are drawn in colour; each is up to some thirty shapes. The rest stay in ink. */
export const MOST_PICTURES = 300

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

export interface Style {
  readonly size?: number
  readonly bold?: boolean
  readonly color?: string
  readonly link?: string
  /** A named place in the document that it leads to. */
  readonly goTo?: string
}
export type Run = readonly [text: string, style?: Style]
interface Place {
  readonly indent?: number
  readonly after?: number
  readonly width?: number
  readonly x?: number
}
interface Glyphs {
  hasGlyphForCodePoint(point: number): boolean
}
/** A font as pdfkit holds it: with what it has read of the file, and the words it has set. */
interface OpenFont {
  font: Glyphs
  layoutCache: Record<string, unknown>
}
/** What one document has read of a font and set with it, for the next: pdfkit begins each anew. */
const shared = new Map<FontName, Pick<OpenFont, 'font' | 'layoutCache'>>()
/** Words of a font that are kept. */
const MOST_WORDS = 20_000

export class PageWriter {
  readonly doc: PDFKit.PDFDocument
  private pictures = 0
  private readonly glyphs = new Map<FontName, Glyphs>()
  private readonly ruler: Ruler<Style>

  /** The language of what is drawn just now, where it isn't the document's. */
  private language: string | null = null
  /** The document's structure for whoever hears it (PDF 1.7, section 14.8), where it has one. */
  private readonly structure: PDFKit.PDFStructureElement | null = null

  constructor(title: string, language = 'en-GB', tagged = false) {
    this.doc = new PDFDocument({
      tagged,
      size: 'A4',
      margin: MARGIN,
      bufferPages: true,
      // None at first: pdfkit would read one that it was given here anew at each use of its name.
      font: '',
      lang: language,
      displayTitle: true,
      pdfVersion: '1.7',
    })
    this.doc.info.Title = title
    if (tagged) {
      this.structure = this.doc.struct('Document')
      this.doc.addStructure(this.structure)
    }
    this.doc.info.Creator = 'Sun Porch'
    for (const name of FONT_NAMES) this.doc.registerFont(name, fontOf(name))
    this.doc.font('text')
    const has = (font: FontName, point: number): boolean => this.open(font).hasGlyphForCodePoint(point)
    this.ruler = {
      fontFor: (grapheme, { bold }) =>
        /^\s/.test(grapheme) ? (bold ? 'bold' : 'text') : fontFor(grapheme, bold ?? false, has),
      width: (text, font, { size }) =>
        this.doc
          .font(font)
          .fontSize(size ?? USUAL_SIZE)
          .widthOfString(text),
    }
  }

  /** The glyphs of a font, which is opened when a letter asks for it first. */
  private open(name: FontName): Glyphs {
    const known = this.glyphs.get(name)
    if (known) return known
    const open = (this.doc.font(name) as unknown as { _font: OpenFont })._font
    const before = shared.get(name)
    if (before && Object.keys(before.layoutCache).length < MOST_WORDS) Object.assign(open, before)
    else shared.set(name, { font: open.font, layoutCache: open.layoutCache })
    this.glyphs.set(name, open.font)
    return open.font
  }

  get width(): number {
    return this.doc.page.width - MARGIN * 2
  }

  /**
   * Paragraphs of runs, each run in its style; a line break in a run begins the next paragraph. What is read from the
   * right stands at the right.
   */
  write(
    runs: readonly Run[],
    { indent = 0, after = 4, width = this.width - indent, x = MARGIN + indent }: Place = {},
  ): void {
    const paragraphs = split(runs)
    paragraphs.forEach((paragraph, i) => {
      const { lines, rightToLeft } = layOutParagraph(paragraph, width, this.ruler)
      for (const line of lines) {
        const height = Math.max(USUAL_SIZE, ...line.pieces.map(({ style }) => style.size ?? USUAL_SIZE)) * 1.2 + LEADING
        this.room(height)
        const top = this.doc.y
        const from = rightToLeft ? x + width - line.width : x
        for (const { text, font, style, x: at } of line.pieces) {
          const size = style.size ?? USUAL_SIZE
          // Small print stands on the same foot as the rest of its line.
          const y = top + height - LEADING - size * 1.2
          const coloured = font === 'emoji' && this.emoji(text, from + at, y, size)
          this.doc
            .font(font)
            .fontSize(size)
            .fillColor(style.color ?? INK, coloured ? 0 : 1)
          this.doc.text(text, from + at, y, {
            lineBreak: false,
            link: style.link ?? null,
            underline: style.link !== undefined,
            ...(style.goTo === undefined ? {} : { goTo: style.goTo }),
          } as never)
        }
        this.doc.y = top + height
      }
      this.doc.y += i < paragraphs.length - 1 ? BETWEEN : after
    })
    this.doc.x = MARGIN
  }

  /** Draws emoji in colour, each as wide as its letter. False, and nothing drawn, where one of them has no colours. */
  private emoji(text: string, x: number, y: number, size: number): boolean {
    const letters = [...graphemes.segment(text)].map(({ segment }) => segment)
    if (this.pictures + letters.length > MOST_PICTURES) return false
    const pictures = letters.map(emojiPicture)
    if (pictures.includes(null)) return false
    this.pictures += letters.length
    let left = x
    const foot = y + size * EMOJI_FOOT
    pictures.forEach((picture, i) => {
      const width = this.doc.font('emoji').fontSize(size).widthOfString(letters[i]!)
      const scale = width / picture!.width
      this.doc.save().translate(left, foot).scale(scale, -scale)
      for (const { path, color, opacity } of picture!.shapes)
        this.doc
          .path(path)
          .fillColor([...color], opacity)
          .fill()
      this.doc.restore()
      left += width
    })
    return true
  }

  /** Draws something as an element of the structure: 'P', 'H1', 'Figure', 'Table' … (PDF 1.7, section 14.8.4). */
  as(type: string, draw: () => void, alt?: string): void {
    const said = { ...(alt === undefined ? {} : { alt }), ...(this.language === null ? {} : { lang: this.language }) }
    if (this.structure) this.structure.add(this.doc.struct(type, said, [draw]))
    else draw()
  }

  /** What is drawn here is in a language of its own (PDF 1.7, section 14.9.2); null: in that of the document. */
  speaking(language: string | null, draw: () => void): void {
    const before = this.language
    this.language = language
    draw()
    this.language = before
  }

  /** A picture, made to fit the width and the room below, on the next page if there's more room. */
  picture(bytes: Buffer, width: number, height: number, { indent = 0, words = '' } = {}): void {
    const tallest = this.doc.page.height - MARGIN * 2
    const scale = Math.min(1, (this.width - indent) / width, tallest / height)
    this.room(height * scale)
    const top = this.doc.y
    this.as(
      'Figure',
      () => this.doc.image(bytes, MARGIN + indent, top, { width: width * scale, height: height * scale }),
      words,
    )
    this.doc.x = MARGIN
    this.doc.y = top + height * scale + 8
  }

  /** How much room is left on this page, in points. */
  get left(): number {
    return this.doc.page.height - MARGIN - this.doc.y
  }

  /** The page that is open, counted from 0. */
  get page(): number {
    const { start, count } = this.doc.bufferedPageRange()
    return start + count - 1
  }

  /** Names the place where the page is now, for links that lead here. */
  place(name: string): void {
    this.doc.addNamedDestination(name, 'XYZ', MARGIN, this.doc.y, null as never)
  }

  private heightOf(text: string, width: number, style: Style): number {
    const height = (style.size ?? USUAL_SIZE) * 1.2 + LEADING
    const paragraphs = split([[text || ' ', style]])
    return paragraphs.reduce(
      (sum, paragraph) => sum + Math.max(1, layOutParagraph(paragraph, width, this.ruler).lines.length) * height,
      (paragraphs.length - 1) * BETWEEN,
    )
  }

  /** Begins a new page unless this much fits on the one that is open. */
  room(height: number): void {
    // An element of the structure that is being drawn goes on over the page's end.
    if (this.doc.y + height > this.doc.page.height - MARGIN) this.doc.continueOnNewPage()
  }

  space(height: number): void {
    this.doc.y += height
  }

  /** An entry of the document's outline, which leads here. */
  mark(title: string): void {
    this.doc.outline.addItem(title)
  }

  /** Entries one below the other: `level` from 1. A level that was passed over hangs on the one above it. */
  markAt(level: number, title: string): void {
    const above = this.marks.slice(0, level - 1).at(-1) ?? this.doc.outline
    this.marks.length = Math.min(this.marks.length, level - 1)
    this.marks.push(above.addItem(title))
  }
  private readonly marks: PDFKit.PDFOutline[] = []

  table(widths: readonly number[], head: readonly string[] | null, rows: readonly (readonly string[])[]): void {
    const pad = 5
    const draw = (cells: readonly string[], isHead: boolean): void => {
      const style = (i: number): Style => ({ size: 9.5, bold: isHead || (head === null && i === 0) })
      const height = Math.max(...cells.map((text, i) => this.heightOf(text, widths[i]! - pad * 2, style(i)))) + pad * 2
      this.room(height)
      const top = this.doc.y
      let x = MARGIN
      cells.forEach((text, i) => {
        if (isHead) this.doc.rect(x, top, widths[i]!, height).fill(CEILING)
        this.doc.lineWidth(0.6).strokeColor(LINE).rect(x, top, widths[i]!, height).stroke()
        this.doc.y = top + pad
        this.write([[text || ' ', style(i)]], { x: x + pad, width: widths[i]! - pad * 2, after: 0 })
        x += widths[i]!
      })
      this.doc.x = MARGIN
      this.doc.y = top + height
    }
    if (head) draw(head, true)
    for (const row of rows) draw(row, false)
    this.doc.y += 8
  }

  async finish(): Promise<Buffer> {
    const { doc } = this
    const { count } = doc.bufferedPageRange()
    for (let page = 0; page < count; page++) {
      doc.switchToPage(page)
      // Below the margin a line would begin a new page.
      const { bottom } = doc.page.margins
      doc.page.margins.bottom = 0
      if (this.structure) doc.markContent('Artifact', { type: 'Pagination' })
      doc
        .font('text')
        .fontSize(8.5)
        .fillColor(QUIET)
        .text(`${page + 1} / ${count}`, MARGIN, doc.page.height - 42, {
          width: this.width,
          align: 'right',
          lineBreak: false,
        })
      if (this.structure) doc.endMarkedContent()
      doc.page.margins.bottom = bottom
    }
    this.structure?.end()
    return bytesOf(doc)
  }
}

/** Ends a document; its bytes. */
export async function bytesOf(doc: PDFKit.PDFDocument): Promise<Buffer> {
  const pieces: Buffer[] = []
  doc.on('data', (piece: Buffer) => pieces.push(piece))
  const ended = new Promise<void>(done => {
    doc.on('end', done)
  })
  doc.end()
  await ended
  return Buffer.concat(pieces)
}

/** Runs in paragraphs, at their line breaks; empty ones are left out. */
function split(runs: readonly Run[]): (readonly [string, Style])[][] {
  const paragraphs: [string, Style][][] = [[]]
  for (const [text, style = {}] of runs) {
    const [first = '', ...rest] = text.toWellFormed().split(/\r?\n/)
    paragraphs.at(-1)!.push([first, style])
    for (const part of rest) paragraphs.push([[part, style]])
  }
  return paragraphs.filter(paragraph => paragraph.some(([text]) => text !== ''))
}
