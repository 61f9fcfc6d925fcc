import { SaxesParser } from 'saxes'
import { z } from 'zod'
import { checkSize, Unreadable } from '../capture/nested'
import type { Initial } from '../tree/change'
import type { FieldSpec } from '../tree/field-spec'
import { FIELD_ENTRIES } from '../tree/fields'
import { LIMITS } from '../tree/limits'
import { SET_ENTRIES } from '../tree/sets'
import { isSafeAddress } from '../tree/address'
import type { OutlineItem } from '../tree/outline'
import { noteFromMarkdown, noteToMarkdown } from './note-text'

/*
 * OPML 2.0 (opml.org/spec2.opml). `text` is the title; links follow the specification's type="link" where a topic has
 * just one. What the format has no place for travels in attributes of our own namespace, which other readers pass over,
 * as section "Extending OPML" asks: dates, progress, markers, style, the branch's arrangement, and as JSON: several
 * links, checklists, places, numbering, annexes. People, pictures, files, sketches, cross-links and places by hand stay
 * behind.
 */

const NAMESPACE = 'urn:sun-porch:opml:1'
const MOST = 16 * 1024 * 1024
type Carried = keyof Omit<Initial, 'title'>
const carried = FIELD_ENTRIES.flatMap(([name, spec]) => (name === 'title' ? [] : [[name, spec] as const]))
const PLAIN = carried.filter(([, { opml }]) => opml && opml !== 'json')
/** What travels as JSON in an attribute, each checked by its own schema on the way in. */
const IN_JSON: readonly (readonly [Carried, z.ZodType])[] = [
  ...carried.filter(([, { opml }]) => opml === 'json').map(([name, { schema }]) => [name, schema] as const),
  ...SET_ENTRIES.filter(([, { opml }]) => opml === 'json').map(
    ([name, { schema, most }]) => [name, z.array(schema).max(most)] as const,
  ),
]
/** Sets of words, joined by spaces. */
const IN_WORDS = SET_ENTRIES.filter(([, { opml }]) => opml === 'words')

function fromAttribute(said: string, kind: FieldSpec['opml']): unknown {
  return kind === 'number' || kind === 'whole' ? Number(said) : kind === 'truth' ? said === 'true' : said
}

interface Growing {
  title: string
  details: Record<string, unknown>
  children: Growing[]
}

export interface OpmlDocument {
  readonly title: string
  readonly items: readonly OutlineItem[]
}

/** Reads an OPML document. DOCTYPEs are refused, so there are no entities to expand and nothing outside to load. */
export function readOpml(text: string): OpmlDocument {
  if (text.length > MOST) throw new Unreadable('This file is too large for OPML (16 MB at most). Nothing was changed.')
  if (/<!DOCTYPE/i.test(text))
    throw new Unreadable('This file declares a DOCTYPE, which OPML doesn’t need. Nothing was changed.')
  const parser = new SaxesParser({ xmlns: false })
  const top: Growing[] = []
  const open: Growing[] = []
  let title = ''
  let inTitle = false
  let sawOpml = false
  parser.on('error', error => {
    throw new Unreadable(`This isn’t well-formed XML: ${error.message}. Nothing was changed.`)
  })
  parser.on('opentag', tag => {
    if (tag.name === 'opml') sawOpml = true
    if (tag.name === 'title' && open.length === 0) inTitle = true
    if (tag.name !== 'outline') return
    const attributes = tag.attributes as Record<string, string>
    const item: Growing = {
      title: attributes.text?.trim() ? attributes.text : (attributes.title ?? attributes.text ?? ''),
      details: {},
      children: [],
    }
    const note = attributes._note ? noteFromMarkdown(attributes._note) : null
    if (note) item.details.note = note
    const address = attributes.url ?? attributes.htmlUrl ?? attributes.xmlUrl
    if (address && isSafeAddress(address)) item.details.links = [{ id: 'l1', url: address, title: '' }]
    for (const [field, { schema, opml, was }] of PLAIN) {
      const given = attributes[`porch:${field}`] ?? (was && attributes[`porch:${was}`])
      // An empty attribute says nothing; it isn't a nought.
      if (given === undefined || given.trim() === '') continue
      const value = schema.safeParse(fromAttribute(given, opml))
      if (value.success && value.data !== null) item.details[field] = value.data
    }
    for (const [field, schema] of IN_JSON) {
      const value = schema.safeParse(parsed(attributes[`porch:${field}`]))
      if (value.success && value.data !== null) item.details[field] = value.data
    }
    for (const [name, { schema, most }] of IN_WORDS) {
      const said = (attributes[`porch:${name}`] ?? '').split(' ').filter(word => schema.safeParse(word).success)
      if (said.length > 0) item.details[name] = said.slice(0, most)
    }
    ;(open.at(-1)?.children ?? top).push(item)
    open.push(item)
    if (open.length > LIMITS.depth) throw new Unreadable('This file nests too deeply. Nothing was changed.')
  })
  parser.on('text', piece => {
    if (inTitle) title += piece
  })
  parser.on('closetag', tag => {
    if (tag.name === 'title') inTitle = false
    if (tag.name === 'outline') open.pop()
  })
  parser.write(text.replace(/^\uFEFF/, '')).close()
  if (!sawOpml) throw new Unreadable('This isn’t an OPML file. Nothing was changed.')
  const items = top.map(finish)
  checkSize(items)
  return { title: title.trim(), items }
}

function parsed(text: string | undefined): unknown {
  try {
    return text === undefined ? undefined : JSON.parse(text)
  } catch {
    return undefined
  }
}

function finish({ title, details, children }: Growing): OutlineItem {
  return { title, ...(Object.keys(details).length > 0 ? { details } : {}), children: children.map(finish) }
}

/** Text for an XML 1.0 attribute: control characters have no place there, line breaks are written as references. */
function attribute(text: string): string {
  return (
    text
      // eslint-disable-next-line no-control-regex -- XML 1.0 section 2.2 names exactly these
      .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
      .replace(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, '')
      .replace(/&/g, '&amp;')
      .replace(/</g, '&lt;')
      .replace(/>/g, '&gt;')
      .replace(/"/g, '&quot;')
      .replace(/\n/g, '&#10;')
      .replace(/\r/g, '&#13;')
      .replace(/\t/g, '&#9;')
  )
}

function outline(item: OutlineItem, indent: string): string {
  const details = item.details ?? {}
  let tag = `${indent}<outline text="${attribute(item.title)}"`
  const note = noteToMarkdown(details.note ?? null)
  if (note) tag += ` _note="${attribute(note)}"`
  const only = details.links?.length === 1 ? details.links[0] : undefined
  if (only) tag += ` type="link" url="${attribute(only.url)}"`
  for (const [field] of PLAIN) {
    const value = details[field]
    if (value !== undefined && value !== null && value !== false) tag += ` porch:${field}="${value}"`
  }
  for (const [field] of IN_JSON) {
    const value = details[field]
    const isOneLink = field === 'links' && only !== undefined && only.title === ''
    if (value && !isOneLink && !(Array.isArray(value) && value.length === 0))
      tag += ` porch:${field}="${attribute(JSON.stringify(value))}"`
  }
  for (const [name] of IN_WORDS) if (details[name]?.length) tag += ` porch:${name}="${details[name].join(' ')}"`
  if (item.children.length === 0) return `${tag}/>\n`
  return `${tag}>\n${item.children.map(child => outline(child, `${indent}  `)).join('')}${indent}</outline>\n`
}

/** Writes a tree: the centre is both the document's title and its one top outline. */
export function writeOpml(root: OutlineItem): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n<opml version="2.0" xmlns:porch="${NAMESPACE}">\n  <head>\n    <title>${attribute(root.title)}</title>\n  </head>\n  <body>\n${outline(root, '    ')}  </body>\n</opml>\n`
}
