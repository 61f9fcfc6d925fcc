import { describe, expect, it } from 'vitest'
import { fieldOf, isBlock, lacksInWords, TEMPLATE_FIELDS, wordsFor } from './template'

const whole = { fields: [], unknown: [], tree: true, headings: [], styles: [] }

describe('the fields of a template', () => {
  it('are known by each of their words, and by no other', () => {
    for (const field of TEMPLATE_FIELDS) for (const word of wordsFor(field)) expect(fieldOf(word)).toBe(field)
    for (const word of ['', 'Title', 'constructor', '__proto__', 'title ']) expect(fieldOf(word)).toBeNull()
    expect(TEMPLATE_FIELDS.filter(field => !isBlock(field))).toEqual(['title', 'date', 'author', 'description'])
  })
})

describe('what a template lacks', () => {
  it('is nothing where it has all that is wanted', () => {
    expect(lacksInWords({ ...whole, headings: [3, 4] }, { what: 'tree', headings: 2 })).toEqual([])
  })

  it('is said for one and for several, of a tree and of minutes', () => {
    expect(
      lacksInWords(
        { ...whole, tree: false, unknown: ['board', 'ref'], headings: [2, 3], styles: ['Title'] },
        { what: 'tree', headings: 3 },
      ),
    ).toEqual([
      'It doesn’t say where the tree goes, {{tree}}: it follows the last line.',
      'It has no style Heading 2, Heading 3 and Title: these look as they usually do.',
      '{{board}} and {{ref}} are no fields there and stay as they stand.',
    ])
    expect(
      lacksInWords({ ...whole, tree: false, unknown: ['ref'], headings: [1] }, { what: 'minutes', headings: 2 }),
    ).toEqual([
      'It doesn’t say where the minutes go, {{minutes}}: they follow the last line.',
      'It has no style Heading 1: this looks as it usually does.',
      '{{ref}} is no field there and stays as it stands.',
    ])
  })
})
