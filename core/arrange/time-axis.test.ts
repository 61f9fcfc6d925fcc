import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDays } from '../schedule/days'
import { tickInWords } from '../scene/axis'
import { addAt, applyChanges, BLANK, emptyTree, isWithin } from '../tree'
import { Layout } from './layout'
import type { Placed, Tick } from './place'

/** Branches with so many topics below them, each dated so many days after the first; none has no date. */
function drawn(branches: readonly (readonly [below: number, days: number | null])[]) {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  tree.fields = { ...tree.fields, arrangement: 'time' }
  let made = 0
  const add = (parent: string): string => {
    const id = `t${made++}`
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id).changes)
    return id
  }
  branches.forEach(([below, days], i) => {
    const main = add('c')
    if (days !== null)
      applyChanges(tree, [{ op: 'set', topic: main, field: 'start', value: addDays('2027-01-11', days) }])
    for (let at = 0; at < below; at++) add(at % 3 === 2 ? `t${made - 1}` : main)
    if (i % 7 === 6) applyChanges(tree, [{ op: 'set', topic: main, field: 'arrangement', value: 'down' }])
  })
  const planks: Placed[] = []
  const hanging: { owner: string; x: number; from: number; to: number }[] = []
  const size = (id: string) => ({
    width: id === 'c' ? 320 : 120 + 23 * (id.length + (id.charCodeAt(1) % 5)),
    height: 34,
  })
  const layout = new Layout(tree, { size, folded: () => false })
  layout.scan({ x: -1e5, y: -1e5, width: 2e5, height: 2e5 }, 0, {
    plank: placed => planks.push(placed),
    line: (owner, points) => {
      // From the axis straight up or down to its branch.
      if (points[1] === 0 && points[0] === points[2])
        hanging.push({ owner, x: points[0]!, from: Math.min(0, points[3]!), to: Math.max(0, points[3]!) })
    },
    block() {},
  })
  return { tree, planks, hanging, bounds: layout.bounds() }
}

describe('along a time axis', () => {
  it('no plank lies on another, and no branch’s line runs through any, whichever way branches run', () => {
    let turned = 0
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(24), fc.option(fc.nat(40), { freq: 5 })), { minLength: 1, maxLength: 8 }),
        branches => {
          const { tree, planks, hanging } = drawn(branches)
          if (planks.some(({ direction }) => direction === 'left')) turned++
          expect(hanging).toHaveLength(branches.length)
          for (const [i, one] of planks.entries())
            for (const other of planks.slice(i + 1))
              expect(
                one.x < other.x + other.width &&
                  other.x < one.x + one.width &&
                  one.y < other.y + other.height &&
                  other.y < one.y + one.height,
                `${one.id} and ${other.id}`,
              ).toBe(false)
          for (const { owner, x, from, to } of hanging)
            for (const plank of planks)
              if (!isWithin(tree, plank.id, owner) && plank.id !== 'c')
                expect(
                  plank.x + 1 < x && x < plank.x + plank.width - 1 && plank.y < to && from < plank.y + plank.height,
                  `${owner}’s line through ${plank.id}`,
                ).toBe(false)
        },
      ),
      { numRuns: 50 },
    )
    expect(turned).toBeGreaterThan(5)
  })

  it('a branch hangs from the day on which the plan lets it begin, whatever was typed', () => {
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
    tree.fields = { ...tree.fields, arrangement: 'time' }
    for (const id of ['a', 'b', 'd'])
      applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { start: '2027-01-11' }).changes)
    const planned = new Map([['b', '2027-02-10']])
    const size = () => ({ width: 100, height: 30 })
    const layout = new Layout(tree, { size, folded: () => false, dayOf: id => planned.get(id) ?? null })
    const at = (id: string): number => layout.find(id)!.x
    expect(at('a')).toBe(at('d'))
    expect(at('b')).toBeGreaterThan(at('a') + 50)
    // Another day of the plan is heard of without an edit of the branch.
    planned.set('d', '2027-02-10')
    layout.daysChanged()
    expect(at('d')).toBe(at('b'))
  })

  describe('of hours', () => {
    type Said = readonly [start: string, time: string | null]
    const byHours = (said: readonly Said[], today?: string) => {
      const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
      tree.fields = { ...tree.fields, arrangement: 'time' }
      said.forEach(([start, startTime], i) =>
        applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => `t${i}`, { start, startTime }).changes),
      )
      const layout = new Layout(tree, { size: () => ({ width: 100, height: 30 }), folded: () => false }, { today })
      const marks: Tick[] = []
      const lines = new Map<string, number>()
      layout.scan({ x: -1e5, y: -1e5, width: 2e5, height: 2e5 }, 0, {
        plank() {},
        block() {},
        line: (owner, points) => void lines.set(owner, points[0]!),
        axis: (_, __, ___, ticks) => void marks.push(...ticks),
      })
      return { marks, at: said.map((_, i) => lines.get(`t${i}`)!) }
    }

    it('when all lies within two days and something has a time: hours are equally wide', () => {
      const { marks, at } = byHours([
        ['2027-06-05', '07:30'],
        ['2027-06-05', '09:00'],
        ['2027-06-05', '12:00'],
        ['2027-06-06', '07:30'],
      ])
      expect((at[2]! - at[1]!) / (at[1]! - at[0]!)).toBeCloseTo(2, 6)
      expect((at[3]! - at[0]!) / (at[1]! - at[0]!)).toBeCloseTo(16, 6)
      // From the full hour before the first, with its day; the next day by its midnight.
      expect(tickInWords(marks[0]!)).toMatch(/^Sat,? 5 Jun, 07:00$/)
      expect(marks.map(tickInWords).some(words => /^Sun,? 6 Jun$/.test(words))).toBe(true)
      const hours = marks.filter(({ unit }) => unit === 'hour')
      expect(hours.length).toBeGreaterThan(2)
      const nine = marks.find(({ date }) => date === '2027-06-05T09:00')
      if (nine) expect(nine.x).toBeCloseTo(at[1]!, 6)
    })

    it('what has no time stands at the beginning of its day, and the present day stretches no axis', () => {
      const { marks, at } = byHours(
        [
          ['2027-06-05', null],
          ['2027-06-05', '12:00'],
          ['2027-06-05', '18:00'],
        ],
        '2027-05-01',
      )
      expect((at[1]! - at[0]!) / (at[2]! - at[1]!)).toBeCloseTo(2, 6)
      expect(marks.some(({ unit }) => unit === 'today')).toBe(false)
    })

    it('not for three days, nor where nothing has a time', () => {
      for (const said of [
        [
          ['2027-06-05', '07:30'],
          ['2027-06-07', '07:30'],
        ],
        [
          ['2027-06-05', null],
          ['2027-06-06', null],
        ],
      ] as const)
        expect(byHours(said).marks.map(({ unit }) => unit)).not.toContain('hour')
      // By days a time of day makes no difference.
      const { at } = byHours([
        ['2027-06-05', '07:30'],
        ['2027-06-05', '22:00'],
        ['2027-06-07', '01:00'],
      ])
      expect(at[0]).toBe(at[1])
    })
  })

  it('branches whose dates crowd at the beginning stand to both sides of them, in order', () => {
    const { planks, bounds } = drawn([
      [24, 0],
      [18, 5],
      [18, 7],
      [18, 10],
      [1, 70],
      [3, 90],
    ])
    const byId = new Map(planks.map(plank => [plank.id, plank]))
    const mains = ['t0', 't25', 't44', 't63', 't82', 't84'].map(id => byId.get(id)!)
    const ways = mains.map(({ direction }) => direction)
    expect(ways.slice(0, 2)).toContain('left')
    // Who runs back is dated before who runs on.
    expect(ways.toSorted()).toEqual(ways)
    const dateAt = ({ direction, x, width }: Placed): number => (direction === 'left' ? x + width : x)
    const at = mains.map(dateAt)
    expect(at.toSorted((a, b) => a - b)).toEqual(at)
    // One above another they would take some 2,500.
    expect(bounds.height).toBeLessThan(1500)
  })
})
