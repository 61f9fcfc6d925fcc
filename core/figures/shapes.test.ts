import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { expressionStored, FormulaError } from './parse'
import { Planning } from '../derive/planning'
import { Figures } from './figures'
import { euros, treeOf } from './fixtures/growing'
import { type Expression, partsOf } from './formula'
import { placeIn, shapeOf, Shapes } from './shapes'

/** What a reading gives, or why it can't be read and where. */
function said(read: () => unknown): unknown {
  try {
    return JSON.parse(JSON.stringify(read()))
  } catch (error) {
    if (error instanceof FormulaError) return { fails: error.message, span: error.span }
    throw error
  }
}
/** What was read has its own places once they're asked for. */
function placed(read: Expression, text: string): Expression {
  const inPlace = (it: Expression): Expression => {
    const parts = partsOf(it).map(inPlace)
    const span = placeIn(read, it.span, text)
    if (it.kind === 'binary') return { ...it, a: parts[0]!, b: parts[1]!, span }
    if (it.kind === 'call') return { ...it, args: parts, span }
    return ('of' in it && it.of ? { ...it, of: parts[0]!, span } : { ...it, span }) as Expression
  }
  return inPlace(read)
}
const both = (shapes: Shapes, text: string): void =>
  expect(
    said(() => placed(shapes.read(text), text)),
    text,
  ).toEqual(said(() => expressionStored(text)))

describe('formulas of one shape', () => {
  it('have it whoever they name and whatever their numbers are', () => {
    const key = (text: string): string | undefined => shapeOf(text)?.key
    expect(key('{m:cost} of {t:lift} × 1.5')).toBe(key('{m:c} of {t:a-longer-one} × 12'))
    expect(key('{m:cost} + 1')).not.toBe(key('{v:cost} + 1'))
    expect(key('{m:cost} + 1')).not.toBe(key('{m:cost} - 1'))
  })
  it('are read by themselves where two of them might mean different things', () => {
    for (const text of [
      '2027-03-01',
      '2027-03-01 + 5',
      '5 m2',
      '1.2.3',
      '12345678901',
      'sum({m:cost} of children with "3 lifts")',
      'count(children marked {k:1})',
      '{m:cost',
      '{x:cost}',
    ])
      expect(shapeOf(text), text).toBeNull()
  })
  it('are read as each would be by itself, with its own places', () => {
    const shapes = new Shapes()
    const pairs = [
      ['{m:a} of {t:b} × 1.19', '{m:longer} of {t:b} × 2'],
      ['(1 + 2) × {m:a}', '(100 + 0.25) × {m:abc}'],
      ['-({v:x} of parent)%', '-({v:yyyy} of parent)%'],
      ['if({m:a} > 5; 3 EUR; 1 h)', 'if({m:bb} > 50; 33.5 EUR; 1.5 h)'],
      ['median(1; 2; {m:a})', 'median(10; 20; {m:ab})'],
      ['sum({m:a} of all below) / 3', 'sum({m:ab} of all below) / 33'],
      ['not ({m:a} = 1)', 'not ({m:abc} = 100)'],
      ['1 + (2 + (3))', '10 + (20 + (30))'],
      ['{m:a} of {t:x} of centre', '{m:aaa} of {t:x-1} of centre'],
      ['10-3-1', '2027-03-01'],
      ['5 m2', '5 m3'],
      ['1 + ', '12 + '],
      ['round({m:a}; 2) + 0012', 'round({m:ab}; 10) + 5'],
    ] as const
    for (const [first, second] of pairs) {
      both(shapes, first)
      both(shapes, second)
      both(shapes, first)
    }
  })
  it('say in their own text where something is wrong', () => {
    const tree = treeOf(
      [euros('cost')],
      `
Lift
  a | cost 5
  much-longer | cost 6
  Doors | cost ={m:cost} of {t:a} / 0
  Ropes | cost ={m:cost} of {t:much-longer} / 0.00
`,
    )
    const planning = new Planning(
      () => tree,
      () => '2027-02-01',
    )
    const figures = new Figures(
      () => tree,
      planning,
      () => '2027-02-01',
    )
    const wrong = ['Doors', 'Ropes'].map(id => {
      const { fault, formula } = figures.of(id, 'cost')
      return [fault!.kind, formula!.slice(fault!.span!.from, fault!.span!.to)]
    })
    expect(wrong).toEqual([
      ['zero', '0'],
      ['zero', '0.00'],
    ])
  })
  it('are so for any formula, put together at random', () => {
    const numeral = fc.oneof(
      fc.nat(9_999_999_999_999).map(String),
      fc.tuple(fc.nat(99_999), fc.nat(999)).map(([a, b]) => `${a}.${b}`),
    )
    const id = fc.stringMatching(/^[a-z\d_-]{1,12}$/)
    const leaf = fc.oneof(
      numeral,
      fc.tuple(numeral, fc.constantFrom(' EUR', 'h', ' days', ' m2', '%')).map(parts => parts.join('')),
      fc.tuple(fc.constantFrom('m', 'v'), id).map(([kind, one]) => `{${kind}:${one}}`),
      fc.tuple(id, id).map(([a, b]) => `{m:${a}} of {t:${b}}`),
      fc.constantFrom('start', 'today', 'true', '2027-03-01', 'sum({m:a} of children)', 'float of parent'),
    )
    const { formula } = fc.letrec<{ formula: string }>(tie => ({
      formula: fc.oneof(
        { depthSize: 'small' },
        leaf,
        fc
          .tuple(tie('formula'), fc.constantFrom('+', ' - ', '-', ' × ', '/', ' ^ ', ' and ', ' < '), tie('formula'))
          .map(parts => parts.join('')),
        fc.tuple(fc.constantFrom('(', '-(', 'not (', 'abs(', 'round up('), tie('formula')).map(([a, b]) => `${a}${b})`),
        fc.tuple(tie('formula'), tie('formula')).map(([a, b]) => `min(${a}; ${b})`),
      ),
    }))
    const shapes = new Shapes()
    fc.assert(
      fc.property(formula, numeral, id, (text, number, name) => {
        both(shapes, text)
        // The same shape with others' numbers and names.
        both(shapes, text.replace(/(?<=[( ;])\d+(\.\d+)?/g, number).replace(/(?<=\{[mvt]:)[\w-]+/g, name))
      }),
      { numRuns: 2000 },
    )
  })
})
