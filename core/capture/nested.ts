import { LIMITS } from '../tree/limits'
import type { OutlineItem } from '../tree/outline'

/** Why pasted or imported text can't become topics; the words are for the person. */
export class Unreadable extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'Unreadable'
  }
}

interface Growing {
  title: string
  done: number | null
  children: Growing[]
}

const BULLET = /^(?:[-*+•‣◦▪–·]|\d{1,9}[.)])\s+/
/** Bullets as word processors put them in plain text, each level with a sign of its own and no indent (from memory). */
const SIGNS = ['·', 'o', '§']
const SIGN = /^([·o§])\t/
/**
 * A letter or a Roman number before the text: an item's mark only where the lines beside it go on from it, else the
 * text's own (“A. Smith”, “i. e.”).
 */
const LETTERED = /^([a-z]{1,6}|[A-Z]{1,6})([.)])\s+/
const TASK = /^\[( |x|X)\]\s+/
const HEADING = /^(#{1,6})\s+(.*?)(?:\s+#+)?\s*$/
const TAB = 4

/** Columns of white space before the text; a tab goes to the next multiple of four, as in CommonMark. */
function indentOf(line: string): { indent: number; text: string } {
  let indent = 0
  let i = 0
  for (; i < line.length; i++) {
    if (line[i] === ' ' || line[i] === '\u00A0') indent++
    else if (line[i] === '\t') indent += TAB - (indent % TAB)
    else break
  }
  return { indent, text: line.slice(i).trimEnd() }
}

/** Refuses what would go over a tree's limits before anything is made of it. */
export function checkSize(items: readonly OutlineItem[]): void {
  let count = 0
  const stack = items.map(item => ({ item, depth: 1 }))
  while (stack.length > 0) {
    const { item, depth } = stack.pop()!
    if (++count > LIMITS.changes)
      throw new Unreadable(
        `This has more than ${LIMITS.changes.toLocaleString('en')} lines. Paste it in parts; nothing was changed.`,
      )
    if (depth > LIMITS.depth / 2)
      throw new Unreadable(`This goes more than ${LIMITS.depth / 2} levels deep. Nothing was changed.`)
    if (item.title.length > LIMITS.title)
      throw new Unreadable(
        `A line is longer than ${LIMITS.title.toLocaleString('en')} characters. Nothing was changed.`,
      )
    for (const child of item.children) stack.push({ item: child, depth: depth + 1 })
  }
}

/**
 * Counts lines without making them, and stops as soon as there are too many: a paste of millions is refused in no
 * time.
 */
function checkLines(text: string): void {
  const most = LIMITS.changes * 4
  let count = 1
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
    if (++count > most)
      throw new Unreadable(
        `This has more than ${most.toLocaleString('en')} lines; ${LIMITS.changes.toLocaleString('en')} topics fit at once. Nothing was changed.`,
      )
  }
}

const ROMAN = [
  'i',
  'ii',
  'iii',
  'iv',
  'v',
  'vi',
  'vii',
  'viii',
  'ix',
  'x',
  'xi',
  'xii',
  'xiii',
  'xiv',
  'xv',
  'xvi',
  'xvii',
  'xviii',
  'xix',
  'xx',
]

/**
 * The lines whose letters or Roman numbers count on from a, A) or i, with at least two of them at one indent and
 * nothing less indented between.
 */
function letteredLines(lines: readonly { readonly indent: number; readonly text: string }[]): ReadonlySet<number> {
  const found = new Set<number>()
  interface Run {
    readonly indent: number
    readonly kind: 'letter' | 'roman'
    readonly end: string
    readonly upper: boolean
    readonly at: number[]
  }
  let open: Run[] = []
  const close = (run: Run): void => {
    if (run.at.length > 1) for (const at of run.at) found.add(at)
  }
  lines.forEach(({ indent, text }, at) => {
    if (text === '') return
    const mark = LETTERED.exec(text)
    for (const run of open.filter(one => one.indent > indent)) close(run)
    open = open.filter(one => one.indent <= indent)
    if (!mark) {
      for (const run of open.filter(one => one.indent === indent)) close(run)
      open = open.filter(one => one.indent < indent)
      return
    }
    const [said, end] = [mark[1]!, mark[2]!]
    const upper = said !== said.toLowerCase()
    const low = said.toLowerCase()
    // With “)” it's a mark even alone.
    if (end === ')' && (low.length === 1 || ROMAN.includes(low))) found.add(at)
    let went = false
    for (const run of open) {
      if (run.indent !== indent || run.upper !== upper || run.end !== end) continue
      const next = run.kind === 'letter' ? String.fromCharCode(97 + run.at.length) : ROMAN[run.at.length]
      if (low !== next) continue
      run.at.push(at)
      went = true
    }
    if (went) return
    for (const run of open.filter(one => one.indent === indent)) close(run)
    open = open.filter(one => one.indent !== indent)
    // “A.” begins names as often as items; a capital counts only with “)”.
    if (low === 'a' && (!upper || end === ')')) open.push({ indent, kind: 'letter', end, upper, at: [at] })
    if (low === 'i') open.push({ indent, kind: 'roman', end, upper, at: [at] })
  })
  open.forEach(close)
  return found
}

/** The cells of a row of a Markdown table; null for any other line. */
function tableCells(text: string): string[] | null {
  if (!/^\|.*\|$/.test(text)) return null
  return text
    .slice(1, -1)
    .split(/(?<!\\)\|/)
    .map(cell => cell.trim().replaceAll('\\|', '|'))
}

function finished(items: readonly Growing[]): OutlineItem[] {
  return items.map(({ title, done, children }) => ({
    title,
    ...(done === null ? {} : { details: { done } }),
    children: finished(children),
  }))
}

/**
 * Reads lines that are nested by tabs, spaces, bullets, numbers or Markdown headings, and cells of a sheet
 * (a row's first cell becomes the topic, the rest its children). `[ ]` and `[x]` become tasks.
 * A line without a bullet that continues a bulleted one is joined to it. Throws `Unreadable` over the limits.
 */
export function readNested(text: string): OutlineItem[] {
  checkLines(text)
  const lines = text
    .replace(/\r\n?/g, '\n')
    .replace(/^\uFEFF/, '')
    .split('\n')
  const top: Growing[] = []
  /** Open items, outermost first; headings count as standing left of everything, the higher the further. */
  const open: { item: Growing; column: number; textColumn: number; bulleted: boolean }[] = []
  const add = (title: string, done: number | null, column: number, textColumn: number, bulleted: boolean): Growing => {
    while (open.length > 0 && open.at(-1)!.column >= column) open.pop()
    const item: Growing = { title, done, children: [] }
    ;(open.at(-1)?.item.children ?? top).push(item)
    open.push({ item, column, textColumn, bulleted })
    return item
  }
  let fenced = false
  const read = lines.map(indentOf)
  const lettered = letteredLines(read)
  for (const [at, line] of read.entries()) {
    const { text: bare } = line
    let { indent } = line
    if (bare === '') continue
    if (/^(```|~~~)/.test(bare)) {
      fenced = !fenced
      continue
    }
    if (/^(?:-{3,}|\*{3,}|_{3,})$/.test(bare)) continue
    const heading = fenced ? null : HEADING.exec(bare)
    if (heading && indent < TAB) {
      add(plainTitle(heading[2]!), null, heading[1]!.length - 1000, 0, false)
      continue
    }
    const row = fenced ? null : tableCells(bare)
    if (row) {
      if (row.every(cell => /^:?-+:?$/.test(cell))) continue
      const [first = '', ...cells] = row.filter(cell => cell !== '')
      const item = add(plainTitle(first), null, indent, indent, false)
      for (const cell of cells) item.children.push({ title: plainTitle(cell), done: null, children: [] })
      continue
    }
    const sign = SIGN.exec(bare)
    if (sign && indent === 0) indent = SIGNS.indexOf(sign[1]!) * TAB
    const bullet = sign ?? BULLET.exec(bare) ?? (lettered.has(at) ? LETTERED.exec(bare) : null)
    const body = bullet ? bare.slice(bullet[0].length) : bare
    const last = open.at(-1)
    if (!bullet && last?.bulleted && indent >= last.textColumn && indent > last.column) {
      last.item.title += `\n${plainTitle(body)}`
      continue
    }
    const task = TASK.exec(body)
    const rest = task ? body.slice(task[0].length) : body
    const [first = '', ...cells] = rest
      .split('\t')
      .map(cell => cell.trim())
      .filter(cell => cell !== '')
    const item = add(
      plainTitle(first),
      task ? (task[1] === ' ' ? 0 : 100) : null,
      indent,
      indent + (bullet?.[0].length ?? 0),
      bullet !== null,
    )
    for (const cell of cells) item.children.push({ title: cell, done: null, children: [] })
  }
  const items = finished(top)
  checkSize(items)
  return items
}

/** Whole-line emphasis and escapes of Markdown say nothing in a title. */
function plainTitle(text: string): string {
  return text.replace(/^(\*\*|__)((?:(?!\1).)+)\1$/, '$2').replace(/\\([\\`*_{}[\]()#+\-.!>~|])/g, '$1')
}
