import type { List, Nodes, Root, Table } from 'mdast'
import { micromark } from 'micromark'
import { gfmTable, gfmTableHtml } from 'micromark-extension-gfm-table'
import type { Minutes } from '../meeting/minutes'
import { minutesDocument, ownActions } from './minutes-markdown'
import { printMarkdown } from './note-text'

/* Minutes as a letter: text that reads well in any mail program, and the same as HTML. One's own actions come first. */

export interface MinutesLetter {
  readonly text: string
  readonly html: string
}

/** Characters in a line of plain text, as mail has them at most (RFC 5322, section 2.1.1, recommends 78). */
const COLUMNS = 78

function words(node: Nodes): string {
  if (node.type === 'break') return '\n'
  if (node.type === 'link') {
    const said = node.children.map(words).join('')
    return said === node.url ? said : `${said} <${node.url}>`
  }
  return 'children' in node ? node.children.map(words).join('') : 'value' in node ? String(node.value) : ''
}

/** Lines of a width, broken between words; the second and later ones begin with `indent`. */
function wrapped(text: string, first: string, indent: string): string {
  const lines: string[] = []
  for (const paragraph of text.split('\n')) {
    let line = lines.length === 0 ? first : indent
    let empty = true
    for (const word of paragraph.split(/\s+/).filter(Boolean)) {
      if (!empty && line.length + 1 + word.length > COLUMNS) {
        lines.push(line)
        line = indent
        empty = true
      }
      line += empty ? word : ` ${word}`
      empty = false
    }
    lines.push(line)
  }
  return lines.join('\n')
}

function listText(list: List, indent = ''): string {
  return list.children
    .map(item =>
      item.children
        .map((node, i) =>
          node.type === 'list'
            ? listText(node, `${indent}  `)
            : wrapped(words(node), i === 0 ? `${indent}- ` : `${indent}  `, `${indent}  `),
        )
        .join('\n'),
    )
    .join('\n')
}

/** A table has no place in plain text: each row is a line, its cells after the first named by the head. */
function tableText(table: Table): string {
  const [head, ...rows] = table.children.map(row => row.children.map(cell => cell.children.map(words).join('')))
  return rows
    .map(([first = '', ...rest]) =>
      wrapped(
        [first, ...rest.map((cell, i) => (cell ? `${head![i + 1]!.toLowerCase()}: ${cell}` : '')).filter(Boolean)].join(
          ' | ',
        ),
        '- ',
        '  ',
      ),
    )
    .join('\n')
}

function plain(document: Root): string {
  return document.children
    .map(node => {
      if (node.type === 'heading') {
        const said = words(node)
        return node.depth === 1
          ? `${said}\n${'='.repeat(Math.min(COLUMNS, [...said].length))}`
          : `\n${said}\n${'-'.repeat(Math.min(COLUMNS, [...said].length))}`
      }
      if (node.type === 'list') return listText(node)
      if (node.type === 'table') return tableText(node)
      return wrapped(words(node), '', '')
    })
    .join('\n\n')
    .replace(/\n{3,}/g, '\n\n')
}

/**
 * Markdown that we wrote ourselves, as HTML. Raw HTML in it is text, and addresses are of the web or of mail:
 * micromark sees to both.
 */
function markup(document: Root): string {
  return micromark(printMarkdown(document), { extensions: [gfmTable()], htmlExtensions: [gfmTableHtml()] })
}

const STYLE =
  'body{font:15px/1.5 sans-serif;color:#16292d;max-width:44em}h1{font-size:22px;color:#17616b}h2{font-size:17px;margin-top:1.6em}table{border-collapse:collapse}th,td{border:1px solid #d5e2e0;padding:4px 8px;text-align:left;vertical-align:top}th{background:#e4f0ee}'

/** The minutes as a letter to one person: their own actions first. `person`: a member's id, null for a guest. */
export function minutesLetter(minutes: Minutes, person: string | null): MinutesLetter {
  const own = ownActions(minutes, person)
  const document = minutesDocument(minutes)
  const first: Root = { type: 'root', children: own }
  return {
    text: `${own.length > 0 ? `${plain(first).trimStart()}\n\n\n` : ''}${plain(document).trimStart()}\n`,
    html: `<!doctype html><html><head><meta charset="utf-8"><style>${STYLE}</style></head><body>${own.length > 0 ? markup(first) : ''}${markup(document)}</body></html>`,
  }
}
