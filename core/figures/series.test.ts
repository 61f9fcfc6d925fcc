import { HyperFormula } from 'hyperformula'
import { describe, expect, it } from 'vitest'
import { Planning } from '../derive/planning'
import { applyChanges, type Series, type Tree } from '../tree'
import { figureChanges } from './entry'
import { Figures } from './figures'
import { euros, treeOf } from './fixtures/growing'
import { fixedOf, nearly, numeralOf } from './fixed'
import { seriesOnAxis } from './on-axis'
import { underMarks } from '../scene/axis'
import { overYears } from './over-years'
import { periodAt, periodsOf, seriesSum } from './series'

const series = (given: Partial<Series>): Series => ({
  from: '2027-05',
  each: 'month',
  count: 12,
  start: '900',
  goesOn: 'same',
  by: '0',
  typed: [],
  ...given,
})
const figuresOf = (tree: Tree): Figures => {
  const planning = new Planning(
    () => tree,
    () => '2027-02-01',
  )
  return new Figures(
    () => tree,
    planning,
    () => '2027-02-01',
  )
}

describe('a series', () => {
  it('goes on period by period, over the end of the year', () => {
    expect(periodAt({ from: '2027-11', each: 'month' }, 3)).toBe('2028-02')
    expect(periodAt({ from: '2027-11', each: 'quarter' }, 1)).toBe('2028-02')
    expect(periodAt({ from: '2027-11', each: 'year' }, 10)).toBe('2037-11')
    const said = (given: Partial<Series>): string[] => periodsOf(series(given))!.map(({ value }) => numeralOf(value))
    expect(said({ count: 3 })).toEqual(['900', '900', '900'])
    expect(said({ count: 3, goesOn: 'step', by: '-0.1', start: '0.3' })).toEqual(['0.3', '0.2', '0.1'])
    // A grant that falls by a fifth each year.
    expect(said({ count: 4, each: 'year', start: '10000', goesOn: 'rate', by: '-0.2' })).toEqual([
      '10000',
      '8000',
      '6400',
      '5120',
    ])
    expect(said({ count: 3, typed: [{ at: 1, value: '1.5' }] })).toEqual(['900', '1.5', '900'])
    expect(periodsOf(series({ start: '999999999999999', goesOn: 'rate', by: '1' }))).toBeNull()
    expect(seriesSum(series({ start: '999999999999999', goesOn: 'rate', by: '1' }))).toBeNull()
  })

  it('comes to what published annuity tables say', () => {
    // s(n, i), the future value of an ordinary annuity of 1, as in the tables of financial textbooks; four decimals, from memory.
    for (const [n, rate, table] of [
      [10, '0.05', '12.5779'],
      [5, '0.08', '5.8666'],
      [20, '0.03', '26.8704'],
      [12, '0.01', '12.6825'],
    ] as const)
      expect(nearly(seriesSum(series({ count: n, start: '1', goesOn: 'rate', by: rate }))!).toFixed(4)).toBe(table)
  })

  it('and what a spreadsheet engine’s FV and PMT say', () => {
    const engine = HyperFormula.buildFromArray([['=-FV(0.035,24,120.5)'], ['=-PMT(0.004,36,0,10000)']], {
      licenseKey: 'gpl-v3',
    })
    const at = (row: number): number => engine.getCellValue({ sheet: 0, row, col: 0 }) as number
    expect(nearly(seriesSum(series({ count: 24, start: '120.5', goesOn: 'rate', by: '0.035' }))!)).toBeCloseTo(at(0), 6)
    // So much each month, at so much interest, makes ten thousand.
    const pay = at(1).toFixed(10)
    expect(nearly(seriesSum(series({ count: 36, start: pay, goesOn: 'rate', by: '0.004' }))!)).toBeCloseTo(10_000, 4)
  })

  it('is a figure like any other: it rolls up, exactly, and is gathered by periods', () => {
    const tree = treeOf([euros('cost', { onPlank: true })], 'House\n  Rent\n  Heat\n  Sign | cost 320')
    applyChanges(tree, [
      ...figureChanges(tree, [
        { topic: 'Rent', measure: 'cost', text: '', series: series({ count: 24 }) },
        {
          topic: 'Heat',
          measure: 'cost',
          text: '',
          series: series({ each: 'quarter', count: 4, start: '0.1', from: '2027-10' }),
        },
      ]),
    ])
    const figures = figuresOf(tree)
    expect(numeralOf(figures.of('c', 'cost').value!)).toBe('21920.4')
    const { periods, once } = overYears(tree, figures, 'c', 'cost', 'year')
    expect(periods.map(({ period, value }) => [period, numeralOf(value)])).toEqual([
      ['2027', '7200.1'],
      ['2028', '10800.3'],
      ['2029', '3600'],
    ])
    expect(once).toBe(fixedOf('320'))
    expect(overYears(tree, figures, 'Heat', 'cost', 'quarter').periods.map(({ period }) => period)).toEqual([
      '2027-Q4',
      '2028-Q1',
      '2028-Q2',
      '2028-Q3',
    ])
    // All periods and what comes once are the whole.
    expect(periods.reduce((all, { value }) => all + value, once)).toBe(figures.of('c', 'cost').value)
    // On a time axis a period counts by its first month, up to the next mark; at the last from then on.
    const marks = ['2027-06-15', '2027-07-01', '2028-01-01'].map(date => ({ date, unit: 'month' as const }))
    const between = seriesOnAxis(tree, figures, 'c', marks, 'en-GB')!
    expect(between.sums.map((sum, i) => between.say(sum, i === 2))).toEqual([
      '900.00 EUR',
      '5,400.10 EUR',
      '14,400.30 EUR from then on',
    ])
    expect(numeralOf(between.before)).toBe('900')
    expect(seriesOnAxis(tree, figures, 'Sign', marks, 'en-GB')).toBeNull()
    expect(seriesOnAxis(tree, figures, 'c', [{ date: '2027-06-15T07:00', unit: 'hour' }], 'en-GB')).toBeNull()
    // Where there is no room for every mark's, marks stand together, and nothing is left out.
    const said = (letter: number): string[] =>
      underMarks(
        marks.map((mark, i) => ({ ...mark, x: i * 100 })),
        between,
        text => text.length * letter,
      ).map(({ x, text }) => `${x} ${text}`)
    expect(said(2)).toEqual(['0 900.00 EUR before, 900.00 EUR', '100 5,400.10 EUR', '200 14,400.30 EUR from then on'])
    expect(said(5)).toEqual(['0 900.00 EUR before, 6,300.10 EUR', '200 14,400.30 EUR from then on'])
    expect(said(9)).toEqual(['0 900.00 EUR before, 20,700.40 EUR from then on'])
    // What is typed takes its place.
    applyChanges(tree, figureChanges(tree, [{ topic: 'Rent', measure: 'cost', text: '5' }]))
    expect(tree.topics.get('Rent')!.figures[0]!.series).toBeUndefined()
  })
})
