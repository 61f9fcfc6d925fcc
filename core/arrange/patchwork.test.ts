import fc from 'fast-check'
import { expect, it } from 'vitest'
import { Patchwork } from './patchwork'

const number = fc.integer({ min: -5000, max: 5000 })
const box = fc
  .tuple(number, number, fc.integer({ min: 0, max: 9000 }), fc.integer({ min: 0, max: 900 }))
  .map(([x, y, w, h]) => [x, y, x + w, y + h] as const)

it('finds exactly what meets the view, each once, however large or far', () => {
  fc.assert(
    fc.property(fc.array(box, { maxLength: 60 }), fc.array(box, { minLength: 1, maxLength: 5 }), (boxes, views) => {
      const patchwork = new Patchwork(boxes.map((one, i) => [i, one] as const))
      for (const [x1, y1, x2, y2] of views) {
        const seen: number[] = []
        patchwork.visit({ x: x1, y: y1, width: x2 - x1, height: y2 - y1 }, i => seen.push(i))
        const wanted = boxes.flatMap(([a, b, c, d], i) => (a <= x2 && c >= x1 && b <= y2 && d >= y1 ? [i] : []))
        expect([...seen].sort((p, q) => p - q)).toEqual(wanted)
      }
    }),
  )
})

it('with a stride shows its share of them', () => {
  const patchwork = new Patchwork(Array.from({ length: 100 }, (_, i) => [i, [i * 10, 0, i * 10 + 5, 5]] as const))
  let count = 0
  patchwork.visit({ x: -1, y: -1, width: 2000, height: 20 }, () => count++, 4)
  expect([count, patchwork.size]).toEqual([25, 100])
})
