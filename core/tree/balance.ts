import type { Side } from './fields'

/**
 * Shares main branches out to two sides so that their heights differ as little as possible, without reordering within a
 * side. Exact up to 20 branches (every choice is looked at); beyond that each branch in turn goes to the lower side.
 * Among equally good choices the one that reads most naturally wins: early branches right, late ones left.
 * `heights` in canvas units; `given` are sides that somebody chose and that stay.
 */
export function balanceSides(heights: readonly number[], given: readonly (Side | null)[] = []): Side[] {
  const sides: (Side | null)[] = heights.map((_, i) => given[i] ?? null)
  const free = sides.flatMap((side, i) => (side === null ? [i] : []))
  let difference = 0
  sides.forEach((side, i) => {
    if (side !== null) difference += side === 'right' ? heights[i]! : -heights[i]!
  })
  if (free.length > 20) {
    for (const i of free) {
      sides[i] = difference <= 0 ? 'right' : 'left'
      difference += difference <= 0 ? heights[i]! : -heights[i]!
    }
    return sides as Side[]
  }
  // Bit k set: the k-th free branch stands right. Gray code order changes one branch a step.
  let best = 0
  let bestScore = Infinity
  let bestPlain = Infinity
  let mask = 0
  let now = difference - free.reduce((sum, i) => sum + heights[i]!, 0)
  for (let step = 0; ; step++) {
    const score = Math.abs(now)
    if (score < bestScore + 1e-9) {
      const plain = plainness(mask, free.length)
      if (score < bestScore - 1e-9 || plain < bestPlain) {
        best = mask
        bestScore = score
        bestPlain = plain
      }
    }
    if (step === 2 ** free.length - 1) break
    const bit = Math.log2((step + 1) & -(step + 1))
    mask ^= 1 << bit
    now += (mask & (1 << bit) ? 2 : -2) * heights[free[bit]!]!
  }
  free.forEach((i, k) => {
    sides[i] = best & (1 << k) ? 'right' : 'left'
  })
  return sides as Side[]
}

/**
 * How often the side changes from one branch to the next, and one more when it starts on the left; 1 for "first ones
 * right, rest left".
 */
function plainness(mask: number, count: number): number {
  let changes = mask & 1 || count === 0 ? 0 : 1.5
  for (let k = 1; k < count; k++) if (((mask >> k) & 1) !== ((mask >> (k - 1)) & 1)) changes++
  return changes
}
