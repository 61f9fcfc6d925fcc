import type { Saying } from '#core/talk/saying'
import type { TopicId } from '#core/tree'
import type { KeptWords } from './kept-words'

/** What a talk needs of the house around it. */
export interface TalkHouse {
  /** One's own account. */
  readonly me: string
  /** Asks the server; `path` continues the address of the tree's talk. */
  ask<T>(path: string): Promise<T>
  /** Sends over the line; false when none stands. */
  send(saying: Saying): boolean
  /** Keeps what was said in this browser until it's acknowledged. */
  keep(saying: Saying): void
  drop(id: string): void
  kept(): Promise<readonly Saying[]>
  /** Keeps what is known of what was said, to be read without a line; and what was kept of it. */
  keepWords(words: KeptWords): void
  keptWords(): Promise<KeptWords | undefined>
  /** Whether the server knows a topic: one that was made without a line comes first. */
  knows(topic: TopicId): boolean
  /** Whether somebody's name is known without asking: everybody's who is in the tree. */
  isNamed(person: string): boolean
  /** Something on these topics, or in the talk of the tree (null), is other now. */
  changed(topics: ReadonlySet<TopicId | null>): void
  /** Something that went wrong, in words. */
  said(message: string): void
  /** The epoch of the tree as the line said it last; undefined before it has. */
  epoch(): string | undefined
  /** The present as the server has it, ms since 1970 UTC. */
  now(): number
}
