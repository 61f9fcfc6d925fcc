import { expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, childrenOf, emptyTree, topicOf, toOutline, toSnapshot, type Tree } from '../tree'
import { copyItems, copyTree, WHOLE } from './copy'

function grow(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  applyChanges(tree, addAt(tree, { parent: 'c', index: 0 }, () => 'A', { title: 'A', start: '2027-02-27', due: '2027-03-01', duration: 3, done: 40, people: ['u1'], markers: ['idea'], note: 'AAA=', hue: '3' }).changes)
  applyChanges(tree, addAt(tree, { parent: 'A', index: 0 }, () => 'A1', { title: 'A1', due: '2028-02-28' }).changes)
  applyChanges(tree, addAt(tree, { parent: null, index: 0 }, () => 'L', { title: 'L', x: 5, y: 6 }).changes)
  applyChanges(tree, addAt(tree, { parent: 'c', index: 0 }, () => 'gone', { title: 'gone' }).changes)
  applyChanges(tree, [{ op: 'remove', topic: 'gone' }, { op: 'tree', field: 'look', value: 'ledger' }])
  return tree
}

it('a branch is copied with what was asked for, and dates moved across months and leap days', () => {
  const tree = grow()
  const items = [toOutline(tree, 'A')]
  expect(copyItems(items, WHOLE)).toEqual(items)
  expect(copyItems(items, { notes: false, people: false, dates: true, progress: false, shift: 2 })).toEqual([{
    title: 'A', details: { start: '2027-03-01', due: '2027-03-03', duration: 3, markers: ['idea'], hue: '3' },
    children: [{ title: 'A1', details: { due: '2028-03-01' }, children: [] }],
  }])
  expect(copyItems(items, { ...WHOLE, dates: false })[0]!.details).not.toHaveProperty('due')
})

it('a tree is copied whole, loose topics and look too, without its trash; the first one stays as it was', () => {
  const tree = grow()
  const before = JSON.stringify(toSnapshot(tree))
  const copy = copyTree(tree, { ...WHOLE, people: false, shift: -1 })
  expect([...copy.topics.keys()].sort()).toEqual(['A', 'A1', 'L', 'c'])
  expect(childrenOf(copy, null)).toEqual(['L'])
  expect(topicOf(copy, 'A')).toMatchObject({ due: '2027-02-28', people: [], done: 40 })
  expect(copy.fields.look).toBe('ledger')
  expect(JSON.stringify(toSnapshot(tree))).toBe(before)
})
