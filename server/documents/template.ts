import { unzipSync } from 'fflate'
import { SaxesParser } from 'saxes'
import { Unreadable } from '#core/capture/nested'
import type { KeptTemplate } from '#core/handing/choice'
import { NothingThere } from '#core/handing/cut'
import type { SlideTheme } from '#core/handing/slide-theme'
import { fieldOf, isBlock, type TemplateField, type TemplateSaid } from '#core/handing/template'
import { TEXT_WIDTH } from './docx-parts'
import type { Files } from './hand-out'
import { isPresentation, readTheme } from './read-theme'
import { isZip, unpack } from './unpack'

/*
 * A document of a firm's own (ISO/IEC 29500, WordprocessingML) as a template: its paper, styles, headers, footers and pictures stay; where
 * a field such as {{title}} stands, what it names is written. Runs in a thread. What is packed may be far larger than the file, so that it's
 * unpacked to what its parts say they have and no further, before anything reads it.
 */

const MOST_PART = 24 * 1024 * 1024
const MOST_WHOLE = 48 * 1024 * 1024
export const DOCUMENT = 'word/document.xml'
/** Parts beside the text in which fields may stand. */
const BESIDE = /^word\/(?:header|footer)\d*\.xml$/
const FIELD = /\{\{\s*([^{}]{1,60}?)\s*\}\}/g
const MACROS =
  'This document holds macros, which run on whoever’s machine opens it. Save it as .docx, without them. Nothing was changed.'

export const broken = (): Unreadable =>
  new Unreadable('This isn’t a Word document that can be filled in. Save it anew as .docx. Nothing was changed.')

export interface Template {
  readonly parts: Readonly<Record<string, Uint8Array>>
  readonly said: TemplateSaid
  /** Fields that stand in the text itself, and how often. */
  readonly inText: ReadonlyMap<TemplateField, number>
  /** Width of its text, twentieths of a point. */
  readonly width: number
  /** Whether its headings count themselves. */
  readonly numbers: boolean
}

/** What a document, or slides, hold and lack as a template. Throws `Unreadable`, in words for whoever brought it. */
export function readSaid(bytes: Uint8Array): TemplateSaid {
  if (!isZip(bytes) || !isPresentation(unpack(bytes, () => false).names)) return readTemplate(bytes).said
  return { fields: [], unknown: [], tree: true, headings: [], styles: [], theme: readTheme(bytes) }
}

/** Throws `Unreadable`, in words for whoever brought it. */
export function readTemplate(bytes: Uint8Array): Template {
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    throw new Unreadable('This is a document of the old kind (.doc), or one with a password. Save it as .docx.')
  const parts = unpacked(bytes)
  const document = textOf(parts, DOCUMENT)
  const text = fieldsOf(document)
  const beside = Object.keys(parts)
    .filter(name => BESIDE.test(name))
    .flatMap(name => fieldsOf(textOf(parts, name)).fields)
  const found = new Map<TemplateField, number>()
  const unknown = new Set<string>()
  for (const { name, alone } of text.fields) {
    const field = fieldOf(name)
    if (field) found.set(field, (found.get(field) ?? 0) + 1)
    else unknown.add(name)
    // The paragraph goes for those that come in its place, and what stood beside the field would go with it.
    if (field && isBlock(field) && !alone)
      throw new Unreadable(
        `{{${name}}} has words beside it. Give it a line of its own in the document, and bring it again. Nothing was changed.`,
      )
  }
  for (const { name } of beside) {
    const field = fieldOf(name)
    if (!field || isBlock(field)) unknown.add(name)
  }
  for (const [field, count] of found)
    if (isBlock(field) && count > 1)
      throw new Unreadable(`{{${field}}} stands there ${count} times. Keep one of them. Nothing was changed.`)
  const styles = stylesOf(parts['word/styles.xml'] ? textOf(parts, 'word/styles.xml') : '')
  const headings = [1, 2, 3, 4, 5, 6].filter(level => !styles.names.has(`heading ${level}`))
  return {
    parts,
    said: {
      fields: [
        ...new Set([
          ...found.keys(),
          ...beside.map(({ name }) => fieldOf(name)).filter(one => one !== null && !isBlock(one)),
        ]),
      ] as TemplateField[],
      unknown: [...unknown].slice(0, 50),
      tree: found.has('tree'),
      headings,
      styles: ['Title', 'List Paragraph', 'Hyperlink'].filter(name => !styles.names.has(name.toLowerCase())),
    },
    inText: found,
    width: text.width,
    numbers: styles.numbers,
  }
}

function unpacked(bytes: Uint8Array): Record<string, Uint8Array> {
  let size = 0
  let tooMuch = false
  let macros = false
  let parts: Record<string, Uint8Array>
  try {
    parts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        macros ||= /vbaProject\.bin$|vbaData\.xml$/i.test(name)
        size += originalSize
        tooMuch ||= originalSize > MOST_PART || size > MOST_WHOLE
        return !tooMuch && !macros && !name.endsWith('/')
      },
    })
  } catch {
    throw broken()
  }
  if (macros) throw new Unreadable(MACROS)
  if (tooMuch) throw new Unreadable('What is packed in this document is too large for a template. Nothing was changed.')
  if (!parts[DOCUMENT] || !parts['[Content_Types].xml']) throw broken()
  const types = textOf(parts, '[Content_Types].xml')
  if (/macroEnabled/i.test(types)) throw new Unreadable(MACROS)
  // A .dotx is the same but for what it says it is.
  parts['[Content_Types].xml'] = new TextEncoder().encode(
    types.replaceAll('wordprocessingml.template.main+xml', 'wordprocessingml.document.main+xml'),
  )
  // The template that it was made from itself, in somebody's folder or anywhere at all: whoever opens what comes of it would ask there.
  const settings = parts['word/settings.xml'] && textOf(parts, 'word/settings.xml')
  if (settings)
    parts['word/settings.xml'] = new TextEncoder().encode(settings.replaceAll(/<w:attachedTemplate\b[^>]*\/>/g, ''))
  delete parts['word/_rels/settings.xml.rels']
  return parts
}

/** A part as text. XML that declares entities is none that a word processor writes, and may unfold without end. */
export function textOf(parts: Readonly<Record<string, Uint8Array>>, name: string): string {
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(parts[name])
  } catch {
    throw broken()
  }
  if (/<!DOCTYPE/i.test(text)) throw broken()
  return text
}

function parse(xml: string, on: (parser: SaxesParser) => void): void {
  const parser = new SaxesParser()
  let wrong = false
  parser.on('error', () => {
    wrong = true
  })
  on(parser)
  parser.write(xml).close()
  if (wrong) throw broken()
}

interface FoundField {
  readonly name: string
  /** Whether nothing stands beside it in its paragraph. */
  readonly alone: boolean
}

/** The fields that stand in a part, paragraph by paragraph: one may be cut into many runs. And the width of its text. */
export function fieldsOf(xml: string): { fields: FoundField[]; width: number } {
  const fields: FoundField[] = []
  const open: string[] = []
  let inText = false
  let page = 0
  let width = TEXT_WIDTH
  let isDocument = false
  parse(xml, parser => {
    parser.on('opentag', ({ name, attributes }) => {
      isDocument ||= /^w:(?:document|hdr|ftr)$/.test(name)
      if (name === 'w:p') open.push('')
      else if (name === 'w:t') inText = true
      else if (name === 'w:pgSz') page = Number(attributes['w:w']) || 0
      else if (name === 'w:pgMar' && page > 0) {
        const inner = page - (Number(attributes['w:left']) || 0) - (Number(attributes['w:right']) || 0)
        if (inner >= 1000 && inner <= 32_000) width = inner
      }
    })
    parser.on('text', text => {
      if (inText && open.length > 0) open[open.length - 1] += text
    })
    parser.on('closetag', ({ name }) => {
      if (name === 'w:t') inText = false
      else if (name === 'w:p') {
        const words = open.pop() ?? ''
        for (const [whole, field] of words.matchAll(FIELD)) fields.push({ name: field!, alone: words.trim() === whole })
      }
    })
  })
  if (!isDocument) throw broken()
  return { fields, width }
}

function stylesOf(xml: string): { names: Set<string>; numbers: boolean } {
  const names = new Set<string>()
  let numbers = false
  if (xml !== '') {
    let name = ''
    parse(xml, parser =>
      parser.on('opentag', tag => {
        if (tag.name === 'w:style') name = ''
        else if (tag.name === 'w:name') names.add((name = String(tag.attributes['w:val']).toLowerCase()))
        else if (tag.name === 'w:numPr' && /^heading \d$/.test(name)) numbers = true
      }),
    )
  }
  return { names, numbers }
}

/** The template of that id among those that a tree keeps, read; null for none. `need`: fetches files of the tree. Throws `NothingThere`. */
export async function templateOf(
  kept: readonly KeptTemplate[],
  id: string | null,
  need: (files: readonly string[]) => Promise<Files>,
): Promise<Template | null> {
  const bytes = await bytesOf(kept, id, need)
  return bytes && readTemplate(bytes)
}

/** The theme that slides wear; null for the look's own. Throws as `templateOf` does. */
export async function themeOf(...asked: Parameters<typeof templateOf>): Promise<SlideTheme | null> {
  const bytes = await bytesOf(...asked)
  return bytes && readTheme(bytes)
}
async function bytesOf(...[kept, id, need]: Parameters<typeof templateOf>): Promise<Uint8Array | null> {
  if (id === null) return null
  const file = kept.find(one => one.id === id)?.file
  const bytes = file === undefined ? undefined : (await need([file]))[file]?.bytes
  if (!bytes) throw new NothingThere('The template isn’t there any more. Choose another one.')
  return bytes
}
