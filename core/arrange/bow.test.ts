import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bow, distanceTo, headAt, leave, pointOf } from './bow'

const rect = fc.record({
  x: fc.integer({ min: -500, max: 500 }),
  y: fc.integer({ min: -500, max: 500 }),
  width: fc.integer({ min: 20, max: 200 }),
  height: fc.integer({ min: 14, max: 80 }),
})
const bend = fc.option(fc.record({ x: fc.integer({ min: -300, max: 300 }), y: fc.integer({ min: -300, max: 300 }) }), {
  nil: null,
})

describe('a cross-link', () => {
  it('goes through the middle it was pulled to, and touches itself nowhere else', () => {
    fc.assert(
      fc.property(rect, rect, bend, (a, b, pulled) => {
        const curve = bow(a, b, pulled)
        const half = pointOf(curve, 0.5)
        expect(Math.hypot(half.x - curve.middle.x, half.y - curve.middle.y)).toBeLessThan(1e-6)
        if (pulled)
          expect(
            [curve.middle.x - curve.halfway.x, curve.middle.y - curve.halfway.y].map(
              value => Math.round(value * 1e6) / 1e6 + 0,
            ),
          ).toEqual([pulled.x + 0, pulled.y + 0])
        expect(distanceTo(curve, curve.from)).toBeLessThan(1e-6)
        expect(distanceTo(curve, { x: curve.middle.x, y: curve.middle.y })).toBeLessThan(1)
      }),
    )
  })
  it('begins and ends a little outside its planks, on the way to where it bends', () => {
    const plank = { x: 0, y: 0, width: 100, height: 30 }
    expect(leave(plank, { x: 500, y: 15 })).toEqual({ x: 103, y: 15 })
    expect(leave(plank, { x: 50, y: -400 })).toEqual({ x: 50, y: -3 })
    fc.assert(
      fc.property(rect, fc.integer({ min: -999, max: 999 }), fc.integer({ min: -999, max: 999 }), (one, x, y) => {
        const at = leave(one, { x, y })
        const inside = at.x > one.x && at.x < one.x + one.width && at.y > one.y && at.y < one.y + one.height
        expect(inside).toBe(false)
      }),
    )
  })
  it('has its arrow head at the tip, pointing along the curve', () => {
    const curve = bow({ x: 0, y: 0, width: 20, height: 20 }, { x: 200, y: 0, width: 20, height: 20 }, { x: 0, y: 0 })
    const [tip, left, right] = headAt(curve, 'to', 10)
    expect(tip).toEqual(curve.to)
    expect(left.x).toBeCloseTo(tip.x - 10, 6)
    expect((left.y + right.y) / 2).toBeCloseTo(tip.y, 6)
    expect(distanceTo(curve, { x: 110, y: 60 })).toBeCloseTo(50, 4)
  })
})
