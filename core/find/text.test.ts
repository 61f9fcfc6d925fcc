import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fold, foldedTitle } from './text'

describe('folded text', () => {
  it.each([
    ['Rundgänge', 'rundgange'],
    ['ÉCOLE', 'ecole'],
    ['Straße', 'strasse'],
    ['Łódź', 'łodz'],
    ['ﬁn', 'fin'],
    ['日本', '日本'],
  ])('%s', (text, folded) => {
    expect(fold(text)).toBe(folded)
  })
  it('is the same of plain letters, which go a shorter way', () => {
    // The rule itself, as docstring and Unicode's normalization have it.
    const slowly = (text: string): string =>
      text
        .normalize('NFKD')
        .replace(/\p{M}+/gu, '')
        .toLocaleLowerCase('en')
        .replaceAll('ß', 'ss')
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string({ unit: 'grapheme' }), fc.string({ unit: 'binary' })), text => {
        expect(fold(text)).toBe(slowly(text))
      }),
      { numRuns: 1000 },
    )
    expect(fold('A\u0000\u007FZ')).toBe('a\u0000\u007Fz')
  })
  it('of a topic is worked out once and anew for another topic object', () => {
    const topic = { title: 'Öffnung' }
    expect([foldedTitle(topic), foldedTitle(topic), foldedTitle({ ...topic, title: 'É' })]).toEqual([
      'offnung',
      'offnung',
      'e',
    ])
  })
})
