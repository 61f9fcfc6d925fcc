import { fromSnapshot, type Snapshot } from '../tree/snapshot'
import type { Sides } from './merge'

/** The sides of a comparison as they travel: states that are the same are sent once and named. */
export interface SidesSent {
  readonly here: Snapshot
  readonly there: Snapshot
  readonly common: { readonly here: Snapshot | 'here' | 'there'; readonly there: Snapshot | 'here' | 'there' } | null
}

/** The trees of what was sent. Throws `RangeError` for one without its centre. */
export function sidesFrom({ here, there, common }: SidesSent): Sides {
  const known = { here: fromSnapshot(here), there: fromSnapshot(there) }
  if (!common) return { ...known, common: null }
  const treeOf = (sent: Snapshot | 'here' | 'there') => (typeof sent === 'string' ? known[sent] : fromSnapshot(sent))
  const first = treeOf(common.here)
  return { ...known, common: { here: first, there: common.there === common.here ? first : treeOf(common.there) } }
}
