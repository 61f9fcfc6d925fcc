import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyChange, type Change, emptyTree, newTopic, toSnapshot, type Tree } from '.'
import { addedWeight, weightOf } from './weight'

const bytes = (tree: Tree): number => Buffer.byteLength(JSON.stringify(toSnapshot(tree)))
const fresh = (): Tree => emptyTree({ ...newTopic('c', null, 'a0'), title: 'Move' })

const change = fc.oneof(
  fc.record({
    op: fc.constant('add' as const),
    topic: fc.constantFrom('a', 'b', 'd'),
    parent: fc.constantFrom('c', null),
    order: fc.constant('a0'),
    with: fc.record({ title: fc.string({ unit: 'grapheme' }) }),
  }),
  fc.record({
    op: fc.constant('set' as const),
    topic: fc.constantFrom('a', 'b', 'c'),
    field: fc.constant('title' as const),
    value: fc.string({ unit: 'grapheme', maxLength: 60 }),
  }),
  fc.record({
    op: fc.constant('set' as const),
    topic: fc.constantFrom('a', 'b', 'c'),
    field: fc.constant('due' as const),
    value: fc.constantFrom('2027-03-01', null),
  }),
  fc.record({
    op: fc.constant('put' as const),
    topic: fc.constantFrom('a', 'b', 'c'),
    set: fc.constant('markers' as const),
    member: fc.constantFrom('risk', 'idea'),
  }),
  fc.record({
    op: fc.constant('take' as const),
    topic: fc.constantFrom('a', 'b', 'c'),
    set: fc.constant('markers' as const),
    member: fc.constantFrom('risk', 'idea'),
  }),
  fc.record({
    op: fc.constant('place' as const),
    topic: fc.constantFrom('a', 'b'),
    parent: fc.constantFrom('c', 'a', null),
    order: fc.constantFrom('a0', 'a0V'),
  }),
  fc.record({ op: fc.constant('remove' as const), topic: fc.constantFrom('a', 'b') }),
  fc.record({ op: fc.constant('tree' as const), field: fc.constant('description' as const), value: fc.string() }),
)

it('what changes add is what the snapshot grows by, but for a comma a topic', () => {
  fc.assert(
    fc.property(fc.array(change, { maxLength: 30 }), changes => {
      const tree = fresh()
      const before = bytes(tree)
      let added = 0
      for (const one of changes as Change[])
        try {
          added += addedWeight([applyChange(tree, one)], tree.fields)
        } catch {
          /* refused: nothing is added */
        }
      expect(before + added + tree.topics.size - 1).toBe(bytes(tree))
      // And so does each topic by itself, weighed by what changed of it alone.
      for (const topic of tree.topics.values()) expect(weightOf(topic)).toBe(weightOf({ ...topic }))
    }),
  )
})

it('a topic weighs its bytes in UTF-8', () => {
  const topic = { ...newTopic('a', 'c', 'a0'), title: 'Größe 🛗' }
  expect(weightOf(topic)).toBe(
    Buffer.byteLength(JSON.stringify({ id: 'a', parent: 'c', order: 'a0', title: 'Größe 🛗' })),
  )
})
