import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Initial, type Tree } from '../tree'
import { outlineRows, type Row, type RowsAsked } from './rows'
import type { Grouping } from '../tree/view'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
const asked = (part: Partial<RowsAsked> = {}): RowsAsked => ({
  sort: null,
  group: null,
  only: null,
  today: '2027-03-10',
  folded: () => false,
  hidden: () => false,
  wanted: () => true,
  personName: id => id,
  markerName: id => id,
  ...part,
})
const said = (rows: readonly Row[]): string[] =>
  rows.map(row => (row.kind === 'group' ? `# ${row.name} ${row.count}` : `${'-'.repeat(row.level)}${row.id}`))

const tree = grow(
  ['b', 'c', { due: '2027-03-20', done: 10 }],
  ['a', 'c', { due: '2027-03-12', people: ['ines', 'tomas'] }],
  ['a2', 'a', { due: '2027-03-01' }],
  ['a1', 'a', { done: 100, people: ['ines'], due: '2027-01-05' }],
  ['a10', 'a', { markers: ['risk'] }],
  ['d', 'c', { due: '2027-03-10', people: ['tomas'] }],
  ['loose', null],
)

describe('rows as the tree has them', () => {
  it('with folds, one branch alone, and what a filter hides', () => {
    expect(said(outlineRows(tree, asked()))).toEqual(['-c', '--b', '--a', '---a2', '---a1', '---a10', '--d', '-loose'])
    expect(said(outlineRows(tree, asked({ folded: id => id === 'a' })))).toEqual(['-c', '--b', '--a', '--d', '-loose'])
    expect(said(outlineRows(tree, asked({ only: 'a', folded: id => id === 'a' })))).toEqual([
      '-a',
      '--a2',
      '--a1',
      '--a10',
    ])
    expect(said(outlineRows(tree, asked({ hidden: id => ['b', 'd', 'a1', 'loose'].includes(id) })))).toEqual([
      '-c',
      '--a',
      '---a2',
      '---a10',
    ])
  })
})

describe('rows in another order', () => {
  it('by what the plan says of them; what isn’t planned comes last, whichever way', () => {
    const days = { b: ['2027-03-01', '2027-03-20', 0], a: ['2027-03-05', '2027-03-12', 7.5] } as const
    const planned: RowsAsked['planned'] = id => {
      const [start, finish, totalFloat] = days[id as 'a'] ?? []
      return start === undefined ? null : { start, finish: finish!, totalFloat: totalFloat! }
    }
    const order = (by: 'begins' | 'ends' | 'float', down = false): string =>
      said(outlineRows(tree, asked({ sort: { by, down }, folded: id => id !== 'c', planned })))
        .filter(row => row.startsWith('--'))
        .join(' ')
    expect([order('begins'), order('ends'), order('float'), order('float', true)]).toEqual([
      ...['--b --a --d', '--a --b --d', '--b --a --d', '--a --b --d'],
    ])
    // Without a plan the order is the tree's.
    expect(said(outlineRows(tree, asked({ sort: { by: 'ends', down: true } })))).toEqual(
      said(outlineRows(tree, asked())),
    )
  })

  it('siblings are sorted at each level, numbers in words by their value, what has no value comes last both ways', () => {
    expect(said(outlineRows(tree, asked({ sort: { by: 'title', down: false } })))).toEqual([
      '-c',
      '--a',
      '---a1',
      '---a2',
      '---a10',
      '--b',
      '--d',
      '-loose',
    ])
    expect(said(outlineRows(tree, asked({ sort: { by: 'due', down: false } })))).toEqual([
      '-c',
      '--d',
      '--a',
      '---a1',
      '---a2',
      '---a10',
      '--b',
      '-loose',
    ])
    expect(said(outlineRows(tree, asked({ sort: { by: 'due', down: true } })))).toEqual([
      '-c',
      '--b',
      '--a',
      '---a2',
      '---a1',
      '---a10',
      '--d',
      '-loose',
    ])
  })
  it('are the same topics, with children under their parents, for any order; the tree stays as it was', () => {
    const before = JSON.stringify([...tree.children])
    fc.assert(
      fc.property(fc.constantFrom('title', 'start', 'due', 'length', 'done', 'priority'), fc.boolean(), (by, down) => {
        const rows = outlineRows(tree, asked({ sort: { by, down } as RowsAsked['sort'] })).flatMap(row =>
          row.kind === 'topic' ? [row] : [],
        )
        expect(rows.map(row => row.id).sort()).toEqual([...tree.topics.keys()].sort())
        rows.forEach((row, i) => {
          const { parent } = tree.topics.get(row.id)!
          if (parent === null) return
          const above = rows.slice(0, i).findLast(other => other.level === row.level - 1)
          expect(above?.id).toBe(parent)
        })
      }),
    )
    expect(JSON.stringify([...tree.children])).toBe(before)
  })
})

describe('rows in groups', () => {
  it.each<[Grouping, string[]]>([
    ['person', ['# ines 2', '--a', '--a1', '# tomas 2', '--a', '--d', '# Nobody 2', '--b', '--a2']],
    ['marker', ['# risk 1', '--a10']],
    ['state', ['# Not begun 3', '--a', '--a2', '--d', '# Under way 1', '--b', '# Done 1', '--a1']],
    // 10 March 2027 is a Wednesday: its week ends on Sunday the 14th.
    [
      'due',
      ['# Late 1', '--a2', '# Today 1', '--d', '# This week 1', '--a', '# Next week 1', '--b', '# Done 1', '--a1'],
    ],
  ])('by %s', (group, rows) => expect(said(outlineRows(tree, asked({ group })))).toEqual(rows))
  it('hold what is looked for alone, sorted inside', () => {
    expect(
      said(outlineRows(tree, asked({ group: 'person', wanted: id => id !== 'a', sort: { by: 'title', down: true } }))),
    ).toEqual(['# ines 1', '--a1', '# tomas 1', '--d', '# Nobody 2', '--b', '--a2'])
    const keys = outlineRows(tree, asked({ group: 'person' })).map(row => row.key)
    expect(new Set(keys).size).toBe(keys.length)
  })
})

it('two people of one name stay two groups', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0' })
  applyChanges(tree, [
    { op: 'add', topic: 'a', parent: 'c', order: 'a0', with: { people: ['i1'] } },
    { op: 'add', topic: 'b', parent: 'c', order: 'a1', with: { people: ['i2'] } },
    { op: 'add', topic: 'd', parent: 'c', order: 'a2', with: { people: ['i1'] } },
  ])
  const rows = outlineRows(tree, {
    sort: null,
    group: 'person',
    only: null,
    today: '2027-03-03',
    folded: () => false,
    hidden: () => false,
    wanted: () => true,
    personName: () => 'Ida Brook',
    markerName: id => id,
  })
  expect(rows.map(row => (row.kind === 'group' ? `${row.name} ${row.count}` : row.id))).toEqual([
    'Ida Brook 2',
    'a',
    'd',
    'Ida Brook 1',
    'b',
  ])
  expect(new Set(rows.map(row => row.key)).size).toBe(rows.length)
})
