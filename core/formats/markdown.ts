import { toString as plainWords } from 'mdast-util-to-string'
import type { List, ListItem, Nodes, Root, RootContent } from 'mdast'
import { checkSize, Unreadable } from '../capture/nested'
import { isSafeAddress } from '../tree/address'
import { LIMITS } from '../tree/limits'
import type { OutlineItem } from '../tree/outline'
import type { CalendarLeft } from './calendar-file'
import { noteFromMarkdown, noteToMarkdown, parseMarkdown, printMarkdown } from './note-text'

/*
 * Markdown (CommonMark 0.31 with task lists, github.github.com/gfm section 5.3). Headings nest by level, list items by
 * list; what else follows a heading or an item is its note. Out: the centre as the one heading of level 1, everything
 * else as a nested list, notes as quotes. What Markdown has no place for (dates, people, markers, links, style, sides,
 * folds) stays behind.
 */

/** Longer files are refused: the parser takes seconds on hostile input of this size. */
const MOST = 1_000_000

interface Growing {
  title: string
  done: number | null
  note: RootContent[]
  links: { url: string; title: string }[]
  children: Growing[]
}

/** A node's words; a hard break is a line break. */
function words(node: Nodes): string {
  if (node.type === 'break') return '\n'
  return 'children' in node ? node.children.map(words).join('') : plainWords(node)
}

/** The addresses in a title: its words lose them, so the topic keeps them as links. */
function linksIn(node: Nodes): Growing['links'] {
  if (node.type === 'link') return isSafeAddress(node.url) ? [{ url: node.url, title: words(node) }] : []
  if (node.type === 'image') return imageLinks(node)
  return 'children' in node ? node.children.flatMap(linksIn) : []
}

/** Pictures aren't fetched; where they are is kept as a link. */
function imageLinks(node: Nodes): Growing['links'] {
  if (node.type === 'image') return isSafeAddress(node.url) ? [{ url: node.url, title: node.alt ?? '' }] : []
  return 'children' in node ? node.children.flatMap(imageLinks) : []
}

function grow(from: Nodes | null, done: number | null = null): Growing {
  return { title: from ? words(from) : '', done, note: [], links: from ? linksIn(from) : [], children: [] }
}

/** What a reader of Markdown here has no place for, in words. */
export interface Left {
  readonly what: 'picture' | 'HTML' | 'image' | 'footnote' | 'macro' | 'part' | CalendarLeft
  readonly count: number
}

function leave(left: Map<Left['what'], number>, what: Left['what']): void {
  left.set(what, (left.get(what) ?? 0) + 1)
}

function countPictures(node: Nodes, left: Map<Left['what'], number>): void {
  if (node.type === 'image') leave(left, 'picture')
  if ('children' in node) for (const child of node.children) countPictures(child, left)
}

function fromListItem(item: ListItem): Growing {
  const [first, ...rest] = item.children
  const made = grow(
    first?.type === 'paragraph' || first?.type === 'heading' ? first : null,
    item.checked == null ? null : item.checked ? 100 : 0,
  )
  for (const node of made.title === '' && first ? item.children : rest) {
    if (node.type === 'list') made.children.push(...node.children.map(fromListItem))
    else made.note.push(node)
  }
  return made
}

function finish(item: Growing): OutlineItem {
  // One quote and nothing else is how a note is written here, since a list in it would otherwise read as topics; any
  // other quote is a quote.
  const [only, ...more] = item.note
  const nodes = only?.type === 'blockquote' && more.length === 0 ? only.children : item.note
  const note = nodes.length > 0 ? noteFromMarkdown(printMarkdown({ type: 'root', children: nodes } as Root)) : null
  const links = [...new Map([...item.links, ...item.note.flatMap(imageLinks)].map(link => [link.url, link])).values()]
    .slice(0, LIMITS.members)
    .map(({ url, title }, i) => ({
      id: `l${i + 1}`,
      url: url.toWellFormed(),
      title: title === url ? '' : title.toWellFormed().slice(0, 500),
    }))
  const details = {
    ...(item.done === null ? {} : { done: item.done }),
    ...(note === null ? {} : { note }),
    ...(links.length > 0 ? { links } : {}),
  }
  return {
    title: item.title,
    ...(Object.keys(details).length > 0 ? { details } : {}),
    children: item.children.map(finish),
  }
}

/** Refuses what would take the parser long: lines indented or quoted hundreds deep. */
function checkHostile(text: string): void {
  if (text.length > MOST)
    throw new Unreadable('This file is too long for Markdown (a million characters at most). Nothing was changed.')
  if (/(?:^|\n)(?:[ \t]*>){60}/.test(text) || /(?:^|\n)[ \t]{400}\S/.test(text) || /(?:[-*+][ \t]+){60}/.test(text))
    throw new Unreadable('This file nests too deeply for Markdown. Nothing was changed.')
}

/** Reads a Markdown document. The items are its highest headings, or its list items where it has no headings. */
export function readMarkdown(text: string): OutlineItem[] {
  return readMarkdownFully(text).items
}

/** The same, with what stayed behind. */
export function readMarkdownFully(text: string): {
  readonly items: readonly OutlineItem[] & OutlineItem[]
  readonly left: readonly Left[]
} {
  checkHostile(text)
  const top: Growing[] = []
  const open: { level: number; item: Growing }[] = []
  const document = parseMarkdown(text)
  const left = new Map<Left['what'], number>()
  countPictures(document, left)
  for (const node of document.children) {
    const at = open.at(-1)?.item
    if (node.type === 'heading') {
      while (open.length > 0 && open.at(-1)!.level >= node.depth) open.pop()
      const item = grow(node)
      ;(open.at(-1)?.item.children ?? top).push(item)
      open.push({ level: node.depth, item })
    } else if (node.type === 'list') (at?.children ?? top).push(...node.children.map(fromListItem))
    else if (at) at.note.push(node)
    else if (node.type === 'paragraph') top.push(grow(node))
    // Before the first heading a quote, a table or code hangs on what stands before it, or on a topic of its own.
    else if (node.type === 'html') leave(left, 'HTML')
    else if (node.type !== 'thematicBreak' && node.type !== 'definition') {
      if (top.length === 0) top.push(grow(null))
      top.at(-1)!.note.push(node)
    }
  }
  const items = top.map(finish)
  checkSize(items)
  return { items, left: [...left].map(([what, count]) => ({ what, count })) }
}

function listItem(item: OutlineItem): ListItem {
  const note = noteToMarkdown(item.details?.note ?? null)
  const done = item.details?.done
  return {
    type: 'listItem',
    spread: note !== '',
    checked: done === undefined || done === null ? null : done === 100,
    children: [
      {
        type: 'paragraph',
        children: item.title
          .split('\n')
          .flatMap((line, i) => [
            ...(i > 0 ? [{ type: 'break' as const }] : []),
            { type: 'text' as const, value: line },
          ]),
      },
      ...(note === '' ? [] : [{ type: 'blockquote' as const, children: parseMarkdown(note).children as never[] }]),
      ...(item.children.length > 0 ? [list(item.children)] : []),
    ],
  }
}

function list(items: readonly OutlineItem[]): List {
  return { type: 'list', ordered: false, spread: false, children: items.map(listItem) }
}

/** Writes a tree or branch as a Markdown document. */
export function writeMarkdown(root: OutlineItem): string {
  const note = noteToMarkdown(root.details?.note ?? null)
  const document: Root = {
    type: 'root',
    children: [
      { type: 'heading', depth: 1, children: [{ type: 'text', value: root.title.replace(/\s*\n\s*/g, ' ') }] },
      ...(note === '' ? [] : [{ type: 'blockquote' as const, children: parseMarkdown(note).children as never[] }]),
      ...(root.children.length > 0 ? [list(root.children)] : []),
    ],
  }
  return printMarkdown(document)
}
