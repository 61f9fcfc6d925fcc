import { expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Initial } from '../tree'
import { datesOf, slipsSince } from './baseline'
import { type Plan, planOf } from './plan'

it('says what ends later and sooner than was agreed, what has come and gone, and by how much the whole slips', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  const grow = (id: string, duration: number, ...after: string[]): void => {
    const given: Initial = {
      title: id,
      duration,
      waits: after.map(on => ({ id: on, on, kind: 'FS', lag: 0, days: 'working' })),
    }
    applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => id, given).changes)
  }
  applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
  grow('permit', 4)
  grow('lift', 3, 'permit')
  grow('paint', 5)
  grow('gone', 1)
  const plan = (): Plan => planOf(tree, '2027-01-11') as Plan
  const before = plan()
  const base = { tasks: datesOf(before), finish: before.finish }
  expect(slipsSince(before, base)).toEqual({ later: [], sooner: [], come: [], gone: [], whole: 0 })
  applyChanges(tree, [
    { op: 'set', topic: 'permit', field: 'duration', value: 6 },
    { op: 'set', topic: 'paint', field: 'duration', value: 3 },
    { op: 'remove', topic: 'gone' },
  ])
  grow('fresh', 1)
  // Two working days over a weekend are two.
  expect(slipsSince(plan(), base)).toEqual({
    later: [
      { topic: 'permit', days: 2 },
      { topic: 'lift', days: 2 },
    ],
    sooner: [{ topic: 'paint', days: -2 }],
    come: ['fresh'],
    gone: ['gone'],
    whole: 2,
  })
})
