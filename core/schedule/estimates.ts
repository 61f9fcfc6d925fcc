import type { Estimate } from '../tree/plan'

/*
 * Three estimates of a length: the classical sums, and a distribution to draw from. Malcolm, Roseboom, Clark and Fazar, "Application of a
 * technique for research and development program evaluation" (1959): mean (a + 4m + b) ÷ 6, variance ((b − a) ÷ 6)².
 */

export const meanOf = ({ best, likely, worst }: Estimate): number => (best + 4 * likely + worst) / 6
export const varianceOf = ({ best, worst }: Estimate): number => ((worst - best) / 6) ** 2

/** The share of a normal distribution that lies below `z`. Abramowitz and Stegun 7.1.26: right to 1.5 × 10⁻⁷. */
export function normalBelow(z: number): number {
  const x = Math.abs(z) / Math.SQRT2
  const t = 1 / (1 + 0.3275911 * x)
  const tail =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x)
  return z < 0 ? tail / 2 : 1 - tail / 2
}

/** How an estimate is drawn from: the beta distribution whose mean is the classical one, or a triangle. */
export type Shape = 'beta' | 'triangle'

/** Points of a quantile table. */
const POINTS = 512
/** Steps by which the density is added up. */
const STEPS = 2048

/**
 * The quantiles of an estimate at evenly spaced shares from 0 to 1, by which a share that was drawn becomes a length. Beta-PERT has the
 * shapes 1 + 4(m − a) ÷ (b − a) and 1 + 4(b − m) ÷ (b − a) (Vose, "Risk Analysis", from memory).
 */
export function quantilesOf({ best, likely, worst }: Estimate, shape: Shape): Float64Array {
  const table = new Float64Array(POINTS + 1)
  const width = worst - best
  if (width === 0) return table.fill(best)
  const peak = (likely - best) / width
  if (shape === 'triangle') {
    for (let i = 0; i <= POINTS; i++) {
      const share = i / POINTS
      table[i] =
        share < peak ? best + width * Math.sqrt(share * peak) : worst - width * Math.sqrt((1 - share) * (1 - peak))
    }
    return table
  }
  const unit = betaQuantiles(peak)
  for (let i = 0; i <= POINTS; i++) table[i] = best + width * unit[i]!
  return table
}

/** Tables by their peak, the last ones that were asked for. */
const known = new Map<number, Float64Array>()
const MOST_KNOWN = 500

/** The quantiles of a beta distribution from 0 to 1 with the shapes 1 + 4 peak and 1 + 4 (1 − peak). */
function betaQuantiles(peak: number): Float64Array {
  const made = known.get(peak)
  if (made) return made
  const table = new Float64Array(POINTS + 1)
  const [p, q] = [4 * peak, 4 * (1 - peak)]
  const below = new Float64Array(STEPS + 1)
  for (let i = 0; i < STEPS; i++) {
    const x = (i + 0.5) / STEPS
    below[i + 1] = below[i]! + x ** p * (1 - x) ** q
  }
  const whole = below[STEPS]!
  let at = 0
  for (let i = 0; i <= POINTS; i++) {
    const wanted = (i / POINTS) * whole
    while (at < STEPS - 1 && below[at + 1]! < wanted) at++
    const within = below[at + 1]! - below[at]!
    table[i] = (at + (within === 0 ? 0 : (wanted - below[at]!) / within)) / STEPS
  }
  table[0] = 0
  table[POINTS] = 1
  if (known.size >= MOST_KNOWN) known.clear()
  known.set(peak, table)
  return table
}

/** The length for a share from 0 to 1. */
export function atShare(table: Float64Array, share: number): number {
  const at = share * (table.length - 1)
  const low = Math.min(Math.floor(at), table.length - 2)
  return table[low]! + (table[low + 1]! - table[low]!) * (at - low)
}

/** Numbers from 0 to 1 that are the same for the same seed (mulberry32; public domain, from memory). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
