import Papa from 'papaparse'
import { Unreadable } from '../capture/nested'
import { readTime } from '../schedule/clock-words'
import type { FieldSpec } from '../tree/field-spec'
import { type Field, FIELD_ENTRIES } from '../tree/fields'
import { LIMITS } from '../tree/limits'
import type { OutlineItem } from '../tree/outline'

/*
 * CSV (RFC 4180), a topic a row. The first row names the columns. Where a topic belongs is said by a `parent` column,
 * which names another row by its id or its title, by a `level` column, 1 for the first level, or by numbers of parts
 * (1, 1.2, 1.2.3) in the column of ids; without any of them the list is flat.
 */

const CELLS = FIELD_ENTRIES.filter(([, { headings }]) => headings)
type Column = Field | 'id' | 'parent' | 'level'
const NAMES: Readonly<Partial<Record<Column, readonly string[]>>> = {
  ...Object.fromEntries(CELLS.map(([name, { headings }]) => [name, headings])),
  id: ['id', 'key', 'number', 'no', 'nr', 'no.', 'nr.', 'outline number'],
  parent: ['parent', 'parent id', 'parentid', 'under', 'part of'],
  level: ['level', 'depth', 'outline level', 'indent'],
}

interface Row {
  readonly at: number
  readonly cells: Partial<Record<Column, string>>
  readonly children: Row[]
}

/** What a spreadsheet program was kept from running as a formula comes back as it was. */
const unguarded = (cell: string): string => cell.replace(/^'(?=\s*[=+\-@\t\r])/, '')

/** A row's parent may be one of several rows with the same title. Which one is for the person to say. */
export interface WhichParent {
  readonly parent: string
  readonly rows: readonly { readonly at: number; readonly path: string }[]
}
export class Ambiguous extends Unreadable {
  constructor(readonly which: readonly WhichParent[]) {
    super(
      `Several rows are called “${which[0]!.parent.slice(0, 60)}” (${which[0]!.rows
        .map(row => `row ${row.at}`)
        .slice(0, 6)
        .join(', ')}), and another row names it as its parent. Say which is meant; nothing was changed.`,
    )
    this.name = 'Ambiguous'
  }
}

/** Which row is meant by a title that several have: its number in the file, the headings being row 1. */
export type Parents = Readonly<Record<string, number>>

/**
 * Reads rows into branches. Throws `Unreadable` for what is no table, a parent that isn't there, or parents in a loop,
 * naming the row; `Ambiguous` where a parent's title occurs more than once and `meant` doesn't say which.
 */
export function readCsv(text: string, meant: Parents = {}): OutlineItem[] {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' })
  const fault = parsed.errors.find(error => error.type === 'Quotes')
  if (fault) throw new Unreadable(`Row ${(fault.row ?? 0) + 1}: a quoted cell isn’t closed. Nothing was changed.`)
  const [head, ...body] = parsed.data
  if (!head || body.length === 0)
    throw new Unreadable('This table has no rows below its headings. Nothing was changed.')
  if (body.length > LIMITS.topics)
    throw new Unreadable(
      `This table has ${body.length.toLocaleString('en')} rows; a tree holds ${LIMITS.topics.toLocaleString('en')} topics. Nothing was changed.`,
    )
  const columns = new Map<Column, number>()
  head.forEach((cell, i) => {
    const said = cell.trim().toLocaleLowerCase('en')
    for (const [column, names] of Object.entries(NAMES))
      if (names.includes(said) && !columns.has(column as Column)) columns.set(column as Column, i)
  })
  if (!columns.has('title'))
    throw new Unreadable('No column is called title, topic, name or task. Nothing was changed.')
  const rows: Row[] = body.map((cells, i) => ({
    at: i + 2,
    children: [],
    cells: Object.fromEntries([...columns].map(([column, at]) => [column, unguarded(cells[at] ?? '').trim()])),
  }))
  if (columns.has('parent')) return byParent(rows, meant).map(itemOf)
  if (columns.has('level')) return byLevel(rows).map(itemOf)
  return (isNumbered(rows) ? byNumber(rows) : rows).map(itemOf)
}

function byParent(rows: readonly Row[], meant: Parents): Row[] {
  const byId = new Map<string, Row>()
  const byTitle = new Map<string, Row[]>()
  for (const row of rows) {
    const { id, title } = row.cells
    if (id) {
      if (byId.has(id))
        throw new Unreadable(`Rows ${byId.get(id)!.at} and ${row.at} have the same id, “${id}”. Nothing was changed.`)
      byId.set(id, row)
    }
    if (title) byTitle.set(title, [...(byTitle.get(title) ?? []), row])
  }
  const parents = new Map<Row, Row>()
  const open = new Map<string, WhichParent>()
  const tops: Row[] = []
  for (const row of rows) {
    const { parent } = row.cells
    if (!parent) {
      tops.push(row)
      continue
    }
    const called = byTitle.get(parent) ?? []
    const above = byId.get(parent) ?? (called.length > 1 ? called.find(one => one.at === meant[parent]) : called[0])
    if (!above && called.length > 1) {
      open.set(parent, {
        parent,
        rows: called.map(one => ({ at: one.at, path: (one.cells.parent ?? '').slice(0, 80) })),
      })
      continue
    }
    if (!above)
      throw new Unreadable(
        `Row ${row.at}: its parent, “${parent.slice(0, 60)}”, isn’t in the table. Nothing was changed.`,
      )
    parents.set(row, above)
    above.children.push(row)
  }
  if (open.size > 0) throw new Ambiguous([...open.values()])
  const sound = new Set<Row>()
  for (const row of rows) {
    const path: Row[] = []
    for (let at: Row | undefined = row; at && !sound.has(at); at = parents.get(at)) {
      if (path.includes(at)) {
        const loop = path
          .slice(path.indexOf(at))
          .map(one => `“${(one.cells.title ?? '').slice(0, 40)}” (row ${one.at})`)
        throw new Unreadable(
          `These rows are each other’s parents: ${loop.slice(0, 6).join(', ')}. Nothing was changed.`,
        )
      }
      path.push(at)
      if (path.length > LIMITS.depth)
        throw new Unreadable(`Row ${row.at} lies deeper than ${LIMITS.depth} levels. Nothing was changed.`)
    }
    for (const one of path) sound.add(one)
  }
  return tops
}

function byLevel(rows: readonly Row[]): Row[] {
  const tops: Row[] = []
  const open: { level: number; row: Row }[] = []
  for (const row of rows) {
    const level = Number(row.cells.level)
    if (!Number.isInteger(level) || level < 0 || level > LIMITS.depth)
      throw new Unreadable(
        `Row ${row.at}: its level, “${(row.cells.level ?? '').slice(0, 20)}”, isn’t a whole number from 0 to ${LIMITS.depth}. Nothing was changed.`,
      )
    while (open.length > 0 && open.at(-1)!.level >= level) open.pop()
    const above = open.at(-1)
    if (above) above.row.children.push(row)
    else tops.push(row)
    open.push({ level, row })
  }
  return tops
}

/** A number of parts, as documents number their headings: “1.2.3”, also with a point at the end. */
const partsOf = (row: Row): string[] | null =>
  /^\d+(?:\.\d+)*\.?$/.test(row.cells.id ?? '') ? row.cells.id!.split('.').filter(Boolean) : null

/** Whether all rows have a number of parts, and some have several: whole numbers alone may be anything. */
function isNumbered(rows: readonly Row[]): boolean {
  const numbers = rows.map(partsOf)
  return numbers.every(parts => parts !== null) && numbers.some(parts => parts!.length > 1)
}

/** Each row below the nearest one whose number its own begins with. What stands in between may be missing; the order is the table's. */
function byNumber(rows: readonly Row[]): Row[] {
  const tops: Row[] = []
  const byParts = new Map<string, Row>()
  for (const row of rows) {
    const number = partsOf(row)!.map(Number).join('.')
    const before = byParts.get(number)
    if (before)
      throw new Unreadable(
        `Rows ${before.at} and ${row.at} have the same number, ${number.slice(0, 40)}. Nothing was changed.`,
      )
    byParts.set(number, row)
  }
  for (const row of rows) {
    const parts = partsOf(row)!.map(Number)
    if (parts.length > LIMITS.depth)
      throw new Unreadable(`Row ${row.at} lies deeper than ${LIMITS.depth} levels. Nothing was changed.`)
    let above: Row | undefined
    for (let length = parts.length - 1; length > 0 && !above; length--)
      above = byParts.get(parts.slice(0, length).join('.'))
    ;(above?.children ?? tops).push(row)
  }
  return tops
}

/** “FREQ=WEEKLY;BYDAY=MO from 2027-03-01”; without a day it counts from the day on which the row is due. */
function againOf(said: string, due: string | undefined): unknown {
  const [, rule = '', from = due?.slice(0, 10)] = /^(.*?)(?:\s+from\s+(\d{4}-\d\d-\d\d))?$/i.exec(said.trim()) ?? []
  return { rule: rule.replace(/^RRULE:/i, '').toUpperCase(), from }
}
const toCell = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && 'rule' in value && 'from' in value
    ? `${String(value.rule)} from ${String(value.from)}`
    : (value ?? '')

function fromCell(said: string, field: Field, kind: FieldSpec['column'] | FieldSpec['opml']): unknown {
  if (kind === 'day') return said.slice(0, 10)
  if (field === 'startTime' || field === 'dueTime') return readTime(said)
  return kind === 'number' || kind === 'whole' ? Number(said.replace('%', '').replace(',', '.')) : said
}

/** Cells that can't be a date or a number stay out; the topic is kept. */
function itemOf(row: Row): OutlineItem {
  const details: Record<string, unknown> = {}
  for (const [field, { schema, column, opml }] of CELLS) {
    const said = row.cells[field]
    if (!said || field === 'title') continue
    const read = schema.safeParse(
      field === 'again' ? againOf(said, row.cells.due) : fromCell(said, field, column ?? opml),
    )
    if (read.success && read.data !== null) details[field] = read.data
  }
  // “2027-06-05 07:30” in one cell; midnight is how other programs write a day alone.
  for (const [day, time] of [
    ['start', 'startTime'],
    ['due', 'dueTime'],
  ] as const) {
    const said = /^\d{4}-\d\d-\d\d[T ](\d{1,2}:\d\d)(?::\d\d)?$/.exec(row.cells[day] ?? '')?.[1]
    if (said && !/^0?0:00$/.test(said) && details[day] && !row.cells[time])
      Object.assign(details, { [time]: readTime(said) ?? undefined })
  }
  return {
    title: (row.cells.title ?? '').slice(0, LIMITS.title).toWellFormed(),
    ...(Object.keys(details).length > 0 ? { details } : {}),
    children: row.children.map(itemOf),
  }
}

/** Columns of what is computed, beside what was entered: a row for each topic, in the order in which the tree is read. */
export interface ComputedColumns {
  readonly headings: readonly string[]
  readonly rows: readonly (readonly (string | number)[])[]
}

/**
 * Writes a table with a level column. Cells that a spreadsheet program would run as a formula are guarded by a quote
 * mark.
 */
export function writeCsv(
  items: readonly OutlineItem[],
  nameOf: (person: string) => string,
  computed: ComputedColumns = { headings: [], rows: [] },
): string {
  const written = CELLS.filter(([name]) => name !== 'title')
  const rows: unknown[][] = [
    ['level', 'title', ...written.map(([, { headings }]) => headings![0]), 'people', 'markers', ...computed.headings],
  ]
  const walk = (list: readonly OutlineItem[], level: number): void => {
    for (const { title, details = {}, children } of list) {
      rows.push([
        level,
        title,
        ...written.map(([name]) => (name === 'title' ? title : toCell(details[name]))),
        (details.people ?? []).map(nameOf).join(', '),
        (details.markers ?? []).join(', '),
        ...(computed.rows[rows.length - 1] ?? []),
      ])
      walk(children, level + 1)
    }
  }
  walk(items, 1)
  return `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: /^\s*[=+\-@\t\r]/ })}\r\n`
}
