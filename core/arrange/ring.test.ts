import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, giveSplits } from '../tree'
import { Layout } from './layout'
import type { Placed } from './place'

/** A random tree around its centre: its planks, and its lines as pieces. */
function drawn(topics: readonly (readonly [number, number])[]) {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  tree.fields = { ...tree.fields, arrangement: 'around' }
  topics.forEach(([under], i) => {
    const parent = under === 0 || i === 0 ? 'c' : `t${(under - 1) % i}`
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => `t${i}`).changes)
  })
  giveSplits(tree)
  const size = (id: string) => ({
    width: 50 + 40 * (topics[Number(id.slice(1))]?.[1] ?? 3),
    height: 28 + 19 * ((topics[Number(id.slice(1))]?.[0] ?? 0) % 4),
  })
  const planks: Placed[] = []
  const arcs: (readonly number[])[] = []
  const pieces: { owner: string; isTick: boolean; x1: number; y1: number; x2: number; y2: number }[] = []
  new Layout(tree, { size, folded: () => false }).scan({ x: -1e5, y: -1e5, width: 2e5, height: 2e5 }, 0, {
    plank: placed => planks.push(placed),
    line: (owner, points) => {
      // Of two points: a tick to the owner, or the stub from it. The tick ends at its plank, the stub begins there.
      const at = planks.find(({ id }) => id === owner)
      if (points.length > 4) arcs.push(points)
      const isTick = points.length === 4 && at !== undefined && near(at, points[2]!) && !near(at, points[0]!)
      for (let i = 2; i < points.length; i += 2) {
        const [x1, y1, x2, y2] = points.slice(i - 2, i + 2) as [number, number, number, number]
        pieces.push({ owner, isTick, x1, y1, x2, y2 })
      }
    },
    block() {},
  })
  const parentOf = (id: string): string | null => tree.topics.get(id)!.parent
  return { planks, pieces, arcs, parentOf }
}

/** Whether a place across is at one end of a plank. */
const near = (at: Placed, x: number): boolean => Math.min(Math.abs(x - at.x), Math.abs(x - at.x - at.width)) < 0.5

/** Whether two straight pieces cross, each going on beyond the other. */
function cross(a: Piece, b: Piece): boolean {
  const turn = (x: number, y: number, { x1, y1, x2, y2 }: Piece): number => (x2 - x1) * (y - y1) - (y2 - y1) * (x - x1)
  const apart = (one: number, other: number): boolean => one * other < -1e-6
  return apart(turn(a.x1, a.y1, b), turn(a.x2, a.y2, b)) && apart(turn(b.x1, b.y1, a), turn(b.x2, b.y2, a))
}
interface Piece {
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
}

/** Whether a straight piece goes through a rectangle that is a little smaller than a plank (Liang and Barsky, 1984). */
function runsThrough({ x1, y1, x2, y2 }: Piece, at: Placed): boolean {
  let [from, to] = [0, 1]
  for (const [p, q] of [
    [x1 - x2, x1 - at.x - 1],
    [x2 - x1, at.x + at.width - 1 - x1],
    [y1 - y2, y1 - at.y - 1],
    [y2 - y1, at.y + at.height - 1 - y1],
  ] as const) {
    if (p === 0) {
      if (q < 0) return false
      continue
    }
    if (p < 0) from = Math.max(from, q / p)
    else to = Math.min(to, q / p)
  }
  return from < to
}

const trees = fc.array(fc.tuple(fc.nat(40), fc.nat(5)), { minLength: 1, maxLength: 40 })

describe('around the centre', () => {
  it('no two planks meet, and brackets are true arcs about the centre', () => {
    fc.assert(
      fc.property(trees, topics => {
        const { planks, arcs } = drawn(topics)
        for (const [i, one] of planks.entries())
          for (const other of planks.slice(i + 1))
            expect(
              one.x < other.x + other.width &&
                other.x < one.x + one.width &&
                one.y < other.y + other.height &&
                other.y < one.y + one.height,
              `${one.id} and ${other.id}`,
            ).toBe(false)
        for (const points of arcs) {
          const from = Math.hypot(points[0]!, points[1]!)
          for (let at = 2; at < points.length; at += 2)
            expect(Math.hypot(points[at]!, points[at + 1]!)).toBeCloseTo(from, 6)
        }
      }),
    )
  })

  it('in a tree of so many topics that a level shares its ring no two planks meet either', () => {
    const topics = Array.from({ length: 1100 }, (_, i) => [i < 9 ? 0 : 1 + ((i * 7919) % 997), i % 6] as const)
    const { planks } = drawn(topics)
    expect(planks).toHaveLength(1101)
    planks.sort((a, b) => a.y - b.y)
    for (const [i, one] of planks.entries())
      for (let at = i + 1; at < planks.length && planks[at]!.y < one.y + one.height - 1e-6; at++)
        expect(planks[at]!.x < one.x + one.width && one.x < planks[at]!.x + planks[at]!.width).toBe(false)
  })

  it('no bracket runs through a plank', () => {
    fc.assert(
      fc.property(trees, topics => {
        const { planks, pieces } = drawn(topics)
        for (const piece of pieces)
          for (const plank of planks)
            expect(runsThrough(piece, plank), `${piece.owner} through ${plank.id}`).toBe(false)
      }),
    )
  })

  it('no bracket crosses another', () => {
    // What tells them apart does: a cross, and two that only meet.
    expect(cross({ x1: 0, y1: 0, x2: 2, y2: 2 }, { x1: 0, y1: 2, x2: 2, y2: 0 })).toBe(true)
    expect(cross({ x1: 0, y1: 0, x2: 2, y2: 0 }, { x1: 1, y1: 0, x2: 1, y2: 2 })).toBe(false)
    fc.assert(
      fc.property(trees, topics => {
        const { pieces, parentOf } = drawn(topics)
        const bracketOf = ({ owner, isTick }: (typeof pieces)[number]): string =>
          isTick ? (parentOf(owner) ?? owner) : owner
        for (const [i, one] of pieces.entries())
          for (const other of pieces.slice(i + 1))
            if (bracketOf(one) !== bracketOf(other))
              expect(cross(one, other), `${bracketOf(one)} and ${bracketOf(other)}`).toBe(false)
      }),
      { numRuns: 40 },
    )
  })
})
