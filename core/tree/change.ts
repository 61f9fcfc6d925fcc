import { z } from 'zod'
import { isSafeAddress } from './address'
import type { Topic } from './topic'

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
  /** Bytes of one note, as a Yjs update. */
  note: 2 * 1024 * 1024,
} as const

const id = z.string().regex(/^[\w-]{1,40}$/, 'must be 1 to 40 letters, digits, - or _')
const orderKey = z.string().min(1).max(400).regex(/^[0-9A-Za-z]+$/, 'must be a fractional key')

/** Half a surrogate pair is no character and would not survive storage. */
const whole = (text: string): boolean => !/\p{Surrogate}/u.test(text)
const words = (most: number) => z.string().max(most).refine(whole, 'must be well-formed text')

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
  fill: z.string().regex(/^(#[0-9a-f]{6}|[0-9])$/i).nullable(),
  ink: z.string().regex(/^(#[0-9a-f]{6}|[0-9])$/i).nullable(),
  textSize: z.enum(['small', 'large', 'huge']).nullable(),
  bold: z.boolean(),
  slanted: z.boolean(),
  shape: z.enum(['box', 'round', 'tag']).nullable(),
} as const
export type Field = keyof typeof FIELDS
export type Fields = { [F in Field]: z.infer<(typeof FIELDS)[F]> }

const link = z.strictObject({
  id,
  url: words(4000).refine(isSafeAddress, 'must be a web, mail, topic or tree address'),
  title: words(500),
})

/** The sets of a topic; members merge when two people add at once. */
export const MEMBERS = { markers: id, people: id, links: link } as const
export type SetName = keyof typeof MEMBERS
export type Member = Topic[SetName][number]

/** The fields of the tree itself. */
export const TREE_FIELDS = {
  arrangement: z.enum(['both', 'right']),
  description: words(20_000),
} as const
export type TreeField = keyof typeof TREE_FIELDS
export type TreeFields = { readonly [F in TreeField]: z.infer<(typeof TREE_FIELDS)[F]> }

const base64 = z.string().regex(/^[A-Za-z0-9+/]*={0,2}$/).max(Math.ceil((LIMITS.note * 4) / 3))

const initial = z.strictObject({
  ...Object.fromEntries(Object.entries(FIELDS).map(([name, schema]) => [name, schema.optional()])) as
  { [F in Field]: z.ZodOptional<(typeof FIELDS)[F]> },
  markers: z.array(id).max(LIMITS.members).optional(),
  people: z.array(id).max(LIMITS.members).optional(),
  links: z.array(link).max(LIMITS.members).optional(),
  note: base64.nullable().optional(),
})
/** What a topic may be given at birth; everything left out is blank. */
export type Initial = z.infer<typeof initial>

const setField = z.discriminatedUnion('field', Object.entries(FIELDS).map(([name, schema]) =>
  z.strictObject({ op: z.literal('set'), topic: id, field: z.literal(name), value: schema })) as never)
const putMember = z.discriminatedUnion('set', Object.entries(MEMBERS).map(([name, schema]) =>
  z.strictObject({ op: z.literal('put'), topic: id, set: z.literal(name), member: schema })) as never)
const setTree = z.discriminatedUnion('field', Object.entries(TREE_FIELDS).map(([name, schema]) =>
  z.strictObject({ op: z.literal('tree'), field: z.literal(name), value: schema })) as never)

export type Change =
  | { readonly op: 'add', readonly topic: string, readonly parent: string | null, readonly order: string, readonly with?: Initial }
  | { readonly op: 'remove', readonly topic: string }
  | { readonly op: 'restore', readonly topic: string }
  | { readonly op: 'place', readonly topic: string, readonly parent: string | null, readonly order: string }
  | { readonly [F in Field]: { readonly op: 'set', readonly topic: string, readonly field: F, readonly value: Fields[F] } }[Field]
  | { readonly [S in SetName]: { readonly op: 'put', readonly topic: string, readonly set: S, readonly member: Topic[S][number] } }[SetName]
  | { readonly op: 'take', readonly topic: string, readonly set: SetName, readonly member: string }
  | { readonly op: 'note', readonly topic: string, readonly update: string }
  | { readonly [F in TreeField]: { readonly op: 'tree', readonly field: F, readonly value: TreeFields[F] } }[TreeField]

/** The smallest step that alters a tree, as it travels and as it's stored. */
export const changeSchema: z.ZodType<Change> = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), topic: id, parent: id.nullable(), order: orderKey, with: initial.optional() }),
  z.strictObject({ op: z.literal('remove'), topic: id }),
  z.strictObject({ op: z.literal('restore'), topic: id }),
  z.strictObject({ op: z.literal('place'), topic: id, parent: id.nullable(), order: orderKey }),
  setField,
  putMember,
  z.strictObject({ op: z.literal('take'), topic: id, set: z.enum(['markers', 'people', 'links']), member: id }),
  z.strictObject({ op: z.literal('note'), topic: id, update: base64 }),
  setTree,
]) as never

/** The changes of one user action: kept, refused and undone together. The id makes sending it twice harmless. */
export const editSchema = z.strictObject({
  id,
  changes: z.array(changeSchema).min(1).max(LIMITS.changes),
})
export interface Edit {
  readonly id: string
  readonly changes: readonly Change[]
}

/** The key by which a member is known in its set. */
export function memberKey(member: Member): string {
  return typeof member === 'string' ? member : member.id
}
