import { z } from 'zod'
import { id } from './atoms'
import { entriesOf, mapTable } from './field-spec'
import { type Field, type Fields, FIELDS } from './fields'
import { LIMITS } from './limits'
import { orderKey } from './order-key'
import { SET_NAMES, type SetName, SETS, type SetValues } from './sets'
import type { TopicId } from './topic'
import {
  TREE_FIELDS,
  TREE_SET_NAMES,
  TREE_SETS,
  type TreeField,
  type TreeFields,
  type TreeMember,
  type TreeSet,
} from './tree-fields'

const base64 = z
  .string()
  .regex(/^[A-Za-z0-9+/]*={0,2}$/)
  .max(Math.ceil((LIMITS.note * 4) / 3))

/** What a topic may be given at birth; everything left out is blank. */
export type Initial = { readonly [F in Field]?: Fields[F] | undefined } & {
  readonly [S in SetName]?: SetValues[S] | undefined
} & { readonly note?: string | null | undefined }

const initial = z.strictObject({
  ...mapTable(FIELDS, spec => spec.schema.optional()),
  ...mapTable(SETS, spec => z.array<z.ZodType>(spec.schema).max(spec.most).optional()),
  note: base64.nullable().optional(),
}) as z.ZodType<Initial>

/** One schema of several, told apart by the value at `key`. */
function oneOf<S extends z.core.$ZodTypeDiscriminable>(key: string, [first, ...rest]: readonly S[]) {
  if (!first) throw new RangeError('a choice has at least one')
  return z.discriminatedUnion(key, [first, ...rest])
}

const setField = oneOf(
  'field',
  entriesOf(FIELDS).map(([name, { schema }]) =>
    z.strictObject({ op: z.literal('set'), topic: id, field: z.literal(name), value: schema as z.ZodType }),
  ),
)
const putMember = oneOf(
  'set',
  entriesOf(SETS).map(([name, { schema }]) =>
    z.strictObject({ op: z.literal('put'), topic: id, set: z.literal(name), member: schema as z.ZodType }),
  ),
)
const setTree = oneOf(
  'field',
  entriesOf(TREE_FIELDS).map(([name, { schema }]) =>
    z.strictObject({ op: z.literal('tree'), field: z.literal(name), value: schema as z.ZodType }),
  ),
)
const treePut = oneOf(
  'set',
  entriesOf(TREE_SETS).map(([name, { schema }]) =>
    z.strictObject({ op: z.literal('tree-put'), set: z.literal(name), member: schema as z.ZodType }),
  ),
)

export type Change =
  | {
      readonly op: 'add'
      readonly topic: TopicId
      readonly parent: TopicId | null
      readonly order: string
      readonly with?: Initial
    }
  | { readonly op: 'remove'; readonly topic: TopicId }
  | { readonly op: 'restore'; readonly topic: TopicId }
  | { readonly op: 'place'; readonly topic: TopicId; readonly parent: TopicId | null; readonly order: string }
  | {
      readonly [F in Field]: {
        readonly op: 'set'
        readonly topic: TopicId
        readonly field: F
        readonly value: Fields[F]
      }
    }[Field]
  | {
      readonly [S in SetName]: {
        readonly op: 'put'
        readonly topic: TopicId
        readonly set: S
        readonly member: SetValues[S][number]
      }
    }[SetName]
  | { readonly op: 'take'; readonly topic: TopicId; readonly set: SetName; readonly member: string }
  | { readonly op: 'note'; readonly topic: TopicId; readonly update: string }
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
export const changeSchema = z.discriminatedUnion('op', [
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
  z.strictObject({ op: z.literal('tree-take'), set: z.enum(TREE_SET_NAMES), member: id }),
]) as z.ZodType<Change>

/** The changes of one user action: kept, refused and undone together. The id makes sending it twice harmless. */
export const editSchema = z.strictObject({ id, changes: z.array(changeSchema).min(1).max(LIMITS.changes) })
export interface Edit {
  readonly id: string
  readonly changes: readonly Change[]
}
