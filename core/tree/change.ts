import { z } from 'zod'
import { savedView } from './view'
import { customMarkerSet } from './markers'
import { lookSchema } from './looks'
import { orderKey } from './order-key'
import { briefPart, entrySchema, itemPart } from './meeting'
import { colour, styleFields } from './style'
import { attachmentSchema, checkSchema, fileId, linkSchema, substanceFields, tieSchema, words } from './substance'
import { ARRANGEMENTS, type Topic } from './topic'

/** What a tree and a message may hold at most. Whatever goes over is refused whole and changes nothing. */
export const LIMITS = {
  /** Topics in a tree, those in its trash included. */
  topics: 100_000,
  /** Characters (UTF-16 units) in a title. */
  title: 10_000,
  /** Bytes in one live message or one REST body. */
  message: 2 * 1024 * 1024,
  /** Changes in one edit. */
  changes: 25_000,
  /** Levels below the centre or a loose topic. */
  depth: 400,
  /** Members in one set of one topic. */
  members: 100,
  /** Parts of one meeting: what must be settled, the items, the people, their answers and attendance. */
  meetingParts: 600,
  /** Sets of markers, and looks, that a tree has of its own. */
  treeMembers: 40,
  /** Bytes of one note, as a Yjs update. */
  note: 2 * 1024 * 1024,
} as const

const id = z.string().regex(/^[\w-]{1,40}$/, 'must be 1 to 40 letters, digits, - or _')

/** An ISO 8601 calendar day that exists (no 30 February). */
export const calendarDay = z.iso.date()

/** The fields of a topic that one change can set, and what each accepts. */
export const FIELDS = {
  title: words(LIMITS.title),
  start: calendarDay.nullable(),
  due: calendarDay.nullable(),
  duration: z.number().min(0).max(10_000).nullable(),
  done: z.int().min(0).max(100).nullable(),
  priority: z.int().min(1).max(5).nullable(),
  folded: z.boolean(),
  side: z.enum(['left', 'right']).nullable(),
  x: z.number().min(-1e6).max(1e6).nullable(),
  y: z.number().min(-1e6).max(1e6).nullable(),
  z: z.int().min(-10_000).max(10_000),
  arrangement: z.enum(ARRANGEMENTS).nullable(),
  tray: z.boolean(),
  hue: colour.nullable(),
  picture: z
    .strictObject({
      file: fileId,
      width: z.number().min(16).max(2000),
      ratio: z.number().min(0.01).max(100),
      place: z.enum(['before', 'above', 'below']),
    })
    .nullable(),
  ...styleFields,
  ...substanceFields,
  entry: entrySchema.nullable(),
} as const
export type Field = keyof typeof FIELDS
export type Fields = { [F in Field]: z.infer<(typeof FIELDS)[F]> }

/** The sets of a topic; members merge when two people add at once. */
export const MEMBERS = {
  markers: id,
  people: id,
  links: linkSchema,
  files: attachmentSchema,
  checks: checkSchema,
  ties: tieSchema,
  meeting: briefPart,
  item: itemPart,
} as const
export type SetName = keyof typeof MEMBERS
export const SET_NAMES = Object.keys(MEMBERS) as readonly SetName[]
export type Member = Topic[SetName][number]

/** How many members a set of one topic may have. */
export function mostIn(set: SetName): number {
  return set === 'meeting' ? LIMITS.meetingParts : LIMITS.members
}

/** The fields of the tree itself. */
export const TREE_FIELDS = {
  arrangement: z.enum(ARRANGEMENTS),
  description: words(20_000),
  tags: z.array(words(60).min(1)).max(30),
  /** Per cent of the usual space between parent and child, and between siblings. */
  along: z.int().min(30).max(400),
  across: z.int().min(30).max(400),
  /** The look's id: one that comes with the app, or one of the tree's own. */
  look: id,
  /** Style by level: what topics of level 0 (the centre), 1, 2 … have that have no style of their own. */
  levels: z.array(z.strictObject(styleFields).partial()).max(12),
} as const
export type TreeField = keyof typeof TREE_FIELDS

/** The sets of the tree itself, known by their members' ids. */
export const TREE_MEMBERS = { markerSets: customMarkerSet, looks: lookSchema, views: savedView } as const
export type TreeSet = keyof typeof TREE_MEMBERS
export type TreeMember<S extends TreeSet = TreeSet> = Readonly<z.infer<(typeof TREE_MEMBERS)[S]>>

export type TreeFields = { readonly [F in TreeField]: z.infer<(typeof TREE_FIELDS)[F]> } & {
  readonly [S in TreeSet]: readonly TreeMember<S>[]
}

const base64 = z
  .string()
  .regex(/^[A-Za-z0-9+/]*={0,2}$/)
  .max(Math.ceil((LIMITS.note * 4) / 3))

const initial = z.strictObject({
  ...(Object.fromEntries(Object.entries(FIELDS).map(([name, schema]) => [name, schema.optional()])) as {
    [F in Field]: z.ZodOptional<(typeof FIELDS)[F]>
  }),
  ...(Object.fromEntries(
    Object.entries(MEMBERS).map(([name, schema]) => [
      name,
      z
        .array(schema)
        .max(mostIn(name as SetName))
        .optional(),
    ]),
  ) as { [S in SetName]: z.ZodOptional<z.ZodArray<(typeof MEMBERS)[S]>> }),
  note: base64.nullable().optional(),
})
/** What a topic may be given at birth; everything left out is blank. */
export type Initial = z.infer<typeof initial>

const setField = z.discriminatedUnion(
  'field',
  Object.entries(FIELDS).map(([name, schema]) =>
    z.strictObject({ op: z.literal('set'), topic: id, field: z.literal(name), value: schema }),
  ) as never,
)
const putMember = z.discriminatedUnion(
  'set',
  Object.entries(MEMBERS).map(([name, schema]) =>
    z.strictObject({ op: z.literal('put'), topic: id, set: z.literal(name), member: schema }),
  ) as never,
)
const setTree = z.discriminatedUnion(
  'field',
  Object.entries(TREE_FIELDS).map(([name, schema]) =>
    z.strictObject({ op: z.literal('tree'), field: z.literal(name), value: schema }),
  ) as never,
)
const treePut = z.discriminatedUnion(
  'set',
  Object.entries(TREE_MEMBERS).map(([name, schema]) =>
    z.strictObject({ op: z.literal('tree-put'), set: z.literal(name), member: schema }),
  ) as never,
)

export type Change =
  | {
      readonly op: 'add'
      readonly topic: string
      readonly parent: string | null
      readonly order: string
      readonly with?: Initial
    }
  | { readonly op: 'remove'; readonly topic: string }
  | { readonly op: 'restore'; readonly topic: string }
  | { readonly op: 'place'; readonly topic: string; readonly parent: string | null; readonly order: string }
  | {
      readonly [F in Field]: {
        readonly op: 'set'
        readonly topic: string
        readonly field: F
        readonly value: Fields[F]
      }
    }[Field]
  | {
      readonly [S in SetName]: {
        readonly op: 'put'
        readonly topic: string
        readonly set: S
        readonly member: Topic[S][number]
      }
    }[SetName]
  | { readonly op: 'take'; readonly topic: string; readonly set: SetName; readonly member: string }
  | { readonly op: 'note'; readonly topic: string; readonly update: string }
  | { readonly [F in TreeField]: { readonly op: 'tree'; readonly field: F; readonly value: TreeFields[F] } }[TreeField]
  | { readonly [S in TreeSet]: { readonly op: 'tree-put'; readonly set: S; readonly member: TreeMember<S> } }[TreeSet]
  | { readonly op: 'tree-take'; readonly set: TreeSet; readonly member: string }

/** A change of the tree itself, not of one topic. */
export type TreeChange = Extract<Change, { op: 'tree' | 'tree-put' | 'tree-take' }>
export type TopicChange = Exclude<Change, TreeChange>

export function isTreeChange(change: Change): change is TreeChange {
  return change.op === 'tree' || change.op === 'tree-put' || change.op === 'tree-take'
}

/** The smallest step that alters a tree, as it travels and as it's stored. */
export const changeSchema: z.ZodType<Change> = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), topic: id, parent: id.nullable(), order: orderKey, with: initial.optional() }),
  z.strictObject({ op: z.literal('remove'), topic: id }),
  z.strictObject({ op: z.literal('restore'), topic: id }),
  z.strictObject({ op: z.literal('place'), topic: id, parent: id.nullable(), order: orderKey }),
  setField,
  putMember,
  z.strictObject({ op: z.literal('take'), topic: id, set: z.enum(SET_NAMES), member: id }),
  z.strictObject({ op: z.literal('note'), topic: id, update: base64 }),
  setTree,
  treePut,
  z.strictObject({ op: z.literal('tree-take'), set: z.enum(['markerSets', 'looks', 'views']), member: id }),
]) as never

/** The changes of one user action: kept, refused and undone together. The id makes sending it twice harmless. */
export const editSchema = z.strictObject({ id, changes: z.array(changeSchema).min(1).max(LIMITS.changes) })
export interface Edit {
  readonly id: string
  readonly changes: readonly Change[]
}

/** The key by which a member is known in its set. */
export function memberKey(member: Member): string {
  return typeof member === 'string' ? member : member.id
}
