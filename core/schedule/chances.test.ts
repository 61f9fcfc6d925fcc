import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Initial, type Tree } from '../tree'
import { chanceBy, type Chances, chancesOf, classicalChance } from './chances'
import { atShare, meanOf, normalBelow, quantilesOf, randomFrom, varianceOf } from './estimates'

type Given = Initial & { readonly after?: readonly string[] }
function grow(topics: Record<string, Given>): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
  for (const [id, { after = [], ...given }] of Object.entries(topics)) {
    const waits = after.map(on => ({ id: on, on, kind: 'FS' as const, lag: 0, days: 'working' as const }))
    applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { title: id, waits, ...given }).changes)
  }
  return tree
}
function chances(tree: Tree, rounds = 10_000, seed = 7, shape: 'beta' | 'triangle' = 'beta'): Chances {
  const going = chancesOf(tree, '2027-01-11', { rounds, seed, shape })
  for (;;) {
    const { done, value } = going.next()
    if (done) {
      if (typeof value === 'string') throw new Error(value)
      return value
    }
  }
}
const between = (best: number, likely: number, worst: number): Initial => ({ estimate: { best, likely, worst } })

describe('the classical sums', () => {
  // Heizer and Render, "Operations Management" (10th ed., chapter 3), Milwaukee Paper Manufacturing: three estimates in weeks, expected
  // times, variances, 3.11 along the path, 71.57 % for 16 weeks. From memory.
  const estimates = {
    A: [1, 2, 3],
    B: [2, 3, 4],
    C: [1, 2, 3],
    D: [2, 4, 6],
    E: [1, 4, 7],
    F: [1, 2, 9],
    G: [3, 4, 11],
    H: [1, 2, 3],
  } as const
  const of = (id: keyof typeof estimates) => {
    const [best, likely, worst] = estimates[id]
    return { best, likely, worst }
  }
  it('are those of the book', () => {
    const ids = Object.keys(estimates) as (keyof typeof estimates)[]
    expect(ids.map(id => meanOf(of(id)))).toEqual([2, 3, 2, 4, 4, 3, 5, 2])
    expect(ids.map(id => varianceOf(of(id)).toFixed(2))).toEqual([
      '0.11',
      '0.11',
      '0.11',
      '0.44',
      '1.00',
      '1.78',
      '1.78',
      '0.11',
    ])
    const after: Record<string, string[]> = {
      C: ['A'],
      D: ['A', 'B'],
      E: ['C'],
      F: ['C'],
      G: ['D', 'E'],
      H: ['F', 'G'],
    }
    const { classical } = chances(
      grow(Object.fromEntries(ids.map(id => [id, { estimate: of(id), after: after[id] ?? [] }]))),
      500,
    )
    expect([classical.mean, [...classical.path].sort().join(''), (classical.deviation ** 2).toFixed(2)]).toEqual([
      15,
      'ACEGH',
      '3.11',
    ])
    // The book rounds z to 0.57, and reads 0.7157 from its table.
    expect(normalBelow(0.57)).toBeCloseTo(0.7157, 4)
    expect(classicalChance(classical, 16)).toBeCloseTo(0.7147, 3)
  })
})

describe('drawing', () => {
  it('has the moments of beta-PERT: mean (a + 4m + b) ÷ 6, variance (μ − a)(b − μ) ÷ 7', () => {
    for (const [best, likely, worst] of [
      [1, 4, 7],
      [1, 2, 9],
      [0, 0, 10],
      [3, 10, 10],
    ] as const) {
      const table = quantilesOf({ best, likely, worst }, 'beta')
      const n = 200_000
      let [sum, squares] = [0, 0]
      for (let i = 0; i < n; i++) {
        const x = atShare(table, (i + 0.5) / n)
        sum += x
        squares += x * x
      }
      const mean = (best + 4 * likely + worst) / 6
      expect(sum / n).toBeCloseTo(mean, 2)
      expect(squares / n - (sum / n) ** 2).toBeCloseTo(((mean - best) * (worst - mean)) / 7, 1)
    }
  })
  it('of a triangle has its mean and variance', () => {
    const table = quantilesOf({ best: 2, likely: 3, worst: 8 }, 'triangle')
    const n = 200_000
    let [sum, squares] = [0, 0]
    for (let i = 0; i < n; i++) {
      const x = atShare(table, (i + 0.5) / n)
      sum += x
      squares += x * x
    }
    expect(sum / n).toBeCloseTo(13 / 3, 2)
    expect(squares / n - (sum / n) ** 2).toBeCloseTo((4 + 9 + 64 - 6 - 16 - 24) / 18, 1)
  })
  it('is the same for the same seed', () => {
    const [a, b, other] = [randomFrom(3), randomFrom(3), randomFrom(4)]
    const drawn = Array.from({ length: 5 }, () => a())
    expect(Array.from({ length: 5 }, () => b())).toEqual(drawn)
    expect(Array.from({ length: 5 }, () => other())).not.toEqual(drawn)
    expect(drawn.every(x => x >= 0 && x < 1)).toBe(true)
  })
})

describe('chances', () => {
  it('in series agree with the closed form', () => {
    const made = chances(
      grow({
        a: between(2, 4, 12),
        b: { ...between(5, 6, 20), after: ['a'] },
        d: { ...between(1, 3, 4), after: ['b'] },
      }),
      40_000,
    )
    const forms = [
      [2, 4, 12],
      [5, 6, 20],
      [1, 3, 4],
    ] as const
    const mean = forms.reduce((sum, [a, m, b]) => sum + (a + 4 * m + b) / 6, 0)
    const variance = forms.reduce((sum, [a, m, b]) => {
      const mu = (a + 4 * m + b) / 6
      return sum + ((mu - a) * (b - mu)) / 7
    }, 0)
    expect(Math.abs(made.mean - mean)).toBeLessThan(0.05)
    expect(Math.abs(made.deviation - Math.sqrt(variance))).toBeLessThan(0.05)
    expect(made.drivers.map(({ topic }) => topic)).toEqual(['b', 'a', 'd'])
    expect(made.drivers.every(({ critical }) => critical === 1)).toBe(true)
    // In series the parts in the spread are those of the variances.
    const parts = forms.map(([a, m, b]) => {
      const mu = (a + 4 * m + b) / 6
      return ((mu - a) * (b - mu)) / 7 / variance
    })
    const shareOf = (id: string): number => made.drivers.find(({ topic }) => topic === id)!.share
    ;['a', 'b', 'd'].forEach((id, i) => expect(Math.abs(shareOf(id) - parts[i]!)).toBeLessThan(0.02))
    expect(made.drivers.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1)
  })

  it('where two paths meet agree with the exact distribution of the later one, and the classical figure is too hopeful', () => {
    const estimate = { best: 10, likely: 20, worst: 60 }
    const made = chances(grow({ a: { estimate }, b: { estimate }, end: { duration: 0, after: ['a', 'b'] } }), 40_000)
    // Both by a time t: F(t)²; so the median of the later one is the quantile √½ of each.
    const table = quantilesOf(estimate, 'beta')
    const days = Math.ceil(atShare(table, Math.SQRT1_2))
    const tree = grow({ a: { duration: days } })
    const exact = chances(tree, 1).days.half
    expect(made.days.half).toBe(exact)
    // P(later ≤ 25 days), exactly and drawn.
    let share = 0
    while (atShare(table, share) < 25) share += 0.0001
    const day25 = chances(grow({ a: { duration: 25 } }), 1).days.half
    expect(Math.abs(chanceBy(made, day25) - share ** 2)).toBeLessThan(0.01)
    expect(classicalChance(made.classical, 25)).toBeGreaterThan(share ** 2 + 0.1)
    const often = made.drivers.filter(({ topic }) => topic !== 'end').map(({ critical }) => critical)
    for (const part of often) expect(Math.abs(part - 0.5)).toBeLessThan(0.03)
  })

  it('are the same for the same seed, certain without estimates, and none without a plan', () => {
    const tree = grow({ a: between(1, 2, 9), b: { duration: 3, after: ['a'] } })
    expect(chances(tree, 1000)).toEqual(chances(tree, 1000))
    const sure = chances(grow({ a: { duration: 3 } }), 100)
    expect([sure.days, sure.deviation, sure.estimated, sure.curve]).toEqual([
      { half: '2027-01-13', likely: '2027-01-13', sure: '2027-01-13' },
      0,
      0,
      [{ day: '2027-01-13', by: 1 }],
    ])
    applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: null }])
    expect(chancesOf(tree, '2027-01-11', { rounds: 10, seed: 1, shape: 'beta' }).next()).toEqual({
      done: true,
      value: 'off',
    })
  })
})
