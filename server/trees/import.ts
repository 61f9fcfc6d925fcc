import { nanoid } from 'nanoid'
import { readHtmlList } from '#core/capture/html-list'
import { readNested, Unreadable } from '#core/capture/nested'
import { readCalendarFile } from '#core/formats/calendar-file'
import { type Parents, readCsv } from '#core/formats/csv'
import { readJson, type Stamp } from '#core/formats/json'
import { type Left, readMarkdownFully } from '#core/formats/markdown'
import { readOpml } from '#core/formats/opml'
import type { KeptThread } from '#core/talk/kept-talk'
import { applyChanges, type OutlineItem, plantAt, type Tree } from '#core/tree'
import type { IMPORT_FORMATS } from '#core/contract'
import { newTree } from './new-tree'

/** What a file has: a tree, what of it couldn't be taken, and what was said in it, with the names of those who said it. */
export interface FromFile {
  readonly tree: Tree
  readonly left: readonly Left[]
  readonly talk?: readonly KeptThread[]
  readonly people?: Readonly<Record<string, string>>
  readonly of?: Stamp | null
}

/**
 * A tree from a file's text. One item at the top becomes the centre; several stand below a centre named like the file.
 */
export function treeFromFile(
  format: (typeof IMPORT_FORMATS)[number],
  name: string,
  text: string,
  parents: Parents = {},
): FromFile {
  if (format === 'json') return { ...readJson(text), left: [] }
  const fileTitle = name.replace(/\.[a-z0-9]{1,8}$/i, '').trim() || 'New tree'
  if (format === 'opml') {
    const { title, items } = readOpml(text)
    return { tree: grow(items, title || fileTitle), left: [] }
  }
  if (format === 'markdown') {
    const { items, left } = readMarkdownFully(text)
    return { tree: grow(items, fileTitle), left }
  }
  if (format === 'calendar') {
    const { title, items, left } = readCalendarFile(text)
    return { tree: grow(items, title || fileTitle), left: Array.from(left, ([what, count]) => ({ what, count })) }
  }
  const items =
    format === 'html' ? (readHtmlList(text) ?? []) : format === 'csv' ? readCsv(text, parents) : readNested(text)
  return { tree: grow(items, fileTitle), left: [] }
}

function grow(items: readonly OutlineItem[], title: string): Tree {
  if (items.length === 0)
    throw new Unreadable('There is nothing in this file that could be a topic. Nothing was changed.')
  const only = items.length === 1 ? items[0]! : { title, children: items }
  const tree = newTree(only.title || title, 'both')
  const centre = tree.topics.get(tree.centre)!
  tree.topics.set(tree.centre, { ...centre, ...(only.details as object) })
  applyChanges(tree, plantAt(tree, only.children, { parent: tree.centre, index: 0 }, () => nanoid(12)).changes)
  return tree
}
