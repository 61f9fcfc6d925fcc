import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cut, fileStem, firstCharacter, initialsOf } from './title'

it('the first character is whole, for initials', () => {
  expect(['👩‍👩‍👧‍👦 Family', 'E\u0301va', '\ud83d', ''].map(firstCharacter)).toEqual(['👩‍👩‍👧‍👦', 'E\u0301', '\ufffd', ''])
})

it('cuts no character in two, and gives well-formed text', () => {
  expect(cut('Lift 👩‍👩‍👧‍👦 and more', 10)).toBe('Lift ')
  expect(cut('e\u0301e\u0301', 3)).toBe('e\u0301')
  expect(cut('half \ud83d', 20)).toBe('half \ufffd')
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.integer({ min: 0, max: 40 }), (text, most) => {
      const shown = cut(text, most)
      expect(shown.length).toBeLessThanOrEqual(most)
      expect(shown.isWellFormed()).toBe(true)
      expect(text.toWellFormed().startsWith(shown)).toBe(true)
    }),
  )
})

it('a file’s name is whole even where its emoji would be cut', () => {
  expect(fileStem(`${'x'.repeat(79)}🛗`)).toBe('x'.repeat(79))
})

it('initials are those of the name, whatever stands behind it in brackets', () => {
  expect(['Tove Lind', 'Tove Lind (guest)', 'tove', ''].map(initialsOf)).toEqual(['TL', 'TL', 'T', '?'])
})
