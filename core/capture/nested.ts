import { LIMITS } from '../tree/change'
import type { OutlineItem } from '../tree/outline'

/** Why pasted or imported text can't become topics; the words are for the person. */
export class Unreadable extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'Unreadable'
  }
}

interface Growing { title: string, done: number | null, children: Growing[] }

const BULLET = /^(?:[-*+•‣◦▪–]|\d{1,9}[.)]|[a-z][.)])\s+/i
const TASK = /^\[( |x|X)\]\s+/
const HEADING = /^(#{1,6})\s+(.*?)\s*#*$/
const TAB = 4

/** Columns of white space before the text; a tab goes to the next multiple of four, as in CommonMark. */
function indentOf(line: string): { indent: number, text: string } {
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
    if (++count > LIMITS.changes) throw new Unreadable(`This has more than ${LIMITS.changes.toLocaleString('en')} lines. Paste it in parts; nothing was changed.`)
    if (depth > LIMITS.depth / 2) throw new Unreadable(`This goes more than ${LIMITS.depth / 2} levels deep. Nothing was changed.`)
    if (item.title.length > LIMITS.title) throw new Unreadable(`A line is longer than ${LIMITS.title.toLocaleString('en')} characters. Nothing was changed.`)
    for (const child of item.children) stack.push({ item: child, depth: depth + 1 })
  }
}

/** Counts lines without making them, and stops as soon as there are too many: a paste of millions is refused in no time. */
function checkLines(text: string): void {
  const most = LIMITS.changes * 4
  let count = 1
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
    if (++count > most) throw new Unreadable(`This has more than ${most.toLocaleString('en')} lines; ${LIMITS.changes.toLocaleString('en')} topics fit at once. Nothing was changed.`)
  }
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
  const lines = text.replace(/\r\n?/g, '\n').replace(/^\uFEFF/, '').split('\n')
  const top: Growing[] = []
  /** Open items, outermost first; headings count as standing left of everything, the higher the further. */
  const open: { item: Growing, column: number, textColumn: number, bulleted: boolean }[] = []
  const add = (title: string, done: number | null, column: number, textColumn: number, bulleted: boolean): Growing => {
    while (open.length > 0 && open.at(-1)!.column >= column) open.pop()
    const item: Growing = { title, done, children: [] }
    ;(open.at(-1)?.item.children ?? top).push(item)
    open.push({ item, column, textColumn, bulleted })
    return item
  }
  let fenced = false
  for (const line of lines) {
    const { indent, text: bare } = indentOf(line)
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
    const bullet = BULLET.exec(bare)
    const body = bullet ? bare.slice(bullet[0].length) : bare
    const last = open.at(-1)
    if (!bullet && last?.bulleted && indent >= last.textColumn && indent > last.column) {
      last.item.title += `\n${plainTitle(body)}`
      continue
    }
    const task = TASK.exec(body)
    const rest = task ? body.slice(task[0].length) : body
    const [first = '', ...cells] = rest.split('\t').map(cell => cell.trim()).filter(cell => cell !== '')
    const item = add(plainTitle(first), task ? (task[1] === ' ' ? 0 : 100) : null, indent, indent + (bullet?.[0].length ?? 0), bullet !== null)
    for (const cell of cells) item.children.push({ title: cell, done: null, children: [] })
  }
  const items = finished(top)
  checkSize(items)
  return items
}

/** Whole-line emphasis and escapes of Markdown say nothing in a title. */
function plainTitle(text: string): string {
  return text
    .replace(/^(\*\*|__)(.+)\1$/, '$2')
    .replace(/\\([\\`*_{}[\]()#+\-.!>~|])/g, '$1')
}
