import { z } from 'zod'
import { colour, id, words } from './atoms'
import { orderKey } from './order-key'

/* What a person enters for figures; what they come to is nowhere stored (`core/figures`). */

/** An address short enough that a figure's can be made of two. */
const shortId = z.string().regex(/^[\w-]{1,19}$/, 'must be 1 to 19 letters, digits, - or _')

/** A number as it's stored, without a locale: at most 15 digits before the point and 10 after it. */
export const numeral = z.string().regex(/^-?\d{1,15}(\.\d{1,10})?$/, 'must be a number of at most 15.10 digits')

export const ROLL_UPS = ['sum', 'mean', 'weighted', 'min', 'max', 'count', 'none'] as const
/** To the even neighbour, or away from zero, where a number lies just between two. */
export const ROUNDINGS = ['half-even', 'half-up'] as const
export type Rounding = (typeof ROUNDINGS)[number]

/** Figures of one topic that stand on its plank at most. */
export const MOST_ON_PLANK = 3

/** A named quantity of the tree: what its topics' figures are of. */
export const measureSchema = z.strictObject({
  id: shortId,
  order: orderKey,
  name: words(60).min(1),
  /** `EUR`, `h`, `d`, `%`, a word of one's own, or two of them: `EUR/h`. Empty: a plain number. */
  unit: words(24),
  decimals: z.int().min(0).max(10),
  rounding: z.enum(ROUNDINGS),
  rollUp: z.enum(ROLL_UPS),
  /** The measure that a weighted mean is weighted by. */
  by: shortId.nullable(),
  hue: colour.nullable(),
  /** Whether more than its target is bad, as with a budget, or less. */
  limit: z.enum(['most', 'least']),
  onPlank: z.boolean(),
})
export type Measure = Readonly<z.infer<typeof measureSchema>>

/** A formula has at most so many characters as it's stored. */
export const MOST_FORMULA = 4000

/** A numeral, `=` and a formula, or nothing. */
const figureText = words(MOST_FORMULA).refine(
  text => text === '' || text[0] === '=' || numeral.safeParse(text).success,
  'must be a number, or a formula after “=”',
)

export const PERIODS = ['month', 'quarter', 'year'] as const
/** Periods of one series at most: ten years of months. */
export const MOST_PERIODS = 120

/** A figure that comes again, period by period: what it comes to is the sum of all. */
export const seriesSchema = z.strictObject({
  /** The first period's first month, as ISO 8601 has it. */
  from: z.string().regex(/^\d{4}-(0[1-9]|1[0-2])$/, 'must be a month: 2027-05'),
  each: z.enum(PERIODS),
  count: z.int().min(1).max(MOST_PERIODS),
  start: numeral,
  /** How it goes on from period to period: as it is, by a share of itself, or by so much. */
  goesOn: z.enum(['same', 'rate', 'step']),
  by: numeral,
  /** Periods that somebody typed otherwise, by their number from 0. */
  typed: z
    .array(
      z.strictObject({
        at: z
          .int()
          .min(0)
          .max(MOST_PERIODS - 1),
        value: numeral,
      }),
    )
    .max(MOST_PERIODS),
})
export type Series = Readonly<z.infer<typeof seriesSchema>>

/** What a topic has in a measure. Its id is the measure's, or the measure's and a what-if's. */
export const figureSchema = z.strictObject({
  id,
  measure: shortId,
  /** The what-if in which it holds instead of what is so; null for what is so. */
  whatIf: shortId.nullable(),
  text: figureText,
  /** Its budget, or what it's to reach. */
  target: numeral.nullable(),
  /** The least and the most that it may come to. */
  range: z.strictObject({ low: numeral, high: numeral }).nullable(),
  /** Comes again, period by period, in place of the text. */
  series: seriesSchema.optional(),
})
export type Figure = Readonly<z.infer<typeof figureSchema>>

/** Assumptions that are tried beside what is so. */
export const whatIfSchema = z.strictObject({ id: shortId, order: orderKey, name: words(60).min(1) })
export type WhatIf = Readonly<z.infer<typeof whatIfSchema>>

/** A value that the whole tree knows by a name: a rate, a share. */
export const namedValueSchema = z.strictObject({
  id: shortId,
  order: orderKey,
  name: words(60).min(1),
  unit: words(24),
  text: figureText,
})
export type NamedValue = Readonly<z.infer<typeof namedValueSchema>>

export const figureId = (measure: string, whatIf: string | null): string =>
  whatIf === null ? measure : `${measure}-${whatIf}`

/** A part of how one chooses among a topic's children: a criterion, or how much one weighs against another. */
export const choiceSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    /** The measure's. */
    id: shortId,
    kind: z.literal('criterion'),
    order: orderKey,
    /** Points; what counts is their part of all. */
    weight: z.number().min(0).max(1000),
    better: z.enum(['more', 'less']),
  }),
  z.strictObject({
    id,
    kind: z.literal('pair'),
    a: shortId,
    b: shortId,
    /** How many times as much `a` weighs as `b`. */
    ratio: z
      .number()
      .min(1 / 9)
      .max(9),
  }),
])
export type ChoicePart = Readonly<z.infer<typeof choiceSchema>>
export type Criterion = Extract<ChoicePart, { kind: 'criterion' }>
