import { z } from 'zod'
import { editSchema } from '../tree/change'
import type { Numbered } from '../tree/replica'
import type { Snapshot } from '../tree/snapshot'
import type { Actor } from '../access/principal'
import type { Role } from '../access/roles'
import { sayingSchema, type Told } from '../talk/saying'

/*
 * Messages over `/api/trees/{id}/live`, one JSON object a frame. Described for people in docs/api/live.md.
 */

const id = z.string().regex(/^[\w-]{1,40}$/)

/** What a client may say. */
export const clientMessage = z.discriminatedUnion('type', [
  /** First word: the number of the newest edit the client has, or null to be sent the whole tree. */
  z.strictObject({
    type: z.literal('hello'),
    since: z.int().min(0).nullable(),
    /** The tree's epoch as the client knows it. */
    epoch: z.string().max(20).optional(),
  }),
  z.strictObject({ type: z.literal('edit'), edit: editSchema }),
  z.strictObject({ type: z.literal('say'), saying: sayingSchema }),
  /** What the person looks at, so that others see it. `typing` names the topic whose title is open. */
  z.strictObject({
    type: z.literal('presence'),
    selected: z.array(id).max(50),
    typing: id.nullable(),
    /** Whether they present the tree: others may go along. */
    presents: z.boolean().optional(),
  }),
  /** Asks everybody who is here to look at a topic. */
  z.strictObject({ type: z.literal('look'), topic: id }),
  /** Other trees that this one refers to: `elsewhere` says when one of them changed. */
  z.strictObject({ type: z.literal('watch'), trees: z.array(id).max(100) }),
  z.strictObject({ type: z.literal('ping') }),
])
export type ClientMessage = z.infer<typeof clientMessage>

export interface Person {
  readonly id: string
  readonly name: string
}

export interface Present extends Person {
  /** One browser tab; a person may have several. */
  readonly client: string
  readonly selected: readonly string[]
  readonly typing: string | null
  /** Whether they present the tree: what is selected is the step they are at. */
  readonly presents: boolean
}

/** What an edit that the server made comes from. */
export type EditSource =
  | { readonly kind: 'moment'; readonly number: number; readonly branch: string | null }
  | { readonly kind: 'taken-back'; readonly number: number }
  /** Taken over from another tree as it was at a number, or from a file (null). */
  | { readonly kind: 'merged'; readonly tree: string | null; readonly number: number | null }

export interface NewsEdit extends Numbered {
  /** Who did it: an account, or what `actor` says. */
  readonly user: string
  /** Where it wasn't the account itself: a guest, a script's token, the app. */
  readonly actor?: Actor['kind'] | undefined
  /** The account on whose behalf it was done. */
  readonly behalf?: string | undefined
  readonly source?: EditSource | undefined
  /** ISO 8601 instant. */
  readonly at: string
}

/** Somebody who has a role in a tree. */
export interface TreeMember extends Person {
  readonly email: string
  readonly role: Role
  /** Whether they have a picture. */
  readonly picture: boolean
  /** Whether it's cut square instead of round. */
  readonly square: boolean
}

/** What the server says. Own edits come back in `news`, which is how they are acknowledged. */
export type ServerMessage =
  | {
      readonly type: 'welcome'
      readonly client: string
      readonly version: number
      /** New after a restore from a backup: then the whole tree is sent, and numbers mean other edits than before. */
      readonly epoch: string
      readonly role: Role
      readonly present: readonly Present[]
      readonly at: number
      /** The number of the newest saying in the tree's talk. */
      readonly talk: number
    }
  /** What was said, in order; own sayings come back in it, which is how they are acknowledged. */
  | { readonly type: 'said'; readonly told: readonly Told[] }
  | { readonly type: 'unsaid'; readonly saying: string; readonly code: string; readonly message: string }
  | { readonly type: 'tree'; readonly version: number; readonly snapshot: Snapshot }
  | { readonly type: 'news'; readonly edits: readonly NewsEdit[] }
  | { readonly type: 'refused'; readonly edit: string | null; readonly code: string; readonly message: string }
  | { readonly type: 'presence'; readonly present: Present }
  | { readonly type: 'left'; readonly client: string }
  /** Somebody asks all who are here to look at a topic. */
  | { readonly type: 'look'; readonly by: Person; readonly topic: string }
  | { readonly type: 'role'; readonly role: Role }
  /** Who has a role in the tree, whenever that changes. */
  | { readonly type: 'people'; readonly people: readonly TreeMember[] }
  /** How heavy the tree is, of how much it may be, both in bytes: told when it comes near. */
  | { readonly type: 'weight'; readonly bytes: number; readonly most: number }
  | { readonly type: 'gone'; readonly code: string; readonly message: string }
  | { readonly type: 'elsewhere'; readonly tree: string }
  /** A vote was begun, closed or let go, or somebody has voted. */
  | { readonly type: 'votes' }
  /** Somebody has opened a section or document that is read before a meeting. */
  | { readonly type: 'read' }
  /** One was told something, here or in another tree, or has read of it elsewhere. */
  | { readonly type: 'told' }
  /** `at`: the server's clock, ms since 1970 UTC; from it browsers tell how far off their own is. */
  | { readonly type: 'pong'; readonly at: number }
