import { Document, HeadingLevel, ImageRun, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from 'docx'
import ExcelJS from 'exceljs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import PptxGenJS from 'pptxgenjs'
import sharp, { type Sharp } from 'sharp'

/* Documents of office programs, made by libraries that write these formats and not by ours. */

export const picture = (): Sharp => sharp({ create: { width: 60, height: 40, channels: 3, background: '#806040' } })

export async function wordDocument(): Promise<Uint8Array> {
  return Packer.toBuffer(
    new Document({
      numbering: {
        config: [{ reference: 'steps', levels: [{ level: 0, format: 'decimal', text: '%1.', alignment: 'left' }] }],
      },
      sections: [
        {
          children: [
            new Paragraph({ text: 'The move', heading: HeadingLevel.HEADING_1 }),
            new Paragraph({ children: [new TextRun('Shelves come '), new TextRun({ text: 'first', bold: true })] }),
            new Paragraph({ text: 'Pack', numbering: { reference: 'steps', level: 0 } }),
            new Paragraph({
              children: [
                new ImageRun({
                  type: 'png',
                  data: await picture().png().toBuffer(),
                  transformation: { width: 60, height: 40 },
                }),
              ],
            }),
            new Table({
              rows: [
                new TableRow({
                  children: ['Lift', 'June'].map(text => new TableCell({ children: [new Paragraph(text)] })),
                }),
              ],
            }),
          ],
        },
      ],
    }),
  )
}

export async function workbook(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook()
  book.addWorksheet('Costs').addRows([
    ['Item', 'Cost'],
    ['Shelves', 1250.5],
  ])
  book.addWorksheet('Dates').addRow([new Date('2027-03-15T00:00:00Z')])
  return new Uint8Array(await book.xlsx.writeBuffer())
}

export async function slideDeck(): Promise<Uint8Array> {
  const deck = new PptxGenJS()
  const first = deck.addSlide()
  first.addText('Opening day', { placeholder: 'title', x: 1, y: 1, w: 8, h: 1 })
  first.addText(
    [{ text: 'Doors at ten' }, { text: 'Cake', options: { indentLevel: 1, breakLine: true, bullet: true } }],
    { x: 1, y: 2, w: 8, h: 2 },
  )
  first.addNotes('Thank the firms first.')
  const second = deck.addSlide()
  second.addText('The hall', { x: 1, y: 1, w: 8, h: 1 })
  second.addImage({
    data: `data:image/png;base64,${(await picture().png().toBuffer()).toString('base64')}`,
    x: 1,
    y: 2,
    w: 2,
    h: 1,
    altText: 'The hall from the gallery',
  })
  return (await deck.write({ outputType: 'uint8array' })) as Uint8Array
}

/** A firm's slides: its own six accents, two dark and two light colours, and fonts. */
export async function firmSlides(change: (theme: string) => string = theme => theme): Promise<Uint8Array> {
  const deck = new PptxGenJS()
  deck.theme = { headFontFace: 'Georgia', bodyFontFace: 'Verdana' }
  deck.addSlide().addText('Alder & Sons', { x: 1, y: 1, w: 5, h: 1 })
  const parts = unzipSync((await deck.write({ outputType: 'uint8array' })) as Uint8Array)
  const [name] = Object.keys(parts).filter(one => /^ppt\/theme\/theme1\.xml$/.test(one))
  let xml = strFromU8(parts[name!]!)
  const colours = { dk1: '221100', lt1: 'FFFDF6', dk2: '6B2B1A', accent1: '1F5F5B', accent2: 'F3E9A0' }
  for (const [scheme, colour] of Object.entries(colours))
    xml = xml.replace(
      new RegExp(`<a:${scheme}>.*?</a:${scheme}>`, 's'),
      `<a:${scheme}><a:srgbClr val="${colour}"/></a:${scheme}>`,
    )
  return zipSync({ ...parts, [name!]: strToU8(change(xml)) })
}
