import { describe, expect, it } from 'vitest'
import { buildDemo } from '#demo/build'
import { DEMO_PEOPLE } from '#demo/people'
import { MOVE } from '#demo/trees'
import { handLandingAt, landingAt } from '#core/arrange/landing'
import { Layout } from '#core/arrange/layout'
import { meets, type Placed } from '#core/arrange/place'
import { applyChanges, giveSplits, topicOf } from '#core/tree'
import { labelPlace } from './landing-label'
import { stripPlace } from './useNearStrip'

/* What stands beside planks: over none of them. On the demo's plan, in every arrangement that packs planks. */

let made = 0
const people = DEMO_PEOPLE.map(({ key, name }) => ({ id: key, name }))
const tree = buildDemo(MOVE, people, '2027-03-03', () => `n${made++}`)
giveSplits(tree)
const layoutAs = (arrangement: 'both' | 'right' | 'down' | 'around' | 'time'): Layout => {
  applyChanges(tree, [{ op: 'tree', field: 'arrangement', value: arrangement }])
  const size = (id: string) => ({ width: 50 + Math.min(230, topicOf(tree, id).title.length * 7), height: 28 })
  return new Layout(tree, { size, folded: () => false }, { today: '2027-03-03' })
}
function planks(layout: Layout): Placed[] {
  const all: Placed[] = []
  layout.scan({ x: -1e6, y: -1e6, width: 2e6, height: 2e6 }, 0, { plank: one => all.push(one), line() {}, block() {} })
  return all
}

describe('beside the planks', () => {
  it.each(['both', 'right', 'down', 'around', 'time'] as const)(
    'the strip by the selection lies over no other, %s',
    way => {
      const layout = layoutAs(way)
      const all = planks(layout)
      let shown = 0
      for (const focused of all)
        for (const zoom of [1, 0.6]) {
          const at = stripPlace(layout, focused, zoom)
          if (!at) continue
          shown++
          const strip = { ...at, width: 126 / zoom, height: 29 / zoom }
          expect(all.filter(one => one.id !== focused.id && meets(one, strip))).toEqual([])
        }
      // There mostly is room.
      expect(shown).toBeGreaterThan(all.length)
    },
  )

  it('the words of a landing are as large at any zoom, and mostly over no title', () => {
    const layout = layoutAs('both')
    const all = planks(layout)
    const everywhere = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 }
    let over = 0
    let tried = 0
    for (const { id, x, y, width, height } of all.slice(1, 60))
      for (const zoom of [1, 0.5]) {
        const landing = landingAt(tree, layout, x + width / 2, y + height * 0.9, new Set([id]), {
          width: 90,
          height: 28,
        })
        const style = labelPlace(layout, landing, 'under Fit-out, 2nd of 5', zoom, everywhere)
        expect(style.transform).toBe(`scale(${1 / zoom})`)
        const [left, top] = [parseFloat(style.left!), parseFloat(style.top!)]
        const label = { x: landing.rect.x + left, y: landing.rect.y + top, width: 150 / zoom, height: 19 / zoom }
        tried++
        if (all.some(one => meets(one, label))) over++
      }
    // What lands half out of sight has its words in sight, whatever lies there.
    for (const at of all.slice(1, 40)) {
      const landing = landingAt(tree, layout, at.x + at.width / 2, at.y + at.height / 2, new Set(), at)
      const { rect } = landing
      const seen = { x: rect.x + rect.width / 2, y: rect.y - 300, width: 600, height: 300 + rect.height / 2 }
      const style = labelPlace(layout, landing, 'under Fit-out', 1, seen)
      expect(rect.x + parseFloat(style.left!)).toBeGreaterThanOrEqual(seen.x)
      expect(rect.y + parseFloat(style.top!) + 19).toBeLessThanOrEqual(seen.y + seen.height)
    }
    expect(over).toBeLessThan(tried * 0.05)
    expect(handLandingAt(tree, layout, all[1]!, { x: 0, y: 0 }, new Set())).toBeNull()
  })
})
