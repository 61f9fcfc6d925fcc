import ExcelJS from 'exceljs'
import { digitsOf } from '#core/figures/currencies'
import { FIRST_COLUMN, FIRST_ROW, type SheetCell, type SheetOf, VALUES_SHEET } from '#core/figures/spreadsheet'
import { columnName } from '#core/figures/table'
import type { Measure, Topic, TopicId } from '#core/tree'

/*
 * A tree's figures as a spreadsheet (ISO/IEC 29500, SpreadsheetML): a row for each topic, outlined by level, and formulas that go on
 * reckoning there. A second sheet says what the measures are, a third holds named values.
 */

/** Characters that a cell holds, and levels that rows are outlined by, at most. */
const MOST_CHARACTERS = 32_767
const MOST_LEVELS = 7
const INK = 'FF17616B'

export interface XlsxAsked {
  readonly sheet: SheetOf
  readonly topicOf: (id: TopicId) => Topic
  readonly numberOf: (id: TopicId) => string
  readonly measures: readonly Measure[]
  /** Instant, ISO 8601, at which it was made; the same asked twice is the same file. */
  readonly author: string
  readonly today: string
  /** Whether formulas carry the value they had, for what shows without reckoning. */
  readonly cached?: boolean
}

const quoted = (text: string): string => `"${text.replaceAll('"', '')}"`
/** Units as number formats; decimals are the measure's. */
function formatOf({ unit, decimals }: Pick<Measure, 'unit' | 'decimals'>): string {
  const places = decimals > 0 ? `.${'0'.repeat(decimals)}` : ''
  if (unit.trim() === '%') return `#,##0${places}%`
  return `#,##0${places}${unit.trim() ? `\\ ${quoted(unit.trim())}` : ''}`
}
// What XML can't hold, and what would be read as something else.
const clean = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  text.replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '').slice(0, MOST_CHARACTERS)

function fill(cell: ExcelJS.Cell, { value, formula, note }: SheetCell, cached: boolean): void {
  if (formula !== null) {
    const made: ExcelJS.CellFormulaValue = { formula, date1904: false }
    if (cached && value !== null) made.result = value
    cell.value = made
  } else if (value !== null) cell.value = typeof value === 'string' ? clean(value) : value
  if (note) cell.note = note
}

export async function figuresAsXlsx({
  sheet,
  topicOf,
  numberOf,
  measures,
  author,
  today,
  cached = true,
}: XlsxAsked): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook()
  book.creator = clean(author)
  book.created = new Date(`${today}T00:00:00Z`)
  book.calcProperties.fullCalcOnLoad = true
  const figures = book.addWorksheet('Figures', {
    views: [{ state: 'frozen', xSplit: FIRST_COLUMN, ySplit: 1 }],
    properties: { outlineLevelCol: 0, outlineLevelRow: MOST_LEVELS },
  })
  figures.properties.outlineProperties = { summaryBelow: false, summaryRight: false }
  const heads = sheet.columns.map(column =>
    column.kind === 'measure' ? column.measure.name : column.property === 'length' ? 'length, d' : column.property,
  )
  const head = figures.addRow(['No.', 'Topic', ...heads.map(clean)])
  head.font = { bold: true, color: { argb: 'FFFFFFFF' } }
  head.fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: INK } }
  figures.getColumn(1).width = 9
  figures.getColumn(2).width = 46
  sheet.columns.forEach((column, i) => {
    const made = figures.getColumn(FIRST_COLUMN + 1 + i)
    made.width = 17
    made.numFmt =
      column.kind === 'measure'
        ? formatOf(column.measure)
        : column.property === 'start' || column.property === 'finish' || column.property === 'due'
          ? 'yyyy-mm-dd'
          : column.property === 'done'
            ? '0%'
            : '#,##0.##'
  })
  sheet.rows.forEach(({ id, level }, i) => {
    const row = figures.getRow(i + FIRST_ROW)
    row.outlineLevel = Math.min(level, MOST_LEVELS)
    row.getCell(1).value = numberOf(id)
    const title = row.getCell(2)
    title.value = clean(topicOf(id).title.replace(/\s*\n\s*/g, ' '))
    title.alignment = { indent: Math.min(level, 15), readingOrder: undefined }
    if (level < 2) row.font = { bold: true }
    sheet.cells[i]!.forEach((cell, n) => fill(row.getCell(FIRST_COLUMN + 1 + n), cell, cached))
  })

  const about = book.addWorksheet('Measures')
  const aboutHead = about.addRow(['Measure', 'Unit', 'Decimals', 'A half is rounded', 'Further up it', 'Column'])
  aboutHead.font = { bold: true }
  for (const measure of measures) {
    const at = sheet.columns.findIndex(column => column.kind === 'measure' && column.measure.id === measure.id)
    about.addRow([
      clean(measure.name),
      clean(measure.unit) + (digitsOf(measure.unit) === null ? '' : ' (ISO 4217)'),
      measure.decimals,
      measure.rounding === 'half-even' ? 'to the even neighbour' : 'away from zero',
      ROLL_UPS[measure.rollUp],
      at < 0 ? '' : columnName(FIRST_COLUMN + at),
    ])
  }
  about.columns.forEach(column => {
    column.width = 22
  })

  const values = book.addWorksheet(VALUES_SHEET)
  values.addRow(['Value', 'Is', 'Unit']).font = { bold: true }
  sheet.values.forEach(({ name, unit, cell }, i) => {
    const row = values.getRow(i + FIRST_ROW)
    row.getCell(1).value = clean(name)
    fill(row.getCell(2), cell, cached)
    row.getCell(2).numFmt = formatOf({ unit, decimals: 2 })
    row.getCell(3).value = clean(unit)
  })
  values.getColumn(1).width = 26
  values.getColumn(2).width = 18
  return new Uint8Array(await book.xlsx.writeBuffer())
}

const ROLL_UPS: Record<Measure['rollUp'], string> = {
  sum: 'adds up',
  mean: 'is the mean',
  weighted: 'is the weighted mean',
  min: 'is the least',
  max: 'is the most',
  count: 'is how many there are',
  none: 'isn’t worked out',
}
