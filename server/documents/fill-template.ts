import { randomUUID } from 'node:crypto'
import {
  type FileChild,
  type INumberingOptions,
  Paragraph,
  type ParagraphChild,
  patchDocument,
  PatchType,
  TextRun,
} from 'docx'
import { unzipSync, zipSync } from 'fflate'
import { Unreadable } from '#core/capture/nested'
import { fieldOf, isBlock, TEMPLATE_FIELDS, type TemplateField, wordsFor } from '#core/handing/template'
import { broken, DOCUMENT, fieldsOf, type Template, textOf } from './template'

/*
 * A template filled in. First its fields become marks that nobody's words can hold; then what they name comes in their place: so “{{title}}”
 * in somebody's title stays that, and what has no room for a tree keeps its words.
 */

export interface Filling {
  /** What goes into a line, and what takes paragraphs of its own. */
  readonly lines: Readonly<Partial<Record<TemplateField, readonly ParagraphChild[]>>>
  readonly blocks: Readonly<Partial<Record<TemplateField, readonly FileChild[]>>>
  readonly numbering: INumberingOptions
  readonly title: string
  readonly author: string
  /** Whether pages are worked out for the contents; what reads it does so otherwise. */
  readonly estimated: boolean
}

type Parts = Readonly<Record<string, Uint8Array>>
type Patches = Record<string, Parameters<typeof patchDocument>[0]['patches'][string]>

/** Writes into the template what its fields name. A field without anything to say goes. Throws `Unreadable`. */
export async function fillTemplate(template: Template, filling: Filling): Promise<Buffer> {
  const secret = randomUUID()
  const markOf = (field: TemplateField): string => `${secret} ${field}`
  const lines: Patches = {}
  for (const field of LINES) lines[markOf(field)] = { type: PatchType.PARAGRAPH, children: filling.lines[field] ?? [] }
  const blocks: Patches = {}
  for (const field of BLOCKS) {
    if (field !== 'tree' && !template.inText.has(field)) continue
    const children = filling.blocks[field]
    blocks[markOf(field)] = { type: PatchType.DOCUMENT, children: children?.length ? children : [new Paragraph('')] }
  }
  return patchDocument({
    outputType: 'nodebuffer',
    data: zipSync(await patched(await marked(template, markOf), lines), { level: 0 }),
    patches: blocks,
    recursive: false,
    numbering: filling.numbering,
    properties: { title: filling.title, creator: filling.author },
    ...(filling.estimated ? { pageNumbers: (await import('docx/layout')).estimatePageNumbers } : {}),
  })
}

/**
 * The tree last, and each but once: a search through what is written already takes time by the square of its length (measured: 8 s
 * for 4,000 paragraphs, 2 so).
 */
const BLOCKS: readonly TemplateField[] = [
  ...TEMPLATE_FIELDS.filter(field => isBlock(field) && field !== 'tree'),
  'tree',
]
const LINES = TEMPLATE_FIELDS.filter(field => !isBlock(field))

const patched = async (parts: Parts, patches: Patches): Promise<Parts> =>
  unzipSync(
    await patchDocument({
      outputType: 'uint8array',
      data: zipSync(parts, { level: 0 }),
      patches,
      trimPlaceholders: true,
    }),
  )

/** The template with a mark for each field: in the text for all, beside it for those of a line. */
async function marked(template: Template, markOf: (field: TemplateField) => string): Promise<Parts> {
  const marks = (fields: readonly TemplateField[]): Patches =>
    Object.fromEntries(
      fields.flatMap(field =>
        wordsFor(field).map(word => [
          word,
          { type: PatchType.PARAGRAPH, children: [new TextRun(`{{${markOf(field)}}}`)] } as const,
        ]),
      ),
    )
  const document = textOf(template.parts, DOCUMENT)
  const whole = template.inText.has('tree')
    ? template.parts
    : { ...template.parts, [DOCUMENT]: new TextEncoder().encode(withTree(document)) }
  const { [DOCUMENT]: text } = await patched(whole, marks(BLOCKS))
  const parts = await patched({ ...whole, [DOCUMENT]: text! }, marks(LINES))
  const missed = fieldsOf(textOf(parts, DOCUMENT)).fields.find(({ name }) => fieldOf(name) !== null)
  if (missed)
    throw new Unreadable(
      `{{${missed.name}}} stands where nothing can be written. Put it into the text, and bring the document again.`,
    )
  return parts
}

/** The document with a place for the tree behind its last line. */
function withTree(xml: string): string {
  const after = Math.max(
    ...['</w:p>', '</w:tbl>', '</w:sdt>', '<w:p/>', '<w:body>'].map(end => {
      const at = xml.lastIndexOf(end)
      return at < 0 ? -1 : at + end.length
    }),
  )
  if (after < 0) throw broken()
  return `${xml.slice(0, after)}<w:p><w:r><w:t>{{tree}}</w:t></w:r></w:p>${xml.slice(after)}`
}
