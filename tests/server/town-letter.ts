import { Document, Footer, Header, ImageRun, Packer, Paragraph, TextRun } from 'docx'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import sharp from 'sharp'

/** The town's letter: German style ids, a header with the title, a footer, a logo, on narrow paper. */
export async function letter(fields: readonly string[], more: object = {}): Promise<Buffer> {
  const logo = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#7a3b2e' } })
    .png()
    .toBuffer()
  const made = await Packer.toBuffer(
    new Document({
      styles: {
        default: { document: { run: { font: 'Georgia' } } },
        paragraphStyles: [
          { id: 'berschrift1', name: 'heading 1', basedOn: 'Normal', run: { color: '7A3B2E', size: 40 } },
          { id: 'Titel', name: 'Title', basedOn: 'Normal', run: { size: 60 } },
        ],
      },
      sections: [
        {
          properties: { page: { size: { width: 9000, height: 12_000 }, margin: { left: 1000, right: 1000 } } },
          headers: {
            default: new Header({
              children: [
                new Paragraph({
                  children: [
                    new ImageRun({ type: 'png', data: logo, transformation: { width: 8, height: 8 } }),
                    new TextRun('Town of Alder: {{'),
                    // As word processors cut it into runs.
                    new TextRun({ text: 'ti', bold: true }),
                    new TextRun('tle}}'),
                  ],
                }),
              ],
            }),
          },
          footers: { default: new Footer({ children: [new Paragraph('Confidential, {{ date }}')] }) },
          children: fields.map(text => new Paragraph(text)),
        },
      ],
      ...more,
    }),
  )
  // As a word processor saves it, with the styles alone that somebody used.
  const parts = unzipSync(made)
  const styles = strFromU8(parts['word/styles.xml']!).replaceAll(
    /<w:style (?:(?!<\/w:style>).)*?w:styleId="(?:Heading\d|Title|ListParagraph|Hyperlink)".*?<\/w:style>/gs,
    '',
  )
  return Buffer.from(zipSync({ ...parts, 'word/styles.xml': strToU8(styles) }))
}
