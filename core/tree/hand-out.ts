import { z } from 'zod'
import { querySchema } from './query'
import { fileId, id, whole } from './atoms'

/*
 * What somebody hands out: which part of a tree, what of it, and as what. One choice says it all, so that it can be kept
 * under a name, done again, and asked for by a script.
 */

/** What goes along besides titles, if it's wanted. */
export const TAKEN = [
  'notes',
  'tasks',
  'markers',
  'key',
  'links',
  'files',
  'pictures',
  'comments',
  'cross-links',
  'numbers',
  'figures',
] as const
export type Taken = (typeof TAKEN)[number]

interface KindSpec {
  /** What people call it. */
  readonly name: string
  readonly group: 'document' | 'picture' | 'outline'
  readonly extension: string
  /** Media type. */
  readonly type: string
  /** What it can hold; the rest stays behind whatever is chosen. */
  readonly holds: readonly Taken[]
}

const DOCUMENT: readonly Taken[] = TAKEN
/** In a picture notes, links, files and comments are the signs that say there are some. */
const PICTURE: readonly Taken[] = TAKEN.filter(what => what !== 'key')

/** What a tree can leave as. A new kind is one entry here and its writer. */
export const HAND_OUT_KINDS = {
  docx: {
    name: 'Word document',
    group: 'document',
    extension: 'docx',
    type: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    holds: DOCUMENT,
  },
  pdf: { name: 'PDF document', group: 'document', extension: 'pdf', type: 'application/pdf', holds: DOCUMENT },
  html: { name: 'Page for the browser', group: 'document', extension: 'html', type: 'text/html', holds: DOCUMENT },
  pptx: {
    name: 'Slides',
    group: 'document',
    extension: 'pptx',
    type: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
    holds: ['notes', 'tasks', 'markers', 'pictures', 'numbers', 'figures'],
  },
  markdown: {
    name: 'Markdown',
    group: 'outline',
    extension: 'md',
    type: 'text/markdown',
    holds: ['notes', 'tasks', 'markers', 'key', 'links', 'files', 'comments', 'cross-links', 'numbers', 'figures'],
  },
  text: { name: 'Plain list', group: 'outline', extension: 'txt', type: 'text/plain', holds: ['numbers'] },
  opml: {
    name: 'OPML outline',
    group: 'outline',
    extension: 'opml',
    type: 'text/x-opml',
    holds: ['notes', 'tasks', 'markers', 'links'],
  },
  csv: {
    name: 'CSV table',
    group: 'outline',
    extension: 'csv',
    type: 'text/csv',
    holds: ['tasks', 'markers', 'figures'],
  },
  xlsx: {
    name: 'Sheet that goes on reckoning',
    group: 'outline',
    extension: 'xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    holds: ['numbers', 'figures'],
  },
  png: { name: 'Picture', group: 'picture', extension: 'png', type: 'image/png', holds: PICTURE },
  svg: { name: 'Drawing', group: 'picture', extension: 'svg', type: 'image/svg+xml', holds: PICTURE },
  sheet: { name: 'Picture as PDF', group: 'picture', extension: 'pdf', type: 'application/pdf', holds: PICTURE },
} as const satisfies Record<string, KindSpec>
export type HandOutKind = keyof typeof HAND_OUT_KINDS
export const KIND_NAMES = Object.keys(HAND_OUT_KINDS) as [HandOutKind, ...HandOutKind[]]

/** Languages that a document has words of its own in. */
export const LANGUAGES = ['en', 'de', 'fr', 'es', 'da'] as const
export type Language = (typeof LANGUAGES)[number]

export const handedPart = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('tree') }),
  /** A topic with all below it: a branch, or what stands in an annex. */
  z.strictObject({ kind: z.literal('branch'), topic: id }),
  /** Topics with all below them; with `way`, those alone, and the way from the centre to each. */
  z.strictObject({
    kind: z.literal('topics'),
    topics: z.array(id).min(1).max(50_000),
    way: z.boolean().default(false),
  }),
  /** What a filter leaves, with the way from the centre to each. */
  z.strictObject({ kind: z.literal('filter'), query: querySchema }),
  /** What a view that the tree keeps under a name shows, as the view stands at that time. */
  z.strictObject({ kind: z.literal('view'), view: id }),
])
export type HandedPart = z.infer<typeof handedPart>

/** What is handed out, complete. `depth`: levels below where it begins, at most; null for all. */
export const choiceSchema = z.strictObject({
  part: handedPart.default({ kind: 'tree' }),
  depth: z.int().min(0).max(99).nullable().default(null),
  with: z.array(z.enum(TAKEN)).default(['notes', 'tasks', 'markers', 'links', 'pictures', 'cross-links', 'numbers']),
  as: z.enum(KIND_NAMES),
  language: z.enum(LANGUAGES).default('en'),
  /** Headings down to this level, lists below; 0 for lists all through. For documents and Markdown. */
  headings: z.int().min(0).max(9).default(3),
  /** Markdown: notes as paragraphs, as quotes, or as paragraphs below headings and quotes in lists. */
  notesAs: z.enum(['fitting', 'paragraphs', 'quotes']).default('fitting'),
  /** Whether a document begins with the picture of what it holds. */
  drawn: z.boolean().default(false),
  /** Pictures: the tree as it's laid out, or the rows of it beside the bars of its plan. */
  shows: z.enum(['tree', 'bars']).default('tree'),
  /** Pictures: by dusk, on no ground, dots for each unit, letters as shapes for readers that lack the fonts. */
  dusk: z.boolean().default(false),
  clear: z.boolean().default(false),
  scale: z.int().min(1).max(4).default(2),
  shapes: z.boolean().default(false),
  /** Pages of this size, over which a picture is tiled; null for one page of its own size. */
  paper: z.enum(['a4', 'a3', 'letter']).nullable().default(null),
  /** A Word document is written into this template of the tree, slides wear its theme; null: as it looks by itself. */
  template: id.nullable().default(null),
})
export type Choice = z.infer<typeof choiceSchema>

/** Templates that a tree keeps. */
export const MOST_TEMPLATES = 20

/** A document of a firm's own, into which Word documents of the tree are written, or slides whose theme they wear: a file of the tree. */
export const keptTemplate = z.strictObject({
  id,
  name: z.string().trim().min(1).max(120).refine(whole, 'must be well-formed text'),
  file: fileId,
  /** Slides; a Word document where it isn't said. */
  kind: z.literal('pptx').optional(),
})
export type KeptTemplate = Readonly<z.infer<typeof keptTemplate>>
/** Whether a template is for this kind of document. */
export const isTemplateFor = (as: string, { kind }: KeptTemplate): boolean => (kind ?? 'docx') === as

/** A choice under a name, to be done again by anybody who has the tree. */
export const keptHandOut = z.strictObject({
  id,
  name: z.string().trim().min(1).max(120).refine(whole, 'must be well-formed text'),
  choice: choiceSchema,
})
export type KeptHandOut = Readonly<z.infer<typeof keptHandOut>>

/** What of the wish goes along: what the kind can hold. */
export const taken = ({ with: wanted, as }: Pick<Choice, 'with' | 'as'>): ReadonlySet<Taken> => {
  const holds: readonly Taken[] = HAND_OUT_KINDS[as].holds
  return new Set(wanted.filter(what => holds.includes(what)))
}
