import { fromMarkdown } from 'mdast-util-from-markdown'
import { gfmStrikethroughFromMarkdown, gfmStrikethroughToMarkdown } from 'mdast-util-gfm-strikethrough'
import { gfmTableFromMarkdown, gfmTableToMarkdown } from 'mdast-util-gfm-table'
import { gfmTaskListItemFromMarkdown, gfmTaskListItemToMarkdown } from 'mdast-util-gfm-task-list-item'
import { toMarkdown } from 'mdast-util-to-markdown'
import { gfmStrikethrough } from 'micromark-extension-gfm-strikethrough'
import { gfmTable } from 'micromark-extension-gfm-table'
import { gfmTaskListItem } from 'micromark-extension-gfm-task-list-item'
import type { Nodes, PhrasingContent, Root, RootContent } from 'mdast'
import * as Y from 'yjs'
import { isSafeAddress } from '../tree/address'
import { noteFile } from './note-html'
import { NOTE_FRAGMENT, readNote, toBase64, wordsIn } from '../tree/note'

/*
 * Notes as Markdown and back. A note is a Yjs document whose fragment holds the editor's nodes by name
 * (paragraph, heading, bulletList, …); marks are text attributes. CommonMark 0.31 with strikethrough, tables and
 * task lists (GFM, sections 4.10, 5.3 and 6.5). Pictures of the tree travel by their hash.
 */

type Marks = Record<string, object>

/** Markdown of more than this many characters is kept as one plain paragraph: the parser is slow on hostile input. */
const MOST_PARSED = 200_000

export function parseMarkdown(text: string): Root {
  return fromMarkdown(text, {
    extensions: [gfmStrikethrough(), gfmTable(), gfmTaskListItem()],
    mdastExtensions: [gfmStrikethroughFromMarkdown(), gfmTableFromMarkdown(), gfmTaskListItemFromMarkdown()],
  })
}

export function printMarkdown(root: Root): string {
  return toMarkdown(root, {
    bullet: '-',
    extensions: [
      gfmStrikethroughToMarkdown(),
      gfmTableToMarkdown({ tablePipeAlign: false }),
      gfmTaskListItemToMarkdown(),
    ],
  })
}

function inline(nodes: readonly PhrasingContent[], marks: Marks, out: { text: string; marks: Marks }[]): void {
  for (const node of nodes) {
    switch (node.type) {
      case 'text':
        out.push({ text: node.value, marks })
        break
      case 'inlineCode':
        out.push({ text: node.value, marks: { ...marks, code: {} } })
        break
      case 'break':
        out.push({ text: '\n', marks })
        break
      case 'strong':
        inline(node.children, { ...marks, bold: {} }, out)
        break
      case 'emphasis':
        inline(node.children, { ...marks, italic: {} }, out)
        break
      case 'delete':
        inline(node.children, { ...marks, strike: {} }, out)
        break
      case 'link':
        inline(node.children, isSafeAddress(node.url) ? { ...marks, link: { href: node.url } } : marks, out)
        break
      case 'image':
        out.push({ text: node.alt ?? '', marks })
        break
      default:
        break
    }
  }
}

function textNodes(nodes: readonly PhrasingContent[]): (Y.XmlText | Y.XmlElement)[] {
  const pieces: { text: string; marks: Marks }[] = []
  inline(nodes, {}, pieces)
  const out: (Y.XmlText | Y.XmlElement)[] = []
  let run: { text: string; marks: Marks }[] = []
  const close = (): void => {
    if (run.length === 0) return
    const text = new Y.XmlText()
    let at = 0
    for (const piece of run) {
      text.insert(at, piece.text, piece.marks)
      at += piece.text.length
    }
    out.push(text)
    run = []
  }
  for (const piece of pieces) {
    if (piece.text === '\n') {
      close()
      out.push(new Y.XmlElement('hardBreak'))
    } else if (piece.text !== '') run.push(piece)
  }
  close()
  return out
}

function element(
  name: string,
  children: readonly (Y.XmlText | Y.XmlElement)[],
  attributes: Record<string, unknown> = {},
): Y.XmlElement {
  const made = new Y.XmlElement(name)
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value as string)
  made.insert(0, [...children])
  return made
}

function blocks(nodes: readonly RootContent[]): Y.XmlElement[] {
  return nodes.flatMap((node): Y.XmlElement[] => {
    switch (node.type) {
      case 'paragraph': {
        const [only, ...more] = node.children
        const file = only?.type === 'image' && more.length === 0 ? noteFile(only.url) : null
        return [
          file !== null && only?.type === 'image'
            ? element('image', [], { src: file, alt: only.alt ?? '' })
            : element('paragraph', textNodes(node.children)),
        ]
      }
      case 'heading':
        return [element('heading', textNodes(node.children), { level: Math.min(3, node.depth) })]
      case 'blockquote':
        return [element('blockquote', blocks(node.children))]
      case 'code':
        return [element('codeBlock', node.value === '' ? [] : [new Y.XmlText(node.value)])]
      case 'thematicBreak':
        return [element('horizontalRule', [])]
      case 'list': {
        const isTasks = node.children.length > 0 && node.children.every(item => typeof item.checked === 'boolean')
        return [
          element(
            isTasks ? 'taskList' : node.ordered ? 'orderedList' : 'bulletList',
            node.children.map(item => {
              const inner = blocks(item.children)
              return element(
                isTasks ? 'taskItem' : 'listItem',
                inner.length > 0 ? inner : [element('paragraph', [])],
                isTasks ? { checked: item.checked === true } : {},
              )
            }),
          ),
        ]
      }
      case 'table':
        return [
          element(
            'table',
            node.children.map((row, i) =>
              element(
                'tableRow',
                row.children.map(cell =>
                  element(i === 0 ? 'tableHeader' : 'tableCell', [element('paragraph', textNodes(cell.children))], {
                    colspan: 1,
                    rowspan: 1,
                  }),
                ),
              ),
            ),
          ),
        ]
      case 'html':
        return [element('paragraph', [new Y.XmlText(node.value)])]
      default:
        return []
    }
  })
}

/** A new note from Markdown, or null when there is nothing in it. */
export function noteFromMarkdown(text: string): string | null {
  if (text.trim() === '') return null
  const doc = new Y.Doc()
  const fragment = doc.getXmlFragment(NOTE_FRAGMENT)
  const made =
    text.length > MOST_PARSED ? [element('paragraph', [new Y.XmlText(text)])] : blocks(parseMarkdown(text).children)
  if (made.length === 0) return null
  fragment.insert(0, made)
  return toBase64(Y.encodeStateAsUpdate(doc))
}

interface Delta {
  insert: string
  attributes?: Record<string, unknown>
}

function phrasing(node: Y.XmlElement): PhrasingContent[] {
  return node.toArray().flatMap((child): PhrasingContent[] => {
    if (child instanceof Y.XmlText) {
      return (child.toDelta() as Delta[]).map(({ insert, attributes = {} }): PhrasingContent => {
        let made: PhrasingContent =
          'code' in attributes ? { type: 'inlineCode', value: insert } : { type: 'text', value: insert }
        if ('bold' in attributes) made = { type: 'strong', children: [made] }
        if ('italic' in attributes) made = { type: 'emphasis', children: [made] }
        if ('strike' in attributes) made = { type: 'delete', children: [made] }
        const href = (attributes.link as { href?: unknown } | undefined)?.href
        if (typeof href === 'string' && isSafeAddress(href)) made = { type: 'link', url: href, children: [made] }
        return made
      })
    }
    return child instanceof Y.XmlElement && child.nodeName === 'hardBreak' ? [{ type: 'break' }] : []
  })
}

/** A cell of a Markdown table is one line: its blocks are joined by spaces. */
function cellPhrasing(cell: Y.XmlElement): PhrasingContent[] {
  return cell
    .toArray()
    .flatMap((block, i): PhrasingContent[] =>
      block instanceof Y.XmlElement
        ? [
            ...(i > 0 ? [{ type: 'text' as const, value: ' ' }] : []),
            ...(block.nodeName === 'paragraph' || block.nodeName === 'heading'
              ? phrasing(block)
              : [{ type: 'text' as const, value: wordsIn(block).replace(/\s+/g, ' ').trim() }]),
          ]
        : [],
    )
}

function mdast(parent: Y.XmlFragment): RootContent[] {
  return parent.toArray().flatMap((child): RootContent[] => {
    if (!(child instanceof Y.XmlElement)) return []
    const below = (): never[] => mdast(child) as never[]
    switch (child.nodeName) {
      case 'paragraph':
        return [{ type: 'paragraph', children: phrasing(child) }]
      case 'heading':
        return [{ type: 'heading', depth: (Number(child.getAttribute('level')) || 1) as 1, children: phrasing(child) }]
      case 'blockquote':
        return [{ type: 'blockquote', children: below() }]
      case 'codeBlock':
        return [{ type: 'code', value: wordsIn(child) }]
      case 'horizontalRule':
        return [{ type: 'thematicBreak' }]
      case 'bulletList':
        return [{ type: 'list', ordered: false, spread: false, children: below() }]
      case 'orderedList':
        return [{ type: 'list', ordered: true, start: 1, spread: false, children: below() }]
      case 'taskList':
        return [{ type: 'list', ordered: false, spread: false, children: below() }]
      case 'listItem':
        return [{ type: 'listItem', spread: false, children: below() } as Nodes as RootContent]
      case 'taskItem':
        return [
          {
            type: 'listItem',
            spread: false,
            checked: String(child.getAttribute('checked')) === 'true',
            children: below(),
          } as Nodes as RootContent,
        ]
      case 'image': {
        const file = noteFile(String(child.getAttribute('src') ?? ''))
        return file === null
          ? []
          : [
              {
                type: 'paragraph',
                children: [{ type: 'image', url: file, alt: String(child.getAttribute('alt') ?? '') }],
              },
            ]
      }
      case 'table':
        return [
          {
            type: 'table',
            children: child
              .toArray()
              .flatMap(row =>
                row instanceof Y.XmlElement
                  ? [
                      {
                        type: 'tableRow' as const,
                        children: row
                          .toArray()
                          .flatMap(cell =>
                            cell instanceof Y.XmlElement
                              ? [{ type: 'tableCell' as const, children: cellPhrasing(cell) }]
                              : [],
                          ),
                      },
                    ]
                  : [],
              ),
          },
        ]
      default:
        return below()
    }
  })
}

/** A note's blocks, as the tree of its Markdown (mdast 5); pictures of the tree are images whose address is their hash. */
export function noteBlocks(note: string | null): RootContent[] {
  return note === null ? [] : mdast(readNote(note))
}

/** A note as Markdown; '' when it's empty. */
export function noteToMarkdown(note: string | null): string {
  if (note === null) return ''
  const root: Root = { type: 'root', children: noteBlocks(note) }
  return printMarkdown(root).trim()
}
