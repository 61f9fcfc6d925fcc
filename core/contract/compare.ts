import type { Role } from '../access/roles'
import type { Difference } from '../compare/differences'
import type { ToldPiece } from '../compare/merge'
import type { SidesSent } from '../compare/sent'

/** A tree that comes from one copy with another. */
export interface Kin {
  readonly id: string
  readonly title: string
  readonly role: Role
  /** ISO 8601 instant. */
  readonly changedAt: string
  readonly starter: boolean
}

/** A comparison of a tree with another state of it, another tree, or a file. */
export interface Comparison {
  readonly sides: SidesSent
  /** The number of the state that is `here`, and that of the tree now. */
  readonly number: number
  readonly version: number
  readonly role: Role
  /** What is `there`: its title; the tree and number it's at, null for a file. */
  readonly other: { readonly title: string; readonly tree: string | null; readonly number: number | null }
  readonly pieces: readonly ToldPiece[]
  /** Read from there to here: what was added is here alone. */
  readonly differences: readonly Difference[]
  /** Names of people that topics refer to, by id. */
  readonly names: Readonly<Record<string, string>>
}
