import type { NewsEdit, Person, Role, ServerMessage } from '#core/contract'
import type { TopicId, Touched } from '#core/tree'

/* What a session tells the page. */

export interface TreePerson {
  readonly id: string
  readonly name: string
  readonly email?: string
  readonly role?: Role
  readonly picture?: boolean
  readonly square?: boolean
}

/** 'live': the line stands and all is told. 'offline': no line; edits wait. 'gone': one may not be here any more. 'then': a moment that has passed. */
export type LineState = 'opening' | 'live' | 'offline' | 'gone' | 'then'

export interface SessionEvents {
  touched(ids: Touched): void
  /** Another tree object took the old one's place. */
  replaced(): void
  /** The line, the role, the people here or the count of waiting edits changed. */
  status(): void
  /** Something the person should know, in words. */
  said(message: string): void
  /** What others, or oneself, did and the server has stored. */
  news(edits: readonly NewsEdit[]): void
  /** Another tree that this one refers to has changed. */
  elsewhere(tree: string): void
  /** Somebody asks all who are here to look at a topic. */
  look(by: Person, topic: TopicId): void
  /** A line stands and everything missed is in. */
  caughtUp(): void
  /** Something of the votes that run is other than it was. */
  votes(): void
  /** Something of the tree's talk was told, or a line was taken up. */
  talk(message: ServerMessage): void
}
