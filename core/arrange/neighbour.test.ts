import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Tree, type TopicId } from '../tree'
import { Layout } from './layout'
import { type Arrow, neighbourOf } from './neighbour'

function grown(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0', title: 'Move' })
  const add = (id: TopicId, parent: TopicId, side: 'left' | 'right' = 'right'): void => {
    applyChanges(tree, addAt(tree, { parent, index: Infinity, side }, () => id).changes)
  }
  add('A', 'centre')
  add('B', 'centre')
  add('L', 'centre', 'left')
  for (const kid of ['A1', 'A2']) add(kid, 'A')
  for (const kid of ['B1', 'B2']) add(kid, 'B')
  add('L1', 'L')
  return tree
}

describe('arrow keys go by what is seen', () => {
  const tree = grown()
  const layout = new Layout(tree, { size: () => ({ width: 80, height: 28 }), folded: () => false })
  const walk = (from: TopicId, ...ways: Arrow[]): (TopicId | null)[] => {
    let at: TopicId | null = from
    return ways.map(way => (at = at === null ? null : neighbourOf(tree, layout, at, way)))
  }

  it('outward to children and inward to the parent, on either side', () => {
    expect(walk('centre', 'right', 'right', 'left', 'left')).toEqual(['A', 'A1', 'A', 'centre'])
    expect(walk('centre', 'left', 'left', 'right', 'right')).toEqual(['L', 'L1', 'L', 'centre'])
  })
  it('up and down along the column, across the border of two branches', () => {
    expect(walk('A1', 'down', 'down', 'down', 'down')).toEqual(['A2', 'B1', 'B2', null])
    expect(walk('B2', 'up', 'up', 'up', 'up')).toEqual(['B1', 'A2', 'A1', null])
    expect(walk('A', 'down', 'up')).toEqual(['B', 'A'])
  })
  it('nowhere from a leaf outward', () => {
    expect(walk('A1', 'right')).toEqual([null])
  })
  it('past a branch however tall, to the next in the column and not into the branch', () => {
    const tall = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
    const add = (id: TopicId, parent: TopicId): void => {
      applyChanges(tall, addAt(tall, { parent, index: Infinity, side: 'right' }, () => id).changes)
    }
    for (const main of ['A', 'B', 'C']) {
      add(main, 'centre')
      for (let i = 0; i < 16; i++) add(`${main}${i}`, main)
    }
    const size = { size: () => ({ width: 80, height: 28 }), folded: () => false }
    for (const [arrangement, on, back] of [
      ['right', 'down', 'up'],
      ['left', 'down', 'up'],
      ['down', 'right', 'left'],
    ] as const) {
      const drawn = new Layout(tall, size, { arrangement })
      expect(neighbourOf(tall, drawn, 'A', on), arrangement).toBe('B')
      expect(neighbourOf(tall, drawn, 'C', back), arrangement).toBe('B')
      expect(neighbourOf(tall, drawn, 'A15', on), arrangement).toBe('B0')
    }
  })
  it('by hand, to the nearest that way, whatever hangs on what', () => {
    const hand = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
    hand.fields = { ...hand.fields, arrangement: 'hand' }
    for (const [id, x, y] of [
      ['A', 0, 100],
      ['B', 200, 100],
      ['C', 0, -100],
    ] as const)
      applyChanges(hand, addAt(hand, { parent: 'centre', index: Infinity }, () => id, { x, y }).changes)
    const drawn = new Layout(hand, { size: () => ({ width: 80, height: 28 }), folded: () => false })
    expect([
      neighbourOf(hand, drawn, 'centre', 'down'),
      neighbourOf(hand, drawn, 'centre', 'up'),
      neighbourOf(hand, drawn, 'A', 'right'),
      neighbourOf(hand, drawn, 'B', 'left'),
    ]).toEqual(['A', 'C', 'B', 'A'])
  })
})
