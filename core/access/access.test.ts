import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyChanges,
  type Change,
  emptyTree,
  fromSnapshot,
  isLive,
  newTopic,
  Refused,
  toSnapshot,
  type Tree,
} from '../tree'
import { may } from './may'
import { actorOf, type Principal } from './principal'
import { type Role, ROLES } from './roles'
import { Part, sees, WHOLE_SIGHT } from './sees'

const ines: Principal = { kind: 'account', id: 'ines' }

function meeting(): Tree {
  const tree = emptyTree({ ...newTopic('c', null, 'a0'), title: 'Meetings' })
  const person = (id: string, user: string | null) =>
    ({ id, kind: 'person', user, mail: null, name: id, needed: true, role: null }) as const
  applyChanges(tree, [
    {
      op: 'add',
      topic: 'm',
      parent: 'c',
      order: 'a0',
      with: { title: 'Coordination', meeting: [person('p1', 'ines'), person('p2', 'rana'), person('p3', null)] },
    },
  ])
  return tree
}
const answer = (of: string, id = `answer-${of}`): Change => ({
  op: 'put',
  topic: 'm',
  set: 'meeting',
  member: { id, kind: 'answer', of, answer: 'accepted', comment: '', at: 1 },
})
const title: Change = { op: 'set', topic: 'm', field: 'title', value: 'Ours' }

describe('may', () => {
  it('lets editors and owners change everything, others nothing but their own answer', () => {
    const tree = meeting()
    const able = (change: Change): Role[] => ROLES.filter(role => may(ines, role, change, tree))
    expect(able(title)).toEqual(['editor', 'owner'])
    expect(able({ op: 'tree', field: 'description', value: 'x' })).toEqual(['editor', 'owner'])
    expect(able(answer('p1'))).toEqual([...ROLES])
    expect(able(answer('p2'))).toEqual(['editor', 'owner'])
    expect(may(ines, null, answer('p1'), tree)).toBe(false)
  })

  it('never lets an answer take the place of another part', () => {
    const tree = meeting()
    applyChanges(tree, [answer('p2', 'a2')])
    expect(may(ines, 'viewer', answer('p1', 'a2'), tree)).toBe(false)
    expect(may(ines, 'viewer', answer('p1', 'p2'), tree)).toBe(false)
    expect(may({ kind: 'account', id: 'rana' }, 'viewer', answer('p2', 'a2'), tree)).toBe(true)
  })

  it('lets a guest answer in the one meeting they were asked to, for themselves', () => {
    const tree = meeting()
    const guest: Principal = { kind: 'guest', id: 'p3', meeting: 'm' }
    expect(may(guest, null, answer('p3'), tree)).toBe(true)
    expect(may(guest, null, answer('p1'), tree)).toBe(false)
    expect(may({ ...guest, meeting: 'c' }, null, answer('p3'), tree)).toBe(false)
    expect(may(guest, 'owner', title, tree)).toBe(false)
  })

  it('counts a token as its account, the app as itself', () => {
    const tree = meeting()
    const token: Principal = { kind: 'token', id: 't1', of: 'ines' }
    expect([may(token, 'editor', title, tree), may(token, 'viewer', title, tree)]).toEqual([true, false])
    expect(may({ kind: 'app', of: 'ines' }, null, title, tree)).toBe(true)
    expect(actorOf(token)).toEqual({ kind: 'token', id: 't1', behalf: 'ines' })
  })
})

describe('sees', () => {
  it('gives the whole to whoever has a role, a guest their meeting, a stranger nothing', () => {
    expect(ROLES.map(role => sees(ines, role))).toEqual(ROLES.map(() => WHOLE_SIGHT))
    expect(sees(ines, null)).toBeNull()
    expect(sees({ kind: 'guest', id: 'p3', meeting: 'm' }, null)).toMatchObject({ branch: 'm' })
  })

  const IDS = ['a', 'b', 'c', 'd', 'e', 'f']
  const step = fc.record({
    what: fc.constantFrom('add', 'place', 'set', 'note', 'remove', 'restore', 'put'),
    topic: fc.constantFrom(...IDS),
    under: fc.constantFrom('centre', ...IDS),
    order: fc.constantFrom('a0', 'a1', 'a2'),
  })
  const changeOf = ({
    what,
    topic,
    under,
    order,
  }: {
    what: string
    topic: string
    under: string
    order: string
  }): Change => {
    switch (what) {
      case 'add':
        return { op: 'add', topic, parent: under, order, with: { title: `${topic}!`, people: ['ines'], fill: '3' } }
      case 'place':
        return { op: 'place', topic, parent: under, order }
      case 'set':
        return { op: 'set', topic, field: 'title', value: `${topic} ${order}` }
      case 'put':
        return { op: 'put', topic, set: 'people', member: order }
      case 'note':
        return { op: 'set', topic, field: 'done', value: order.length }
      default:
        return { op: what as 'remove' | 'restore', topic }
    }
  }
  /** What lives in a tree, without where in the trash it is. */
  const alive = (tree: Tree): unknown =>
    [...tree.topics.values()]
      .filter(topic => isLive(tree, topic.id))
      .map(topic => ({ ...topic, markers: [] }))
      .sort((a, b) => (a.id < b.id ? -1 : 1))

  it('law: a part that was given once and then told the news is the part that is given now, and holds nothing else', () => {
    fc.assert(
      fc.property(fc.array(fc.array(step, { minLength: 1, maxLength: 5 }), { maxLength: 12 }), edits => {
        const tree = emptyTree(newTopic('centre', null, 'a0'))
        applyChanges(tree, [
          { op: 'add', topic: 'a', parent: 'centre', order: 'a0' },
          { op: 'add', topic: 'b', parent: 'a', order: 'a0' },
        ])
        const sight = { branch: 'a', without: new Set(['people'] as const) }
        const part = new Part(tree, sight)
        let theirs = fromSnapshot(part.snapshot())
        for (const steps of edits) {
          const changes = steps.map(changeOf).filter(change => !(change.op === 'remove' && change.topic === 'a'))
          if (changes.length === 0) continue
          try {
            applyChanges(tree, changes)
          } catch (error) {
            if (error instanceof Refused) continue
            throw error
          }
          const news = part.news(changes)
          if (news === null) theirs = fromSnapshot(part.snapshot())
          else applyChanges(theirs, news)
          expect(alive(theirs)).toEqual(alive(fromSnapshot(new Part(tree, sight).snapshot())))
          expect(JSON.stringify(toSnapshot(theirs))).not.toContain('ines')
        }
      }),
      { numRuns: 1500 },
    )
  })
  it('tells nothing of what is changed while the part is in the trash', () => {
    const tree = emptyTree(newTopic('centre', null, 'a0'))
    const part = new Part(tree, { branch: 'a', without: new Set() })
    applyChanges(tree, [
      { op: 'add', topic: 'a', parent: 'centre', order: 'a0' },
      { op: 'remove', topic: 'a' },
    ])
    expect(part.snapshot().topics).toEqual([{ id: 'a', parent: null, order: 'a0' }])
    const change: Change = { op: 'set', topic: 'a', field: 'title', value: 'Secret' }
    applyChanges(tree, [change])
    expect(part.news([change])).toEqual([])
  })
})
