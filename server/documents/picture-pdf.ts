// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./packages.d.ts" />
import PDFDocument from 'pdfkit'
import drawSvg from 'svg-to-pdfkit'
import type { Choice } from '#core/handing/choice'
import { LOCALES } from '#core/handing/words'
import { TooManyToDraw } from '#core/scene/scene'
import type { Scene } from '#core/scene/shapes'
import { bytesOf } from './page-writer'
import { type PictureAsked, treeSvg } from './tree-picture'
import { pageFont } from './typesetter'

/* A picture as a PDF of vectors with letters that can be searched: on one page of its own size, or tiled over paper. */

/** Points of one canvas unit: a CSS pixel at 96 to the inch. */
const POINTS = 0.75
/** Points along one side that a page may have (PDF 1.7, annex C.2). */
const LONGEST_PAGE = 14_400
const PAPER = { a4: [595.28, 841.89], a3: [841.89, 1190.55], letter: [612, 792] } as const
/** Points at the edge of a sheet that no printer reaches, and by which neighbours overlap. */
const EDGE = 28
const OVERLAP = 28
/** Sheets of one picture at most. */
const MOST_SHEETS = 200
const MARK = '#4f6468'

function begin(scene: Scene, choice: Choice): PDFKit.PDFDocument {
  const doc = new PDFDocument({
    autoFirstPage: false,
    font: '',
    lang: LOCALES[choice.language],
    displayTitle: true,
    pdfVersion: '1.7',
  })
  doc.info.Title = scene.title
  doc.info.Creator = 'Sun Porch'
  return doc
}

/** Fonts are named in the picture as `pageFont` knows them, and come into the document when they're first met. */
function fontsOf(doc: PDFKit.PDFDocument): (name: string) => string {
  const met = new Set<string>()
  return name => {
    if (!met.has(name)) doc.registerFont(name, pageFont(name))
    met.add(name)
    return name
  }
}

export async function pictureAsPdf(scene: Scene, asked: PictureAsked, choice: Choice): Promise<Buffer> {
  const doc = begin(scene, choice)
  const fontOf = fontsOf(doc)
  const svg = treeSvg(scene, choice.shapes ? 'shapes' : 'page', asked, { clear: choice.clear })
  const [width, height] = [scene.bounds.width * POINTS, scene.bounds.height * POINTS]
  const draw = (x: number, y: number): void =>
    drawSvg(doc, svg, x, y, {
      width,
      height,
      preserveAspectRatio: 'xMinYMin meet',
      assumePt: true,
      fontCallback: fontOf,
      // Nothing but what is in the picture itself is read: an address could name a file of this machine.
      imageCallback: (address: string) => (address.startsWith('data:') ? address : ''),
      warningCallback: () => {},
    })
  if (choice.paper === null) {
    if (width > LONGEST_PAGE || height > LONGEST_PAGE)
      throw new TooManyToDraw(
        'This picture is larger than a page of a PDF may be (5 metres). Tile it over paper, or take a branch or fewer levels.',
      )
    doc.addPage({ size: [width, height], margin: 0 })
    draw(0, 0)
    return bytesOf(doc)
  }
  tile(doc, choice.paper, width, height, draw)
  return bytesOf(doc)
}

/** The picture over sheets of paper, the way round that takes fewer: each with marks to cut by, and a map of where it belongs. */
function tile(
  doc: PDFKit.PDFDocument,
  paper: NonNullable<Choice['paper']>,
  width: number,
  height: number,
  draw: (x: number, y: number) => void,
): void {
  const [short, long] = PAPER[paper]
  const grid = (wide: number, tall: number) => {
    const [w, h] = [wide - EDGE * 2, tall - EDGE * 2]
    const count = (whole: number, part: number): number =>
      whole <= part ? 1 : 1 + Math.ceil((whole - part) / (part - OVERLAP))
    return { wide, tall, w, h, columns: count(width, w), rows: count(height, h) }
  }
  const [upright, across] = [grid(short, long), grid(long, short)]
  const { wide, tall, w, h, columns, rows } =
    across.columns * across.rows < upright.columns * upright.rows ? across : upright
  const sheets = columns * rows
  if (sheets > MOST_SHEETS)
    throw new TooManyToDraw(
      `This picture would take ${sheets} sheets, and ${MOST_SHEETS} are the most. Take larger paper, a branch or fewer levels.`,
    )
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      doc.addPage({ size: [wide, tall], margin: 0 })
      doc.save()
      doc.rect(EDGE, EDGE, w, h).clip()
      draw(EDGE - column * (w - OVERLAP), EDGE - row * (h - OVERLAP))
      doc.restore()
      if (sheets === 1) continue
      cropMarks(doc, wide, tall)
      map(doc, { columns, rows, column, row }, wide, tall)
    }
}

function cropMarks(doc: PDFKit.PDFDocument, wide: number, tall: number): void {
  doc.lineWidth(0.5).strokeColor(MARK)
  for (const x of [EDGE, wide - EDGE])
    for (const [from, to] of [
      [6, EDGE - 5],
      [tall - EDGE + 5, tall - 6],
    ] as const)
      doc.moveTo(x, from).lineTo(x, to).stroke()
  for (const y of [EDGE, tall - EDGE])
    for (const [from, to] of [
      [6, EDGE - 5],
      [wide - EDGE + 5, wide - 6],
    ] as const)
      doc.moveTo(from, y).lineTo(to, y).stroke()
}

/** Where this sheet belongs among the others, small, at the foot. */
function map(
  doc: PDFKit.PDFDocument,
  { columns, rows, column, row }: { columns: number; rows: number; column: number; row: number },
  wide: number,
  tall: number,
): void {
  const side = Math.min(5, 16 / rows, 60 / columns)
  const x0 = wide / 2 - (columns * side) / 2
  const y0 = tall - EDGE / 2 - (rows * side) / 2
  doc.lineWidth(0.4).strokeColor(MARK)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const box = doc.rect(x0 + c * side, y0 + r * side, side, side)
      if (r === row && c === column) box.fillAndStroke(MARK, MARK)
      else box.stroke()
    }
  doc
    .font(pageFont('text') as never)
    .fontSize(7)
    .fillColor(MARK)
    .text(`${row + 1}.${column + 1} / ${rows}.${columns}`, x0 + columns * side + 6, tall - EDGE / 2 - 4, {
      lineBreak: false,
    })
}
