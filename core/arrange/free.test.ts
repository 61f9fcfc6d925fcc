import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, ARRANGEMENTS, BLANK, emptyTree } from '../tree'
import { firstFree, freeGround, isFree } from './free'
import { Layout } from './layout'
import { meets } from './place'

function layoutOf(count: number, arrangement: (typeof ARRANGEMENTS)[number]): Layout {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
  tree.fields = { ...tree.fields, arrangement }
  for (let i = 0; i < count; i++)
    applyChanges(tree, addAt(tree, { parent: i < 4 ? 'centre' : `t${i % 4}`, index: 99 }, () => `t${i}`).changes)
  return new Layout(tree, { size: () => ({ width: 90, height: 30 }), folded: () => false })
}

describe('free ground', () => {
  it('is found wherever one asks for it, over no plank', () => {
    fc.assert(
      fc.property(
        fc.nat(40),
        fc.constantFrom(...ARRANGEMENTS),
        fc.integer({ min: -400, max: 400 }),
        fc.integer({ min: -400, max: 400 }),
        (count, arrangement, x, y) => {
          const layout = layoutOf(count, arrangement)
          const at = { ...freeGround(layout, { x, y }, { width: 120, height: 28 }), width: 120, height: 28 }
          layout.scan({ x: -1e5, y: -1e5, width: 2e5, height: 2e5 }, 0, {
            plank: placed => expect(meets(placed, at)).toBe(false),
            line() {},
            block() {},
          })
        },
      ),
    )
  })
  it('is where it was wished when nothing is there, and the first of several that is free', () => {
    const layout = layoutOf(3, 'right')
    expect(freeGround(layout, { x: 900, y: 900 }, { width: 50, height: 20 })).toEqual({ x: 900, y: 900 })
    const [taken, free] = [
      { x: -20, y: -5, width: 40, height: 10 },
      { x: 0, y: 500, width: 40, height: 10 },
    ]
    expect(firstFree(layout, [taken, free])).toBe(free)
    expect(firstFree(layout, [taken])).toBeNull()
    expect(isFree(layout, taken, id => id === 'centre')).toBe(true)
  })
})
