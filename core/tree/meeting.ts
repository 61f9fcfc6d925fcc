import { z } from 'zod'
import { orderKey } from './order-key'
import { clockTime, id, words, zoneName } from './atoms'

/*
 * What makes a topic a meeting, an agenda item, or a line of the record. A meeting and an item carry their parts as
 * members of a set, each known by its id, so that two people who fill in different parts at once lose nothing
 * (docs/decisions/0012). What the parts mean is decided in `core/meeting`.
 */

/** Milliseconds since 1970 UTC. */
const instant = z.int().min(0).max(8.64e15)
const minutes = z.int().min(1, 'Minutes are a whole number, 1 at least.').max(1440)
const mail = z.email('That isn’t a mail address.').max(254)

export const INTENTS = ['inform', 'discuss', 'decide'] as const
export type Intent = (typeof INTENTS)[number]
export const STAGES = ['planned', 'running', 'ended', 'cancelled'] as const
export type Stage = (typeof STAGES)[number]
export const ANSWERS = ['needs-action', 'accepted', 'declined', 'tentative', 'delegated'] as const
export type Answer = (typeof ANSWERS)[number]
export const STANDINGS = ['reached', 'partly', 'not'] as const
export type Standing = (typeof STANDINGS)[number]
export const ENTRY_KINDS = ['decision', 'action', 'question', 'idea', 'parked'] as const
export type EntryKind = (typeof ENTRY_KINDS)[number]

const part = <K extends string, S extends z.ZodRawShape>(kind: K, shape: S) =>
  z.strictObject({ id: z.literal(kind), kind: z.literal(kind), ...shape })
const line = <K extends string, S extends z.ZodRawShape>(kind: K, shape: S) =>
  z.strictObject({ id, kind: z.literal(kind), ...shape })

/** Titles of sub-items that are laid into an item. */
const pattern = z.array(words(200).min(1)).max(12)

export const briefPart = z.discriminatedUnion('kind', [
  part('why', { text: words(4000) }),
  /** A day and a time on the wall in an IANA zone; `zones.ts` says which instant that is. */
  part('begins', { day: z.iso.date(), time: clockTime, zone: zoneName }),
  part('slot', { minutes }),
  part('where', { text: words(1000) }),
  part('stage', { stage: z.enum(STAGES) }),
  /** An RRULE value (RFC 5545, section 3.3.10) and the days on which there is no meeting. */
  part('rule', { rule: z.string().max(100), closed: z.array(z.iso.date()).max(200) }),
  /** What was sent last: the calendar's UID and SEQUENCE, when, by whom and to whom, and a digest of what it said. */
  part('invitation', {
    uid: z.string().min(1).max(200),
    sequence: z.int().min(0).max(100_000),
    at: instant,
    by: id,
    to: z.array(z.strictObject({ id, mail })).max(200),
    digest: z.string().max(100),
  }),
  /**
   * How the running goes: `step` counts each move, `since` is null while it stands still, `version` is the tree's
   * number when it began.
   */
  part('run', {
    step: z.int().min(0).max(100_000),
    current: id.nullable(),
    since: instant.nullable(),
    began: instant,
    ended: instant.nullable(),
    version: z.int().min(0),
    by: id,
  }),
  line('must', { order: orderKey, text: words(1000) }),
  /** How a thing that must be settled turned out, said by hand, with a word of why. */
  line('outcome', { of: id, is: z.enum(STANDINGS), why: words(500) }),
  /** An item that isn't laid out as a topic yet. */
  line('line', {
    order: orderKey,
    title: words(1000),
    intent: z.enum(INTENTS),
    minutes: minutes.nullable(),
    floor: minutes.nullable(),
    owner: id.nullable(),
    /** Who is to own it, by a name that nobody in the tree has yet. */ wish: words(120).optional(),
    serves: z.array(id).max(20),
    pattern,
  }),
  /** Somebody who is to come: a member by id, a guest by mail address, or a name that nobody in the tree has yet. */
  line('person', {
    user: id.nullable(),
    mail: mail.nullable(),
    name: words(200),
    needed: z.boolean(),
    role: z.enum(['chair', 'notes']).nullable(),
  }),
  line('answer', { of: id, answer: z.enum(ANSWERS), comment: words(1000), at: instant }),
  line('attendance', { of: id, came: z.boolean() }),
])
export type BriefPart = Readonly<z.infer<typeof briefPart>>

export const itemPart = z.discriminatedUnion('kind', [
  part('intent', { intent: z.enum(INTENTS) }),
  part('minutes', { minutes }),
  /** What a cut leaves it at least. */
  part('floor', { minutes }),
  /** What an even cut while the meeting ran left it with. */
  part('cut', { minutes: z.int().min(0).max(1440) }),
  part('pattern', { parts: pattern }),
  /** Who is to own it, by a name that nobody in the tree has yet. */
  part('wish', { name: words(120).min(1) }),
  /** The owner was asked to fill it in by a day. */
  part('asked', { by: z.iso.date(), of: id, at: instant }),
  part('ready', { at: instant, by: id }),
  /** Milliseconds, as the server counted them. */
  part('spent', { ms: z.int().min(0).max(1e9) }),
  /** It has been dealt with while the meeting ran. */
  part('closed', { at: instant }),
  /** A thing that must be settled, by its id, which this item serves. */
  line('serves', {}),
])
export type ItemPart = Readonly<z.infer<typeof itemPart>>

/** A line of the record: what it is, who said it (a member, or somebody by name) and when. */
export const entrySchema = z.strictObject({
  kind: z.enum(ENTRY_KINDS),
  by: id.nullable(),
  name: words(200),
  at: instant,
})
export type Entry = Readonly<z.infer<typeof entrySchema>>
