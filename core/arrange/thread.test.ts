import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Rect } from './place'
import { distanceTo, labelPlace, type Thread, thread } from './thread'

/** Planks that stand as close as they may: in cells of a grid, 9 apart. */
const planks: fc.Arbitrary<Rect[]> = fc
  .uniqueArray(fc.record({ column: fc.nat(6), row: fc.nat(9), width: fc.integer({ min: 20, max: 160 }) }), {
    minLength: 2,
    maxLength: 40,
    selector: ({ column, row }) => `${column} ${row}`,
  })
  .map(cells =>
    cells.map(({ column, row, width }) => ({ x: column * 180 + 3.5, y: row * 35, width, height: 26 }) as Rect),
  )
const bend = fc.record({ x: fc.integer({ min: -300, max: 300 }), y: fc.integer({ min: -300, max: 300 }) })

/** Whether a stretch of it lies over a plank, its edge apart. */
const crosses = ({ points }: Thread, { x, y, width, height }: Rect): boolean =>
  points.slice(1).some((to, i) => {
    const from = points[i]!
    return (
      Math.min(from.x, to.x) < x + width &&
      Math.max(from.x, to.x) > x &&
      Math.min(from.y, to.y) < y + height &&
      Math.max(from.y, to.y) > y
    )
  })
const onEdge = ({ x, y }: { x: number; y: number }, plank: Rect): boolean =>
  (x === plank.x || x === plank.x + plank.width || y === plank.y || y === plank.y + plank.height) &&
  x >= plank.x &&
  x <= plank.x + plank.width &&
  y >= plank.y &&
  y <= plank.y + plank.height
const lengthOf = ({ points }: Thread): number =>
  points.slice(1).reduce((sum, to, i) => sum + Math.abs(to.x - points[i]!.x) + Math.abs(to.y - points[i]!.y), 0)

describe('a thread', () => {
  it('runs along and across from edge to edge, over no plank, pulled or not', () => {
    fc.assert(
      fc.property(planks, fc.option(bend, { nil: null }), (all, pulled) => {
        const [a, b] = [all[0]!, all[1]!]
        const made = thread(a, b, all, pulled)
        expect(made.clear).toBe(true)
        for (let i = 1; i < made.points.length; i++) {
          const [p, q] = [made.points[i - 1]!, made.points[i]!]
          expect(p.x === q.x || p.y === q.y).toBe(true)
          expect(p.x === q.x && p.y === q.y).toBe(false)
        }
        expect([onEdge(made.points[0]!, a), onEdge(made.points.at(-1)!, b)]).toEqual([true, true])
        for (const plank of all) expect(crosses(made, plank)).toBe(false)
      }),
      { numRuns: 400 },
    )
  })
  it('passes where it was pulled to, or beside the plank that stands there', () => {
    const [a, b] = [
      { x: 0, y: 0, width: 100, height: 30 },
      { x: 400, y: 0, width: 100, height: 30 },
    ]
    const made = thread(a, b, [a, b], { x: 0, y: 120 })
    expect(distanceTo(made, { x: 250, y: 135 })).toBe(0)
    const wall = { x: 230, y: 120, width: 60, height: 40 }
    const beside = thread(a, b, [a, b, wall], { x: 0, y: 120 })
    expect([crosses(beside, wall), distanceTo(beside, { x: 250, y: 135 })]).toEqual([false, 20 + 4 - 5])
  })
  it('is straight where nothing is in the way, and as short as the way round is', () => {
    const [a, b] = [
      { x: 0, y: 0, width: 100, height: 30 },
      { x: 400, y: 0, width: 100, height: 30 },
    ]
    expect(thread(a, b, []).points).toEqual([
      { x: 100, y: 15 },
      { x: 400, y: 15 },
    ])
    const wall = { x: 200, y: -60, width: 50, height: 200 }
    const round = thread(a, b, [wall])
    // From the one upper edge over the wall to the other: two bends; from the sides it would be shorter, with four.
    expect([lengthOf(round), round.points.length]).toEqual([400 + 2 * (60 + 4), 4])
  })
  it('says so when there is no way round, and still leads there', () => {
    const a = { x: 0, y: 0, width: 100, height: 30 }
    const b = { x: 400, y: 300, width: 100, height: 30 }
    const cage = [
      { x: -20, y: -20, width: 140, height: 14 },
      { x: -20, y: 36, width: 140, height: 14 },
      { x: -20, y: -20, width: 14, height: 70 },
      { x: 106, y: -20, width: 14, height: 70 },
    ]
    const made = thread(a, b, cage)
    expect([made.clear, made.points.at(-1)]).toEqual([false, { x: 450, y: 315 }])
  })
  it('carries its label over no plank where there is room for it', () => {
    fc.assert(
      fc.property(planks, all => {
        const made = thread(all[0]!, all[1]!, all)
        const at = labelPlace(made, 40, 14, all)
        expect(distanceTo(made, at)).toBeLessThan(1e-9)
      }),
    )
    const [a, b] = [
      { x: 0, y: 0, width: 100, height: 30 },
      { x: 400, y: 0, width: 100, height: 30 },
    ]
    const below = { x: 230, y: 21, width: 60, height: 26 }
    expect(labelPlace(thread(a, b, [below]), 40, 14, [a, b, below])).toEqual({ x: 205, y: 15 })
    // Beside a wide plank that it passes closely: near an end of the stretch, where the plank has ended.
    const beside = { x: 150, y: 21, width: 190, height: 26 }
    const at = labelPlace(thread(a, b, [beside]), 40, 14, [a, b, beside])
    expect(at.x + 20 <= 150 || at.x - 20 >= 340).toBe(true)
  })
})
