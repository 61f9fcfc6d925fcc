import type { Cast, VoteKind } from '../tree/vote'

/** A vote that runs. */
export interface RunningVote {
  readonly id: string
  readonly topic: string
  readonly question: string
  readonly kind: VoteKind
  readonly choices: readonly string[]
  /** What each spreads over the choices, in a vote by points. */
  readonly points: number
  readonly secret: boolean
  readonly by: string
  /** ISO 8601 instant. */
  readonly at: string
  readonly voters: readonly string[]
  /** What one has said oneself, in an open vote. */
  readonly mine: Cast | null
  /** What it has come to so far, in an open vote. */
  readonly counts: readonly number[] | null
}
