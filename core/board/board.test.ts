import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allTopics, applyChanges, type Change, isTask, type Topic, topicOf, type Tree } from '../tree'
import { grow, rolls, seed } from '../../tests/rolled'
import { type Board, boardOf, cardBeside, placeOn } from './board'
import { bornIn, cardMoved } from './move'

const PEOPLE = [
  { id: 'rana', name: 'Rana Tahiri' },
  { id: 'ines', name: 'Ines Brandt' },
]
const board = (tree: Tree, by: string, rows = false, more: object = {}): Board =>
  boardOf(tree, {
    shape: { by, rows },
    only: null,
    people: PEOPLE,
    personName: id => `(${id})`,
    hidden: () => false,
    ...more,
  })
/** The board as one would read it out: columns with their cards. */
const read = ({ columns, lanes }: Board): Record<string, string[]> =>
  Object.fromEntries(columns.map(({ name }, i) => [name, lanes.flatMap(({ cells }) => cells[i]!)]))
const topics = (tree: Tree, ...list: [string, string, Partial<Topic>][]): Tree => {
  applyChanges(
    tree,
    list.map(([topic, parent, content], i): Change => ({ op: 'add', topic, parent, order: `b${i}`, with: content })),
  )
  return tree
}
const BYS = ['state', 'person', 'priority', 'marker', 'set-importance', 'set-kind'] as const

describe('a board', () => {
  const tree = (): Tree =>
    topics(
      seed(),
      ['permit', 'a', { done: 100, people: ['ines'] }],
      ['lift', 'a', { began: '2027-01-11', duration: 3, priority: 1, people: ['ines', 'rana'] }],
      ['doors', 'b', { due: '2027-03-01', markers: ['must', 'risk'] }],
      ['words', 'b', {}],
    )

  it('has a column for each state, with the tasks in the order in which the tree is read', () => {
    expect(read(board(tree(), 'state'))).toEqual({ 'Not begun': ['doors'], 'Under way': ['lift'], Done: ['permit'] })
  })

  it('by person has everybody, those with nothing too; who shares a task has it in both columns', () => {
    expect(read(board(tree(), 'person'))).toEqual({
      Nobody: ['doors'],
      'Ines Brandt': ['permit', 'lift'],
      'Rana Tahiri': ['lift'],
    })
    // Whoever has left and still has something isn't nobody.
    expect(read(board(topics(tree(), ['lamps', 'c', { people: ['gone'] }]), 'person'))['(gone)']).toEqual(['lamps'])
  })

  it('by the markers of a set has those, and tasks that bear none of them', () => {
    const found = read(board(tree(), 'set-importance'))
    expect(Object.keys(found).slice(0, 3)).toEqual(['None of these', 'Must', 'Should'])
    expect(found.Must).toEqual(['doors'])
    expect(found['None of these']).toEqual(['permit', 'lift'])
    expect(Object.keys(read(board(tree(), 'marker')))).toEqual(['None of these', 'Must', 'Risk'])
  })

  it('has a row for each main branch, also without a card; loose topics have the last', () => {
    const made = tree()
    applyChanges(made, [{ op: 'add', topic: 'loose', parent: null, order: 'a0', with: { done: 0 } }])
    const { lanes } = board(made, 'state', true)
    expect(lanes.map(({ branch, cells }) => [branch, cells.flat()])).toEqual([
      ['a', ['lift', 'permit']],
      ['b', ['doors']],
      ['c', []],
      [null, ['loose']],
    ])
    expect(board(made, 'state', true, { only: 'a' }).lanes.flatMap(({ cells }) => cells.flat())).toEqual([
      'permit',
      'lift',
    ])
  })

  it('tells how many a column is to hold', () => {
    const made = tree()
    applyChanges(made, [{ op: 'tree-put', set: 'columnLimits', member: { id: 'state-begun', most: 1 } }])
    expect(board(made, 'state').columns.map(({ count, most }) => [count, most])).toEqual([
      [1, null],
      [1, 1],
      [1, null],
    ])
  })

  it('is gone about by keys: over empty columns, from row to row', () => {
    const made = board(tree(), 'state', true)
    const from = (id: string, to: 'up' | 'down' | 'left' | 'right') => cardBeside(made, placeOn(made, id)!, to)
    expect(from('lift', 'right')).toBe('permit')
    expect(from('lift', 'left')).toBe('doors')
    expect(from('permit', 'right')).toBeNull()
    expect(from('doors', 'up')).toBeNull()
    expect(from('doors', 'right')).toBe('lift')
  })
})

describe('laws of a board, over trees of every kind', () => {
  it('every task stands in each column that it belongs to and in no other; nothing else is a card but what is marked', () => {
    fc.assert(
      fc.property(rolls(40), fc.constantFrom(...BYS), fc.boolean(), (list, by, rows) => {
        const tree = grow(seed(), list)
        const { columns, lanes } = board(tree, by, rows)
        const cards = new Set(lanes.flatMap(({ cells }) => cells.flat()))
        for (const topic of allTopics(tree)) {
          const able = topic.id !== tree.centre && topic.reference === null
          if (able && isTask(topic)) expect(cards.has(topic.id)).toBe(true)
          if (!able) expect(cards.has(topic.id)).toBe(false)
        }
        for (const [i, { count }] of columns.entries()) {
          const all = lanes.flatMap(({ cells }) => cells[i]!)
          expect(all.length).toBe(count)
          expect(new Set(all).size).toBe(count)
        }
      }),
      { numRuns: 300 },
    )
  })

  it('a card that is moved stands there and where else it stood but where it left; what is born in a column stands in it', () => {
    let moved = 0
    fc.assert(
      fc.property(rolls(40), fc.constantFrom(...BYS), fc.nat(), fc.nat(), (list, by, one, other) => {
        const tasks = [{ done: 0 }, { people: ['ines', 'rana'] }, { priority: 2, markers: ['must'] }]
        const tree = grow(
          topics(seed(), ...tasks.map((has, i): [string, string, Partial<Topic>] => [`t${i}`, 'a', has])),
          list,
        )
        const before = board(tree, by)
        const held = before.columns.flatMap((column, i) => before.lanes[0]!.cells[i]!.map(id => ({ id, column })))
        if (held.length === 0) return
        const { id, column } = held[one % held.length]!
        const to = before.columns[other % before.columns.length]!
        const was = topicOf(tree, id)
        applyChanges(tree, cardMoved(tree, id, column.value, to.value, '2027-01-11', 'ines'))
        const after = board(tree, by)
        const at = after.columns.findIndex(next => next.id === to.id)
        const others = after.columns.filter((_, i) => after.lanes[0]!.cells[i]!.includes(id)).map(next => next.id)
        // Nobody's column holds what is nobody's: it's left by whoever else still has it.
        if (to.id.endsWith('-none') && others.length > 0 && !others.includes(to.id))
          expect(others).not.toContain(column.id)
        else {
          expect(at < 0 ? [] : after.lanes[0]!.cells[at]).toContain(id)
          if (column.id !== to.id) expect(others).not.toContain(column.id)
          moved++
        }
        expect({ ...topicOf(tree, id), done: 0, began: 0, ended: 0, priority: 0, people: 0, markers: 0 }).toEqual({
          ...was,
          done: 0,
          began: 0,
          ended: 0,
          priority: 0,
          people: 0,
          markers: 0,
        })
        expect(cardMoved(tree, id, to.value, to.value, '2027-01-11', 'ines').length).toBe(0)
        applyChanges(tree, [
          { op: 'add', topic: 'born', parent: null, order: 'zz', with: bornIn(to.value, '2027-01-11') },
        ])
        const third = board(tree, by)
        expect(third.lanes[0]!.cells[third.columns.findIndex(next => next.id === to.id)]).toContain('born')
      }),
      { numRuns: 400 },
    )
    expect(moved).toBeGreaterThan(50)
  })
})
