import type { Topic, TopicId } from '../tree/topic'
import type { Fixed } from './fixed'
import type { Expression, List } from './formula'
import type { Outs } from './outs'
import type { Cell, Exact, Fault, Value } from './values'

/*
 * What is worked out, piece by piece. A figure stands on its formula's inputs, or on what its children come to; who depends on what is
 * known, so that a change is worked out anew along its way and nowhere else.
 */

/** What several topics' figures come to, and what each of them gave, so that one can be taken out again. */
export class Sum {
  total = 0n
  /** Sum of figure × weight, times 10^20, and of the weights. */
  weighted = 0n
  weights = 0n
  count = 0
  private readonly parts = new Map<TopicId, Part>()
  readonly faulty = new Set<TopicId>()

  put(id: TopicId, part: Part | null): void {
    const before = this.parts.get(id)
    if (before) {
      this.total -= before.total
      this.weighted -= before.weighted
      this.weights -= before.weights
      this.count -= before.count
      if (before.fault) this.faulty.delete(id)
    }
    if (!part) {
      this.parts.delete(id)
      return
    }
    this.parts.set(id, part)
    this.total += part.total
    this.weighted += part.weighted
    this.weights += part.weights
    this.count += part.count
    if (part.fault) this.faulty.add(id)
  }

  faultOf = (id: TopicId): Fault => this.parts.get(id)!.fault!

  /** The least and the most of all; they can't be taken out of a sum, so all are looked at. */
  bounds(): { readonly least: Fixed | null; readonly most: Fixed | null } {
    let [least, most]: [Fixed | null, Fixed | null] = [null, null]
    for (const part of this.parts.values()) {
      if (part.least !== null && (least === null || part.least < least)) least = part.least
      if (part.most !== null && (most === null || part.most > most)) most = part.most
    }
    return { least, most }
  }
}

export interface Part {
  readonly total: Fixed
  readonly weighted: bigint
  readonly weights: Fixed
  readonly count: number
  readonly least: Fixed | null
  readonly most: Fixed | null
  readonly fault: Fault | null
}

export const NO_PART: Part = { total: 0n, weighted: 0n, weights: 0n, count: 0, least: null, most: null, fault: null }

interface Base {
  dirty: boolean
  /** When it was come upon, and the earliest that it leads back to; whether it waits for the rest of its loop. */
  index: number
  low: number
  waits: boolean
  /** Formulas and lists that stand on it; figures above it in the tree are found by the tree. */
  outs: Outs
  fault: Fault | null
}

/** A topic's figure, or a named value (`topic` null). */
export interface CellNode extends Base {
  readonly kind: 'cell'
  readonly cell: Cell
  /** The text that it was made ready for; undefined before that. */
  text: string | null | undefined
  formula: Expression | null
  /** Why the formula can't be read. */
  unread: Fault | null
  ins: readonly Node[]
  /** Topics whose fields or place it asks for. */
  watches: readonly TopicId[]
  value: Fixed | null
  /** The same for formulas that stand on it; null until one asks. */
  exact: Exact | null
}

/** What a topic's children come to by the measure's rule; or, `below`, what all below it have of their own. */
export interface SumNode extends Base {
  readonly kind: 'roll' | 'below'
  readonly topic: TopicId
  readonly measure: string
  /** Null: to be summed up whole. */
  sum: Sum | null
  /** Children whose part is another. */
  readonly stale: Set<TopicId>
  value: Fixed | null
  part: Part | null
}

/** The values of an expression for many topics. */
export interface ListNode extends Base {
  readonly kind: 'list'
  readonly topic: TopicId
  readonly list: List
  /** Whether a topic meets its condition. */
  fits: ((topic: Topic) => boolean) | null
  /** Null: to be gathered whole. What isn't among the members has no value. */
  members: Map<
    TopicId,
    { readonly value: Value | null; readonly fault: Fault | null; readonly ins: readonly Node[] }
  > | null
  readonly stale: Set<TopicId>
  /** Whose value changes with a node's. */
  readonly via: Map<Node, Set<TopicId>>
}

export type Node = CellNode | SumNode | ListNode
