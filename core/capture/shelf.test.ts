import fc from 'fast-check'
import { expect, it } from 'vitest'
import { searchShelf, type Shelved } from './shelf'

const SHELF: Shelved[] = [
  { id: 'a', label: 'books', emoji: '📚', words: ['books', 'library', 'bücherstapel', 'lesen'] },
  { id: 'b', label: 'open book', emoji: '📖', words: ['open', 'book', 'buch', 'lesen'] },
  { id: 'c', label: 'crate', emoji: null, words: ['crate', 'box'] },
].map(one => ({ ...one, words: one.words.map(word => word.normalize('NFD').replace(/\p{M}/gu, '')) }))
const ids = (words: string): string[] => searchShelf(SHELF, words, 10).map(({ id }) => id)

it('finds by whole words before beginnings, in any language, whatever case or accents', () => {
  expect(ids('book')).toEqual(['b', 'a'])
  expect(ids('BÜCHER')).toEqual(['a'])
  expect(ids('lesen')).toEqual(['a', 'b'])
  expect(ids('book open')).toEqual(['b'])
  expect(ids('book crate')).toEqual([])
  expect(ids('rate')).toEqual(['c'])
  expect([ids(''), ids('  '), ids('x')]).toEqual([[], [], []])
})

it('finds only what every word fits, and never more than was asked for', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 12 }), fc.nat(3), (words, most) => {
      const found = searchShelf(SHELF, words, most)
      expect(found.length).toBeLessThanOrEqual(most)
      expect(new Set(found).size).toBe(found.length)
    }),
  )
})
