import type { Plot } from './tidy'

/*
 * One ring a level, for trees of so many topics that placing each group of siblings by itself would take too long: a ring is
 * as small as its planks, and those on the ring inside it, allow.
 */

/** How far up and down a ring is used: sin 75°. */
export const USED = 0.966

/** One ring: its radius, the widest and the tallest plank on it, and how far up and down it is used. */
export interface LevelRing {
  width: number
  tallest: number
  furthest: number
  radius: number
}

/**
 * How far up and down each level of a forest reaches: its outer edges have one step a level, since each level is one
 * long.
 */
export function spread(forest: Plot, rings: readonly LevelRing[]): void {
  for (const outline of [forest.near, forest.far]) {
    let base = 0
    let level = -1
    for (let at = outline; at; level++) {
      if (level >= 0) rings[level]!.furthest = Math.max(rings[level]!.furthest, Math.abs(base + at.edge))
      base += at.shift
      at = at.next
    }
  }
}

/** Each ring wide enough for its planks' heights, and far enough from the ring inside it at every height they use. */
export function sizeRings(rings: readonly LevelRing[], root: { width: number; height: number }, gap: number): void {
  let inner = {
    radius: Math.hypot(root.width, root.height) / 2,
    width: 0,
    furthest: root.height / 2,
    tallest: root.height,
  }
  for (const ring of rings) {
    ring.radius = Math.max(inner.radius + inner.width + gap, ring.furthest / USED)
    const step = (inner.tallest + ring.tallest) / 2
    for (let tries = 0; tries < 200 && tooNear(inner, ring.radius, step, gap / 3); tries++) ring.radius += gap / 2
    inner = ring
  }
}

function tooNear(inner: LevelRing, radius: number, step: number, clear: number): boolean {
  for (let i = 0; i <= 32; i++) {
    const y = (inner.furthest * i) / 32
    const beyond = y + step
    if (beyond >= radius) return true
    if (Math.sqrt(radius ** 2 - beyond ** 2) - Math.sqrt(Math.max(0, inner.radius ** 2 - y ** 2)) < inner.width + clear)
      return true
  }
  return false
}
