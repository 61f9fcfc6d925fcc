import type { TopicId } from '../tree/topic'

/**
 * Who acts. `account`: somebody who is signed in. `guest`: whoever holds an answer link, known by their id in that meeting's
 * brief. `token`: a script with somebody's access token. `app`: Sun Porch itself, for somebody whose doing made it needful.
 */
export type Principal =
  | { readonly kind: 'account'; readonly id: string }
  | { readonly kind: 'guest'; readonly id: string; readonly meeting: TopicId }
  | { readonly kind: 'token'; readonly id: string; readonly of: string }
  | { readonly kind: 'app'; readonly of: string }

export const ACTOR_KINDS = ['account', 'guest', 'token', 'app'] as const

/** A principal as the log keeps it. */
export interface Actor {
  readonly kind: Principal['kind']
  /** An account's id, a guest's id in the meeting's brief, a token's id, or an account's for `app`. */
  readonly id: string
  /** The account on whose behalf it was done, where that isn't the actor. */
  readonly behalf: string | null
}

export function actorOf(principal: Principal): Actor {
  switch (principal.kind) {
    case 'account':
    case 'guest':
      return { kind: principal.kind, id: principal.id, behalf: null }
    case 'token':
      return { kind: 'token', id: principal.id, behalf: principal.of }
    case 'app':
      return { kind: 'app', id: principal.of, behalf: principal.of }
  }
}

/** The account whose role counts; null for guests, who have none. */
export function accountOf(principal: Principal): string | null {
  return principal.kind === 'guest' ? null : principal.kind === 'account' ? principal.id : principal.of
}
