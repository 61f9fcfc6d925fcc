import { describe, expect, it } from 'vitest'
import { applyChanges, editSchema, emptyTree, newTopic, fromSnapshot, topicOf } from './index'
import { readJson } from '../formats/json'
import { type Upgrade, upgradeChanges, upgradeEdit, upgradeTopics } from './upgrade'

/** Formats that never were: in 1 and 2 a topic’s title was called name; 3 split “finish” into done and a due day. */
const UPGRADES: readonly Upgrade[] = [
  { change: change => [change], topic: topic => topic },
  {
    change: change => [change.field === 'name' ? { ...change, field: 'title' } : change],
    topic: ({ name, ...topic }) => (name === undefined ? topic : { ...topic, title: name }),
  },
  {
    change: change =>
      change.field === 'finish'
        ? [
            { ...change, field: 'done', value: 100 },
            { ...change, field: 'due', value: change.value },
          ]
        : [change],
    topic: topic => topic,
  },
]

describe('an older format', () => {
  it('of changes is read through every step since, and applies', () => {
    const tree = emptyTree(newTopic('c', null, 'a0'))
    const old = [
      { op: 'add', topic: 't', parent: 'c', order: 'a0' },
      { op: 'set', topic: 't', field: 'name', value: 'Lift' },
      { op: 'set', topic: 't', field: 'finish', value: '2027-05-12' },
    ]
    applyChanges(tree, upgradeChanges(1, old, UPGRADES))
    expect(topicOf(tree, 't')).toMatchObject({ title: 'Lift', done: 100, due: '2027-05-12' })
    expect(upgradeChanges(4, old, UPGRADES)).toEqual(old)
  })

  it('of a snapshot likewise', () => {
    const topics = upgradeTopics(2, [{ id: 'c', parent: null, order: 'a0', name: 'Move' }] as object[], UPGRADES)
    const snapshot = { centre: 'c', fields: emptyTree(newTopic('c', null, 'a0')).fields, topics }
    expect(topicOf(fromSnapshot(snapshot as never), 'c').title).toBe('Move')
  })

  it('of an edit that waited in a browser is refused or taken as what it has become', () => {
    const change = { op: 'set', topic: 't', field: 'name', value: 'Lift' }
    expect(editSchema.parse(upgradeEdit({ id: 'e', format: 2, changes: [change] }, UPGRADES)).changes).toEqual([
      { ...change, field: 'title' },
    ])
    expect(editSchema.safeParse(upgradeEdit({ id: 'e', format: 4, changes: [change] }, UPGRADES)).success).toBe(false)
    expect(editSchema.safeParse(upgradeEdit({ id: 'e', changes: [7] })).success).toBe(false)
    expect(upgradeEdit('nothing')).toBe('nothing')
  })

  it('of 3, in which each main branch had a side: it goes, and nothing else with it', () => {
    expect(
      upgradeChanges(3, [
        { op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'Lift', side: 'left' } },
        { op: 'set', topic: 't', field: 'side', value: 'right' },
        { op: 'set', topic: 't', field: 'done', value: 50 },
      ]),
    ).toEqual([
      { op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'Lift' } },
      { op: 'set', topic: 't', field: 'done', value: 50 },
    ])
  })

  it('of 1, in which a branch could have a page: an annex now, in topics, changes and the filters of kept views', () => {
    const filter = {
      join: 'all',
      of: [
        { about: 'kind', is: 'page' },
        { about: 'text', where: 'title', words: 'page' },
      ],
    }
    const tree = emptyTree(newTopic('c', null, 'a0'))
    applyChanges(
      tree,
      upgradeChanges(1, [
        { op: 'add', topic: 't', parent: 'c', order: 'a0', with: { title: 'page', page: true } },
        { op: 'add', topic: 'u', parent: 'c', order: 'a1' },
        { op: 'set', topic: 'u', field: 'page', value: true },
      ]),
    )
    expect(['t', 'u'].map(id => topicOf(tree, id).annex)).toEqual([true, true])
    expect(topicOf(tree, 't')).not.toHaveProperty('page')
    const now = fromSnapshot({
      centre: 'c',
      fields: { ...tree.fields, views: [{ query: filter }] },
      topics: [{ id: 'c', parent: null, order: 'a0', page: true }],
    } as never)
    expect(topicOf(now, 'c').annex).toBe(true)
    expect(JSON.stringify(now.fields.views)).toBe(
      JSON.stringify([{ query: { ...filter, of: [{ about: 'kind', is: 'annex' }, filter.of[1]] } }]),
    )
  })

  it('that a newer program wrote is not guessed at', () => {
    expect(() => upgradeChanges(5, [], UPGRADES)).toThrow(RangeError)
    expect(() => upgradeTopics(0, [], UPGRADES)).toThrow(RangeError)
    expect(() => upgradeEdit({ id: 'e', format: 99, changes: [] }, UPGRADES)).toThrow(RangeError)
  })

  it('that is no such thing, or nests without end, is left for the schema to refuse', () => {
    let deep: unknown = 'page'
    for (let i = 0; i < 60_000; i++) deep = [deep]
    for (const odd of [
      { op: 'add', topic: 't', parent: 'c', order: 'a0', with: 'page' },
      { op: 'add', topic: 't', parent: 'c', order: 'a0', with: [7] },
      { op: 'tree-put', set: 'views', member: deep },
      deep,
    ])
      expect(editSchema.safeParse(upgradeEdit({ id: 'e', changes: [odd] })).success).toBe(false)
  })
  it('of a file is read in the new words, and one of a later version is refused in words', () => {
    const file = (format: number): string =>
      JSON.stringify({
        format: 'sun-porch-tree',
        version: 1,
        tree: { format, centre: 'c', fields: {}, topics: [{ id: 'c', parent: null, order: 'a0', page: true }] },
      })
    expect(topicOf(readJson(file(1)).tree, 'c').annex).toBe(true)
    expect(() => readJson(file(99))).toThrow(/newer version.*Nothing was changed/)
    expect(() => readJson(file(2))).toThrow(/page/)
  })
})
