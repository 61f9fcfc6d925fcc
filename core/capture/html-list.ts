import { Parser } from 'htmlparser2'
import { LIMITS } from '../tree/limits'
import type { OutlineItem } from '../tree/outline'
import { checkSize, Unreadable } from './nested'

interface Growing {
  title: string
  children: Growing[]
}
/** Ranks of what is open: headings 1 to 6, cells, lists from 100 on, items. */
const CELL = 50
const ITEM = 1000

const BLOCKS = new Set(['p', 'div', 'tr', 'blockquote', 'pre', 'br', 'dt', 'dd'])
const SILENT = new Set(['script', 'style', 'head', 'title', 'template', 'noscript'])

/**
 * Reads nested HTML lists, headings and table rows to branches; returns null when the HTML holds no list or heading,
 * so that the plain text beside it is the better source. Nothing of the HTML is kept but its text. Throws
 * `Unreadable` for more than one paste may have.
 */
export function readHtmlList(html: string): OutlineItem[] | null {
  if (html.length > LIMITS.message * 2) throw new Unreadable('That is too much to paste at once. Nothing was changed.')
  const top: Growing[] = []
  /** Lists and headings that are open: where a new item goes. */
  const holders: { rank: number; into: Growing[]; item: Growing | null }[] = [{ rank: 0, into: top, item: null }]
  let lists = 0
  let structured = false
  let silent = 0
  let text = ''
  let heading = 0
  let cells: Growing[] | null = null
  /** Spans that hold a word processor's own bullet, which isn't text; counted while open. */
  let bullet = 0
  /** A word processor's list paragraphs say their level in their style. */
  let paragraph: number | null = null
  let marked: { level: number; item: Growing }[] = []

  const pop = (rank: number): void => {
    while (holders.length > 1 && holder().rank !== rank) holders.pop()
    if (holders.length > 1) holders.pop()
  }
  const holder = (): { rank: number; into: Growing[]; item: Growing | null } => holders.at(-1)!
  const flush = (): void => {
    const said = text.replace(/\s+/g, ' ').trim()
    text = ''
    if (!said) return
    const at = holder()
    if (paragraph !== null) {
      while (marked.length > 0 && marked.at(-1)!.level >= paragraph) marked.pop()
      const item: Growing = { title: said, children: [] }
      ;(marked.at(-1)?.item.children ?? at.into).push(item)
      marked.push({ level: paragraph, item })
      structured = true
      return
    }
    marked = []
    if (at.item && at.item.title === '') at.item.title = said
    else if (at.item) at.item.title += `\n${said}`
    else at.into.push({ title: said, children: [] })
  }

  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (SILENT.has(name)) silent++
        const style = attributes.style ?? ''
        if (name === 'span' && (bullet > 0 || /mso-list:\s*ignore/i.test(style))) bullet++
        if (/^h[1-6]$/.test(name)) {
          flush()
          structured = true
          marked = []
          heading = Number(name[1])
          while (lists === 0 && holders.length > 1 && holder().rank >= heading) holders.pop()
        } else if (name === 'ul' || name === 'ol') {
          flush()
          structured = true
          lists++
          const at = holder()
          // A list right inside a list, beside its item, belongs under the item before it.
          const before = at.item === null && at.rank >= 100 ? at.into.at(-1) : undefined
          holders.push({
            rank: 100 + lists,
            into: before?.children ?? (at.item ? at.item.children : at.into),
            item: null,
          })
        } else if (name === 'li') {
          flush()
          const at = holder()
          const item: Growing = { title: '', children: [] }
          at.into.push(item)
          holders.push({ rank: ITEM, into: item.children, item })
        } else if (name === 'tr') {
          flush()
          cells = []
          structured = true
        } else if ((name === 'td' || name === 'th') && cells) {
          flush()
          const cell: Growing = { title: '', children: [] }
          cells.push(cell)
          holders.push({ rank: CELL, into: cell.children, item: cell })
        } else if (BLOCKS.has(name)) {
          flush()
          if (name === 'p') paragraph = Number(/mso-list:[^;]*\blevel(\d{1,2})\b/i.exec(style)?.[1] ?? 0) || null
        }
        if (holders.length > LIMITS.depth) throw new Unreadable('This goes too many levels deep. Nothing was changed.')
      },
      ontext(piece) {
        if (silent === 0 && bullet === 0) text += piece
      },
      onclosetag(name) {
        if (SILENT.has(name)) silent--
        if (name === 'span' && bullet > 0) bullet--
        if (/^h[1-6]$/.test(name) && heading > 0) {
          const title = text.replace(/\s+/g, ' ').trim()
          text = ''
          const item: Growing = { title, children: [] }
          holder().into.push(item)
          holders.push({ rank: heading, into: item.children, item: null })
          heading = 0
        } else if (name === 'li') {
          flush()
          pop(ITEM)
        } else if (name === 'ul' || name === 'ol') {
          flush()
          pop(100 + lists)
          lists = Math.max(0, lists - 1)
        } else if ((name === 'td' || name === 'th') && cells) {
          flush()
          pop(CELL)
        } else if (name === 'tr' && cells) {
          const [first, ...rest] = cells.filter(cell => cell.title !== '' || cell.children.length > 0)
          if (first !== undefined) holder().into.push({ title: first.title, children: [...first.children, ...rest] })
          cells = null
        } else if (BLOCKS.has(name)) {
          flush()
          if (name === 'p') paragraph = null
        }
      },
    },
    { decodeEntities: true },
  )
  parser.write(html)
  parser.end()
  flush()
  if (!structured) return null
  const items = strip(top)
  checkSize(items)
  return items.length > 0 ? items : null
}

/** Items without words give their children to whoever holds them. */
function strip(items: readonly Growing[]): OutlineItem[] {
  return items.flatMap(({ title, children }) =>
    title === '' ? strip(children) : [{ title, children: strip(children) }],
  )
}
