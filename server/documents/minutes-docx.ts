import {
  AlignmentType,
  Document,
  type FileChild,
  HeadingLevel,
  LevelFormat,
  Packer,
  Paragraph,
  TableOfContents,
} from 'docx'
import type { TemplateField } from '#core/handing/template'
import { aboutLine, headOf, PLAN_HEAD, timeOf } from '#core/formats/minutes-markdown'
import { INTENT_NAMES } from '#core/meeting/invitation'
import { deliveredInWords } from '#core/meeting/delivered'
import type { Minutes, MinutesItem, MinutesLine } from '#core/meeting/minutes'
import { ENTRY_NAMES } from '#core/meeting/record'
import { dayInWords } from '#core/schedule/days'
import { clean, INK, lined, link, PORCH, quiet, reading, run, runs, table, TEXT_WIDTH } from './docx-parts'
import type { Template } from './template'

/*
 * Minutes as a document (ISO/IEC 29500): numbered headings, a contents list, the actions as a table, links, files by
 * name.
 */

const NUMBERS = 'agenda'

function heading(text: string, level: 1 | 2, numbered: boolean): Paragraph {
  return new Paragraph({
    children: runs(text),
    ...reading(text),
    heading: level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
    ...(numbered ? { numbering: { reference: NUMBERS, level: level - 1 } } : {}),
    keepNext: true,
  })
}

function lineOf(line: MinutesLine): Paragraph[] {
  return [
    new Paragraph({
      bullet: { level: 0 },
      spacing: { after: 60 },
      children: [
        run(`${ENTRY_NAMES[line.kind]}: `, { bold: true, color: PORCH }),
        ...runs(line.title),
        ...quiet(`  ${aboutLine(line)}`),
      ],
    }),
    ...lined(line.note, { indent: { left: 720 } }),
  ]
}

/** `numbered`: whether headings are counted here, and not by a template. */
function itemOf(item: MinutesItem, numbered: boolean): Paragraph[] {
  return [
    heading(item.title || 'untitled', 1, numbered),
    new Paragraph({
      children: quiet([INTENT_NAMES[item.intent], item.owners.join(', '), timeOf(item)].filter(Boolean).join(' · ')),
      spacing: { after: 100 },
    }),
    ...(item.serves.length > 0
      ? [
          new Paragraph({
            children: [run('To be settled: ', { bold: true }), ...runs(item.serves.join('; '))],
            spacing: { after: 80 },
          }),
        ]
      : []),
    ...lined(item.note),
    ...item.prepared.flatMap(part => [
      ...(part.level === 0
        ? [heading(part.title || 'untitled', 2, numbered)]
        : [
            new Paragraph({
              children: runs(part.title),
              ...reading(part.title),
              bullet: { level: Math.min(8, part.level - 1) },
            }),
          ]),
      ...lined(part.note, { indent: { left: part.level === 0 ? 0 : 360 * part.level } }),
    ]),
    ...item.lines.flatMap(lineOf),
    ...item.links.map(({ words, url }) => new Paragraph({ bullet: { level: 0 }, children: [link(words, url)] })),
    ...item.files.map(
      ({ name, size }) =>
        new Paragraph({
          bullet: { level: 0 },
          children: [
            run('File: ', { bold: true }),
            ...runs(name),
            ...quiet(`  ${size.toLocaleString('en')} bytes, in the tree`),
          ],
        }),
    ),
  ]
}

/** Numbers of the two levels, 1 and 1.1, as the headings of items and their parts have them. */
const numbering = {
  config: [
    {
      reference: NUMBERS,
      levels: [0, 1].map(level => ({
        level,
        format: LevelFormat.DECIMAL,
        text: level === 0 ? '%1' : '%1.%2',
        alignment: AlignmentType.LEFT,
        suffix: 'space' as const,
        style: { paragraph: { indent: { left: 0, hanging: 0 } } },
      })),
    },
  ],
}

/** What the minutes say, part by part. */
function partsOf(minutes: Minutes, template: Template | null) {
  const wide = template?.width ?? TEXT_WIDTH
  const contents = (): FileChild[] => [new TableOfContents('Contents', { hyperlink: true, headingStyleRange: '1-2' })]
  const actions = (): FileChild[] =>
    minutes.actions.length > 0
      ? [
          table(
            [4200, 2000, 1400, TEXT_WIDTH - 7600],
            ['What', 'Who', 'Due', 'From'],
            minutes.actions.map(one => [
              one.title,
              one.owners.join(', ') || 'nobody yet',
              one.due ? dayInWords(one.due) : '',
              one.item,
            ]),
            wide,
          ),
        ]
      : []
  const unless = (field: TemplateField, blocks: () => FileChild[]): FileChild[] =>
    template?.inText.has(field) ? [] : blocks()
  const all = (): FileChild[] => [
    ...unless('title', () => [
      new Paragraph({
        children: runs(minutes.title || 'Meeting'),
        ...reading(minutes.title),
        heading: HeadingLevel.TITLE,
      }),
    ]),
    table([1800, TEXT_WIDTH - 1800], null, headOf(minutes) as [string, string][], wide),
    ...unless('contents', () => [
      new Paragraph({
        children: [run('Contents', { bold: true })],
        spacing: { before: 280, after: 80 },
        keepNext: true,
      }),
      ...contents(),
    ]),
    ...(minutes.musts.length > 0
      ? [
          heading('What was to be settled', 1, false),
          ...minutes.musts.map(
            must =>
              new Paragraph({
                bullet: { level: 0 },
                children: [...runs(must.text, { bold: true }), ...runs(`: ${deliveredInWords(must)}`)],
              }),
          ),
        ]
      : []),
    ...unless('tasks', () => {
      const table = actions()
      return table.length > 0 ? [heading('Actions', 1, false), ...table] : []
    }),
    ...minutes.items.flatMap(item => itemOf(item, !template?.numbers)),
    ...(minutes.besides.length > 0 ? [heading('Besides', 1, false), ...minutes.besides.flatMap(lineOf)] : []),
    ...(minutes.plan ? [heading(PLAN_HEAD, 1, false)] : []),
    ...(minutes.plan ?? []).map(line => new Paragraph({ bullet: { level: 0 }, children: runs(line) })),
  ]
  return { contents, actions, all }
}

export interface MinutesAsked {
  readonly minutes: Minutes
  /** Who asks, as a template names the author. */
  readonly author: string
  /** A document of one's own that they are written into; null: as they look by themselves. */
  readonly template: Template | null
  /** BCP 47. */
  readonly language?: string
}

export async function minutesAsDocx({ minutes, author, template, language = 'en-GB' }: MinutesAsked): Promise<Buffer> {
  const { contents, actions, all } = partsOf(minutes, template)
  if (template)
    return (await import('./fill-template')).fillTemplate(template, {
      lines: {
        title: runs(minutes.title || 'Meeting'),
        date: runs(minutes.day ? dayInWords(minutes.day) : ''),
        author: runs(author),
        description: [],
      },
      blocks: { tree: all(), contents: contents(), tasks: actions(), picture: [], people: [], key: [] },
      numbering,
      title: clean(minutes.title),
      author: clean(author),
      estimated: false,
    })
  const options = {
    creator: 'Sun Porch',
    title: clean(minutes.title),
    language: { value: language },
    numbering,
    styles: {
      default: {
        document: { run: { font: 'Calibri', size: 21, color: INK } },
        title: { run: { size: 44, bold: true, color: PORCH }, paragraph: { spacing: { after: 200 } } },
        heading1: { run: { size: 28, bold: true, color: INK }, paragraph: { spacing: { before: 320, after: 100 } } },
        heading2: { run: { size: 23, bold: true, color: PORCH }, paragraph: { spacing: { before: 160, after: 60 } } },
      },
    },
    sections: [
      {
        properties: {
          page: { size: { width: 11906, height: 16838 }, margin: { top: 1417, bottom: 1417, left: 1417, right: 1417 } },
        },
        children: all(),
      },
    ],
  }
  // On which pages the headings stand is for the reader's program to say: its fonts and its paper decide.
  return Packer.toBuffer(new Document(options as ConstructorParameters<typeof Document>[0]))
}
