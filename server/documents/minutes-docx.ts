import {
  AlignmentType,
  BorderStyle,
  Document,
  ExternalHyperlink,
  HeadingLevel,
  LevelFormat,
  Packer,
  Paragraph,
  type ParagraphChild,
  ShadingType,
  Table,
  TableCell,
  TableLayoutType,
  TableOfContents,
  TableRow,
  TextRun,
  WidthType,
} from 'docx'
import { aboutLine, headOf, timeOf } from '#core/formats/minutes-markdown'
import { INTENT_NAMES } from '#core/meeting/invitation'
import type { Minutes, MinutesItem, MinutesLine } from '#core/meeting/minutes'
import { ENTRY_NAMES } from '#core/meeting/record'
import { dayInWords } from '#core/schedule/days'
import { directionRuns, isRightToLeft } from './paragraph'

/*
 * Minutes as a document (ISO/IEC 29500): numbered headings, a contents list, the actions as a table, links, files by
 * name.
 */

const NUMBERS = 'agenda'
const INK = '16292D'
const QUIET = '4F6468'
const PORCH = '17616B'
const CEILING = 'DCEBE9'
const LINE = 'D5E2E0'
/** Width of the text in twentieths of a point: A4 with 2.5 cm at the sides. */
const TEXT_WIDTH = 9072

/** U+FFFE, U+FFFF and control characters have no place in XML 1.0 (section 2.2). */
const clean = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are what XML refuses
  text.toWellFormed().replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
const run = (text: string, more: object = {}): TextRun => new TextRun({ text: clean(text), ...more })
/** Text in runs of one direction: a reader orders letters by itself, but figures and signs only when it's told. */
const runs = (text: string, more: object = {}): TextRun[] =>
  directionRuns(clean(text)).map(
    part => new TextRun({ text: part.text, ...(part.rightToLeft ? { rightToLeft: true } : {}), ...more }),
  )
const quiet = (text: string): TextRun[] => runs(text, { color: QUIET, size: 18 })
/** What a paragraph of this text needs to stand and be read from the right, where it is. */
const reading = (text: string): { bidirectional?: boolean } => (isRightToLeft(text) ? { bidirectional: true } : {})

function heading(text: string, level: 1 | 2, numbered: boolean): Paragraph {
  return new Paragraph({
    children: runs(text),
    ...reading(text),
    heading: level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
    ...(numbered ? { numbering: { reference: NUMBERS, level: level - 1 } } : {}),
    keepNext: true,
  })
}

function lined(text: string, more: object = {}): Paragraph[] {
  return text
    .split('\n')
    .filter(line => line.trim() !== '')
    .map(line => new Paragraph({ children: runs(line), spacing: { after: 120 }, ...reading(line), ...more }))
}

function cell(children: readonly Paragraph[], width: number, head = false): TableCell {
  return new TableCell({
    children,
    width: { size: width, type: WidthType.DXA },
    margins: { top: 60, bottom: 60, left: 100, right: 100 },
    ...(head ? { shading: { fill: CEILING, type: ShadingType.CLEAR } } : {}),
  })
}

function table(widths: readonly number[], head: readonly string[] | null, rows: readonly (readonly string[])[]): Table {
  const border = { style: BorderStyle.SINGLE, size: 4, color: LINE }
  const row = (cells: readonly string[], isHead: boolean): TableRow =>
    new TableRow({
      tableHeader: isHead,
      cantSplit: true,
      children: cells.map((text, i) =>
        cell(
          [new Paragraph({ children: runs(text, { bold: isHead || (head === null && i === 0) }), ...reading(text) })],
          widths[i]!,
          isHead,
        ),
      ),
    })
  return new Table({
    layout: TableLayoutType.FIXED,
    width: { size: TEXT_WIDTH, type: WidthType.DXA },
    columnWidths: [...widths],
    borders: {
      top: border,
      bottom: border,
      left: border,
      right: border,
      insideHorizontal: border,
      insideVertical: border,
    },
    rows: [...(head ? [row(head, true)] : []), ...rows.map(cells => row(cells, false))],
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

function link(words: string, url: string): ParagraphChild {
  return /^(?:https?|mailto):/i.test(url)
    ? new ExternalHyperlink({ link: url, children: [run(words, { style: 'Hyperlink' })] })
    : run(words)
}

function itemOf(item: MinutesItem): Paragraph[] {
  return [
    heading(item.title || 'untitled', 1, true),
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
        ? [heading(part.title || 'untitled', 2, true)]
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

export async function minutesAsDocx(minutes: Minutes, language = 'en-GB'): Promise<Buffer> {
  const children = [
    new Paragraph({
      children: runs(minutes.title || 'Meeting'),
      ...reading(minutes.title),
      heading: HeadingLevel.TITLE,
    }),
    table([1800, TEXT_WIDTH - 1800], null, headOf(minutes) as [string, string][]),
    new Paragraph({ children: [run('Contents', { bold: true })], spacing: { before: 280, after: 80 }, keepNext: true }),
    new TableOfContents('Contents', { hyperlink: true, headingStyleRange: '1-2' }),
    ...(minutes.musts.length > 0
      ? [
          heading('What was to be settled', 1, false),
          ...minutes.musts.map(
            ({ text, decisions }) =>
              new Paragraph({
                bullet: { level: 0 },
                children: [
                  ...runs(text, { bold: true }),
                  ...runs(decisions.length > 0 ? `: ${decisions.join('; ')}` : ': not settled'),
                ],
              }),
          ),
        ]
      : []),
    ...(minutes.actions.length > 0
      ? [
          heading('Actions', 1, false),
          table(
            [4200, 2000, 1400, TEXT_WIDTH - 7600],
            ['What', 'Who', 'Due', 'From'],
            minutes.actions.map(one => [
              one.title,
              one.owners.join(', ') || 'nobody yet',
              one.due ? dayInWords(one.due) : '',
              one.item,
            ]),
          ),
        ]
      : []),
    ...minutes.items.flatMap(itemOf),
    ...(minutes.besides.length > 0 ? [heading('Besides', 1, false), ...minutes.besides.flatMap(lineOf)] : []),
  ]
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
        children,
      },
    ],
  }
  // On which pages the headings stand is for the reader's program to say: its fonts and its paper decide.
  return Packer.toBuffer(new Document(options as ConstructorParameters<typeof Document>[0]))
}
