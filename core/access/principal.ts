import type { TopicId } from '../tree/topic'

/**
 * Who acts. `account`: somebody who is signed in. `guest`: whoever holds an answer link, known by their id in that meeting's
 * brief. `link`: whoever holds a link without an account and has given a name; `id` is what they are known by, `link` the link.
 * `token`: a script with somebody's access token. `app`: Sun Porch itself, for somebody whose doing made it needful.
 */
export type Principal =
  | { readonly kind: 'account'; readonly id: string }
  | { readonly kind: 'guest'; readonly id: string; readonly meeting: TopicId }
  | LinkGuest
  | { readonly kind: 'token'; readonly id: string; readonly of: string }
  | { readonly kind: 'app'; readonly of: string }

/** What a link allows besides looking. Whoever may edit may comment too. */
export const LINK_RIGHTS = ['look', 'comment', 'edit'] as const
export type LinkRight = (typeof LINK_RIGHTS)[number]

/** Somebody with a link, who has given a name. */
export interface LinkGuest {
  readonly kind: 'link'
  readonly id: string
  readonly link: string
  readonly may: LinkRight
  /** The branch that the link opens; null for the whole tree. */
  readonly branch: TopicId | null
  /** The topics that the link shows, where that isn't all of the branch. */
  readonly shown: ReadonlySet<TopicId> | null
  /** Whether it shows tasks: what isn't shown isn't changed. */
  readonly tasks: boolean
}

export const ACTOR_KINDS = ['account', 'guest', 'token', 'app', 'link'] as const

/** A principal as the log keeps it. */
export interface Actor {
  readonly kind: Principal['kind']
  /** An account's id, a guest's id in the meeting's brief or by a link, a token's id, or an account's for `app`. */
  readonly id: string
  /** The account on whose behalf it was done, where that isn't the actor. */
  readonly behalf: string | null
}

export function actorOf(principal: Principal): Actor {
  switch (principal.kind) {
    case 'account':
    case 'guest':
    case 'link':
      return { kind: principal.kind, id: principal.id, behalf: null }
    case 'token':
      return { kind: 'token', id: principal.id, behalf: principal.of }
    case 'app':
      return { kind: 'app', id: principal.of, behalf: principal.of }
  }
}

/** The account whose role counts; null for guests, who have none. */
export function accountOf(principal: Principal): string | null {
  if (principal.kind === 'guest' || principal.kind === 'link') return null
  return principal.kind === 'account' ? principal.id : principal.of
}
