import {
  BorderStyle,
  ExternalHyperlink,
  Paragraph,
  type ParagraphChild,
  ShadingType,
  Table,
  TableCell,
  TableLayoutType,
  TableRow,
  TextRun,
  WidthType,
} from 'docx'
import { directionRuns, isRightToLeft } from './paragraph'

/* What documents of the kind DOCX (ISO/IEC 29500) are put together from. */

export const INK = '16292D'
const QUIET = '4F6468'
export const PORCH = '17616B'
const CEILING = 'DCEBE9'
const LINE = 'D5E2E0'
/** Width of the text in twentieths of a point: A4 with 2.5 cm at the sides. */
export const TEXT_WIDTH = 9072

/** U+FFFE, U+FFFF and control characters have no place in XML 1.0 (section 2.2). */
export const clean = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are what XML refuses
  text.toWellFormed().replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
export const run = (text: string, more: object = {}): TextRun => new TextRun({ text: clean(text), ...more })
/** Text in runs of one direction: a reader orders letters by itself, but figures and signs only when it's told. */
export const runs = (text: string, more: object = {}): TextRun[] =>
  directionRuns(clean(text)).map(
    part => new TextRun({ text: part.text, ...(part.rightToLeft ? { rightToLeft: true } : {}), ...more }),
  )
/**
 * What runs of a language say of it: Word keeps one for each of three kinds of script (ISO/IEC 29500-1, 17.3.2.20 `lang`), and looks
 * at the spelling by it.
 */
export const spokenIn = (language: string | null): object => {
  if (language === null) return {}
  const kind = /^(?:ar|fa|he|ur|yi)\b/.test(language)
    ? 'bidirectional'
    : /^(?:ja|ko|zh)\b/.test(language)
      ? 'eastAsia'
      : 'value'
  return { language: { [kind]: language } }
}
export const quiet = (text: string): TextRun[] => runs(text, { color: QUIET, size: 18 })
/** What a paragraph of this text needs to stand and be read from the right, where it is. */
export const reading = (text: string): { bidirectional?: boolean } =>
  isRightToLeft(text) ? { bidirectional: true } : {}

export function lined(text: string, more: object = {}): Paragraph[] {
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

/** A table of columns of these widths, on a page whose text is `wide`; all in twentieths of a point, the widths as on our own page. */
export function table(
  widths: readonly number[],
  head: readonly string[] | null,
  rows: readonly (readonly string[])[],
  wide: number = TEXT_WIDTH,
): Table {
  const scaled = widths.map(width => Math.round((width * wide) / TEXT_WIDTH))
  const border = { style: BorderStyle.SINGLE, size: 4, color: LINE }
  const row = (cells: readonly string[], isHead: boolean): TableRow =>
    new TableRow({
      ...(isHead ? { tableHeader: true } : {}),
      cantSplit: true,
      children: cells.map((text, i) =>
        cell(
          [new Paragraph({ children: runs(text, { bold: isHead || (head === null && i === 0) }), ...reading(text) })],
          scaled[i]!,
          isHead,
        ),
      ),
    })
  return new Table({
    layout: TableLayoutType.FIXED,
    width: { size: wide, type: WidthType.DXA },
    columnWidths: scaled,
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

export function link(words: string, url: string): ParagraphChild {
  return /^(?:https?|mailto):/i.test(url)
    ? new ExternalHyperlink({ link: url, children: [run(words, { style: 'Hyperlink' })] })
    : run(words)
}
