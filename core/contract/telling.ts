import type { Tidings } from '../telling/grouped'
import type { Ways } from '../telling/kinds'

/** A page of what one was told, newest first. `next`: the id to go on before, null at the end. */
export interface TidingsPage {
  readonly all: readonly Tidings[]
  readonly next: number | null
}

export interface ToldCount {
  /** What one hasn't read. */
  readonly count: number
  /** The id of the newest of that; 0 for none. */
  readonly newest: number
  /** Whether one's quiet hours are now. */
  readonly quiet: boolean
}

/** Something that one watches: a tree, or a branch of it. */
export interface Watching {
  readonly tree: { readonly id: string; readonly title: string }
  readonly topic: { readonly id: string; readonly title: string } | null
  /** The topic that is watched, for letting it go: of a whole tree its centre. */
  readonly watched: string
}

/** How one is told. */
export interface ToldWays {
  readonly ways: Ways
  /** IANA name of the zone that the hours are meant in. */
  readonly zone: string
  readonly watching: readonly Watching[]
}
