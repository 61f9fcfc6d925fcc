import { Readable } from 'node:stream'
import type ExcelJS from 'exceljs'
import Papa from 'papaparse'
import { Unreadable } from '#core/capture/nested'
import { numeralOfDouble, type ReadCell, type ReadTable } from '#core/figures/table'
import { decode } from '#core/formats/encoding'
import { isCompound, isZip } from './unpack'

/*
 * Tables that people send to take figures from: a workbook (ISO/IEC 29500, SpreadsheetML), read row by row as it streams in, or text with
 * separators (RFC 4180). Runs in a thread. What is too much is left, and said.
 */

const MOST_ROWS = 20_000
const MOST_COLUMNS = 80
const MOST_SHEETS = 20
const MOST_CHARACTERS = 1000

/** The tables of a file, the sheets of a workbook each for itself. Throws `Unreadable` with words for whoever sent it. */
export async function readTables(bytes: Uint8Array, name: string): Promise<ReadTable[]> {
  if (bytes.length === 0) throw new Unreadable('This file is empty.')
  if (isCompound(bytes))
    throw new Unreadable(
      'This is a workbook of the old kind (.xls), or one with a password. Save it as .xlsx, or as CSV.',
    )
  const tables = isZip(bytes) ? await sheetsOf(bytes) : [textTable(bytes, name)]
  const filled = tables.filter(({ rows }) => rows.some(row => row.some(Boolean)))
  if (filled.length === 0) throw new Unreadable('There is nothing in this file: no cell has words or a number.')
  return filled
}

function textTable(bytes: Uint8Array, name: string): ReadTable {
  const { text } = decode(bytes)
  if (text.includes('\u0000')) throw new Unreadable('This file is neither a workbook (.xlsx) nor text (.csv, .tsv).')
  const { data } = Papa.parse<string[]>(text, {
    preview: MOST_ROWS + 1,
    skipEmptyLines: false,
    delimiter: separatorOf(text),
  })
  const left: string[] = []
  if (data.length > MOST_ROWS) left.push(`Only the first ${MOST_ROWS.toLocaleString('en')} rows were read.`)
  if (data.some(row => row.length > MOST_COLUMNS)) left.push(`Only the first ${MOST_COLUMNS} columns were read.`)
  return {
    name,
    left,
    rows: data.slice(0, MOST_ROWS).map(row =>
      row
        .slice(0, MOST_COLUMNS)
        // A quote guards what a spreadsheet would run as a formula.
        .map(said => (said.trim() === '' ? null : words(said.replace(/^'(?=[=+\-@])/, '')))),
    ),
  }
}

/** What parts cells, by the first line that has any: tabs, else semicolons, since a comma may belong to a number, else commas. */
function separatorOf(text: string): string {
  const line = text.split('\n', 50).find(one => /[\t;,]/.test(one)) ?? ''
  return line.includes('\t') ? '\t' : line.includes(';') ? ';' : ','
}

const words = (said: string): ReadCell => ({
  text: said.slice(0, MOST_CHARACTERS).toWellFormed(),
  number: null,
  formula: false,
})

async function sheetsOf(bytes: Uint8Array): Promise<ReadTable[]> {
  const found: ReadTable[] = []
  const hasMacros = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).includes('vbaProject.bin')
  // It's large, and read when the first workbook comes.
  const { default: Excel } = await import('exceljs')
  try {
    const book = new Excel.stream.xlsx.WorkbookReader(Readable.from([Buffer.from(bytes)]), {
      worksheets: 'emit',
      sharedStrings: 'cache',
      hyperlinks: 'ignore',
      styles: 'cache',
      entries: 'ignore',
    })
    for await (const sheet of book) {
      if (found.length === MOST_SHEETS) break
      found.push(await sheetOf(sheet as unknown as Sheet, found.length + 1, hasMacros))
    }
  } catch {
    throw new Unreadable('This workbook can’t be read. Save it anew as .xlsx, or as CSV.')
  }
  return found
}

/** What the streaming reader gives of a sheet; its types leave out the name. */
interface Sheet extends AsyncIterable<ExcelJS.Row> {
  readonly name?: string
}

async function sheetOf(sheet: Sheet, index: number, hasMacros: boolean): Promise<ReadTable> {
  const rows: (ReadCell | null)[][] = []
  const left = new Set<string>()
  if (hasMacros) left.add('Its macros were left out.')
  for await (const row of sheet) {
    if (row.number > MOST_ROWS) {
      left.add(`Only the first ${MOST_ROWS.toLocaleString('en')} rows were read.`)
      break
    }
    // Rows that are empty aren't in the file.
    while (rows.length < row.number - 1) rows.push([])
    const cells: (ReadCell | null)[] = []
    row.eachCell({ includeEmpty: false }, (cell, column) => {
      if (column > MOST_COLUMNS) left.add(`Only the first ${MOST_COLUMNS} columns were read.`)
      else cells[column - 1] = cellOf(cell)
    })
    rows.push(Array.from(cells, cell => cell ?? null))
  }
  return { name: sheet.name ?? `Sheet ${index}`, rows, left: [...left] }
}

function cellOf(cell: ExcelJS.Cell): ReadCell | null {
  const { value } = cell
  if (value === null || value === undefined) return null
  if (typeof value === 'number') return { text: String(value), number: numeralOfDouble(value), formula: false }
  if (typeof value === 'string') return value.trim() === '' ? null : words(value)
  if (typeof value === 'boolean') return words(String(value))
  if (value instanceof Date) return words(value.toISOString().slice(0, 10))
  if ('formula' in value || 'sharedFormula' in value) {
    const { result } = value as ExcelJS.CellFormulaValue
    return {
      text: typeof result === 'number' || typeof result === 'string' ? String(result) : '',
      number: null,
      formula: true,
    }
  }
  if ('richText' in value) return words(value.richText.map(({ text }) => text).join(''))
  if ('text' in value) return words(String(value.text))
  return 'error' in value ? words(String(value.error)) : null
}
