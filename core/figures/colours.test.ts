import { describe, expect, it } from 'vitest'
import { colouredParts } from './colours'
import { readEntry } from './entry'
import { euros, treeOf } from './fixtures/growing'
import { namesOf } from './shown'

describe('the colours of what is typed', () => {
  const tree = treeOf([euros('cost'), euros('hours', { unit: 'h', order: 'a1' })], 'Rooms\n  Lift | cost 5')
  const names = namesOf(tree, 'en-GB')
  const parts = (typed: string) => {
    const entry = readEntry(typed, euros('cost'), names, 'en-GB')
    return colouredParts(typed, typed.trimStart().startsWith('=') ? names : null, 'span' in entry ? entry.span : null)
  }
  const kinds = (typed: string) =>
    parts(typed)
      .filter(({ text }) => text.trim())
      .map(({ text, kind, wrong }) => `${text.trim()}:${wrong ? '!' : ''}${kind ?? ''}`)

  it('name each word’s kind, the inner one where they lie in one another', () => {
    expect(kinds('=sum(Cost of all below) × 2')).toEqual([
      '=:',
      'sum:function',
      '(:',
      'Cost:measure',
      'of:',
      'all below:word',
      ') ×:',
      '2:number',
    ])
    expect(kinds(' = Cost of "Lift"')).toContain('"Lift":topic')
  })
  it('mark the very word that is wrong, and what stands before it keeps its colour', () => {
    expect(kinds('=Cost + Hats')).toEqual(['=:', 'Cost:measure', '+:', 'Hats:!'])
    expect(kinds('=Cost +').at(-1)).not.toContain('measure')
    expect(kinds('twelve')).toEqual(['twelve:!'])
  })
  it('lose and add nothing, whatever is typed', () => {
    for (const typed of ['', '=', '=((((', '=Cost of "', '12', '=1.5 EUR', '= if (1 > 2 ; 3', '=🙂 + İ'])
      expect(
        parts(typed)
          .map(({ text }) => text)
          .join('')
          .trimEnd(),
      ).toBe(typed.trimEnd())
  })
})
