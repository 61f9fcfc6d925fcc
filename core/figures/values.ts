import { Decimal } from 'decimal.js'
import type { TopicId } from '../tree/topic'
import { type Fixed, isWithinLimit, numeralOf, PLACES } from './fixed'
import { PLAIN, type Unit } from './units'

/* What formulas reckon with. */

/**
 * Decimals with 60 digits: more than the largest product of two figures has, so that + − × are exact and only ÷ and roots are
 * rounded, half even (the default of IEEE 754-2019, roundTiesToEven).
 */
export const Exact = Decimal.clone({
  precision: 60,
  rounding: Decimal.ROUND_HALF_EVEN,
  toExpNeg: -100,
  toExpPos: 100,
  maxE: 10_000,
  minE: -10_000,
})
export type Exact = Decimal

/** One figure: a topic's in a measure, or what a named value comes to (`topic` null, `measure` its id). */
export interface Cell {
  readonly topic: TopicId | null
  readonly measure: string
}

/** Where in a formula something stands: from a character up to another. */
export interface Span {
  readonly from: number
  readonly to: number
}

/** Why something can't be worked out. `at`: the figure in whose formula the cause lies. */
export type Fault = { readonly at: Cell; readonly span?: Span } & (
  | { readonly kind: 'loop'; readonly members: readonly Cell[] }
  /** A topic, measure or named value that isn't there any more. */
  | { readonly kind: 'missing'; readonly what: 'topic' | 'measure' | 'value'; readonly id: string }
  | { readonly kind: 'unit'; readonly a: Unit; readonly b: Unit; readonly what: 'add' | 'compare' | 'keep' }
  | { readonly kind: 'zero' }
  | { readonly kind: 'large' }
  /** Not what can be reckoned with there: a day where a number is meant. */
  | { readonly kind: 'type'; readonly wanted: 'number' | 'day' | 'truth'; readonly found: string }
  | { readonly kind: 'sense'; readonly message: string }
)

export type Value =
  | {
      readonly kind: 'amount'
      readonly n: Exact
      readonly unit: Unit
      /** Typed without a unit: it takes the other's. */ readonly bare: boolean
    }
  | { readonly kind: 'day'; readonly day: string }
  | { readonly kind: 'truth'; readonly is: boolean }

export const amount = (n: Exact, unit: Unit = PLAIN, bare = false): Value => ({ kind: 'amount', n, unit, bare })
export const bare = (n: Decimal.Value): Value => amount(new Exact(n), PLAIN, true)

/** A formula that can't go on. */
export class Faulty extends Error {
  constructor(readonly fault: Fault) {
    super(fault.kind)
  }
}

/** What a figure came to, as exact as decimals reckon on with it. */
export const exactOf = (value: Fixed): Exact => new Exact(numeralOf(value))

/** A number as it's stored. Small whole ones, which most are, need no reading digit by digit. */
export const exactNumeral = (numeral: string): Exact =>
  new Exact(numeral.length <= 7 && Number.isInteger(Number(numeral)) ? Number(numeral) : numeral)

/** To ten places after the point, half even; null where it has more than 15 digits before it. */
export function fixedOfExact(n: Exact): Fixed | null {
  if (!n.isFinite()) return null
  const rounded = n.decimalPlaces() > PLACES ? n.toDecimalPlaces(PLACES, Decimal.ROUND_HALF_EVEN) : n
  if (rounded.e > 15) return null
  const value = BigInt(rounded.toFixed(PLACES).replace('.', ''))
  return isWithinLimit(value) ? value : null
}
