import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, type Change, emptyTree, type Initial, type Tree } from '../tree'
import { datesOf } from './baseline'
import { curveOf, earnedFrom, earnedNow } from './earned'
import { type Plan, planOf } from './plan'

describe('the formulas', () => {
  // A worked example as handbooks print them, after Project Management Institute, "Practice Standard for Earned Value Management"
  // (2nd ed., 2011): BAC 150, PV 58, EV 53, AC 80 (thousands). From memory; the results follow from the definitions by hand.
  it('are those of the trade', () => {
    const made = earnedFrom({ bac: 150, pv: 58, ev: 53, ac: 80 })
    expect([made.sv, made.cv]).toEqual([-5, -27])
    expect([made.spi, made.cpi].map(value => value!.toFixed(2))).toEqual(['0.91', '0.66'])
    expect([made.eac.typical, made.eac.asPlanned, made.eac.both].map(value => value!.toFixed(1))).toEqual([
      '226.4',
      '177.0',
      '240.2',
    ])
    expect([made.etc, made.vac, made.tcpi].map(value => value!.toFixed(2))).toEqual(['146.42', '-76.42', '1.39'])
  })
  it('say nothing where nothing was said', () => {
    const none = earnedFrom({ bac: 10, pv: 0, ev: 0, ac: null })
    expect([none.spi, none.cpi, none.eac.typical, none.tcpi]).toEqual([null, null, null, null])
  })
})

describe('earned value of a plan', () => {
  const grow = (topics: Record<string, Initial>, ...fields: Change[]): Tree => {
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
    applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }, ...fields])
    for (const [id, given] of Object.entries(topics))
      applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, { title: id, ...given }).changes)
    return tree
  }
  const wait = (on: string) => [{ id: 'w', on, kind: 'FS' as const, lag: 0, days: 'working' as const }]

  it('counts what was agreed to be done by the status date, what is done, and the hours spent', () => {
    const tree = grow({ a: { duration: 4, effort: 40 }, b: { duration: 4, waits: wait('a') } })
    const agreed = { tasks: datesOf(planOf(tree, '2027-01-11') as Plan) }
    applyChanges(tree, [
      { op: 'set', topic: 'a', field: 'done', value: 50 },
      { op: 'set', topic: 'a', field: 'began', value: '2027-01-11' },
      { op: 'set', topic: 'a', field: 'spent', value: 30 },
    ])
    // Friday: the first was to be done (40 h), and a quarter of the second, which is 32 h.
    const plan = planOf(tree, '2027-01-15') as Plan
    const made = earnedNow(tree, plan, agreed)
    expect([made.bac, made.pv, made.ev, made.ac]).toEqual([72, 48, 20, 30])
    expect([made.sv, made.cv]).toEqual([-28, -10])
  })
  it('the curve ends with all work, as agreed and as planned', () => {
    const tree = grow({ a: { duration: 4, effort: 40 }, b: { duration: 4, waits: wait('a') } })
    const agreed = { tasks: datesOf(planOf(tree, '2027-01-11') as Plan) }
    applyChanges(tree, [{ op: 'set', topic: 'a', field: 'duration', value: 9 }])
    const points = curveOf(tree, planOf(tree, '2027-01-11') as Plan, agreed)
    expect(points.map(({ day }) => day)).toEqual(['2027-01-10', '2027-01-17', '2027-01-24', '2027-01-31'])
    expect(points[0]).toEqual({ day: '2027-01-10', agreed: 0, planned: 0, left: 72 })
    expect(points[1]!.agreed).toBe(48)
    expect(points.at(-1)).toEqual({ day: '2027-01-31', agreed: 72, planned: 72, left: null })
  })
  it('what was left goes down by what was done on its days, to what is left on the status date', () => {
    const tree = grow({ a: { duration: 4, effort: 40 }, b: { duration: 4, waits: wait('a') } })
    applyChanges(tree, [
      { op: 'set', topic: 'a', field: 'began', value: '2027-01-11' },
      { op: 'set', topic: 'a', field: 'ended', value: '2027-01-15' },
      { op: 'set', topic: 'a', field: 'done', value: 100 },
      { op: 'set', topic: 'b', field: 'began', value: '2027-01-18' },
      { op: 'set', topic: 'b', field: 'done', value: 25 },
    ])
    const plan = planOf(tree, '2027-01-26') as Plan
    const points = curveOf(tree, plan, null)
    // Ended in the first week: 40 h; a quarter of 32 h in the seven working days since, five of which lie in the second.
    expect(points.map(({ day, left }) => [day, left === null ? null : Math.round(left * 100) / 100])).toEqual([
      ['2027-01-10', 72],
      ['2027-01-17', 32],
      ['2027-01-24', Math.round((32 - (8 * 5) / 7) * 100) / 100],
      ['2027-01-31', 24],
    ])
    const { bac, ev } = earnedNow(tree, plan, null)
    expect(points.findLast(({ left }) => left !== null)!.left).toBeCloseTo(bac - ev)
  })
})
