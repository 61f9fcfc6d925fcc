import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bodyOf } from '../talk/body'
import { applyChanges, type Change, emptyTree, newTopic, Refused, toSnapshot, type Tree } from '../tree'
import { may } from './may'
import { maySay } from './may-say'
import type { LinkGuest } from './principal'

const guest = (more: Partial<LinkGuest> = {}): LinkGuest => ({
  kind: 'link',
  id: 'g1',
  link: 'l1',
  may: 'edit',
  branch: 'fitout',
  shown: null,
  tasks: true,
  ...more,
})

/** The centre with two branches: Fit-out (Lift with Doors under it, Paint) and Money (Loan). */
function move(): Tree {
  const tree = emptyTree(newTopic('centre', null, 'a0'))
  const add = (topic: string, parent: string, order: string): Change => ({ op: 'add', topic, parent, order })
  applyChanges(tree, [
    add('fitout', 'centre', 'a0'),
    add('lift', 'fitout', 'a0'),
    add('doors', 'lift', 'a0'),
    add('paint', 'fitout', 'a1'),
    add('money', 'centre', 'a1'),
    add('loan', 'money', 'a0'),
  ])
  return tree
}
const set = (topic: string, field: 'title' | 'done' | 'due' | 'priority', value: unknown): Change =>
  ({ op: 'set', topic, field, value }) as Change

describe('what a link lets one do', () => {
  it('titles, done, due and new topics of what it shows, and nothing else of a topic', () => {
    const tree = move()
    const can = (change: Change, by = guest()): boolean => may(by, null, change, tree)
    expect(can(set('lift', 'title', 'Lifts'))).toBe(true)
    expect(can(set('lift', 'done', 50))).toBe(true)
    expect(can(set('lift', 'done', 50), guest({ tasks: false }))).toBe(false)
    expect(can(set('lift', 'priority', 1))).toBe(false)
    expect(can({ op: 'add', topic: 'n', parent: 'lift', order: 'a5', with: { title: 'New' } })).toBe(true)
    expect(can({ op: 'add', topic: 'n', parent: 'lift', order: 'a5', with: { people: ['ines'] } })).toBe(false)
    expect(can({ op: 'add', topic: 'n', parent: null, order: 'a5' })).toBe(false)
    for (const of of ['money', 'loan', 'centre']) {
      expect(can(set(of, 'title', 'Ours'))).toBe(false)
      expect(can({ op: 'remove', topic: of })).toBe(false)
      expect(can({ op: 'add', topic: 'n', parent: of, order: 'a5' })).toBe(false)
    }
    expect(can({ op: 'tree', field: 'description', value: 'Ours' })).toBe(false)
  })

  it('moves a topic among its own, not in, not out, not the one that it begins with', () => {
    const tree = move()
    const can = (topic: string, parent: string): boolean =>
      may(guest(), null, { op: 'place', topic, parent, order: 'a9' }, tree)
    expect([can('lift', 'fitout'), can('doors', 'fitout'), can('loan', 'fitout'), can('lift', 'money')]).toEqual([
      true,
      false,
      false,
      false,
    ])
    expect(can('fitout', 'centre')).toBe(false)
  })

  it('takes away only what is shown with all below it, and brings that back', () => {
    const tree = move()
    const remove: Change = { op: 'remove', topic: 'lift' }
    expect(may(guest({ shown: new Set(['fitout', 'lift']) }), null, remove, tree)).toBe(false)
    expect(may(guest({ shown: new Set(['fitout', 'lift', 'doors']) }), null, remove, tree)).toBe(true)
    expect(may(guest(), null, { op: 'remove', topic: 'fitout' }, tree)).toBe(false)
    applyChanges(tree, [remove])
    expect(may(guest(), null, set('doors', 'title', 'Gone'), tree)).toBe(false)
    expect(may(guest(), null, { op: 'restore', topic: 'lift' }, tree)).toBe(true)
  })

  it('nothing by a link that is for looking or commenting', () => {
    const tree = move()
    for (const right of ['look', 'comment'] as const)
      expect(may(guest({ may: right }), 'owner', set('lift', 'title', 'x'), tree)).toBe(false)
  })

  it('lets things be said about topics, and neither settled, changed nor said to the whole tree', () => {
    const body = bodyOf('Too narrow')
    const nothing = { thread: null, comment: null }
    const said = { id: 's', op: 'say', comment: 'c', thread: 'c', body } as const
    const say = { ...said, place: { on: 'topic' as const, topic: 'lift' } }
    expect(maySay(guest(), null, say, nothing)).toBeNull()
    expect(maySay(guest({ may: 'look' }), 'owner', say, nothing)).toBe('role')
    expect(maySay(guest(), null, { ...said, thread: 'bench' }, nothing)).toBe('role')
    expect(maySay(guest(), null, { id: 's', op: 'settle', thread: 'c', settled: true }, nothing)).toBe('role')
    expect(maySay(guest(), null, { ...say, place: { on: 'words', topic: 'lift', words: 'x' } }, nothing)).toBe(
      'no-place',
    )
  })

  it('law: whatever is asked for by a link leaves everything outside its branch as it was', () => {
    const IDS = ['centre', 'fitout', 'lift', 'doors', 'paint', 'money', 'loan', 'new']
    const change = fc.record({
      op: fc.constantFrom('add', 'remove', 'restore', 'place', 'set', 'put', 'tree'),
      topic: fc.constantFrom(...IDS),
      parent: fc.option(fc.constantFrom(...IDS), { nil: null }),
      order: fc.constantFrom('a0', 'a4', 'a9'),
    })
    const made = ({ op, topic, parent, order }: { op: string; topic: string; parent: string | null; order: string }) =>
      (op === 'set'
        ? { op, topic, field: 'title', value: `${topic}${order}` }
        : op === 'put'
          ? { op, topic, set: 'people', member: order }
          : op === 'tree'
            ? { op, field: 'description', value: order }
            : op === 'add' || op === 'place'
              ? { op, topic, parent, order }
              : { op, topic }) as Change
    const outside = (tree: Tree) => {
      const { topics, fields } = toSnapshot(tree)
      return {
        fields,
        rest: topics
          .filter(({ id }) => ['centre', 'fitout', 'money', 'loan'].includes(id))
          .map(({ title: _, ...one }) => one),
      }
    }
    let made_ = 0
    fc.assert(
      fc.property(fc.array(change, { maxLength: 20 }), steps => {
        const tree = move()
        const before = outside(tree)
        const titles = ['centre', 'money', 'loan'].map(id => tree.topics.get(id)!.title)
        for (const one of steps.map(made)) {
          if (!may(guest(), null, one, tree)) continue
          try {
            applyChanges(tree, [one])
            made_++
          } catch (error) {
            if (!(error instanceof Refused)) throw error
          }
        }
        expect(outside(tree)).toEqual(before)
        expect(['centre', 'money', 'loan'].map(id => tree.topics.get(id)!.title)).toEqual(titles)
      }),
      { numRuns: 2000 },
    )
    expect(made_).toBeGreaterThan(1000)
  })
})
