import { Document, Packer } from 'docx'
import type { HandedTopic } from '#core/handing/handed'
import { Telling } from '#core/handing/telling'
import type { WordDocumentAsked } from './document-asked'
import { IN_ORDER } from './docx-note'
import { clean, INK, PORCH } from './docx-parts'
import { TreeDocument } from './tree-document'

/* A part of a tree as a file for word processors: a document of our own look, or written into a template. */

/** Topics, and headings, of a document whose page numbers are estimated. */
const MOST_ESTIMATED = 400
const MOST_SECTIONS = 60

function sectionsIn({ children, level }: HandedTopic, headings: number): number {
  return level >= headings ? 0 : children.reduce((sum, child) => sum + 1 + sectionsIn(child, headings), 0)
}

export async function treeAsDocx(asked: WordDocumentAsked): Promise<Buffer> {
  const telling = new Telling(asked.choice)
  const heading = (size: number, color: string) => ({
    run: { size, bold: true, color },
    paragraph: { spacing: { before: size * 9, after: size * 3 }, keepNext: true },
  })
  // Readers that don't work the contents out by themselves show about where everything stands. How long that takes grows faster
  // than the document; a longer one asks its reader to work it out.
  const { count, root } = asked.handed
  const estimated = count <= MOST_ESTIMATED && sectionsIn(root, asked.choice.headings) <= MOST_SECTIONS
  const title = clean(root.title)
  const author = clean(asked.author || 'Sun Porch')
  const document = new TreeDocument(asked)
  // Each is large, and read only where it's asked for.
  if (asked.template)
    return (await import('./fill-template')).fillTemplate(asked.template, {
      ...document.filling(asked.template),
      numbering: IN_ORDER,
      title,
      author,
      estimated,
    })
  const options = {
    creator: author,
    title,
    language: { value: telling.locale },
    numbering: IN_ORDER,
    styles: {
      default: {
        document: { run: { font: 'Calibri', size: 21, color: INK } },
        title: { run: { size: 48, bold: true, color: PORCH }, paragraph: { spacing: { after: 160 } } },
        heading1: heading(32, PORCH),
        heading2: heading(27, INK),
        heading3: heading(23, INK),
        heading4: heading(22, INK),
        heading5: heading(21, INK),
        heading6: heading(21, INK),
      },
    },
    sections: [
      {
        properties: {
          page: { size: { width: 11906, height: 16838 }, margin: { top: 1417, bottom: 1417, left: 1417, right: 1417 } },
        },
        children: document.blocks(),
      },
    ],
  }
  const contents = estimated
    ? { pageNumbers: (await import('docx/layout')).estimatePageNumbers, features: { updateFields: false } }
    : { features: { updateFields: true } }
  return Packer.toBuffer(new Document({ ...options, ...contents } as ConstructorParameters<typeof Document>[0]))
}
