import { nanoid } from 'nanoid'
import type { ReadTable } from '#core/figures/table'
import { readNested, Unreadable } from '#core/capture/nested'
import type { Parents } from '#core/formats/csv'
import type { ReadDocument } from '#core/formats/html-document'
import type { Stamp } from '#core/formats/json'
import type { Left } from '#core/formats/markdown'
import type { KeptThread } from '#core/talk/kept-talk'
import { applyChanges, type OutlineItem, plantAt, type Tree } from '#core/tree'
import type { IMPORT_FORMATS } from '#core/contract'
import { wellFormed } from '#core/tree/atoms'
import type { DrawnFile } from '../documents/drawn-pictures'
import { newTree } from './new-tree'

/** What a file has: a tree, what of it couldn't be taken, and what was said in it, with the names of those who said it. */
export interface FromFile {
  readonly tree: Tree
  readonly left: readonly Left[]
  readonly talk?: readonly KeptThread[]
  readonly people?: Readonly<Record<string, string>>
  readonly of?: Stamp | null
  /** Pictures that its topics show, to be kept with the tree. */
  readonly pictures?: readonly DrawnFile[]
}

/**
 * A tree from a file's text, or its bytes as Base64. One item at the top becomes the centre; several stand below a centre named like the
 * file. What reads a kind of file is loaded when the first of it comes.
 */
export async function treeFromFile(
  format: (typeof IMPORT_FORMATS)[number],
  name: string,
  text: string,
  parents: Parents = {},
): Promise<FromFile> {
  if (format === 'json') return { ...(await import('#core/formats/json')).readJson(text), left: [] }
  const fileTitle = name.replace(/\.[a-z0-9]{1,8}$/i, '').trim() || 'New tree'
  if (format === 'opml') {
    const { title, items } = (await import('#core/formats/opml')).readOpml(text)
    return { tree: grow(items, title || fileTitle), left: [] }
  }
  if (format === 'markdown') {
    const { items, left } = (await import('#core/formats/markdown')).readMarkdownFully(text)
    return { tree: grow(items, fileTitle), left }
  }
  if (format === 'calendar') {
    const { title, items, left } = (await import('#core/formats/calendar-file')).readCalendarFile(text)
    return { tree: grow(items, title || fileTitle), left: Array.from(left, ([what, count]) => ({ what, count })) }
  }
  if (format === 'docx') {
    const { readDocx } = await import('../documents/read-docx')
    const document = await readDocx(bytesOf(text))
    return { ...fromDocument(document, fileTitle), pictures: document.pictures }
  }
  if (format === 'html') {
    const { readHtmlPage } = await import('../documents/read-html')
    const page = await readHtmlPage(text)
    // Words without any order are no outline: of a page of the web they may be anything.
    return { ...fromDocument(page.structured ? page : { ...page, items: [] }, fileTitle), pictures: page.pictures }
  }
  if (format === 'xlsx') {
    const { readTables } = await import('../documents/read-table')
    const { items, left } = await itemsOfTables(await readTables(bytesOf(text), name), parents)
    return { tree: grow(items, fileTitle), left }
  }
  const items = format === 'csv' ? (await import('#core/formats/csv')).readCsv(text, parents) : readNested(text)
  return { tree: grow(items, fileTitle), left: [] }
}

function fromDocument(
  { title, items, left }: Pick<ReadDocument, 'title' | 'items' | 'left'>,
  fileTitle: string,
): FromFile {
  return { tree: grow(items, title || fileTitle), left }
}

/** Bytes from Base64; a name or a text that isn't gives none, which is no file of any kind. */
const bytesOf = (text: string): Uint8Array => Buffer.from(text, 'base64')

/** A workbook's sheets as branches, or its one sheet's rows. Sheets that are no list of topics stay behind. */
async function itemsOfTables(
  tables: readonly ReadTable[],
  parents: Parents,
): Promise<{ items: OutlineItem[]; left: Left[] }> {
  const [{ default: Papa }, { Ambiguous, readCsv }] = await Promise.all([
    import('papaparse'),
    import('#core/formats/csv'),
  ])
  const found: OutlineItem[] = []
  let refusal: unknown
  let behind = 0
  for (const { name, rows } of tables)
    try {
      const csv = Papa.unparse(rows.map(row => row.map(cell => cell?.text ?? '')))
      found.push({ title: name, children: readCsv(csv, parents) })
    } catch (error) {
      // Which row is meant is asked of a workbook with one table alone.
      if (error instanceof Ambiguous && tables.length === 1) throw error
      if (!(error instanceof Unreadable)) throw error
      refusal ??= error
      behind++
    }
  if (found.length === 0) throw refusal
  const cutOff = tables.some(({ left }) => left.length > 0) ? 1 : 0
  const count = behind + cutOff
  return {
    items: found.length === 1 ? [...found[0]!.children] : found,
    left: count > 0 ? [{ what: 'part', count }] : [],
  }
}

function grow(items: readonly OutlineItem[], title: string): Tree {
  if (items.length === 0)
    throw new Unreadable('There is nothing in this file that could be a topic. Nothing was changed.')
  const { children, ...only } = items.length === 1 ? items[0]! : { title, details: undefined, children: items }
  const { details, ...named } = wellFormed(only)
  const tree = newTree(named.title || title.toWellFormed(), 'both')
  const centre = tree.topics.get(tree.centre)!
  tree.topics.set(tree.centre, { ...centre, ...(details as object) })
  applyChanges(tree, plantAt(tree, children, { parent: tree.centre, index: 0 }, () => nanoid(12)).changes)
  return tree
}
