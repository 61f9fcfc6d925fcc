import { diffWordsWithSpace, diffArrays } from 'diff'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { runsBetween, wordsBetween, wordsOf } from './words'

const steps = (a: readonly string[], b: readonly string[]): number =>
  runsBetween(a, b)
    .filter(({ kind }) => kind !== 'same')
    .reduce((sum, { items }) => sum + items.length, 0)
const told = (a: string, b: string): string =>
  wordsBetween(a, b)
    .map(({ kind, text }) => ({ same: text, gone: `[-${text}-]`, come: `{+${text}+}` })[kind])
    .join('')

describe('text by words', () => {
  it('is the shortest script of Myers’ own example: ABCABBA to CBABAC takes 5 (Algorithmica 1, 1986, figure 1)', () => {
    const [a, b] = [[...'ABCABBA'], [...'CBABAC']]
    expect(steps(a, b)).toBe(5)
  })

  it.each([
    ['Lift on Monday', 'Lift on Tuesday', 'Lift on [-Monday-]{+Tuesday+}'],
    ['Order lamps', 'Order the lamps', 'Order {+the +}lamps'],
    ['', 'Ramp', '{+Ramp+}'],
    ['Ramp', '', '[-Ramp-]'],
    ['40 chairs, 3 desks', '45 chairs, 3 desks', '[-40-]{+45+} chairs, 3 desks'],
    ['The move, again', 'Move to the tannery', '[-The move, again-]{+Move to the tannery+}'],
    ['Tür auf', 'Tür zu', 'Tür [-auf-]{+zu+}'],
  ])('“%s” to “%s”', (a, b, expected) => expect(told(a, b)).toBe(expected))

  it('gives both texts back, whatever they are', () => {
    const text = fc
      .array(fc.constantFrom('a', 'b', ' ', 'ab', 'ü', '\n', '.', '👩‍🔧'), { maxLength: 40 })
      .map(x => x.join(''))
    fc.assert(
      fc.property(text, text, (a, b) => {
        const runs = wordsBetween(a, b)
        const of = (not: string): string =>
          runs.flatMap(({ kind, text: words }) => (kind === not ? [] : words)).join('')
        expect(of('come')).toBe(a)
        expect(of('gone')).toBe(b)
        expect(runs.every(({ kind }, i) => kind !== runs[i - 1]?.kind)).toBe(true)
      }),
    )
  })

  it('needs as few words as jsdiff 9 does', () => {
    const list = fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { maxLength: 24 })
    fc.assert(
      fc.property(list, list, (a, b) => {
        const other = diffArrays(a, b)
          .filter(({ added, removed }) => added || removed)
          .reduce((sum, { count }) => sum + (count ?? 0), 0)
        expect(steps(a, b)).toBe(other)
      }),
    )
    const [a, b] = [
      'The lift is to be ordered by Monday at the latest.',
      'The second lift was ordered on Monday, at last.',
    ]
    const words = diffWordsWithSpace(a, b).filter(({ added, removed }) => added || removed)
    expect(steps(wordsOf(a), wordsOf(b))).toBeLessThanOrEqual(
      words.reduce((sum, { value }) => sum + wordsOf(value).length, 0),
    )
  })

  it('takes texts that have nothing in common for others altogether, in no time', () => {
    const [a, b] = [0, 1].map(n => Array.from({ length: 20_000 }, (_, i) => `w${n}${i}`))
    const began = performance.now()
    expect(steps(a!, b!)).toBe(40_000)
    expect(performance.now() - began).toBeLessThan(4000)
  })
})
