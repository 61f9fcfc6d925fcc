import {
  Bookmark,
  HeadingLevel,
  InternalHyperlink,
  PageBreak,
  Paragraph,
  type ParagraphChild,
  TableOfContents,
} from 'docx'
import { noteBlocks } from '#core/formats/note-text'
import { type HandedTopic, peopleIn, tasksIn } from '#core/handing/handed'
import { Telling } from '#core/handing/telling'
import type { TemplateField } from '#core/handing/template'
import type { WordDocumentAsked } from './document-asked'
import { type Block, DEEPEST_LIST, noteAsDocx, type Page, pictureRun } from './docx-note'
import { INK, lined, link, PORCH, quiet, reading, run, runs, table, TEXT_WIDTH, spokenIn } from './docx-parts'
import type { Filling } from './fill-template'
import type { PagePicture } from './handed-pictures'
import type { Template } from './template'

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
/** Dots of the widest picture on a page of our own (at 96 to the inch). */
const WIDEST = 600

export class TreeDocument {
  private readonly telling: Telling
  private readonly headings: number
  private readonly page: Page

  constructor(private readonly asked: WordDocumentAsked) {
    this.telling = new Telling(asked.choice)
    this.headings = asked.choice.headings
    const wide = asked.template?.width ?? TEXT_WIDTH
    this.page = { wide, widest: (WIDEST * wide) / TEXT_WIDTH, pictures: asked.pictures }
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
        children: [pictureRun(one, topic.title, Math.min(this.page.widest, (topic.picture?.width ?? 320) * 1.5))],
      })
    return [
      ...(about ? [new Paragraph({ ...at, spacing: { after: 80 }, children: quiet(about), ...reading(about) })] : []),
      ...(picture ? [topicPicture(picture)] : []),
      ...(sketch ? [topicPicture(sketch)] : []),
      ...topic.charts.flatMap(({ words, svg }) => {
        const drawn = this.asked.pictures.of(svg)
        return drawn
          ? [new Paragraph({ ...at, spacing: { after: 120 }, children: [pictureRun(drawn, words, this.page.widest)] })]
          : []
      }),
      ...noteAsDocx(noteBlocks(topic.note), this.page, indent, 0, spokenIn(topic.language)),
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
        bullet([new InternalHyperlink({ anchor: anchorOf(tie.to), children: runs(telling.tie(tie), this.linked) })]),
      ),
      ...topic.comments.flatMap(({ by, at: said, text }) => [
        new Paragraph({ ...at, spacing: { before: 40 }, children: quiet(`${by}, ${telling.day(said.slice(0, 10))}:`) }),
        ...lined(text, at),
      ]),
    ]
  }

  private topic(topic: HandedTopic): Block[] {
    this.asked.written?.()
    const title = this.telling.titled(topic)
    const mark = new Bookmark({ id: anchorOf(topic.id), children: runs(title, spokenIn(topic.language)) })
    if (topic.level <= this.headings) {
      const heading = HEADINGS[topic.level - 1]
      return [
        new Paragraph({
          children: [mark],
          ...reading(topic.title),
          // Numbers are the tree's: a template that counts its headings too would say two.
          ...(this.asked.template?.numbers && topic.number ? { numbering: false as const } : {}),
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

  /** What leads elsewhere in the document: in our colour, or as the template shows links. */
  private get linked(): object {
    return this.asked.template ? { style: 'Hyperlink' } : { color: PORCH }
  }

  /** What stands over the tasks, the people and the key. */
  private over(text: string): Paragraph {
    if (this.asked.template)
      return new Paragraph({
        children: runs(text),
        heading: HeadingLevel.HEADING_1,
        ...(this.asked.template.numbers ? { numbering: false as const } : {}),
      })
    return new Paragraph({
      children: runs(text, { bold: true, size: 28, color: INK }),
      keepNext: true,
      spacing: { before: 320, after: 100 },
    })
  }

  titleParts(): ParagraphChild[] {
    const { root } = this.asked.handed
    return [new Bookmark({ id: anchorOf(root.id), children: runs(this.telling.titled(root)) })]
  }

  title(): Block[] {
    return [
      new Paragraph({
        children: this.titleParts(),
        ...reading(this.asked.handed.root.title),
        heading: HeadingLevel.TITLE,
      }),
    ]
  }

  /** By whom, and of which day. */
  byline(): Block[] {
    const { telling, asked } = this
    const day = telling.words.asOf(telling.day(asked.today))
    return [
      new Paragraph({ children: quiet([asked.author, day].filter(Boolean).join(' · ')), spacing: { after: 200 } }),
    ]
  }

  /** How much deeper the tree goes. */
  deeper(): Block[] {
    const { deeper } = this.asked.handed
    if (deeper === 0) return []
    return [new Paragraph({ children: quiet(this.telling.words.deeper(deeper)), spacing: { after: 120 } })]
  }

  picture(): Block[] {
    const { drawn, handed } = this.asked
    return drawn
      ? [new Paragraph({ children: [pictureRun(drawn, handed.root.title, this.page.widest)], spacing: { after: 200 } })]
      : []
  }

  contents(): Block[] {
    if (this.headings === 0 || this.asked.handed.root.children.length === 0) return []
    const { contents } = this.telling.words
    return [new TableOfContents(contents, { hyperlink: true, headingStyleRange: `1-${Math.min(this.headings, 6)}` })]
  }

  topics(): Block[] {
    const { root } = this.asked.handed
    return [...this.substance(root, 0), ...root.children.flatMap(child => this.topic(child))]
  }

  tasks(): Block[] {
    const { telling, asked } = this
    const tasks = asked.handed.withTasks ? tasksIn(asked.handed) : []
    if (tasks.length === 0) return []
    const rows = tasks.map(task => telling.taskRow(task))
    return [table([3600, 2000, 1300, 1300, TEXT_WIDTH - 8200], telling.taskHead, rows, this.page.wide)]
  }

  people(): Block[] {
    const { telling, asked } = this
    const people = asked.handed.withTasks ? peopleIn(asked.handed) : []
    return people.flatMap(({ name, topics }) => [
      new Paragraph({ children: runs(name, { bold: true }), keepNext: true, spacing: { before: 100 } }),
      ...topics.map(
        topic =>
          new Paragraph({
            bullet: { level: 0 },
            children: [
              new InternalHyperlink({ anchor: anchorOf(topic.id), children: runs(telling.titled(topic)) }),
              ...(topic.task!.due
                ? quiet(`  ${telling.words.due} ${telling.day(topic.task!.due, topic.task!.dueTime)}`)
                : []),
            ],
          }),
      ),
    ])
  }

  key(): Block[] {
    return this.asked.handed.key.map(({ name }) => new Paragraph({ bullet: { level: 0 }, children: runs(name) }))
  }

  /** The tree, and whatever of the rest has no place elsewhere, in order. `placed`: what has one. */
  blocks(placed: Pick<ReadonlySet<TemplateField>, 'has'> = new Set<TemplateField>()): Block[] {
    const { words } = this.telling
    const unless = (field: TemplateField, blocks: () => Block[]): Block[] => (placed.has(field) ? [] : blocks())
    const headed = (text: string, blocks: Block[]): Block[] => (blocks.length > 0 ? [this.over(text), ...blocks] : [])
    const contents = (): Block[] => {
      const list = this.contents()
      if (list.length === 0) return []
      const said = new Paragraph({
        children: [run(words.contents, { bold: true })],
        keepNext: true,
        spacing: { before: 200, after: 80 },
      })
      return [said, ...list, new Paragraph({ children: [new PageBreak()] })]
    }
    return [
      ...unless('title', () => this.title()),
      ...unless('description', () => lined(this.asked.description)),
      ...(placed.has('author') || placed.has('date') ? [] : this.byline()),
      ...this.deeper(),
      ...unless('picture', () => this.picture()),
      ...unless('contents', contents),
      ...this.topics(),
      ...unless('tasks', () => headed(words.tasks, this.tasks())),
      ...unless('people', () => headed(words.people, this.people())),
      ...unless('key', () => headed(words.key, this.key())),
    ]
  }

  /** What the fields of a template name. */
  filling(template: Template): Pick<Filling, 'lines' | 'blocks'> {
    const { asked, telling } = this
    return {
      lines: {
        // A place that links lead to is in one place.
        title: template.inText.get('title') === 1 ? this.titleParts() : runs(telling.titled(asked.handed.root)),
        date: runs(telling.day(asked.today)),
        author: runs(asked.author),
        description: brokenLines(asked.description),
      },
      blocks: {
        picture: this.picture(),
        contents: this.contents(),
        tree: this.blocks(template.inText),
        tasks: this.tasks(),
        people: this.people(),
        key: this.key(),
      },
    }
  }
}

/** Lines of text in one paragraph. */
const brokenLines = (text: string): ParagraphChild[] =>
  text.split('\n').flatMap((line, i) => [...(i > 0 ? [run('', { break: 1 })] : []), ...runs(line)])

/** A place that links in the document lead to: 40 letters at most, beginning with one. */
const anchorOf = (id: string): string => `t_${id.replaceAll('-', '_')}`.slice(0, 40)
