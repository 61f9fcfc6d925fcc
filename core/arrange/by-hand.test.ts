import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Initial, type Tree } from '../tree'
import { align, distribute } from './align'
import { handLandingAt } from './landing'
import { Layout, type Placed } from './layout'
import { timeArrangement } from './time-axis'

function grow(
  fields: Partial<Tree['fields']>,
  ...topics: [id: string, parent: string | null, given?: Initial][]
): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  tree.fields = { ...tree.fields, ...fields }
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, given).changes)
  return tree
}
const layoutOf = (tree: Tree): Layout =>
  new Layout(tree, { size: () => ({ width: 80, height: 28 }), folded: id => tree.topics.get(id)!.folded })
const middle = ({ x, y, width, height }: Placed): { x: number; y: number } => ({ x: x + width / 2, y: y + height / 2 })

describe('by hand', () => {
  it('topics stand where they were put, counted from their parent, and a branch moves as one', () => {
    const tree = grow(
      { arrangement: 'hand' },
      ['A', 'c', { x: 200, y: -50 }],
      ['A1', 'A', { x: 10, y: 60 }],
      ['B', 'c'],
    )
    const layout = layoutOf(tree)
    expect(middle(layout.find('A')!)).toEqual({ x: 200, y: -50 })
    expect(middle(layout.find('A1')!)).toEqual({ x: 210, y: 10 })
    applyChanges(tree, [{ op: 'set', topic: 'A', field: 'x', value: 300 }])
    layout.touch(['A'])
    expect(middle(layout.find('A1')!)).toEqual({ x: 310, y: 10 })
    // What nobody has placed yet stands below its elder sibling's branch.
    expect(layout.find('B')!.y).toBeGreaterThan(layout.find('A1')!.y)
  })
  it('fresh from another arrangement no bracket runs through a plank', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(30), fc.nat(4)), { minLength: 1, maxLength: 30 }),
        fc.constantFrom('both', 'right', 'left', 'down'),
        (topics, arrangement) => {
          const tree = grow({ arrangement })
          topics.forEach(([under], i) => {
            const parent = under === 0 || i === 0 ? 'c' : `t${(under - 1) % i}`
            applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => `t${i}`).changes)
          })
          const size = (id: string) => ({ width: 50 + 10 * (topics[Number(id.slice(1))]?.[1] ?? 3), height: 28 })
          const before = new Layout(tree, { size, folded: () => false })
          const places = topics.map((_, i) => {
            const [own, above] = [before.find(`t${i}`)!, before.find(tree.topics.get(`t${i}`)!.parent!)!].map(middle)
            return { x: own!.x - above!.x, y: own!.y - above!.y }
          })
          places.forEach(({ x, y }, i) =>
            applyChanges(tree, [
              { op: 'set', topic: `t${i}`, field: 'x', value: x },
              { op: 'set', topic: `t${i}`, field: 'y', value: y },
            ]),
          )
          tree.fields = { ...tree.fields, arrangement: 'hand' }
          const planks: Placed[] = []
          const lines: (readonly number[])[] = []
          new Layout(tree, { size, folded: () => false }).scan({ x: -1e5, y: -1e5, width: 2e5, height: 2e5 }, 0, {
            plank: placed => planks.push(placed),
            line: (_, points) => lines.push(points),
            block() {},
          })
          for (const points of lines)
            for (let i = 2; i < points.length; i += 2) {
              const [x1, y1, x2, y2] = points.slice(i - 2, i + 2) as [number, number, number, number]
              for (const { id, x, y, width, height } of planks)
                expect(
                  Math.max(x1, x2) > x + 1 &&
                    Math.min(x1, x2) < x + width - 1 &&
                    Math.max(y1, y2) > y + 1 &&
                    Math.min(y1, y2) < y + height - 1,
                  `a bracket through ${id}`,
                ).toBe(false)
            }
        },
      ),
    )
  })
  it('places are kept through another arrangement and back', () => {
    const tree = grow({ arrangement: 'hand' }, ['A', 'c', { x: 200, y: -50 }])
    const layout = layoutOf(tree)
    tree.fields = { ...tree.fields, arrangement: 'both' }
    layout.reset()
    expect(middle(layout.find('A')!)).not.toEqual({ x: 200, y: -50 })
    tree.fields = { ...tree.fields, arrangement: 'hand' }
    layout.reset()
    expect(middle(layout.find('A')!)).toEqual({ x: 200, y: -50 })
  })
  it('a drag stands in line with its neighbours when it comes near, and says on which lines', () => {
    const tree = grow({ arrangement: 'hand' }, ['A', 'c', { x: 200, y: -50 }], ['B', 'c', { x: 400, y: 80 }])
    const layout = layoutOf(tree)
    const lead = layout.find('B')!
    const landing = handLandingAt(tree, layout, lead, { x: 30, y: -127 }, new Set(['B']))!
    expect(landing.by).toEqual({ x: 30, y: -130 })
    expect(landing.guides).toHaveLength(1)
    expect(handLandingAt(tree, layout, lead, { x: 30, y: -100 }, new Set(['B']))!.guides).toEqual([])
    tree.fields = { ...tree.fields, arrangement: 'right' }
    layout.reset()
    expect(handLandingAt(tree, layout, lead, { x: 30, y: -127 }, new Set(['B']))).toBeNull()
  })
  it('aligns to the last one and spreads so that gaps are equal', () => {
    const at = (id: string, x: number, y: number, width: number): Placed => ({
      id,
      x,
      y,
      width,
      height: 20,
      direction: 'right',
    })
    const planks = [at('a', 0, 0, 40), at('b', 130, 8, 60), at('d', 100, 5, 20), at('e', 300, 90, 100)]
    expect(Object.fromEntries(align(planks, 'right'))).toEqual({
      a: { x: 360, y: 0 },
      b: { x: 210, y: 0 },
      d: { x: 280, y: 0 },
    })
    expect(Object.fromEntries(align(planks, 'centre'))).toEqual({
      a: { x: 0, y: 90 },
      b: { x: 0, y: 82 },
      d: { x: 0, y: 85 },
    })
    // Or to one that is named.
    expect(Object.fromEntries(align(planks, 'left', 'd'))).toEqual({
      a: { x: 100, y: 0 },
      b: { x: -30, y: 0 },
      e: { x: -200, y: 0 },
    })
    const moves = distribute(planks, 'across')
    const xs = planks.map(plank => ({ ...plank, x: plank.x + (moves.get(plank.id)?.x ?? 0) })).sort((p, q) => p.x - q.x)
    const gaps = xs.slice(1).map((plank, i) => plank.x - xs[i]!.x - xs[i]!.width)
    for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0]!, 9)
    expect(moves.has('a') || moves.has('e')).toBe(false)
    expect(distribute(planks.slice(0, 2), 'down').size).toBe(0)
  })
})

describe('along a time axis', () => {
  it('equal days are equally wide, each branch hangs from its date, and what has none waits at the end', () => {
    const tree = grow(
      { arrangement: 'time' },
      ['A', 'c', { due: '2027-03-01' }],
      ['B', 'c', { start: '2027-03-11', due: '2027-05-01' }],
      ['C', 'c'],
      ['C1', 'C', { due: '2027-03-21' }],
      ['D', 'c'],
    )
    const layout = layoutOf(tree)
    const x = (id: string): number => layout.find(id)!.x
    expect(x('B') - x('A')).toBeCloseTo(x('C') - x('B'), 6)
    expect(x('D')).toBeGreaterThan(x('C'))
    const ticks: { unit: string; date: string; x: number }[] = []
    layout.scan({ x: -1e6, y: -1e6, width: 2e6, height: 2e6 }, 0, {
      plank() {},
      line() {},
      block() {},
      axis: (_, __, ___, marks) => {
        ticks.push(...marks)
      },
    })
    expect(ticks.find(tick => tick.unit === 'none')?.x).toBeCloseTo(x('D'), 6)
    expect(ticks.some(tick => tick.date === '2027-03-01')).toBe(true)
  })
  it('no line to a later branch runs through an earlier one', () => {
    const kids = Array.from({ length: 30 }, (_, i) => `k${i}`)
    const half = { left: 60, right: 60, top: 14, bottom: 14 }
    const size = { width: 120, height: 28 }
    const standing = timeArrangement(
      { root: 'c', kids: id => (id === 'c' ? kids : []), size: () => size, extents: () => half, along: 0.2, across: 1 },
      id => `2027-0${1 + (Number(id.slice(1)) % 9)}-15`,
    )
    for (const line of standing.lines) {
      const [x, , , y] = line.points as [number, number, number, number]
      for (const [id, { dx, dy }] of standing.spots) {
        // Only who hangs on the same side, and nearer to the axis, can be in the way.
        if (id === line.owner || dy * y < 0 || Math.abs(dy) >= Math.abs(y)) continue
        const runsThrough = x > dx - 60 + 1e-6 && x < dx + 60 - 1e-6
        expect(runsThrough, `${line.owner} through ${id}`).toBe(false)
      }
    }
    // Above and below by turns: neither side takes much more than half.
    const above = [...standing.spots.values()].filter(({ dy }) => dy < 0).length
    expect(above).toBeGreaterThan(8)
    expect(above).toBeLessThan(22)
  })
  it('a tree without dates still stands', () => {
    const tree = grow({ arrangement: 'time' }, ['A', 'c'], ['B', 'c'])
    const layout = layoutOf(tree)
    expect(layout.find('B')!.x).toBeGreaterThan(layout.find('A')!.x)
  })
})

describe('one branch with an arrangement of its own', () => {
  it('is drawn its own way inside the other, and its parent stands centred as before', () => {
    const tree = grow(
      { arrangement: 'right' },
      ['A', 'c', { arrangement: 'down' }],
      ['A1', 'A'],
      ['A2', 'A'],
      ['B', 'c'],
    )
    const layout = layoutOf(tree)
    const a = layout.find('A')!
    expect(layout.find('A1')!.y).toBeGreaterThan(a.y + a.height)
    expect((middle(layout.find('A1')!).x + middle(layout.find('A2')!).x) / 2).toBeCloseTo(middle(a).x, 6)
    expect(layout.arrangementAround('A')).toBe('down')
    expect(layout.arrangementAround('c')).toBe('right')
    layout.reset({ only: 'A' })
    expect(layout.find('B')).toBeNull()
    expect(middle(layout.find('A')!)).toEqual({ x: 0, y: 0 })
  })
})
