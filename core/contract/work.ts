import type { Again } from '../tree/again'
import type { Role } from '../access/roles'

/** A task that somebody owes, in whichever tree: a line of My work. */
export interface OwedTask {
  readonly treeId: string
  readonly tree: string
  readonly id: string
  readonly title: string
  readonly due: string | null
  readonly time: string | null
  readonly done: number | null
  readonly priority: number | null
  readonly again: Again | null
  readonly role: Role
  readonly person: string | null
}
