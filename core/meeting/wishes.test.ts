import { describe, expect, it } from 'vitest'
import { applyChanges, BLANK, changeSchema, emptyTree, topicOf, type Tree } from '../tree'
import { itemOf, layOut } from './agenda'
import { briefOf } from './brief'
import { readItemLine } from './quick-item'
import { itemWish, settleWishes } from './wishes'

function planned(): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Coordination' })
  const line = (id: string, order: string, wish?: string) => ({
    id,
    kind: 'line' as const,
    order,
    title: id,
    intent: 'discuss' as const,
    minutes: 10,
    floor: null,
    owner: null,
    ...(wish ? { wish } : {}),
    serves: [],
    pattern: [],
  })
  applyChanges(tree, [
    {
      op: 'add',
      topic: 'm',
      parent: 'c',
      order: 'a0',
      with: {
        title: 'Meeting 1',
        meeting: [
          { id: 'p1', kind: 'person', user: 'ines', mail: null, name: '', needed: true, role: 'chair' },
          {
            id: 'p2',
            kind: 'person',
            user: null,
            mail: 'oskar@porch.example',
            name: 'Oskar',
            needed: true,
            role: null,
          },
          { id: 'p3', kind: 'person', user: null, mail: null, name: 'Rana', needed: false, role: 'notes' },
          line('lift', 'a0', 'Oskar'),
          line('lamps', 'a1', 'Rana'),
        ],
      },
    },
  ])
  return tree
}
const people = [
  { id: 'ines', name: 'Ines Brandt', email: 'ines@porch.example' },
  { id: 'oskar', name: 'Oskar Moreau', email: 'oskar@porch.example' },
]

describe('people may come in any order', () => {
  it('an unknown name in an agenda line is a wish, not text', () => {
    expect(readItemLine('Two offers // decide, 20 min, Oskar', [])).toMatchObject({
      title: 'Two offers',
      owner: null,
      wish: 'Oskar',
      minutes: 20,
    })
    expect(readItemLine('Two offers // in oak', [])).toMatchObject({ title: 'Two offers // in oak', wish: null })
  })
  it('who joins gets what was meant for their name or address; nobody else does', () => {
    const tree = planned()
    const changes = settleWishes(tree, people)
    for (const change of changes) expect(changeSchema.safeParse(change).success).toBe(true)
    applyChanges(tree, changes)
    const brief = briefOf(topicOf(tree, 'm'))
    expect(brief.people.map(({ id, user, mail, needed, role }) => [id, user, mail, needed, role])).toEqual([
      ['p1', 'ines', null, true, 'chair'],
      ['p2', 'oskar', null, true, null],
      ['p3', null, null, false, 'notes'],
    ])
    expect(brief.lines.map(({ id, owner, wish }) => [id, owner, wish])).toEqual([
      ['lift', 'oskar', undefined],
      ['lamps', null, 'Rana'],
    ])
    expect(settleWishes(tree, people)).toEqual([])
  })
  it('laid out, the wish goes along and takes effect on the topic', () => {
    const tree = planned()
    applyChanges(tree, layOut(tree, 'm'))
    expect([itemWish(tree, 'lift'), topicOf(tree, 'lift').people]).toEqual(['Oskar', []])
    applyChanges(tree, settleWishes(tree, people))
    expect([itemWish(tree, 'lift'), itemOf(topicOf(tree, 'lift')).owners]).toEqual([null, ['oskar']])
  })
  it('two of one name are nobody, and who is asked already isn’t asked twice', () => {
    const tree = planned()
    expect(
      settleWishes(tree, [
        { id: 'r1', name: 'Rana Tahiri' },
        { id: 'r2', name: 'Rana Sand' },
      ]),
    ).toEqual([])
    applyChanges(tree, [
      {
        op: 'put',
        topic: 'm',
        set: 'meeting',
        member: { id: 'p4', kind: 'person', user: 'oskar', mail: null, name: '', needed: true, role: null },
      },
    ])
    applyChanges(tree, settleWishes(tree, people))
    expect(briefOf(topicOf(tree, 'm')).people.filter(({ user }) => user === 'oskar')).toHaveLength(1)
  })
})
