import {
  Bookmark,
  Document,
  HeadingLevel,
  ImageRun,
  InternalHyperlink,
  LevelFormat,
  Packer,
  PageBreak,
  Paragraph,
  type ParagraphChild,
  TableOfContents,
  type Table,
} from 'docx'
import { estimatePageNumbers } from 'docx/layout'
import type { PhrasingContent, RootContent } from 'mdast'
import { toString as plainWords } from 'mdast-util-to-string'
import { noteBlocks } from '#core/formats/note-text'
import type { Choice } from '#core/handing/choice'
import { type Handed, type HandedTopic, peopleIn, tasksIn } from '#core/handing/handed'
import { Telling } from '#core/handing/telling'
import { clean, INK, lined, link, PORCH, quiet, reading, run, runs, table, TEXT_WIDTH } from './docx-parts'
import type { HandedPictures, PagePicture } from './handed-pictures'

/*
 * A part of a tree as a document (ISO/IEC 29500): cover, contents, the picture, headings numbered as in the tree, notes with all
 * they hold, tasks as a table, cross-links that lead to where they say.
 */

const HEADINGS = [
  HeadingLevel.HEADING_1,
  HeadingLevel.HEADING_2,
  HeadingLevel.HEADING_3,
  HeadingLevel.HEADING_4,
  HeadingLevel.HEADING_5,
  HeadingLevel.HEADING_6,
] as const
const ORDERED = 'in-order'
/** Dots of the widest picture on a page (at 96 to the inch), and of the tallest. */
const WIDEST = 600
const TALLEST = 760
/** A document lists no more levels than a reader's program indents. */
const DEEPEST_LIST = 8

/** Topics, and headings, of a document whose page numbers are estimated. */
const MOST_ESTIMATED = 400
const MOST_SECTIONS = 60

type Block = Paragraph | Table | TableOfContents

export interface DocumentAsked {
  readonly handed: Handed
  readonly choice: Choice
  readonly pictures: HandedPictures
  /** The picture of the whole, where one is wanted. */
  readonly drawn: PagePicture | null
  readonly description: string
  readonly author: string
  /** The present day, ISO 8601. */
  readonly today: string
}

function pictureRun({ kind, bytes, width, height }: PagePicture, words: string, widest = WIDEST): ImageRun {
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
class TreeDocument {
  private readonly telling: Telling
  private readonly headings: number

  constructor(private readonly asked: DocumentAsked) {
    this.telling = new Telling(asked.choice)
    this.headings = asked.choice.headings
  }

  /** Blocks of a note, at an indent of so many twentieths of a point. */
  private note(blocks: readonly RootContent[], indent: number, level = 0): Block[] {
    const at = indent > 0 ? { indent: { left: indent } } : {}
    return blocks.flatMap((block): Block[] => {
      switch (block.type) {
        case 'paragraph': {
          const [only, ...rest] = block.children
          if (only?.type === 'image' && rest.length === 0) {
            const picture = this.asked.pictures.of(only.url)
            return picture ? [new Paragraph({ ...at, children: [pictureRun(picture, only.alt ?? '')] })] : []
          }
          const words = plainWords(block.children)
          return [
            new Paragraph({ ...at, spacing: { after: 120 }, ...reading(words), children: phrases(block.children) }),
          ]
        }
        case 'heading':
          return [
            new Paragraph({
              ...at,
              keepNext: true,
              spacing: { before: 120, after: 60 },
              children: phrases(block.children, { bold: true }),
            }),
          ]
        case 'blockquote':
          return this.note(block.children, indent + 400, level)
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
                  ...(first?.type === 'paragraph' ? phrases(first.children) : []),
                ],
              }),
              ...this.note(first?.type === 'paragraph' ? below : item.children, indent, level + 1),
            ]
          })
        case 'table': {
          const columns = Math.max(1, ...block.children.map(({ children }) => children.length))
          const [head, ...rows] = block.children.map(row =>
            Array.from({ length: columns }, (_, i) => plainWords(row.children[i])),
          )
          return head ? [table(Array<number>(columns).fill(Math.floor(TEXT_WIDTH / columns)), head, rows)] : []
        }
        default:
          return []
      }
    })
  }

  /** What hangs on a topic, under its title. */
  private substance(topic: HandedTopic, indent: number): Block[] {
    const { telling } = this
    const at = indent > 0 ? { indent: { left: indent } } : {}
    const about = telling.about(topic)
    const bullet = (children: ParagraphChild[]): Paragraph =>
      new Paragraph({
        bullet: { level: Math.min(DEEPEST_LIST, Math.round(indent / 360)) },
        spacing: { after: 40 },
        children,
      })
    const picture = topic.picture && this.asked.pictures.of(topic.picture.file)
    const sketch = topic.sketch && this.asked.pictures.of(topic.sketch)
    const topicPicture = (one: PagePicture): Paragraph =>
      new Paragraph({
        ...at,
        spacing: { after: 120 },
        children: [pictureRun(one, topic.title, Math.min(WIDEST, (topic.picture?.width ?? 320) * 1.5))],
      })
    return [
      ...(about ? [new Paragraph({ ...at, spacing: { after: 80 }, children: quiet(about), ...reading(about) })] : []),
      ...(picture ? [topicPicture(picture)] : []),
      ...(sketch ? [topicPicture(sketch)] : []),
      ...this.note(noteBlocks(topic.note), indent),
      ...topic.checks.map(({ text, done, due }) =>
        bullet([
          run(done ? '☑ ' : '☐ '),
          ...runs(text),
          ...(due ? quiet(`  ${telling.words.due} ${telling.day(due)}`) : []),
        ]),
      ),
      ...topic.links.map(({ words, url }) => bullet(url === null ? runs(words) : [link(words, url)])),
      ...(topic.place ? [bullet([run(`${telling.words.place}: `, { bold: true }), ...runs(topic.place)])] : []),
      ...topic.files.map(({ name, size }) =>
        bullet([run(`${telling.words.file}: `, { bold: true }), ...runs(name), ...quiet(`  ${telling.bytes(size)}`)]),
      ),
      ...topic.ties.map(tie =>
        bullet([
          new InternalHyperlink({ anchor: anchorOf(tie.to), children: runs(telling.tie(tie), { color: PORCH }) }),
        ]),
      ),
      ...topic.comments.flatMap(({ by, at: said, text }) => [
        new Paragraph({ ...at, spacing: { before: 40 }, children: quiet(`${by}, ${telling.day(said.slice(0, 10))}:`) }),
        ...lined(text, at),
      ]),
    ]
  }

  private topic(topic: HandedTopic): Block[] {
    const title = this.telling.titled(topic)
    const mark = new Bookmark({ id: anchorOf(topic.id), children: runs(title) })
    if (topic.level <= this.headings) {
      const heading = HEADINGS[topic.level - 1]
      return [
        new Paragraph({
          children: [mark],
          ...reading(topic.title),
          ...(heading
            ? { heading }
            : { outlineLevel: topic.level - 1, keepNext: true, spacing: { before: 120, after: 60 } }),
          keepNext: true,
        }),
        ...this.substance(topic, 0),
        ...topic.children.flatMap(child => this.topic(child)),
      ]
    }
    const level = Math.min(DEEPEST_LIST, topic.level - this.headings - 1)
    return [
      new Paragraph({ children: [mark], ...reading(topic.title), bullet: { level }, spacing: { after: 40 } }),
      ...this.substance(topic, (level + 1) * 360),
      ...topic.children.flatMap(child => this.topic(child)),
    ]
  }

  /** Everything in order. */
  blocks(): Block[] {
    const { telling, asked } = this
    const { handed, drawn, description, today, author } = asked
    const { words } = telling
    const { root } = handed
    const plain = (text: string): Paragraph =>
      new Paragraph({
        children: runs(text, { bold: true, size: 28, color: INK }),
        keepNext: true,
        spacing: { before: 320, after: 100 },
      })
    const tasks = handed.withTasks ? tasksIn(handed) : []
    const people = handed.withTasks ? peopleIn(handed) : []
    return [
      new Paragraph({
        children: [new Bookmark({ id: anchorOf(root.id), children: runs(telling.titled(root)) })],
        ...reading(root.title),
        heading: HeadingLevel.TITLE,
      }),
      ...lined(description),
      new Paragraph({
        children: quiet([author, words.asOf(telling.day(today))].filter(Boolean).join(' · ')),
        spacing: { after: 200 },
      }),
      ...(handed.deeper > 0
        ? [new Paragraph({ children: quiet(words.deeper(handed.deeper)), spacing: { after: 120 } })]
        : []),
      ...(drawn ? [new Paragraph({ children: [pictureRun(drawn, root.title)], spacing: { after: 200 } })] : []),
      ...(this.headings > 0 && root.children.length > 0
        ? [
            new Paragraph({
              children: [run(words.contents, { bold: true })],
              keepNext: true,
              spacing: { before: 200, after: 80 },
            }),
            new TableOfContents(words.contents, {
              hyperlink: true,
              headingStyleRange: `1-${Math.min(this.headings, 6)}`,
            }),
            new Paragraph({ children: [new PageBreak()] }),
          ]
        : []),
      ...this.substance(root, 0),
      ...root.children.flatMap(child => this.topic(child)),
      ...(tasks.length > 0
        ? [
            plain(words.tasks),
            table(
              [3600, 2000, 1300, 1300, TEXT_WIDTH - 8200],
              telling.taskHead,
              tasks.map(task => telling.taskRow(task)),
            ),
          ]
        : []),
      ...(people.length > 0
        ? [
            plain(words.people),
            ...people.flatMap(({ name, topics }) => [
              new Paragraph({ children: runs(name, { bold: true }), keepNext: true, spacing: { before: 100 } }),
              ...topics.map(
                topic =>
                  new Paragraph({
                    bullet: { level: 0 },
                    children: [
                      new InternalHyperlink({ anchor: anchorOf(topic.id), children: runs(telling.titled(topic)) }),
                      ...(topic.task!.due ? quiet(`  ${words.due} ${telling.day(topic.task!.due)}`) : []),
                    ],
                  }),
              ),
            ]),
          ]
        : []),
      ...(handed.key.length > 0
        ? [
            plain(words.key),
            ...handed.key.map(({ name }) => new Paragraph({ bullet: { level: 0 }, children: runs(name) })),
          ]
        : []),
    ]
  }
}

/** A place that links in the document lead to: 40 letters at most, beginning with one. */
const anchorOf = (id: string): string => `t_${id.replaceAll('-', '_')}`.slice(0, 40)

function sectionsIn({ children, level }: HandedTopic, headings: number): number {
  return level >= headings ? 0 : children.reduce((sum, child) => sum + 1 + sectionsIn(child, headings), 0)
}

export async function treeAsDocx(asked: DocumentAsked): Promise<Buffer> {
  const telling = new Telling(asked.choice)
  const heading = (size: number, color: string) => ({
    run: { size, bold: true, color },
    paragraph: { spacing: { before: size * 9, after: size * 3 }, keepNext: true },
  })
  const options = {
    creator: clean(asked.author || 'Sun Porch'),
    title: clean(asked.handed.root.title),
    language: { value: telling.locale },
    numbering: {
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
    },
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
        children: new TreeDocument(asked).blocks(),
      },
    ],
  }
  // Readers that don't work the contents out by themselves show about where everything stands. How long that takes grows faster
  // than the document; a longer one asks its reader to work it out.
  const { count, root } = asked.handed
  const estimated = count <= MOST_ESTIMATED && sectionsIn(root, asked.choice.headings) <= MOST_SECTIONS
  const contents = estimated
    ? { pageNumbers: estimatePageNumbers, features: { updateFields: false } }
    : { features: { updateFields: true } }
  return Packer.toBuffer(new Document({ ...options, ...contents } as ConstructorParameters<typeof Document>[0]))
}
