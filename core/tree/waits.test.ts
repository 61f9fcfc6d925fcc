import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, type Change, emptyTree, Refused, Replica, type Tree } from '.'
import { planOf } from '../schedule/plan'
import { refuseCircles, wayBack } from './waits'

function grow(...topics: (readonly [id: string, parent: string])[]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent] of topics)
    applyChanges(
      tree,
      addAt(tree, { parent, index: Infinity }, () => id, { title: id.toUpperCase(), duration: 1 }).changes,
    )
  return tree
}
const put = (topic: string, on: string, id = `${topic}-${on}`): Change => ({
  op: 'put',
  topic,
  set: 'waits',
  member: { id, on, kind: 'FS', lag: 0, days: 'working' },
})
const refusal = (tree: Tree, ...changes: Change[]): string | null => {
  try {
    applyChanges(tree, changes)
    refuseCircles(tree, changes)
    return null
  } catch (error) {
    if (!(error instanceof Refused)) throw error
    return `${error.code}: ${error.message}`
  }
}

describe('a dependency that would lead round in a circle', () => {
  it('is refused with its members named', () => {
    const tree = grow(['a', 'c'], ['b', 'c'], ['d', 'c'])
    applyChanges(tree, [put('b', 'a'), put('d', 'b')])
    expect(refusal(tree, put('a', 'd'))).toBe(
      'loop: These would wait for one another: “A”, which waits for “D”, which waits for “B”, which waits for “A”.',
    )
  })
  it('is found through branches, whichever of the two is one', () => {
    const tree = grow(['fit', 'c'], ['lift', 'fit'], ['move', 'c'], ['crates', 'move'])
    applyChanges(tree, [put('move', 'lift')])
    expect(wayBack(tree, 'fit', 'crates')).toEqual(['crates', 'fit'])
    expect(refusal(tree, put('lift', 'move'))).toMatch(/^loop/)
  })
  it('of a topic on itself or on what it’s part of is refused too; on something that isn’t there it’s kept', () => {
    const tree = grow(['fit', 'c'], ['lift', 'fit'])
    expect([
      refusal(tree, put('lift', 'lift')),
      refusal(tree, put('lift', 'fit')),
      refusal(tree, put('c', 'lift')),
    ]).toEqual(Array(3).fill('loop: A topic can’t wait for itself, for what it’s part of, or for a part of it.'))
    expect(refusal(tree, put('lift', 'gone'))).toBeNull()
  })
  it('made by a move or a restore is no reason to refuse that', () => {
    const tree = grow(['fit', 'c'], ['lift', 'c'], ['move', 'c'])
    applyChanges(tree, [put('move', 'fit'), put('lift', 'move')])
    expect(refusal(tree, { op: 'place', topic: 'lift', parent: 'fit', order: 'a0' })).toBeNull()
    applyChanges(tree, [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }])
    const plan = planOf(tree, '2027-01-11')
    expect(typeof plan !== 'string' && plan.broken.map(({ why }) => why)).toEqual(['loop', 'loop'])
  })
  it('is looked for no further than over one tree’s worth of topics, however many dependencies an edit has', () => {
    const tree = grow(['big', 'c'])
    const many = Array.from({ length: 15_000 }, (_, i): Change => ({
      op: 'add',
      topic: `t${i}`,
      parent: 'big',
      order: `a${String(i).padStart(5, '0')}V`,
    }))
    const waiting = Array.from({ length: 3000 }, (_, i): Change => ({
      op: 'add',
      topic: `w${i}`,
      parent: 'c',
      order: `b0${String(i).padStart(4, '0')}V`,
    }))
    applyChanges(tree, [...many, ...waiting])
    const began = performance.now()
    expect(refusal(tree, ...waiting.map((_, i) => put(`w${i}`, 'big', 'w')))).toBeNull()
    // Each by itself would go through all that is in the branch: 45 million topics.
    expect(performance.now() - began).toBeLessThan(2000)
  })
  it('leaves the copy that refuses it as it was', () => {
    const replica = new Replica(grow(['a', 'c'], ['b', 'c']), 0)
    replica.make({ id: 'e1', changes: [put('b', 'a')] })
    expect(() => replica.make({ id: 'e2', changes: [put('a', 'b')] })).toThrow(Refused)
    expect([replica.waiting.length, replica.tree.topics.get('a')!.waits]).toEqual([1, []])
  })

  it('law: as long as each is asked for, the plan finds no circle', () => {
    const ids = ['a', 'b', 'd', 'e', 'f', 'g', 'h']
    const parents = fc.tuple(...ids.map((_, i) => fc.constantFrom('c', ...ids.slice(0, i))))
    fc.assert(
      fc.property(
        parents,
        fc.array(fc.tuple(fc.constantFrom(...ids), fc.constantFrom(...ids)), { maxLength: 14 }),
        (above, asked) => {
          const replica = new Replica(grow(...ids.map((id, i) => [id, above[i]!] as const)), 0)
          replica.make({ id: 'on', changes: [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }] })
          asked.forEach(([by, on], i) => {
            try {
              replica.make({ id: `e${i}`, changes: [put(by, on)] })
            } catch (error) {
              expect(error).toBeInstanceOf(Refused)
            }
          })
          const plan = planOf(replica.tree, '2027-01-11')
          expect(typeof plan !== 'string' && plan.broken).toEqual([])
        },
      ),
      { numRuns: 300 },
    )
  })
})
