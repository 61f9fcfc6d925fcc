import type { Kind } from '../handing/choice'

/** A file that somebody had made of a tree, kept for a day for them alone. */
export interface MadeTold {
  readonly id: string
  readonly kind: Kind
  readonly state: 'making' | 'made' | 'failed'
  /** How far it has come, 0 to 1; null where that isn't known, and unless it's being made. */
  readonly part: number | null
  /** '' until it's made. */
  readonly name: string
  /** Bytes. */
  readonly size: number
  /** Why it couldn't be made; '' otherwise. */
  readonly said: string
  /** When it was asked for, or made; ISO 8601. */
  readonly at: string
  /** Until when it's kept. */
  readonly until: string
}
