import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { buildDemo } from '#demo/build'
import { DEMO_PEOPLE } from '#demo/people'
import { MEETINGS, MOVE } from '#demo/trees'
import {
  addAt,
  applyChanges,
  ARRANGEMENTS,
  BLANK,
  countTopics,
  emptyTree,
  giveSplits,
  plantAt,
  topicOf,
  toOutline,
  type Tree,
  type TopicId,
} from '../tree'
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

/** The topics that arrow keys lead to from the centre, one after the other. */
function reached(tree: Tree, layout: Layout): Set<TopicId> {
  const found = new Set([tree.centre])
  for (const at of found)
    for (const arrow of ['up', 'down', 'left', 'right'] as const) {
      const to = neighbourOf(tree, layout, at, arrow)
      if (to !== null) found.add(to)
    }
  return found
}
function seen(layout: Layout): Set<TopicId> {
  const ids = new Set<TopicId>()
  const everywhere = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 }
  layout.scan(everywhere, 0, { plank: ({ id }) => ids.add(id), line() {}, block() {} })
  return ids
}

describe('every topic in sight is reached', () => {
  const people = DEMO_PEOPLE.map(({ key, name }) => ({ id: key, name }))
  let made = 0
  const newId = (): string => `n${made++}`
  /** The demo's move, and all of its meetings as a branch of it, and the move once more: 393 topics and some. */
  const large = buildDemo(MOVE, people, '2027-03-03', newId)
  for (const more of [MEETINGS, MOVE]) {
    const other = buildDemo(more, people, '2027-03-03', newId)
    const items = [toOutline(other, other.centre)]
    applyChanges(large, plantAt(large, items, { parent: large.centre, index: Infinity }, newId).changes)
  }
  giveSplits(large)
  const sizes = new Map<TopicId, { width: number; height: number }>()
  for (const { id, title } of large.topics.values())
    sizes.set(id, { width: 40 + Math.min(280, title.length * 7), height: 28 + 18 * Math.floor(title.length / 40) })

  it.each(ARRANGEMENTS)('in a tree of hundreds, %s, open and folded, and none up or down on the other side', way => {
    expect(countTopics(large)).toBeGreaterThanOrEqual(330)
    applyChanges(large, [{ op: 'tree', field: 'arrangement', value: way }])
    for (const folds of [false, true]) {
      const layout = new Layout(
        large,
        { size: id => sizes.get(id)!, folded: id => folds && topicOf(large, id).folded },
        { today: '2027-03-03' },
      )
      const inSight = seen(layout)
      const found = reached(large, layout)
      expect([...inSight].filter(id => !found.has(id))).toEqual([])
      if (way !== 'both' && way !== 'around') continue
      for (const id of inSight)
        for (const arrow of ['up', 'down'] as const) {
          const to = neighbourOf(large, layout, id, arrow)
          if (to === null || id === large.centre) continue
          expect(layout.find(to)!.direction).toBe(layout.find(id)!.direction)
        }
    }
  })

  it('by hand, wherever they were put', () => {
    const place = fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -600, max: 600 }))
    fc.assert(
      fc.property(fc.uniqueArray(place, { minLength: 1, maxLength: 25 }), places => {
        const tree = emptyTree({ ...BLANK, id: 'centre', parent: null, order: 'a0' })
        tree.fields = { ...tree.fields, arrangement: 'hand' }
        places.forEach(([x, y], i) => {
          if (x === 0 && y === 0) return
          applyChanges(tree, addAt(tree, { parent: 'centre', index: Infinity }, () => `t${i}`, { x, y }).changes)
        })
        const layout = new Layout(tree, { size: () => ({ width: 80, height: 28 }), folded: () => false })
        const found = reached(tree, layout)
        expect([...seen(layout)].filter(id => !found.has(id))).toEqual([])
      }),
    )
  })
})
