import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, type Change, type Tree } from '../tree'
import { figureChanges } from './entry'
import { euros, give, treeOf } from './fixtures/growing'
import { nearly, numeralOf } from './fixed'
import { numeralOfDouble, type ReadCell, type ReadTable } from './table'
import { type Matching, matchingOf, takingOf } from './taking'
import { figuresAt } from './told'

const TODAY = '2027-02-01'
const MEASURES = [euros('cost'), euros('hours', { unit: 'h', order: 'a1' }), euros('part', { unit: '%', order: 'a2' })]
const grown = (): Tree =>
  treeOf(
    MEASURES,
    `Rooms
  Lift | cost 100 | hours ={m:cost} of {t:Lift} ÷ 100 EUR × 1 h
  Lamps | cost 20
Books
  Crates | cost 7.5`,
  )
const cell = (said: string | number): ReadCell =>
  typeof said === 'number'
    ? { text: String(said), number: numeralOfDouble(said), formula: false }
    : said.startsWith('=')
      ? { text: said.slice(1), number: null, formula: true }
      : { text: said, number: null, formula: false }
const table = (...rows: (string | number | null)[][]): ReadTable => ({
  name: 'Table',
  left: [],
  rows: rows.map(row => row.map(said => (said === null ? null : cell(said)))),
})
const numbers: Record<string, string> = { Rooms: '1', Lift: '1.1', Lamps: '1.2', Books: '2', Crates: '2.1' }
const taken = (tree: Tree, read: ReadTable, matching: Matching = matchingOf(read, tree), locale = 'en-GB') =>
  takingOf(read, matching, tree, figuresAt(tree, TODAY), id => numbers[id] ?? '', locale)
const told = (tree: Tree, read: ReadTable, locale?: string) =>
  taken(tree, read, undefined, locale).differences.map(one => `${one.topic} ${one.measure} ${one.before}→${one.after}`)

describe('figures out of a table', () => {
  it('know columns by the names of measures, with or without their unit, wherever the head stands', () => {
    const tree = grown()
    const read = table(['The budget of the move'], [], ['No.', 'Topic', 'Cost, EUR', 'Remarks', 'Hours (h)'])
    expect(matchingOf(read, tree)).toEqual({
      head: 2,
      columns: [
        { is: 'number' },
        { is: 'title' },
        { is: 'measure', measure: 'cost' },
        null,
        { is: 'measure', measure: 'hours' },
      ],
    })
    // Without a name for it, the column with the titles is the one in which they are.
    expect(matchingOf(table(['', 'cost'], ['lift', 5], ['Lamps', 6]), tree).columns).toEqual([
      { is: 'title' },
      { is: 'measure', measure: 'cost' },
    ])
    expect(matchingOf(table(['x', 'y']), tree)).toEqual({ head: -1, columns: [null, null] })
    // No measure twice.
    expect(matchingOf(table(['Topic', 'Cost', 'Cost']), tree).columns.filter(Boolean)).toHaveLength(2)
  })
  it('are what differs, and nothing else', () => {
    const tree = grown()
    const read = table(['Topic', 'Cost'], ['LIFT', 120.5], ['Lamps', 20], ['Crates', '7.50 EUR'], ['Rooms', '=120'])
    expect(taken(tree, read)).toMatchObject({ same: 2, formulas: 1, without: [], unread: [] })
    expect(told(tree, read)).toEqual(['Lift cost 100→120.5'])
    // What it comes to already isn't put there anew.
    expect(told(tree, table(['Topic', 'Cost'], ['Rooms', 120]))).toEqual([])
    expect(told(tree, table(['Topic', 'Cost'], ['Rooms', 121]))).toEqual(['Rooms cost →121'])
    expect(told(tree, table(['Topic', 'Hours'], ['Lift', 4]))).toEqual([
      'Lift hours ={m:cost} of {t:Lift} ÷ 100 EUR × 1 h→4',
    ])
    // Empty cells clear nothing.
    expect(told(tree, table(['Topic', 'Cost'], ['Lift', null], ['Lamps', ' ']))).toEqual([])
  })
  it('are found by path, or of two with one title by the number; else it’s said', () => {
    const tree = grown()
    applyChanges(tree, [{ op: 'set', topic: 'Crates', field: 'title', value: 'Lift' } as Change])
    expect(taken(tree, table(['Topic', 'Cost'], ['Lift', 1])).without).toEqual([
      { row: 1, words: 'Lift', why: 'several' },
    ])
    expect(told(tree, table(['Path', 'Cost'], ['Rooms / Lift', 1], ['Move › Books › Lift', 2]))).toEqual([
      'Lift cost 100→1',
      'Crates cost 7.5→2',
    ])
    expect(told(tree, table(['No.', 'Topic', 'Cost'], ['2.1', 'Lift', 3]))).toEqual(['Crates cost 7.5→3'])
    expect(taken(tree, table(['Topic', 'Cost'], ['Elevator', 1], ['Lamps', 2])).without).toEqual([
      { row: 1, words: 'Elevator', why: 'none' },
    ])
  })
  it('are read in the person’s signs, and a table’s own numbers are what they are', () => {
    const tree = grown()
    expect(told(tree, table(['Topic', 'Cost'], ['Lift', '1.250,50']), 'de-DE')).toEqual(['Lift cost 100→1250.5'])
    expect(told(tree, table(['Topic', 'Part'], ['Lift', 0.25], ['Lamps', '19 %']))).toEqual([
      'Lift part →0.25',
      'Lamps part →0.19',
    ])
    expect(
      taken(tree, table(['Topic', 'Cost'], ['Lift', 'about 5'], ['Lamps', 1e20], ['Crates', '=2+'])),
    ).toMatchObject({
      differences: [],
      formulas: 1,
      unread: [
        { row: 1, words: 'Cost of “Lift”', why: '“about 5” is no number.' },
        { row: 2, words: 'Cost of “Lamps”' },
      ],
    })
    expect(taken(tree, table(['Topic', 'Cost'], ['Lift', 1], ['Lift', 2])).unread).toHaveLength(1)
  })
  it('taken, leave nothing that differs', () => {
    const tree = grown()
    const read = table(['Topic', 'Cost', 'Hours'], ['Lift', 1.1, 2.2], ['Crates', 3, 4], ['Books', 9, '5 h'])
    const { differences } = taken(tree, read)
    applyChanges(
      tree,
      figureChanges(
        tree,
        differences.map(({ topic, measure, after }) => ({ topic, measure, text: after })),
      ),
    )
    expect(taken(tree, read)).toMatchObject({ differences: [], same: 6 })
  })
  it('hold a double’s fifteen digits: IEEE 754’s 0.1 + 0.2 is 0.3', () => {
    expect([0.1 + 0.2, 1e-7, 123456.789, -0, 5e-324, 99999999999999, 1e15, NaN, -1.005].map(numeralOfDouble)).toEqual([
      '0.3',
      '0.0000001',
      '123456.789',
      '0',
      '0',
      '99999999999999',
      null,
      null,
      '-1.005',
    ])
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 4 }), (whole, places) => {
        const said = (whole / 10 ** places).toFixed(places)
        expect(Number(numeralOfDouble(Number(said)))).toBe(Number(said))
      }),
    )
    const tree = grown()
    applyChanges(tree, [give('Lift', 'cost', '0.3')])
    expect(taken(tree, table(['Topic', 'Cost'], ['Lift', 0.1 + 0.2])).same).toBe(1)
    expect(nearly(figuresAt(tree, TODAY).of('Rooms', 'cost').value!)).toBe(20.3)
    expect(numeralOf(figuresAt(tree, TODAY).of('Rooms', 'cost').value!)).toBe('20.3')
  })
})
