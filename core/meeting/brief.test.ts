import { expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, type Change, emptyTree, lastChild } from '../tree'
import { lastBegun } from './brief'

it('the meeting begun last is the one that began at the highest number, wherever it stands; none before one has begun', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const id of ['first', 'second', 'planned'])
    applyChanges(tree, addAt(tree, lastChild(tree, 'c'), () => id, { title: id }).changes)
  const run = (topic: string, version: number): Change => ({
    op: 'put',
    topic,
    set: 'meeting',
    member: {
      id: 'run',
      kind: 'run',
      step: 0,
      current: null,
      since: null,
      began: version * 60_000,
      ended: null,
      version,
      by: 'ines',
    },
  })
  applyChanges(tree, [{ op: 'put', topic: 'planned', set: 'meeting', member: { id: 'why', kind: 'why', text: 'x' } }])
  expect(lastBegun(tree)).toBeNull()
  applyChanges(tree, [run('second', 40), run('first', 12)])
  expect(lastBegun(tree)).toEqual({ number: 40, title: 'second' })
  applyChanges(tree, [{ op: 'remove', topic: 'second' }])
  expect(lastBegun(tree)).toEqual({ number: 12, title: 'first' })
})
