import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addAt,
  applyChanges,
  BLANK,
  childrenOf,
  emptyTree,
  evenSides,
  figureIn,
  invertAll,
  joinTopics,
  longestRising,
  moveTo,
  openNote,
  piecesOf,
  plantAt,
  reverseChildren,
  sidesBelow,
  sortChildren,
  splitTopic,
  takeApart,
  toBase64,
  toOutline,
  topicOf,
  type Initial,
  type Step,
  type Tree,
  collator,
} from './index'
import * as Y from 'yjs'

let made = 0
const newId = (): string => `n${made++}`
function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}
const titles = (tree: Tree, id: string | null = 'c'): string[] =>
  childrenOf(tree, id).map(kid => topicOf(tree, kid).title)
/** Makes a step and checks that taking it back shows what was there before. */
function run(tree: Tree, step: Step): void {
  const before = JSON.stringify([...tree.children].sort())
  const patches = applyChanges(tree, step.changes)
  const after = JSON.stringify([...tree.children].sort())
  const back = applyChanges(tree, invertAll(step.changes, patches))
  expect(JSON.stringify([...tree.children].filter(([, kids]) => kids.length > 0).sort())).toBe(before)
  applyChanges(tree, invertAll(invertAll(step.changes, patches), back))
  expect(JSON.stringify([...tree.children].sort())).toBe(after)
}

describe('sorting children', () => {
  const start = (): Tree =>
    grow(
      ['Crate 10', 'c', { due: '2027-03-02', priority: 2 }],
      ['crate 9', 'c', { done: 50 }],
      ['Árbol', 'c', { due: '2027-01-05', priority: 1 }],
      ['box', 'c'],
    )
  it('goes by title without case and accents, numbers by value', () => {
    const tree = start()
    run(tree, sortChildren(tree, 'c', 'title'))
    expect(titles(tree)).toEqual(['Árbol', 'box', 'crate 9', 'Crate 10'])
  })
  it('puts what has no date or priority last, and keeps the order of equals', () => {
    const tree = start()
    run(tree, sortChildren(tree, 'c', 'due'))
    expect(titles(tree)).toEqual(['Árbol', 'Crate 10', 'crate 9', 'box'])
    run(tree, sortChildren(tree, 'c', 'priority'))
    expect(titles(tree)).toEqual(['Árbol', 'Crate 10', 'crate 9', 'box'])
    run(tree, reverseChildren(tree, 'c'))
    expect(titles(tree)).toEqual(['box', 'crate 9', 'Crate 10', 'Árbol'])
  })
  it('by figure: the number a title names, the largest first, none last', () => {
    for (const [title, figure] of [
      ['Shelving, 14 350', 14350],
      ['Lift 14,350.50', 14350.5],
      ['Lamps 1.234,5', 1234.5],
      ['Oak 12.5', 12.5],
      ['12 chairs at 80', 80],
      ['Back −40', -40],
      ['Room B2', null],
      ['Crates', null],
      ['2.500', 2500],
      ['3rd', null],
    ] as const)
      expect(figureIn(title), title).toBe(figure)
    const tree = grow(['Paint 900', 'c'], ['Curtains', 'c'], ['Shelving, 14 350', 'c'], ['Lamps 2.100', 'c'])
    run(tree, sortChildren(tree, 'c', 'figure'))
    expect(titles(tree)).toEqual(['Shelving, 14 350', 'Lamps 2.100', 'Paint 900', 'Curtains'])
  })
  it('moves as few topics as can be, for any order', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 99 }), { minLength: 1, maxLength: 25 }), numbers => {
        const tree = grow(...numbers.map(n => [`t${n}`, 'c'] as [string, string]))
        const step = sortChildren(tree, 'c', 'title')
        applyChanges(tree, step.changes)
        expect(titles(tree)).toEqual([...numbers].sort((a, b) => a - b).map(n => `t${n}`))
        expect(step.changes.length).toBe(numbers.length - longestRising(numbers).length)
      }),
    )
  })
  it('longest rising run: as long as the best of all choices', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer(), { maxLength: 10 }), values => {
        let best = 0
        for (let mask = 0; mask < 2 ** values.length; mask++) {
          const chosen = values.filter((_, i) => (mask >> i) % 2 === 1)
          if (chosen.every((value, i) => i === 0 || chosen[i - 1]! < value)) best = Math.max(best, chosen.length)
        }
        const rising = longestRising(values)
        expect(rising.length).toBe(best)
        expect(rising.every((value, i) => i === 0 || rising[i - 1]! < value)).toBe(true)
      }),
    )
  })
})

describe('joining, splitting, taking apart', () => {
  it('joins titles, children, markers, people and note text into the first', () => {
    const note = (text: string): string => {
      const doc = new Y.Doc()
      doc.getText('t').insert(0, text)
      return toBase64(Y.encodeStateAsUpdate(doc))
    }
    const tree = grow(
      ['A', 'c', { markers: ['idea'] }],
      ['B', 'c', { markers: ['risk'], people: ['u1'], note: note('from B') }],
      ['B1', 'B'],
      ['X', 'c'],
      ['C', 'c'],
      ['C1', 'C'],
    )
    run(tree, joinTopics(tree, ['C', 'A', 'B']))
    expect(titles(tree)).toEqual(['A B C', 'X'])
    expect(titles(tree, 'A')).toEqual(['B1', 'C1'])
    expect(topicOf(tree, 'A')).toMatchObject({ markers: ['idea', 'risk'], people: ['u1'] })
    expect(openNote(topicOf(tree, 'A').note).getText('t').toString()).toBe('from B')
    expect(joinTopics(tree, ['A']).changes).toEqual([])
    expect(joinTopics(tree, ['c', 'X']).changes).toEqual([])
    expect(joinTopics(tree, ['X', 'B1']).changes).toEqual([])
  })
  it('splits at lines, else sentences, else semicolons, else commas, and loses no word', () => {
    expect(piecesOf('Crates\nVan\n\nTape')).toEqual(['Crates', 'Van', 'Tape'])
    expect(piecesOf('Order crates. Ask for a van! When?')).toEqual(['Order crates.', 'Ask for a van!', 'When?'])
    expect(piecesOf('oak; pine, beech')).toEqual(['oak', 'pine, beech'])
    expect(piecesOf('oak, pine, beech')).toEqual(['oak', 'pine', 'beech'])
    expect(piecesOf('Shelving')).toEqual(['Shelving'])
    const tree = grow(['A', 'c', { title: 'oak, pine, beech' }], ['A1', 'A'], ['B', 'c'])
    run(tree, splitTopic(tree, 'A', newId))
    expect(titles(tree)).toEqual(['oak', 'pine', 'beech', 'B'])
    expect(titles(tree, 'A')).toEqual(['A1'])
    expect(splitTopic(tree, 'B', newId).changes).toEqual([])
    expect(splitTopic(tree, 'c', newId).changes).toEqual([])
  })
  it('takes a branch apart: children stand where it stood', () => {
    const tree = grow(['A', 'c'], ['B', 'c'], ['B1', 'B'], ['B2', 'B'], ['C', 'c'])
    run(tree, takeApart(tree, ['B']))
    expect(titles(tree)).toEqual(['A', 'B1', 'B2', 'C'])
    expect(takeApart(tree, ['A', 'c']).changes).toEqual([])
  })
  it('of a topic and one below it only the upper is taken apart, and nothing is lost with it', () => {
    const tree = grow(['A', 'c'], ['B', 'A'], ['B1', 'B'], ['D', 'c'], ['D1', 'D'])
    run(tree, takeApart(tree, ['B', 'A', 'D']))
    expect(titles(tree)).toEqual(['B', 'D1'])
    expect(titles(tree, 'B')).toEqual(['B1'])
  })
})

it('moving out of the tray and to another parent forgets what only made sense there', () => {
  const tree = grow(['A', 'c'], ['B', 'A', { x: 90, y: 10 }], ['L', null, { tray: true }])
  applyChanges(tree, moveTo(tree, ['B', 'L'], { parent: 'c', index: 0 }).changes)
  expect(topicOf(tree, 'B')).toMatchObject({ parent: 'c', x: null, y: null })
  expect(topicOf(tree, 'L')).toMatchObject({ parent: 'c', tray: false })
})

it('what is planted from elsewhere stands where the arrangement puts it; what hangs below keeps its place', () => {
  const tree = grow(['A', 'c', { x: 90, y: 10 }], ['A1', 'A', { x: 40, y: 5 }], ['B', 'c'])
  const step = plantAt(tree, [toOutline(tree, 'A')], { parent: 'B', index: 0 }, newId)
  applyChanges(tree, step.changes)
  const copy = step.made[0]!
  expect(topicOf(tree, copy)).toMatchObject({ title: 'A', x: null, y: null })
  expect(topicOf(tree, childrenOf(tree, copy)[0]!)).toMatchObject({ x: 40, y: 5 })
})

it('evens out the sides by the heights that are drawn, and says nothing when they are even', () => {
  const tree = grow(['A', 'c'], ['B', 'c'], ['C', 'c'])
  const heights = new Map([
    ['A', 100],
    ['B', 200],
    ['C', 300],
  ])
  applyChanges(tree, evenSides(tree, 'c', heights).changes)
  expect(sidesBelow(tree, 'c')).toEqual(['right', 'right', 'left'])
  expect(evenSides(tree, 'c', heights).changes).toEqual([])
})

describe('names and figures as people write them', () => {
  it.each([
    ['π is 3.14159', 3.14159],
    ['0.125 l of paint', 0.125],
    ['14 350', 14350],
    ['14 350', 14350],
    ['14.350,50 kr', 14350.5],
    ['1’250.75', 1250.75],
    ['12.5 %', 12.5],
    ['−3,5 °C', -3.5],
    ['1.250', 1250],
    ['2027', 2027],
    ['C3PO', null],
    ['none', null],
  ])('%s', (title, figure) => {
    expect(figureIn(title)).toBe(figure)
  })
  it('titles sort by the locale’s collation, numbers by their value', () => {
    const sorted = (locale: string): string[] =>
      ['Zebra', 'Ärzte', 'Åse', 'Apfel', 'Room 10', 'Room 9'].sort(collator(locale).compare)
    // In Swedish å and ä come after z (CLDR); in German ä sorts with a.
    expect(sorted('sv')).toEqual(['Apfel', 'Room 9', 'Room 10', 'Zebra', 'Åse', 'Ärzte'])
    expect(sorted('de')).toEqual(['Apfel', 'Ärzte', 'Åse', 'Room 9', 'Room 10', 'Zebra'])
  })
})
