import PDFDocument from 'pdfkit'
import { aboutLine, headOf, timeOf } from '#core/formats/minutes-markdown'
import { INTENT_NAMES } from '#core/meeting/invitation'
import type { Minutes, MinutesItem, MinutesLine } from '#core/meeting/minutes'
import { ENTRY_NAMES } from '#core/meeting/record'
import { dayInWords } from '#core/schedule/days'
import { type FontName, fontOf } from './fonts'

/* Minutes as a PDF: A4, text that can be searched and copied, bookmarks for the items, page numbers. */

const INK = '#16292D'
const QUIET = '#4F6468'
const PORCH = '#17616B'
const LINE = '#D5E2E0'
const CEILING = '#E4F0EE'
const MARGIN = 62

interface Style { readonly size?: number, readonly bold?: boolean, readonly color?: string, readonly link?: string, readonly indent?: number, readonly width?: number }
interface Glyphs { hasGlyphForCodePoint(point: number): boolean }
interface Piece { readonly text: string, readonly font: FontName }

/** A page writer that takes each letter from the first font that has it. */
class Writer {
  readonly doc = new PDFDocument({ size: 'A4', margin: MARGIN, bufferPages: true, font: fontOf('text') as unknown as string, lang: 'en-GB', displayTitle: true, pdfVersion: '1.7' })
  private readonly glyphs: Glyphs

  constructor(title: string) {
    this.doc.info.Title = title
    this.doc.info.Creator = 'Sun Porch'
    for (const name of ['text', 'bold', 'otherText', 'otherBold'] as const) this.doc.registerFont(name, fontOf(name))
    this.doc.font('text')
    this.glyphs = (this.doc as unknown as { _font: { font: Glyphs } })._font.font
  }

  get width(): number {
    return this.doc.page.width - MARGIN * 2
  }

  private pieces(text: string, bold: boolean): Piece[] {
    const pieces: { text: string, font: FontName }[] = []
    for (const letter of text) {
      const own = /\s/.test(letter) || this.glyphs.hasGlyphForCodePoint(letter.codePointAt(0)!)
      const font: FontName = own ? (bold ? 'bold' : 'text') : bold ? 'otherBold' : 'otherText'
      const last = pieces.at(-1)
      if (last && (last.font === font || letter === ' ')) last.text += letter
      else pieces.push({ text: letter, font })
    }
    return pieces
  }

  /** A paragraph of runs, each in its style. */
  write(runs: readonly (readonly [string, Style?])[], { indent = 0, after = 4, width = this.width - indent, x = MARGIN + indent }: { indent?: number, after?: number, width?: number, x?: number } = {}): void {
    const all = runs.flatMap(([text, style = {}]) => this.pieces(text.toWellFormed().replace(/\r?\n/g, ' '), style.bold ?? false).map(piece => ({ ...piece, style })))
    if (all.length === 0) return
    all.forEach(({ text, font, style }, i) => {
      this.doc.font(font).fontSize(style.size ?? 10.5).fillColor(style.color ?? INK)
      const options = { width, continued: i < all.length - 1, link: style.link ?? null, underline: style.link !== undefined, lineGap: 1.5 }
      if (i === 0) this.doc.text(text, x, this.doc.y, options as never)
      else this.doc.text(text, options as never)
    })
    this.doc.y += after
    this.doc.x = MARGIN
  }

  heightOf(text: string, width: number, bold: boolean): number {
    return this.doc.font(bold ? 'bold' : 'text').fontSize(9.5).heightOfString(text || ' ', { width, lineGap: 1.5 })
  }

  room(height: number): void {
    if (this.doc.y + height > this.doc.page.height - MARGIN) this.doc.addPage()
  }

  table(widths: readonly number[], head: readonly string[] | null, rows: readonly (readonly string[])[]): void {
    const pad = 5
    const draw = (cells: readonly string[], isHead: boolean): void => {
      const bold = (i: number): boolean => isHead || (head === null && i === 0)
      const height = Math.max(...cells.map((text, i) => this.heightOf(text, widths[i]! - pad * 2, bold(i)))) + pad * 2
      this.room(height)
      const top = this.doc.y
      let x = MARGIN
      cells.forEach((text, i) => {
        if (isHead) this.doc.rect(x, top, widths[i]!, height).fill(CEILING)
        this.doc.lineWidth(0.6).strokeColor(LINE).rect(x, top, widths[i]!, height).stroke()
        this.doc.y = top + pad
        this.write([[text || ' ', { size: 9.5, bold: bold(i) }]], { x: x + pad, width: widths[i]! - pad * 2, after: 0 })
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
      doc.font('text').fontSize(8.5).fillColor(QUIET).text(`${page + 1} / ${count}`, MARGIN, doc.page.height - 42, { width: this.width, align: 'right', lineBreak: false })
      doc.page.margins.bottom = bottom
    }
    const pieces: Buffer[] = []
    doc.on('data', (piece: Buffer) => pieces.push(piece))
    const ended = new Promise<void>((done) => { doc.on('end', done) })
    doc.end()
    await ended
    return Buffer.concat(pieces)
  }
}

function writeLine(page: Writer, line: MinutesLine): void {
  page.room(30)
  page.write([['•  ', { color: PORCH }], [`${ENTRY_NAMES[line.kind]}: `, { bold: true, color: PORCH }], [line.title], [`   ${aboutLine(line)}`, { size: 9, color: QUIET }]], { indent: 10, after: 3 })
  if (line.note) page.write([[line.note, { size: 9.5 }]], { indent: 24 })
}

function writeItem(page: Writer, item: MinutesItem): void {
  // A heading stays with what comes first below it.
  page.room(item.lines.length + item.prepared.length > 0 ? 110 : 70)
  page.doc.y += 10
  page.doc.outline.addItem(`${item.number} ${item.title}`)
  page.write([[`${item.number}  ${item.title || 'untitled'}`, { size: 14, bold: true }]], { after: 2 })
  page.write([[[INTENT_NAMES[item.intent], item.owners.join(', '), timeOf(item)].filter(Boolean).join(' · '), { size: 9, color: QUIET }]], { after: 6 })
  if (item.serves.length > 0) page.write([['To be settled: ', { bold: true }], [item.serves.join('; ')]])
  if (item.note) page.write([[item.note]])
  let part = 0
  for (const { level, title, note } of item.prepared) {
    page.room(26)
    if (level === 0) page.write([[`${item.number}.${++part}  ${title || 'untitled'}`, { bold: true, color: PORCH, size: 11 }]], { after: 2 })
    else page.write([['–  ', { color: QUIET }], [title]], { indent: 10 * level, after: 2 })
    if (note) page.write([[note]], { indent: 10 * level })
  }
  for (const line of item.lines) writeLine(page, line)
  for (const { words, url } of item.links) page.write([['•  ', { color: PORCH }], /^(?:https?|mailto):/i.test(url) ? [words, { link: url, color: PORCH }] : [words]], { indent: 10, after: 3 })
  for (const { name } of item.files) page.write([['•  ', { color: PORCH }], ['File: ', { bold: true }], [name]], { indent: 10, after: 3 })
}

export async function minutesAsPdf(minutes: Minutes): Promise<Buffer> {
  const page = new Writer(minutes.title)
  page.write([[minutes.title || 'Meeting', { size: 22, bold: true, color: PORCH }]], { after: 10 })
  page.table([92, page.width - 92], null, headOf(minutes))
  if (minutes.musts.length > 0) {
    page.write([['What was to be settled', { size: 14, bold: true }]], { after: 4 })
    for (const { text, decisions } of minutes.musts) page.write([['•  ', { color: PORCH }], [text, { bold: true }], [decisions.length > 0 ? `: ${decisions.join('; ')}` : ': not settled']], { indent: 10 })
  }
  if (minutes.actions.length > 0) {
    page.room(80)
    page.doc.y += 8
    page.doc.outline.addItem('Actions')
    page.write([['Actions', { size: 14, bold: true }]], { after: 4 })
    const width = page.width
    page.table([width * 0.44, width * 0.22, width * 0.15, width * 0.19], ['What', 'Who', 'Due', 'From'], minutes.actions.map(one => [one.title, one.owners.join(', ') || 'nobody yet', one.due ? dayInWords(one.due) : '', one.item]))
  }
  for (const item of minutes.items) writeItem(page, item)
  if (minutes.besides.length > 0) {
    page.doc.y += 10
    page.write([['Besides', { size: 14, bold: true }]])
    for (const line of minutes.besides) writeLine(page, line)
  }
  return page.finish()
}
