import { z } from 'zod'
import { editSchema } from '../tree/change'
import type { Numbered } from '../tree/replica'
import type { Snapshot } from '../tree/snapshot'
import type { Role } from './roles'

/*
 * Messages over `/api/trees/{id}/live`, one JSON object a frame. Described for people in docs/api/live.md.
 */

const id = z.string().regex(/^[\w-]{1,40}$/)

/** What a client may say. */
export const clientMessage = z.discriminatedUnion('type', [
  /** First word: the number of the newest edit the client has, or null to be sent the whole tree. */
  z.strictObject({ type: z.literal('hello'), since: z.int().min(0).nullable() }),
  z.strictObject({ type: z.literal('edit'), edit: editSchema }),
  /** What the person looks at, so that others see it. `typing` names the topic whose title is open. */
  z.strictObject({ type: z.literal('presence'), selected: z.array(id).max(50), typing: id.nullable() }),
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
}

export interface NewsEdit extends Numbered {
  readonly user: string
  /** ISO 8601 instant. */
  readonly at: string
}

/** What the server says. Own edits come back in `news`, which is how they are acknowledged. */
export type ServerMessage =
  | {
      readonly type: 'welcome'
      readonly client: string
      readonly version: number
      readonly role: Role
      readonly present: readonly Present[]
      readonly at: number
    }
  | { readonly type: 'tree'; readonly version: number; readonly snapshot: Snapshot }
  | { readonly type: 'news'; readonly edits: readonly NewsEdit[] }
  | { readonly type: 'refused'; readonly edit: string | null; readonly code: string; readonly message: string }
  | { readonly type: 'presence'; readonly present: Present }
  | { readonly type: 'left'; readonly client: string }
  | { readonly type: 'role'; readonly role: Role }
  /** Who has a role in the tree, whenever that changes. */
  | {
      readonly type: 'people'
      readonly people: readonly {
        readonly id: string
        readonly name: string
        readonly email: string
        readonly role: Role
      }[]
    }
  | { readonly type: 'gone'; readonly code: string; readonly message: string }
  | { readonly type: 'elsewhere'; readonly tree: string }
  /** `at`: the server's clock, ms since 1970 UTC; from it browsers tell how far off their own is. */
  | { readonly type: 'pong'; readonly at: number }
