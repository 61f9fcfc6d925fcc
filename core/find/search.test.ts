import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, emptyTree, type Initial, isWithin, type Tree } from '../tree'
import { byLetters } from './by-letters'
import { asksForSomething, neighbourMatch, search } from './search'

function grow(...topics: [id: string, parent: string | null, given?: Initial][]): Tree {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  for (const [id, parent, given] of topics)
    applyChanges(tree, addAt(tree, { parent, index: Infinity }, () => id, { title: id, ...given }).changes)
  return tree
}

describe('search', () => {
  const tree = grow(
    ['Fit-out', 'c'],
    ['Shelving in oak', 'Fit-out', { markers: ['risk'] }],
    ['Café furniture', 'Fit-out'],
    ['Books', 'c'],
    ['OAK crates', 'Books', { markers: ['idea', 'risk'] }],
    ['Oak, loose', null],
    ['Oak in the tray', null, { tray: true }],
  )
  it('finds all words in any order, without case and accents, in reading order, on the canvas only', () => {
    expect(search(tree, { text: 'oak', marker: null }).matches).toEqual(['Shelving in oak', 'OAK crates', 'Oak, loose'])
    expect(search(tree, { text: ' OAK  shelv ', marker: null }).matches).toEqual(['Shelving in oak'])
    expect(search(tree, { text: 'cafe', marker: null }).matches).toEqual(['Café furniture'])
    expect(search(tree, { text: 'elm', marker: null }).matches).toEqual([])
  })
  it('narrows by marker, alone or with words', () => {
    expect(search(tree, { text: '', marker: 'risk' }).matches).toEqual(['Shelving in oak', 'OAK crates'])
    expect(search(tree, { text: 'crates', marker: 'risk' }).matches).toEqual(['OAK crates'])
    expect([
      asksForSomething({ text: ' ', marker: null }),
      asksForSomething({ text: '', marker: 'x' }),
      asksForSomething({ text: 'a', marker: null }),
    ]).toEqual([false, true, true])
  })
  it('keeps the path to each match lit, and nothing else', () => {
    expect([...search(tree, { text: 'crates', marker: null }).lit].sort()).toEqual(['Books', 'OAK crates', 'c'])
  })
  it('many matches come in the same order as few', () => {
    const many = grow(
      ...Array.from(
        { length: 1700 },
        (_, i) =>
          [`oak ${i}`, i < 40 ? 'c' : `oak ${i % 40}`, i % 7 === 0 ? { markers: ['risk'] } : {}] as [
            string,
            string,
            Initial,
          ],
      ),
    )
    const all = search(many, { text: 'oak', marker: null }).matches
    const some = search(many, { text: 'oak', marker: 'risk' }).matches
    expect([all.length, some.length]).toEqual([1700, 243])
    expect(some).toEqual(all.filter(id => many.topics.get(id)!.markers.includes('risk')))
  })
  it('for any tree: a topic is lit exactly when it, or something below it, matches', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(30), fc.constantFrom('oak', 'elm', 'ash')), { minLength: 1, maxLength: 40 }),
        steps => {
          const any = grow()
          steps.forEach(([at, title], i) => {
            const ids = [...any.topics.keys()]
            applyChanges(
              any,
              addAt(any, { parent: ids[at % ids.length]!, index: at }, () => `t${i}`, { title }).changes,
            )
          })
          const { matches, lit } = search(any, { text: 'oak', marker: null })
          for (const topic of any.topics.values()) {
            expect(matches.includes(topic.id)).toBe(topic.title === 'oak')
            expect(lit.has(topic.id)).toBe(matches.some(match => isWithin(any, match, topic.id)))
          }
        },
      ),
    )
  })
})

describe('going from match to match', () => {
  const matches = ['a', 'b', 'c']
  it('goes on from where one stands, around the end, and begins at the first or the last', () => {
    expect(neighbourMatch(matches, 'a', -1, 1)).toEqual({ id: 'b', index: 1 })
    expect(neighbourMatch(matches, 'c', -1, 1)).toEqual({ id: 'a', index: 0 })
    expect(neighbourMatch(matches, 'a', -1, -1)).toEqual({ id: 'c', index: 2 })
    expect(neighbourMatch(matches, 'elsewhere', -1, 1)).toEqual({ id: 'a', index: 0 })
    expect(neighbourMatch(matches, 'elsewhere', -1, -1)).toEqual({ id: 'c', index: 2 })
    expect(neighbourMatch(matches, 'elsewhere', 1, 1)).toEqual({ id: 'c', index: 2 })
    expect(neighbourMatch([], 'a', -1, 1)).toBeNull()
  })
})

describe('topics by a few letters', () => {
  const tree = grow(['Old oak', 'c'], ['Oak shelves', 'c'], ['Café', 'c'], ['Oak, loose', null])
  const titles = (letters: string, most = 8): string[] => byLetters(tree, letters, most).map(({ title }) => title)
  it('are those whose titles have them all, without case and accents, and those that begin with them come first', () => {
    expect(titles('oak')).toEqual(['Oak shelves', 'Oak, loose', 'Old oak'])
    expect(titles('SHELV oak')).toEqual(['Oak shelves'])
    expect(titles('cafe')).toEqual(['Café'])
    expect(titles('oak', 1)).toEqual(['Oak shelves'])
    expect(titles('elm')).toEqual([])
  })
  it('are as many as there may be, and only those that may be', () => {
    expect(titles('', 2)).toHaveLength(2)
    expect(byLetters(tree, 'oak', 8, ({ parent }) => parent === null).map(({ title }) => title)).toEqual(['Oak, loose'])
  })
})
