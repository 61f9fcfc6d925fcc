import { z } from 'zod'
import { id, words } from '../tree/atoms'
import { numeral } from '../tree/figure'
import { type Body, bodySchema } from './body'

/*
 * The actions of talking, which have a sequence of their own beside the tree's edits: a comment that hangs on something, a line
 * in the talk of the tree, and what becomes of them.
 */

/** The thread of the talk of the tree. Comments' threads have the id of the comment that began them. */
export const BENCH = 'bench'
/** Comments that one thread may have; the talk of the tree may have any number. */
export const MOST_IN_THREAD = 2_000

/** What a thread hangs on. */
export const placeSchema = z.discriminatedUnion('on', [
  z.strictObject({ on: z.literal('topic'), topic: id }),
  /** Words of a topic’s note, as they were when the thread was begun. */
  z.strictObject({ on: z.literal('words'), topic: id, words: words(500).min(1) }),
  /** A part of a meeting’s record: an item of the agenda, by its topic, or one entry. */
  z.strictObject({ on: z.literal('record'), topic: id, part: id }),
  /** What is planned of a topic, with the days that it had when the thread was begun. */
  z.strictObject({ on: z.literal('bar'), topic: id, from: z.iso.date(), to: z.iso.date() }),
  /** A figure of a topic, with what it came to when the thread was begun, as a decimal number; null where it came to nothing. */
  z.strictObject({ on: z.literal('figure'), topic: id, measure: id, value: numeral.nullable() }),
  z.strictObject({ on: z.literal('tree') }),
])
export type Place = Readonly<z.infer<typeof placeSchema>>

/** Whether a thread hangs on the bar of a topic, or on one figure of it. */
export const isOnBar = ({ on }: Place): boolean => on === 'bar'
export const isOnFigure = (place: Place, measure: string): boolean => place.on === 'figure' && place.measure === measure

export const topicOfPlace = (place: Place): string | null => (place.on === 'tree' ? null : place.topic)

/** What a comment was made into. */
export const BECAME = ['task', 'decision', 'topic', 'comment'] as const
export type BecameKind = (typeof BECAME)[number]

export const sayingSchema = z.discriminatedUnion('op', [
  /** Says something: begins a thread (`thread` is the comment's own id, and `place` says where), or goes on in one. */
  z.strictObject({
    id,
    op: z.literal('say'),
    comment: id,
    thread: id,
    place: placeSchema.optional(),
    body: bodySchema,
  }),
  z.strictObject({ id, op: z.literal('reword'), comment: id, body: bodySchema }),
  z.strictObject({ id, op: z.literal('withdraw'), comment: id }),
  z.strictObject({ id, op: z.literal('settle'), thread: id, settled: z.boolean() }),
  /** A comment was made into something: a topic in the tree, or a comment elsewhere. Null: it isn't any more. */
  z.strictObject({
    id,
    op: z.literal('became'),
    comment: id,
    became: z.strictObject({ as: z.enum(BECAME), topic: id }).nullable(),
  }),
])
export type Saying = Readonly<z.infer<typeof sayingSchema>>

/** A saying as it's kept: with its number in the tree's talk, and who said it when. Bodies of withdrawn comments are null. */
export type Told = {
  readonly number: number
  /** The thread that it's about. */
  readonly thread: string
  readonly by: string
  /** ISO 8601 instant. */
  readonly at: string
} & (
  | Exclude<Saying, { readonly op: 'say' | 'reword' }>
  | (Omit<Extract<Saying, { readonly op: 'say' }>, 'body'> & { readonly body: Body | null })
  | (Omit<Extract<Saying, { readonly op: 'reword' }>, 'body'> & { readonly body: Body | null })
)
