import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyChanges, type Change, Refused, type TopicId } from '../tree'
import { copyOf, seed } from '../../tests/rolled'
import { watchedAbove } from './from-edit'
import { Whereabouts } from './whereabouts'

const IDS = ['a', 'b', 'c', 'd', 'e']
const change: fc.Arbitrary<Change> = fc.oneof(
  fc.record({
    op: fc.constantFrom('add' as const, 'place' as const),
    topic: fc.constantFrom(...IDS),
    parent: fc.constantFrom('centre', null, ...IDS),
    order: fc.constantFrom('a0', 'a1'),
  }),
  fc.record({ op: fc.constantFrom('remove' as const, 'restore' as const), topic: fc.constantFrom(...IDS) }),
)

it('law: where each topic hung after each edit is where the tree of that moment has it', () => {
  fc.assert(
    fc.property(fc.array(fc.array(change, { minLength: 1, maxLength: 3 }), { maxLength: 12 }), rolled => {
      const tree = seed()
      const base = copyOf(tree)
      const edits: { number: number; changes: Change[] }[] = []
      const states = [copyOf(tree)]
      for (const changes of rolled)
        try {
          applyChanges(tree, changes)
          edits.push({ number: states.length, changes })
          states.push(copyOf(tree))
        } catch (error) {
          if (!(error instanceof Refused)) throw error
        }
      const where = new Whereabouts(edits, id => tree.topics.get(id)?.parent)
      for (const topic of where.movedFromBefore.keys()) where.hungBefore(topic, base.topics.get(topic)!.parent)
      for (const [number, state] of states.entries())
        for (const [id, { parent }] of state.topics) expect(where.after(id, number)).toBe(parent)
    }),
    { numRuns: 500 },
  )
})

it('what is renamed and then moved into a watched branch was not renamed there', () => {
  const hung: Record<TopicId, TopicId | null> = { bolt: 'lift', lift: 'centre', lamps: 'centre', centre: null }
  const where = new Whereabouts(
    [
      { number: 7, changes: [{ op: 'set', topic: 'bolt', field: 'title', value: 'Bolts' }] },
      { number: 8, changes: [{ op: 'place', topic: 'bolt', parent: 'lift', order: 'a0' }] },
    ],
    id => hung[id],
  )
  where.hungBefore('bolt', 'lamps')
  const above = (number: number) => watchedAbove('bolt', new Set(['lift', 'lamps']), id => where.after(id, number))
  expect([above(7), above(8)]).toEqual([['lamps'], ['lift']])
})

it('what is made among these edits was nowhere before', () => {
  const where = new Whereabouts(
    [{ number: 3, changes: [{ op: 'add', topic: 'bolt', parent: 'lift', order: 'a0' }] }],
    () => 'lamps',
  )
  expect([where.after('bolt', 2), where.after('bolt', 3)]).toEqual([undefined, 'lift'])
})
