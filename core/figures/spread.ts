import { atShare, meanOf, quantilesOf, randomFrom, varianceOf } from '../schedule/estimates'
import type { Estimate } from '../tree/plan'
import type { TopicId } from '../tree/topic'
import { childrenOf, type Tree } from '../tree/tree'
import { figureAt } from './entry'
import type { Figures } from './figures'
import { fixedOf, nearly } from './fixed'

/*
 * How sure a sum is: each figure that may come to less or more is drawn from beta-PERT between its least and its most, likely as it
 * stands, as lengths are in the plan (`schedule/chances.ts`). The draws are independent of one another: what moves together in
 * fact spreads wider.
 */

export interface Spread {
  readonly rounds: number
  /** What all figures as they stand come to. */
  readonly asIs: number
  readonly mean: number
  readonly deviation: number
  /** What 50, 80 and 95 of a hundred rounds don't go over. */
  readonly half: number
  readonly likely: number
  readonly sure: number
  /** Every hundredth of the rounds, in order, for the curve. */
  readonly curve: readonly number[]
  /** Figures by their part in the spread, 0 to 1. */
  readonly drivers: readonly { readonly topic: TopicId; readonly share: number; readonly estimate: Estimate }[]
  /** The classical sums of means and variances. */
  readonly classical: { readonly mean: number; readonly deviation: number }
}

/** Figures below a topic that stand on their own, with their ranges. */
function rangesIn(
  tree: Tree,
  figures: Figures,
  at: TopicId,
  measure: string,
): { fixed: number; open: { topic: TopicId; estimate: Estimate }[] } {
  let fixed = 0
  const open: { topic: TopicId; estimate: Estimate }[] = []
  const stack = [at]
  while (stack.length > 0) {
    const id = stack.pop()!
    const { own, value } = figures.of(id, measure)
    if (own && id !== at) {
      if (value === null) continue
      const range = figureAt(tree, id, measure, null)?.range
      const likely = nearly(value)
      const [low, high] = [range ? fixedOf(range.low) : null, range ? fixedOf(range.high) : null]
      // A range that doesn't hold the figure says nothing.
      if (low === null || high === null || low > value || high < value || low === high) fixed += likely
      else open.push({ topic: id, estimate: { best: nearly(low), likely, worst: nearly(high) } })
      continue
    }
    for (const child of childrenOf(tree, id)) stack.push(child)
  }
  return { fixed, open }
}

/** How sure the sum of a branch is; null where no figure in it has a range. The same seed gives the same answer. */
export function spreadOf(
  tree: Tree,
  figures: Figures,
  at: TopicId,
  measure: string,
  { rounds = 10_000, seed = 1 }: { readonly rounds?: number; readonly seed?: number } = {},
): Spread | null {
  const { fixed, open } = rangesIn(tree, figures, at, measure)
  if (open.length === 0) return null
  const tables = open.map(({ estimate }) => quantilesOf(estimate, 'beta'))
  const random = randomFrom(seed)
  const sums = new Float64Array(rounds)
  for (let round = 0; round < rounds; round++) {
    let sum = fixed
    for (const table of tables) sum += atShare(table, random())
    sums[round] = sum
  }
  sums.sort()
  const mean = sums.reduce((all, one) => all + one, 0) / rounds
  const deviation = Math.sqrt(sums.reduce((all, one) => all + (one - mean) ** 2, 0) / rounds)
  const share = (part: number): number => sums[Math.min(rounds - 1, Math.ceil(part * rounds) - 1)]!
  // Beta-PERT's own variance: (μ − a)(b − μ) ÷ 7.
  const variances = open.map(({ estimate }) => {
    const centre = meanOf(estimate)
    return ((centre - estimate.best) * (estimate.worst - centre)) / 7
  })
  const whole = variances.reduce((all, one) => all + one, 0)
  return {
    rounds,
    asIs: fixed + open.reduce((all, { estimate }) => all + estimate.likely, 0),
    mean,
    deviation,
    half: share(0.5),
    likely: share(0.8),
    sure: share(0.95),
    curve: Array.from({ length: 101 }, (_, i) => sums[Math.min(rounds - 1, Math.floor((i / 100) * rounds))]!),
    drivers: open
      .map((one, i) => ({ ...one, share: whole === 0 ? 0 : variances[i]! / whole }))
      .sort((a, b) => b.share - a.share),
    classical: {
      mean: fixed + open.reduce((all, { estimate }) => all + meanOf(estimate), 0),
      deviation: Math.sqrt(open.reduce((all, { estimate }) => all + varianceOf(estimate), 0)),
    },
  }
}
