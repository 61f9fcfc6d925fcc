import { toString as plainWords } from 'mdast-util-to-string'
import type { List, ListItem, Nodes, Root, RootContent } from 'mdast'
import { checkSize, Unreadable } from '../capture/nested'
import type { OutlineItem } from '../tree/outline'
import { noteFromMarkdown, noteToMarkdown, parseMarkdown, printMarkdown } from './note-text'

/*
 * Markdown (CommonMark 0.31 with task lists, github.github.com/gfm section 5.3).
 * Headings nest by level, list items by list; what else follows a heading or an item is its note.
 * Out: the centre as the one heading of level 1, everything else as a nested list, notes as quotes. What Markdown has no place for
 * (dates, people, markers, links, style, sides, folds) stays behind.
 */

/** Longer files are refused: the parser takes seconds on hostile input of this size. */
const MOST = 1_000_000

interface Growing { title: string, done: number | null, note: RootContent[], children: Growing[] }

/** A node's words; a hard break is a line break. */
function words(node: Nodes): string {
  if (node.type === 'break') return '\n'
  return 'children' in node ? node.children.map(words).join('') : plainWords(node)
}

/** A quote is how a note is written here, since a list in it would otherwise read as topics. */
function noteNodes(node: RootContent): RootContent[] {
  return node.type === 'blockquote' ? node.children : [node]
}

function grow(title: string, done: number | null = null): Growing {
  return { title, done, note: [], children: [] }
}

function fromListItem(item: ListItem): Growing {
  const [first, ...rest] = item.children
  const made = grow(first?.type === 'paragraph' || first?.type === 'heading' ? words(first) : '', item.checked == null ? null : item.checked ? 100 : 0)
  for (const node of made.title === '' && first ? item.children : rest) {
    if (node.type === 'list') made.children.push(...node.children.map(fromListItem))
    else made.note.push(...noteNodes(node))
  }
  return made
}

function finish(item: Growing): OutlineItem {
  const note = item.note.length > 0 ? noteFromMarkdown(printMarkdown({ type: 'root', children: item.note } as Root)) : null
  const details = { ...(item.done === null ? {} : { done: item.done }), ...(note === null ? {} : { note }) }
  return {
    title: item.title,
    ...(Object.keys(details).length > 0 ? { details } : {}),
    children: item.children.map(finish),
  }
}

/** Refuses what would take the parser long: lines indented or quoted hundreds deep. */
function checkHostile(text: string): void {
  if (text.length > MOST) throw new Unreadable('This file is too long for Markdown (a million characters at most). Nothing was changed.')
  if (/(?:^|\n)(?:[ \t]*>){60}/.test(text) || /(?:^|\n)[ \t]{400}\S/.test(text) || /(?:[-*+][ \t]+){60}/.test(text))
    throw new Unreadable('This file nests too deeply for Markdown. Nothing was changed.')
}

/** Reads a Markdown document. The items are its highest headings, or its list items where it has no headings. */
export function readMarkdown(text: string): OutlineItem[] {
  checkHostile(text)
  const top: Growing[] = []
  const open: { level: number, item: Growing }[] = []
  for (const node of parseMarkdown(text).children) {
    const at = open.at(-1)?.item
    if (node.type === 'heading') {
      while (open.length > 0 && open.at(-1)!.level >= node.depth) open.pop()
      const item = grow(words(node))
      ;(open.at(-1)?.item.children ?? top).push(item)
      open.push({ level: node.depth, item })
    }
    else if (node.type === 'list') (at?.children ?? top).push(...node.children.map(fromListItem))
    else if (at) at.note.push(...noteNodes(node))
    else if (node.type === 'paragraph') top.push(grow(words(node)))
  }
  const items = top.map(finish)
  checkSize(items)
  return items
}

function listItem(item: OutlineItem): ListItem {
  const note = noteToMarkdown(item.details?.note ?? null)
  const done = item.details?.done
  return {
    type: 'listItem',
    spread: note !== '',
    checked: done === undefined || done === null ? null : done === 100,
    children: [
      { type: 'paragraph', children: item.title.split('\n').flatMap((line, i) => [...(i > 0 ? [{ type: 'break' as const }] : []), { type: 'text' as const, value: line }]) },
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
