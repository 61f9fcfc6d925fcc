import type { Again } from '../tree/again'
import type { Role } from '../access/roles'

/** A task that somebody owes, in whichever tree: a line of My work. */
export interface OwedTask {
  readonly treeId: string
  readonly tree: string
  readonly id: string
  readonly title: string
  readonly due: string | null
  /** The time of day by which it's due, on the wall of its tree's zone. */
  readonly time: string | null
  readonly done: number | null
  readonly priority: number | null
  readonly again: Again | null
  /** One's own role in the tree. */
  readonly role: Role
  /** Who is on it, where it's somebody else. */
  readonly person: string | null
}
