import type { PhrasingContent, RootContent } from 'mdast'
import { toString as plainWords } from 'mdast-util-to-string'
import { noteBlocks } from '#core/formats/note-text'
import { type HandedTopic, peopleIn, tasksIn } from '#core/handing/handed'
import { Telling } from '#core/handing/telling'
import type { PagePicture } from './handed-pictures'
import { PageWriter, PORCH, QUIET, type Run, type Style } from './page-writer'
import type { DocumentAsked } from './document-asked'

/*
 * A part of a tree as a PDF: contents with page numbers, the picture, bookmarks, a structure for whoever hears it, links that lead to
 * where they say.
 */

/** Points of a heading's letters, by level. */
const SIZES = [22, 17, 14, 12.5, 11.5, 11] as const
const sizeOf = (level: number): number => SIZES[Math.min(level, SIZES.length - 1)]!
/** Points of a line of the contents. */
const CONTENTS_LINE = 17
const CONTENTS_LEVELS = 2
/** Points of a chart from side to side. */
const CHART_WIDTH = 440
const BULLET: Run = ['•  ', { color: PORCH }]

function phrases(nodes: readonly PhrasingContent[], style: Style = {}): Run[] {
  return nodes.flatMap((node): Run[] => {
    switch (node.type) {
      case 'text':
      case 'inlineCode':
        return [[node.value, style]]
      case 'strong':
        return phrases(node.children, { ...style, bold: true })
      case 'emphasis':
      case 'delete':
        return phrases(node.children, style)
      case 'break':
        return [['\n', style]]
      case 'link':
        return [[plainWords(node.children), { ...style, link: node.url, color: PORCH }]]
      default:
        return []
    }
  })
}

class TreePages {
  private readonly telling: Telling
  private readonly page: PageWriter
  /** On which page each section stands. */
  private readonly pages = new Map<string, number>()

  constructor(private readonly asked: DocumentAsked) {
    this.telling = new Telling(asked.choice)
    this.page = new PageWriter(asked.handed.root.title, this.telling.locale, true)
  }

  private p(runs: readonly Run[], place: { indent?: number; after?: number } = {}): void {
    this.page.room(18)
    this.page.as('P', () => this.page.write(runs, place))
  }

  private picture({ bytes, width, height }: PagePicture, words: string, indent = 0, widest = Infinity): void {
    const scale = Math.min(0.6, widest / width)
    this.page.picture(bytes, width * scale, height * scale, { indent, words })
  }

  private note(blocks: readonly RootContent[], indent: number): void {
    for (const block of blocks)
      switch (block.type) {
        case 'paragraph': {
          const [only, ...rest] = block.children
          if (only?.type === 'image' && rest.length === 0) {
            const picture = this.asked.pictures.of(only.url)
            if (picture) this.picture(picture, only.alt ?? '', indent)
          } else this.p(phrases(block.children), { indent })
          break
        }
        case 'heading':
          this.page.room(40)
          this.p(phrases(block.children, { bold: true }), { indent, after: 2 })
          break
        case 'blockquote':
          this.note(block.children, indent + 18)
          break
        case 'code':
          this.p([[block.value, { size: 9.5 }]], { indent: indent + 8 })
          break
        case 'list':
          block.children.forEach((item, i) => {
            const [first, ...below] = item.children
            const sign = item.checked == null ? (block.ordered ? `${i + 1}.  ` : '•  ') : item.checked ? '☑  ' : '☐  '
            this.p([[sign, { color: PORCH }], ...(first?.type === 'paragraph' ? phrases(first.children) : [])], {
              indent: indent + 8,
              after: 2,
            })
            this.note(first?.type === 'paragraph' ? below : item.children, indent + 22)
          })
          break
        case 'table': {
          const columns = Math.max(1, ...block.children.map(({ children }) => children.length))
          const [head, ...rows] = block.children.map(row =>
            Array.from({ length: columns }, (_, i) => plainWords(row.children[i])),
          )
          if (head) this.table(Array<number>(columns).fill(this.page.width / columns), head, rows)
          break
        }
        default:
          break
      }
  }

  private table(widths: readonly number[], head: readonly string[], rows: readonly (readonly string[])[]): void {
    this.page.as('Table', () => this.page.table(widths, head, rows))
  }

  private substance(topic: HandedTopic, indent: number): void {
    const { telling } = this
    const about = telling.about(topic)
    if (about) this.p([[about, { size: 9, color: QUIET }]], { indent })
    for (const key of [topic.picture?.file, topic.sketch]) {
      const picture = key ? this.asked.pictures.of(key) : null
      if (picture) this.picture(picture, topic.title, indent, topic.picture?.width ?? 300)
    }
    for (const { words, svg } of topic.charts) {
      const drawn = this.asked.pictures.of(svg)
      if (drawn) this.picture(drawn, words, indent, CHART_WIDTH)
    }
    this.page.speaking(topic.language, () => this.note(noteBlocks(topic.note), indent))
    const line = (runs: readonly Run[]): void => this.p([BULLET, ...runs], { indent: indent + 8, after: 3 })
    for (const { text, done, due } of topic.checks)
      this.p(
        [
          [done ? '☑  ' : '☐  ', { color: PORCH }],
          [text],
          [due ? `   ${telling.words.due} ${telling.day(due)}` : '', { size: 9, color: QUIET }],
        ],
        { indent: indent + 8, after: 3 },
      )
    for (const { words, url } of topic.links) line([url === null ? [words] : [words, { link: url, color: PORCH }]])
    if (topic.place) line([[`${telling.words.place}: `, { bold: true }], [topic.place]])
    for (const { name, size } of topic.files)
      line([
        [`${telling.words.file}: `, { bold: true }],
        [name],
        [`   ${telling.bytes(size)}`, { size: 9, color: QUIET }],
      ])
    for (const tie of topic.ties) line([[telling.tie(tie), { color: PORCH, goTo: tie.to }]])
    for (const { by, at, text } of topic.comments) {
      this.p([[`${by}, ${telling.day(at.slice(0, 10))}:`, { size: 9, color: QUIET }]], { indent: indent + 8, after: 1 })
      this.p([[text, { size: 9.5 }]], { indent: indent + 8 })
    }
  }

  private topic(topic: HandedTopic): void {
    this.asked.written?.()
    const { page, telling } = this
    const title = telling.titled(topic)
    if (topic.level <= this.asked.choice.headings) {
      // A heading stays with what comes first below it.
      page.room(topic.level === 1 ? 110 : 70)
      page.space(topic.level === 1 ? 14 : 8)
      page.place(topic.id)
      page.markAt(topic.level, title)
      this.pages.set(topic.id, page.page)
      page.speaking(topic.language, () =>
        page.as(`H${Math.min(6, topic.level + 1)}`, () =>
          page.write(
            [[title, { size: sizeOf(topic.level), bold: true, ...(topic.level === 1 ? { color: PORCH } : {}) }]],
            { after: 4 },
          ),
        ),
      )
      this.substance(topic, 0)
    } else {
      const indent = 14 * (topic.level - this.asked.choice.headings - 1)
      page.room(18)
      page.place(topic.id)
      page.speaking(topic.language, () =>
        this.p([BULLET, [title]], { indent: Math.min(indent, page.width / 2), after: 2 }),
      )
      this.substance(topic, Math.min(indent + 14, page.width / 2))
    }
    for (const child of topic.children) this.topic(child)
  }

  /** The sections that the contents name, in order. */
  private sections(): HandedTopic[] {
    const deepest = Math.min(CONTENTS_LEVELS, this.asked.choice.headings)
    const gather = (topic: HandedTopic): HandedTopic[] => [
      topic,
      ...(topic.level < deepest ? topic.children.flatMap(gather) : []),
    ]
    return deepest === 0 ? [] : this.asked.handed.root.children.flatMap(gather)
  }

  async pdf(): Promise<Buffer> {
    const { page, telling, asked } = this
    const { handed, drawn, description, author, today } = asked
    const { root } = handed
    const { words } = telling
    page.place(root.id)
    page.as('H1', () => page.write([[telling.titled(root), { size: 26, bold: true, color: PORCH }]], { after: 6 }))
    if (description) this.p([[description]])
    this.p([[[author, words.asOf(telling.day(today))].filter(Boolean).join(' · '), { size: 9, color: QUIET }]], {
      after: 12,
    })
    if (handed.deeper > 0) this.p([[words.deeper(handed.deeper), { size: 9, color: QUIET }]])
    if (drawn) this.picture(drawn, root.title)
    const contents = this.contentsRoom(words.contents)
    this.substance(root, 0)
    for (const child of root.children) this.topic(child)
    const heading = (said: string): void => {
      page.room(80)
      page.space(14)
      page.markAt(1, said)
      page.as('H2', () => page.write([[said, { size: 16, bold: true }]], { after: 6 }))
    }
    const tasks = handed.withTasks ? tasksIn(handed) : []
    if (tasks.length > 0) {
      heading(words.tasks)
      const { width } = page
      this.table(
        [0.4, 0.23, 0.13, 0.14, 0.1].map(part => part * width),
        telling.taskHead,
        tasks.map(task => telling.taskRow(task)),
      )
    }
    const people = handed.withTasks ? peopleIn(handed) : []
    if (people.length > 0) {
      heading(words.people)
      for (const { name, topics } of people) {
        page.room(34)
        this.p([[name, { bold: true }]], { after: 2 })
        for (const topic of topics)
          this.p(
            [
              BULLET,
              [telling.titled(topic), { goTo: topic.id, color: PORCH }],
              [
                topic.task!.due ? `   ${telling.day(topic.task!.due, topic.task!.dueTime)}` : '',
                { size: 9, color: QUIET },
              ],
            ],
            { indent: 8, after: 2 },
          )
      }
    }
    if (handed.key.length > 0) {
      heading(words.key)
      for (const { name } of handed.key) this.p([BULLET, [name]], { indent: 8, after: 2 })
    }
    contents()
    return page.finish()
  }

  /**
   * Leaves room for the contents, which are written when it's known on which page everything stands. Returns what writes them.
   */
  private contentsRoom(title: string): () => void {
    const { page, telling } = this
    const sections = this.sections()
    if (sections.length === 0) return () => {}
    page.room(30 + CONTENTS_LINE * Math.min(sections.length, 8))
    page.as('P', () => page.write([[title, { size: 14, bold: true }]], { after: 6 }))
    const places = sections.map(section => {
      page.room(CONTENTS_LINE)
      const at = { section, page: page.page, y: page.doc.y }
      page.space(CONTENTS_LINE)
      return at
    })
    page.doc.addPage()
    return () => {
      for (const { section, page: on, y } of places) {
        page.doc.switchToPage(on)
        page.doc.y = y
        const indent = (section.level - 1) * 14
        const number = String((this.pages.get(section.id) ?? 0) + 1)
        const title = telling.titled(section)
        const width = page.width - indent - 40
        page.as('TOCI', () => {
          page.write([[cutTo(title, width), { goTo: section.id, bold: section.level === 1 }]], {
            indent,
            after: 0,
            width,
          })
          page.doc.y = y
          page.write([[number, { color: QUIET }]], { x: page.doc.page.width - 62 - 34, width: 34, after: 0 })
        })
      }
      const { start, count } = page.doc.bufferedPageRange()
      page.doc.switchToPage(start + count - 1)
    }
  }
}

/** A title in one line of the contents: about as many letters as fit. */
const cutTo = (title: string, width: number): string => {
  const most = Math.floor(width / 5.6)
  // No text has more letters than units.
  if (title.length <= most) return title
  const letters = [...new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(title)].map(
    ({ segment }) => segment,
  )
  return letters.length > most ? `${letters.slice(0, most - 1).join('')}…` : title
}

export const treeAsPdf = (asked: DocumentAsked): Promise<Buffer> => new TreePages(asked).pdf()
