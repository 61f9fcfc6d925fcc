import { log } from './log'
import type { NewsEdit, Person, Present } from '#core/contract'
import type { Told } from '#core/talk/saying'

/*
 * How word travels: what was edited, who is here, whose rights have changed. In memory now, within one process; whatever
 * carries it between processes later stands behind the same two functions, and nothing else knows who else runs. The truth
 * never depends on it: whoever missed something catches up from the log by number.
 */

export type Word =
  /** Edits of a tree that are stored. */
  | { readonly about: 'edits'; readonly tree: string; readonly edits: readonly NewsEdit[] }
  /** Sayings of a tree's talk that are stored. */
  | { readonly about: 'said'; readonly tree: string; readonly told: readonly Told[] }
  /** Somebody looks at something in a tree. */
  | { readonly about: 'here'; readonly tree: string; readonly present: Present }
  /** Somebody asks all who are in a tree to look at a topic. */
  | {
      readonly about: 'look'
      readonly tree: string
      readonly client: string
      readonly by: Person
      readonly topic: string
    }
  | { readonly about: 'left'; readonly tree: string; readonly client: string }
  /** Who has which role in a tree has changed, or the tree went to the trash. */
  | { readonly about: 'rights'; readonly tree: string }
  /** A tree was stored anew under another epoch: all take it anew. */
  | { readonly about: 'replaced'; readonly tree: string }
  /** A vote was begun, closed or let go, or somebody has voted. */
  | { readonly about: 'votes'; readonly tree: string }
  /** Somebody has opened a section or document of a tree that is read before a meeting. */
  | { readonly about: 'read'; readonly tree: string }
  /** These accounts were told something, or have read what they were told. */
  | { readonly about: 'told'; readonly people: readonly string[] }
  /** A session has ended. */
  | { readonly about: 'signed-out'; readonly session: string }

export interface Bus {
  tell(word: Word): void
  /** Hears of everything until the function that comes back is called. */
  hear(listener: (word: Word) => void): () => void
}

/** Within one process. Listeners hear in the order in which they came; one that fails doesn't keep others from hearing. */
export class MemoryBus implements Bus {
  private readonly listeners = new Set<(word: Word) => void>()

  tell(word: Word): void {
    for (const listener of this.listeners)
      try {
        listener(word)
      } catch (error) {
        log.error({ error }, 'word could not be heard')
      }
  }

  hear(listener: (word: Word) => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
}

export const bus: Bus = new MemoryBus()
