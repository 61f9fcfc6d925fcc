import { HyperFormula } from 'hyperformula'
import { describe, expect, it } from 'vitest'
import { buildDemo } from '../../demo/build'
import { DEMO_PEOPLE } from '../../demo/people'
import { MOVE } from '../../demo/trees'
import { Planning } from '../derive/planning'
import { applyChanges, type Tree } from '../tree'
import { euros, treeOf } from './fixtures/growing'
import { Figures } from './figures'
import { numeralOf } from './fixed'
import { FIRST_COLUMN, FIRST_ROW, type SheetOf, spreadsheetOf, VALUES_SHEET } from './spreadsheet'

const TODAY = '2027-03-03'
function figuresOf(tree: Tree): Figures {
  const planning = new Planning(
    () => tree,
    () => TODAY,
  )
  return new Figures(
    () => tree,
    planning,
    () => TODAY,
  )
}
/** The sheet as a spreadsheet engine reckons it, from formulas alone: no value that we had goes in where a formula stands. */
function reckoned(sheet: SheetOf): HyperFormula {
  const cell = ({
    formula,
    value,
  }: {
    formula: string | null
    value: number | string | null
  }): string | number | null => (formula === null ? value : `=${formula}`)
  const engine = HyperFormula.buildFromSheets(
    {
      Figures: [[], ...sheet.cells.map(row => [null, null, ...row.map(cell)])],
      [VALUES_SHEET]: [[], ...sheet.values.map(one => [one.name, cell(one.cell)])],
    },
    { licenseKey: 'gpl-v3', precisionRounding: 12 },
  )
  return engine
}
function expectAlike(tree: Tree, sheet: SheetOf, figures: Figures): { formulas: number; notes: string[] } {
  const engine = reckoned(sheet)
  let formulas = 0
  const notes: string[] = []
  sheet.rows.forEach(({ id }, row) =>
    sheet.columns.forEach((column, i) => {
      const { formula, note } = sheet.cells[row]![i]!
      if (note) notes.push(note)
      if (column.kind !== 'measure' || formula === null) return
      formulas++
      const theirs = engine.getCellValue({ sheet: 0, row: row + FIRST_ROW - 1, col: FIRST_COLUMN + i })
      const { value } = figures.of(id, column.measure.id)
      const title = `${tree.topics.get(id)!.title}: =${formula}`
      expect([title, typeof theirs]).toEqual([title, 'number'])
      expect([title, (theirs as number).toFixed(column.measure.decimals)]).toEqual([
        title,
        Number(numeralOf(value ?? 0n)).toFixed(column.measure.decimals),
      ])
    }),
  )
  return { formulas, notes }
}

describe('a tree as a spreadsheet', () => {
  it('reckons the demo’s budget to the same cent, from its formulas alone', () => {
    let made = 0
    const people = DEMO_PEOPLE.map(({ key, name }) => ({ id: key, name }))
    const tree = buildDemo(MOVE, people, TODAY, () => `n${made++}`)
    const figures = figuresOf(tree)
    const sheet = spreadsheetOf(tree, tree, figures, tree.fields.measures, TODAY)
    const { formulas, notes } = expectAlike(tree, sheet, figures)
    expect(formulas).toBeGreaterThan(40)
    // The one that counts working days.
    expect(notes).toEqual(['Spreadsheets count working days otherwise. This is the value it had.'])
  })

  it('has each rule of roll-up, and each sign and function, as the sheet’s own', () => {
    const measures = [
      euros('a', { unit: '' }),
      euros('b', { unit: '', rollUp: 'mean' }),
      euros('c', { unit: '', rollUp: 'weighted', by: 'a' }),
      euros('d', { unit: '', rollUp: 'max' }),
      euros('e', { unit: '', rollUp: 'count' }),
      euros('f', { unit: '', rollUp: 'min', decimals: 4 }),
    ]
    const tree = treeOf(
      measures,
      `
A
  B | a 3 | b 4 | c 10 | d 7 | e 1 | f =-2 ^ 2 + {m:a} × 5%
  C | a 5 | b 9 | c 20 | d 2 | f =2 ^ 3 ^ 2 ÷ ({m:a} − 1)
  D | b 1 | f =if({m:b} > 0 and not ({m:b} = 2); round({m:b} × 2.345; 2); 0)
E | a =sum({m:a} of all below) + {m:a} of {t:A} × 2 | d =max({m:d} of children; {m:d} of {t:A}) | f =abs({m:f} of {t:A}) + round up(1.21; 1) + round down(9.99)
  F | a 7 | d 1 | f =median({m:a} of {t:B}; 4; {m:a} of centre)
  G | a =count({m:a} of children) + mean(1; 2; 4) | f =min({m:b} of {t:C}; 3) + {v:rate} | d =count(children of {t:A})`.replace(
        ' | d =count(children of {t:A})',
        ' | d =sum(({m:a} × 2) of children)',
      ),
    )
    applyChanges(tree, [
      {
        op: 'tree-put',
        set: 'namedValues',
        member: { id: 'rate', order: 'a0', name: 'Rate', unit: '', text: '=1.5 × 2' },
      },
    ])
    const figures = figuresOf(tree)
    const sheet = spreadsheetOf(tree, tree, figures, measures, TODAY)
    const { formulas, notes } = expectAlike(tree, sheet, figures)
    expect(notes).toEqual([])
    expect(formulas).toBeGreaterThan(20)
  })

  it('counts nothing where a formula passes over it: what comes to nothing stays empty, and says so', () => {
    const tree = treeOf(
      [euros('a', { unit: '' }), euros('b', { unit: '' })],
      `
A
B | a ={m:a} of {t:A} | b =if(1 < 2; {m:a} of {t:A}; 3)
C | a =min(if(1 < 2; {m:a} of {t:A}; 3); 5) | b ={m:a} of {t:A} + 2
D | a =mean(({m:b} × 2) of children) | b =mean({m:a} of {t:A}; {m:a} of {t:B}) + 1
  E | b 4
  F
G | a =if({m:a} of {t:B} = 0; 7; 8) | b =count({m:a} of {t:B}; max({m:a} of {t:A}); 1)
H | a =if(due < 2027-03-01; 1; 2)`,
    )
    const figures = figuresOf(tree)
    const sheet = spreadsheetOf(tree, tree, figures, tree.fields.measures, TODAY)
    const said = (title: string): (string | number | null)[] => {
      const row = sheet.rows.findIndex(({ id }) => tree.topics.get(id)!.title === title)
      return sheet.cells[row]!.slice(0, 2).flatMap(({ value, formula, note }) => [value, formula ?? note])
    }
    const empty = 'The formula stands on nothing just now.'
    expect(said('B')).toEqual([null, empty, null, empty])
    expect(said('C')).toEqual([5, 'MIN(5)', 2, '(C3+2)'])
    // Half of what the means are of isn't there: AVERAGE() of nothing would be an error there, and one here is no number.
    expect(said('D').slice(0, 2)).toEqual([8, 'AVERAGE((D7*2))'])
    expect(said('D').slice(2)).toEqual([1, `${empty} This is the value it had.`])
    expect(said('G')).toEqual([7, 'IF((C4=0),7,8)', 1, 'COUNT(C4,1)'])
    expect(said('H').slice(0, 2)).toEqual([2, `${empty} This is the value it had.`])
    expectAlike(tree, sheet, figures)
  })

  it('says what has no counterpart, and keeps its value', () => {
    const tree = treeOf(
      [euros('a', { unit: '' })],
      'A | a 2\nB | a =workdays(2027-03-01; 2027-03-08) ÷ 1 d\nC | a =1 ÷ 0',
    )
    const { cells } = spreadsheetOf(tree, tree, figuresOf(tree), tree.fields.measures, TODAY)
    expect(cells.map(([cell]) => cell)).toEqual([
      { value: '÷ 0', formula: null, note: 'It couldn’t be worked out.' },
      { value: 2, formula: null, note: null },
      { value: 5, formula: null, note: 'Spreadsheets count working days otherwise. This is the value it had.' },
      { value: '÷ 0', formula: null, note: 'It couldn’t be worked out.' },
    ])
  })
})
