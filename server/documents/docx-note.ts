import {
  ImageRun,
  type INumberingOptions,
  LevelFormat,
  Paragraph,
  type ParagraphChild,
  type Table,
  type TableOfContents,
} from 'docx'
import type { PhrasingContent, RootContent } from 'mdast'
import { toString as plainWords } from 'mdast-util-to-string'
import { clean, link, reading, run, runs, table, TEXT_WIDTH } from './docx-parts'
import type { HandedPictures, PagePicture } from './handed-pictures'

/* A note, with all it holds, and pictures, as parts of a Word document. */

export type Block = Paragraph | Table | TableOfContents

/** What is written on. */
export interface Page {
  /** Width of the text, twentieths of a point. */
  readonly wide: number
  /** Dots of the widest picture in it, at 96 to the inch. */
  readonly widest: number
  readonly pictures: HandedPictures
}
const ORDERED = 'in-order'
/** Dots of the tallest picture. */
const TALLEST = 760
/** A document lists no more levels than a reader's program indents. */
export const DEEPEST_LIST = 8

/** Lists in order. */
export const IN_ORDER: INumberingOptions = {
  config: [
    {
      reference: ORDERED,
      levels: Array.from({ length: 9 }, (_, level) => ({
        level,
        format: LevelFormat.DECIMAL,
        text: `%${level + 1}.`,
        style: { paragraph: { indent: { left: 360 * (level + 1), hanging: 360 } } },
      })),
    },
  ],
}

export function pictureRun({ kind, bytes, width, height }: PagePicture, words: string, widest: number): ImageRun {
  const scale = Math.min(1, widest / width, TALLEST / height)
  return new ImageRun({
    type: kind,
    data: bytes,
    transformation: { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) },
    altText: { name: clean(words).slice(0, 200), title: '', description: clean(words).slice(0, 200) },
  })
}

function phrases(nodes: readonly PhrasingContent[], more: object = {}): ParagraphChild[] {
  return nodes.flatMap((node): ParagraphChild[] => {
    switch (node.type) {
      case 'text':
        return runs(node.value, more)
      case 'strong':
        return phrases(node.children, { ...more, bold: true })
      case 'emphasis':
        return phrases(node.children, { ...more, italics: true })
      case 'delete':
        return phrases(node.children, { ...more, strike: true })
      case 'inlineCode':
        return runs(node.value, { ...more, font: 'Consolas' })
      case 'break':
        return [run('', { ...more, break: 1 })]
      case 'link':
        return [link(plainWords(node.children), node.url)]
      default:
        return []
    }
  })
}

/** Blocks of a note, at an indent of so many twentieths of a point; `more`: what all its runs are. */
export function noteAsDocx(
  blocks: readonly RootContent[],
  page: Page,
  indent: number,
  level = 0,
  more: object = {},
): Block[] {
  const at = indent > 0 ? { indent: { left: indent } } : {}
  return blocks.flatMap((block): Block[] => {
    switch (block.type) {
      case 'paragraph': {
        const [only, ...rest] = block.children
        if (only?.type === 'image' && rest.length === 0) {
          const picture = page.pictures.of(only.url)
          return picture ? [new Paragraph({ ...at, children: [pictureRun(picture, only.alt ?? '', page.widest)] })] : []
        }
        const words = plainWords(block.children)
        return [
          new Paragraph({ ...at, spacing: { after: 120 }, ...reading(words), children: phrases(block.children, more) }),
        ]
      }
      case 'heading':
        return [
          new Paragraph({
            ...at,
            keepNext: true,
            spacing: { before: 120, after: 60 },
            children: phrases(block.children, { ...more, bold: true }),
          }),
        ]
      case 'blockquote':
        return noteAsDocx(block.children, page, indent + 400, level, more)
      case 'code':
        return block.value
          .split('\n')
          .map(line => new Paragraph({ ...at, children: runs(line, { font: 'Consolas', size: 19 }) }))
      case 'list':
        return block.children.flatMap((item): Block[] => {
          const [first, ...below] = item.children
          const tick = item.checked == null ? '' : item.checked ? '☑ ' : '☐ '
          return [
            new Paragraph({
              ...(block.ordered
                ? { numbering: { reference: ORDERED, level: Math.min(level, DEEPEST_LIST) } }
                : { bullet: { level: Math.min(level, DEEPEST_LIST) } }),
              spacing: { after: 40 },
              children: [
                ...(tick ? [run(tick)] : []),
                ...(first?.type === 'paragraph' ? phrases(first.children, more) : []),
              ],
            }),
            ...noteAsDocx(first?.type === 'paragraph' ? below : item.children, page, indent, level + 1, more),
          ]
        })
      case 'table': {
        const columns = Math.max(1, ...block.children.map(({ children }) => children.length))
        const [head, ...rows] = block.children.map(row =>
          Array.from({ length: columns }, (_, i) => plainWords(row.children[i])),
        )
        return head ? [table(Array<number>(columns).fill(Math.floor(TEXT_WIDTH / columns)), head, rows, page.wide)] : []
      }
      default:
        return []
    }
  })
}
