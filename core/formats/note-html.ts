import * as Y from 'yjs'
import { isSafeAddress } from '../tree/address'
import { readNote } from '../tree/note'
import { escapeHtml } from './clipboard'

/*
 * A note as HTML to read. Built from the note's own nodes: only the elements named here come out, all text is escaped,
 * and addresses pass the same check as everywhere, so there is nothing left to clean.
 */

const ELEMENTS: Record<string, string> = {
  paragraph: 'p',
  blockquote: 'blockquote',
  bulletList: 'ul',
  orderedList: 'ol',
  listItem: 'li',
  codeBlock: 'pre',
  table: 'table',
  tableRow: 'tr',
  tableCell: 'td',
  tableHeader: 'th',
  taskList: 'ul',
  taskItem: 'li',
}
const MARKS: Record<string, string> = { bold: 'strong', italic: 'em', strike: 's', code: 'code', underline: 'u' }

interface Delta {
  insert: unknown
  attributes?: Record<string, unknown>
}

function inline(text: Y.XmlText): string {
  return (text.toDelta() as Delta[])
    .map(({ insert, attributes = {} }) => {
      let html = escapeHtml(typeof insert === 'string' ? insert : '')
      for (const [mark, element] of Object.entries(MARKS))
        if (mark in attributes) html = `<${element}>${html}</${element}>`
      const href = (attributes.link as { href?: unknown } | undefined)?.href
      return typeof href === 'string' && isSafeAddress(href)
        ? `<a href="${escapeHtml(href)}" rel="noopener noreferrer" target="_blank">${html}</a>`
        : html
    })
    .join('')
}

const span = (node: Y.XmlElement, name: string): string => {
  const value = Number(node.getAttribute(name) ?? 1)
  return Number.isInteger(value) && value > 1 && value <= 100 ? ` ${name}="${value}"` : ''
}

/** `fileAddress` gives the address of a picture of the tree by its hash. */
function html(node: Y.XmlElement | Y.XmlFragment, fileAddress: (file: string) => string): string {
  return node
    .toArray()
    .map((child): string => {
      if (child instanceof Y.XmlText) return inline(child)
      if (!(child instanceof Y.XmlElement)) return ''
      const below = (): string => html(child, fileAddress)
      switch (child.nodeName) {
        case 'hardBreak':
          return '<br>'
        case 'horizontalRule':
          return '<hr>'
        case 'heading': {
          const level = Math.min(3, Math.max(1, Number(child.getAttribute('level')) || 1)) + 2
          return `<h${level}>${below()}</h${level}>`
        }
        case 'image': {
          const file = noteFile(String(child.getAttribute('src') ?? ''))
          return file
            ? `<img src="${escapeHtml(fileAddress(file))}" alt="${escapeHtml(String(child.getAttribute('alt') ?? ''))}">`
            : ''
        }
        case 'taskItem': {
          const done = String(child.getAttribute('checked')) === 'true'
          return `<li class="task" data-done="${done}"><span role="img" aria-label="${done ? 'done' : 'to do'}">${done ? '☑' : '☐'}</span><div>${below()}</div></li>`
        }
        case 'tableCell':
        case 'tableHeader': {
          const element = ELEMENTS[child.nodeName]!
          return `<${element}${span(child, 'colspan')}${span(child, 'rowspan')}>${below()}</${element}>`
        }
        default: {
          const element = ELEMENTS[child.nodeName]
          return element ? `<${element}>${below()}</${element}>` : below()
        }
      }
    })
    .join('')
}

/**
 * The file that a picture in a note shows: its address is `/api/trees/{tree}/files/{hash}` or the hash alone. Pictures
 * from elsewhere aren't shown.
 */
export function noteFile(src: string): string | null {
  return /^(?:\/api\/trees\/[\w-]{1,40}\/files\/)?([0-9a-f]{64})$/.exec(src)?.[1] ?? null
}

/** A note as HTML; '' when there is none. */
export function noteToHtml(note: string | null, fileAddress: (file: string) => string): string {
  return note === null ? '' : html(readNote(note), fileAddress)
}
