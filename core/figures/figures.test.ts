import { describe, expect, it } from 'vitest'
import { Planning } from '../derive/planning'
import { applyChanges, type Change, type Measure, moveTo, removeAll, touchedBy, type Tree } from '../tree'
import { euros, give, treeOf } from './fixtures/growing'
import { Figures } from './figures'
import { numeralOf } from './fixed'
import { parseTyped, FormulaError } from './parse'
import { namesOf, shownFormula } from './shown'
import { faultInWords } from './words'

const TODAY = '2027-02-01'
const MEASURES: readonly Measure[] = [
  euros('cost'),
  euros('hours', { unit: 'h', name: 'Hours' }),
  euros('rate', { unit: 'EUR/h', name: 'Rate', rollUp: 'none' }),
  euros('mark', { unit: '', name: 'Mark', rollUp: 'mean' }),
]

function figuresOf(tree: Tree, whatIf: string | null = null): Figures {
  const planning = new Planning(
    () => tree,
    () => TODAY,
  )
  return new Figures(
    () => tree,
    planning,
    () => TODAY,
    whatIf,
  )
}
function edit(tree: Tree, figures: Figures, ...changes: readonly Change[]): void {
  figures.changed(touchedBy(applyChanges(tree, changes)))
}
/** What a figure says: its number, or its fault in words. */
function says(tree: Tree, figures: Figures, topic: string, measure = 'cost'): string {
  const { value, fault } = figures.of(topic, measure)
  if (fault)
    return faultInWords(
      fault,
      { topic, measure },
      {
        titleOf: id => tree.topics.get(id)?.title ?? null,
        measureName: id => tree.fields.measures.find(one => one.id === id)?.name ?? null,
      },
    )
  return value === null ? '' : numeralOf(value)
}
/** What a typed formula comes to at a topic, in English. */
function worth(tree: Tree, topic: string, formula: string, measure = 'cost', locale = 'en-GB'): string {
  const figures = figuresOf(tree)
  try {
    const read = parseTyped(formula, namesOf(tree, locale, [{ id: 'ines', name: 'Ines Abel' }]))
    const { value, fault } = figures.tried(topic, measure, read)
    return fault
      ? faultInWords(
          fault,
          { topic, measure },
          { titleOf: id => tree.topics.get(id)?.title ?? null, measureName: id => id },
        )
      : value === null
        ? ''
        : numeralOf(value)
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
    return `${error.span.from}–${error.span.to}: ${error.message}`
  }
}

const FITOUT = `
FitOut
  Lift | cost 48200.5 | hours 12 | rate 80
  Lamps | cost 0.1 | hours 3
  Paint | cost 0.2
Move
  Lorry | cost 1250 | mark 3
  Crates | mark 4
`

describe('figures', () => {
  it('hear of a number that becomes a formula, goes or comes back, wherever they asked for it', () => {
    const tree = treeOf(
      [euros('cost'), euros('rate', { rollUp: 'none' }), euros('hours'), euros('mark')],
      `
Rooms | rate 4
  Lift | cost 5
  Lamps | cost ={m:cost} of {t:Lift}
  Paint | cost 3 | hours ={m:rate} of parent × 2 | mark ={m:cost} × 2
`,
    )
    const figures = figuresOf(tree)
    const all = (): string[] => [
      says(tree, figures, 'Lamps'),
      says(tree, figures, 'Paint', 'hours'),
      says(tree, figures, 'Paint', 'mark'),
    ]
    const anew = (): string[] => {
      const fresh = figuresOf(tree)
      return [says(tree, fresh, 'Lamps'), says(tree, fresh, 'Paint', 'hours'), says(tree, fresh, 'Paint', 'mark')]
    }
    expect(all()[0]).toBe('5')
    const steps: Change[][] = [
      [give('Lift', 'cost', '=2 + 2')],
      [give('Lift', 'cost', '={m:cost} of {t:Lamps}')],
      [give('Lift', 'cost', '7')],
      [give('Lift', 'cost', '=1/0'), give('Rooms', 'rate', '=6 - 1'), give('Paint', 'cost', '=8')],
      [give('Lift', 'cost', '9'), give('Rooms', 'rate', '2'), give('Paint', 'cost', '1')],
      [
        { op: 'take', topic: 'Rooms', set: 'figures', member: 'rate' },
        { op: 'take', topic: 'Paint', set: 'figures', member: 'cost' },
      ],
      [give('Rooms', 'rate', '11'), give('Paint', 'cost', '12')],
      [...removeAll(tree, ['Lift']).changes],
    ]
    const seen = new Set<string>()
    for (const step of steps) {
      edit(tree, figures, ...step)
      expect(all()).toEqual(anew())
      seen.add(all().join())
    }
    expect(seen.size).toBe(steps.length)
  })
  it('add up to the centre, exactly, in any order', () => {
    const tree = treeOf(MEASURES, FITOUT)
    const figures = figuresOf(tree)
    expect(says(tree, figures, 'FitOut')).toBe('48200.8')
    expect(says(tree, figures, 'c')).toBe('49450.8')
    expect(says(tree, figures, 'Crates')).toBe('')
    // 0.1 + 0.2 is 0.3.
    edit(tree, figures, give('Lift', 'cost', ''))
    expect(says(tree, figures, 'FitOut')).toBe('0.3')
  })

  it('roll up by each rule, over what stands on its own', () => {
    const rule = (rollUp: Measure['rollUp'], by: string | null = null): string => {
      const tree = treeOf(
        [euros('cost', { rollUp, by }), euros('w', { unit: '' })],
        `
A
  B | cost 10 | w 1
  C | cost 20 | w 3
D | cost 60 | w 0
E`,
      )
      return says(tree, figuresOf(tree), 'c')
    }
    expect(rule('sum')).toBe('90')
    // Of the three that have one, wherever they hang: not the mean of means.
    expect(rule('mean')).toBe('30')
    expect(rule('weighted', 'w')).toBe('17.5')
    expect(rule('min')).toBe('10')
    expect(rule('max')).toBe('60')
    expect(rule('count')).toBe('3')
    expect(rule('none')).toBe('')
  })

  it('a parent with one of its own says so, beside what rolls up', () => {
    const tree = treeOf(MEASURES, FITOUT)
    const figures = figuresOf(tree)
    edit(tree, figures, give('FitOut', 'cost', '50000'))
    expect([figures.of('FitOut', 'cost').own, says(tree, figures, 'c')]).toEqual([true, '51250'])
    expect(numeralOf(figures.rolled('FitOut', 'cost').value!)).toBe('48200.8')
  })

  it('follow every edit: what is moved, thrown away and brought back', () => {
    const tree = treeOf(MEASURES, FITOUT)
    const figures = figuresOf(tree)
    says(tree, figures, 'c')
    edit(tree, figures, ...moveTo(tree, ['Lorry'], { parent: 'FitOut', index: 0 }).changes)
    expect([says(tree, figures, 'FitOut'), says(tree, figures, 'Move')]).toEqual(['49450.8', ''])
    edit(tree, figures, ...removeAll(tree, ['FitOut']).changes)
    expect(says(tree, figures, 'c')).toBe('')
    edit(tree, figures, { op: 'restore', topic: 'FitOut' })
    expect(says(tree, figures, 'c')).toBe('49450.8')
  })

  it('what-ifs hold some others, and leave the rest', () => {
    const tree = treeOf(MEASURES, FITOUT)
    applyChanges(tree, [give('Lift', 'cost', '39000', 'b')])
    expect(says(tree, figuresOf(tree), 'FitOut')).toBe('48200.8')
    expect(says(tree, figuresOf(tree, 'b'), 'FitOut')).toBe('39000.3')
  })

  it('a topic that shows another has none of its own, so that nothing counts twice', () => {
    const tree = treeOf(MEASURES, FITOUT)
    const figures = figuresOf(tree)
    says(tree, figures, 'c')
    edit(tree, figures, { op: 'set', topic: 'Lift', field: 'reference', value: { tree: null, topic: 'Paint' } })
    expect(says(tree, figures, 'FitOut')).toBe('0.3')
  })
})

describe('formulas', () => {
  const tree = treeOf(MEASURES, FITOUT)
  it.each([
    ['0.1 + 0.2', '0.3'],
    ['2 + 3 × 4', '14'],
    ['(2 + 3) * 4', '20'],
    ['2 ^ 3 ^ 2', '512'],
    ['-2 ^ 2', '-4'],
    ['7 / 2', '3.5'],
    ['1 ÷ 3', '0.3333333333'],
    ['2 ÷ 3 × 3', '2'],
    ['200 × 19%', '38'],
    ['10 − 4 − 3', '3'],
    ['if(2 > 1; 5; 6)', '5'],
    ['if(not (2 ≥ 3) and 1 = 1; 5; 6)', '5'],
    ['round(2.345; 2)', '2.35'],
    ['round(-2.5)', '-3'],
    ['round up(2.001)', '3'],
    ['round down(2.999; 1)', '2.9'],
    ['round(1250; -3)', '1000'],
    ['abs(3 − 5)', '2'],
    ['min(3; 1; 2)', '1'],
    ['median(5; 1; 3)', '3'],
    ['median(1; 2; 3; 10)', '2.5'],
    ['mean(1; 2; 4)', '2.3333333333'],
    ['count(1; 2)', '2'],
  ])('%s is %s', (formula, value) => {
    expect(worth(tree, 'Crates', formula)).toBe(value)
  })

  it('ask this topic, its parent, the centre, and a named one', () => {
    expect(worth(tree, 'Paint', 'Hours of "Lift" × Rate of "Lift"')).toBe('960')
    expect(worth(tree, 'Lift', 'hours × rate')).toBe('960')
    expect(worth(tree, 'Crates', 'Cost of "Lorry" × 2')).toBe('2500')
    expect(worth(tree, 'Crates', '(Hours × Rate) of “fitout  / LIFT”')).toBe('960')
  })

  it('gather children and all below, by conditions', () => {
    const own = treeOf(MEASURES, FITOUT)
    applyChanges(own, [
      { op: 'put', topic: 'Lift', set: 'markers', member: 'decision' },
      { op: 'put', topic: 'Lorry', set: 'people', member: 'ines' },
      { op: 'set', topic: 'Paint', field: 'done', value: 100 },
    ])
    const at = 'c'
    expect(worth(own, at, 'sum(Hours of all below)', 'hours')).toBe('15')
    expect(worth(own, at, 'sum(Cost of all below marked Decision)', 'cost')).toBe('48200.5')
    expect(worth(own, at, 'sum(Cost of all below of Ines Abel or done)')).toBe('1250.2')
    expect(worth(own, at, 'sum(Cost of all below not (of Ines Abel or done))')).toBe('48200.6')
    expect(worth(own, at, 'sum((Hours × Rate) of all below)')).toBe('960')
    expect(worth(own, at, 'count(all below with "l")', 'mark')).toBe('3')
    expect(worth(own, at, 'count(children)', 'mark')).toBe('2')
    expect(worth(own, 'FitOut', 'max(Hours of children)', 'hours')).toBe('12')
    expect(worth(own, 'FitOut', 'median(Hours of all below)', 'hours')).toBe('7.5')
    expect(worth(own, 'FitOut', 'mean(Hours of children)', 'hours')).toBe('7.5')
  })

  it('check units, with words', () => {
    expect(worth(tree, 'Lift', 'Hours + Cost', 'mark')).toBe('“h” and “EUR” can’t be added up.')
    expect(worth(tree, 'Lift', 'Hours × 2')).toBe('It comes out in “h”, and is to be in “EUR”.')
    expect(worth(tree, 'Lift', 'Hours × 40 EUR/h + 12')).toBe('492')
    expect(worth(tree, 'Lift', 'Cost ÷ Hours', 'rate')).toBe('4016.7083333333')
    expect(worth(tree, 'Lift', 'Cost > Hours', 'mark')).toBe('“EUR” and “h” can’t be compared.')
    expect(worth(tree, 'Lift', 'Rate > 3')).toBe('A number is meant, and this is yes or no.')
  })

  it('reckon with days and the plan', () => {
    const own = treeOf([...MEASURES, euros('d', { unit: 'd', name: 'Days' })], FITOUT)
    applyChanges(own, [
      { op: 'set', topic: 'Lift', field: 'duration', value: 4 },
      { op: 'set', topic: 'Lift', field: 'due', value: '2027-05-12' },
      { op: 'set', topic: 'Lift', field: 'effort', value: 20 },
      { op: 'tree', field: 'planFrom', value: '2027-05-03' },
    ])
    expect(worth(own, 'Lift', 'length × 8 h/d × Rate')).toBe('2560')
    expect(worth(own, 'Lift', 'work × Rate')).toBe('1600')
    expect(worth(own, 'Lift', 'days(start; due)', 'd')).toBe('9')
    expect(worth(own, 'Lift', 'workdays(2027-05-03; due)', 'd')).toBe('7')
    expect(worth(own, 'Lift', 'if(workday(start; 3) = finish; 1; 2)', 'd')).toBe('1')
    expect(worth(own, 'Paint', '(float of "Lift") × 2 + length of "Lift"', 'd')).toBe('4')
    expect(worth(own, 'c', 'max(due of all below) − 2027-05-10', 'd')).toBe('2')
    expect(worth(own, 'c', '2027-02-30 − today', 'd')).toBe('0–10: There is no day 2027-02-30.')
  })

  it.each([
    ['', 'A formula stands after the “=”.'],
    ['1 +', 'Something is missing at the end.'],
    ['(1 + 2', 'A bracket isn’t closed.'],
    ['1 + 2)', 'This bracket closes nothing.'],
    ['Costs × 2', '“Costs” is no measure of this tree.'],
    ['min(1, 2)', 'Arguments are parted by “;”.'],
    ['min(1,2)', '“1,2” is no number here. Arguments are parted by “;”.'],
    ['sum(Cost of "Elsewhere")', 'There is no topic “Elsewhere”.'],
    ['Cost of children', 'Say what is to be made of these: “sum(… of children)”, mean, min, max, median or count.'],
    ['sum(children)', 'Say which measure: “sum(Cost of children)”.'],
    ['"Lift"', 'Say which measure of "Lift" is meant: “Cost of "Lift"”.'],
    ['sum(Cost of all below marked Nonsense)', 'There is no marker “Nonsense”.'],
    [
      'sum((sum(Cost of children) × 2) of all below)',
      'A list can’t stand in another list: give the inner one a measure of its own.',
    ],
    ['if(1)', '“if” takes 3 arguments, parted by “;”.'],
    ['sum', 'After “sum” comes what it’s of, in brackets.'],
    ['1 ÷ 0', 'It’s divided by zero.'],
    ['10 ^ 400', 'It comes to more than 15 digits.'],
    ['1234567890123456', 'A number has at most 15 digits before the point and 10 after it.'],
    ['999999999999999 + 1', 'It comes to more than 15 digits.'],
    ['(0 − 2) ^ 0.5', 'A number below zero has no such root.'],
    ['1 '.repeat(3000), 'A formula has at most 4000 characters.'],
    [`${'('.repeat(80)}1${')'.repeat(80)}`, 'More than 60 brackets and functions stand in one another.'],
  ])('%s: %s', (formula, words) => {
    expect(worth(tree, 'Crates', formula)).toContain(words)
  })
  it('take 40 ifs in one another', () => {
    expect(worth(tree, 'Crates', `${'if(1 = 2; 0; '.repeat(40)}7${')'.repeat(40)}`)).toBe('7')
  })

  it('are read and shown in the person’s locale, and follow a new name', () => {
    const own = treeOf(MEASURES, FITOUT)
    const read = parseTyped(
      'sum(Cost of all below marked Decision) × 1,25 + 1.250,5 + Cost of "Lift"',
      namesOf(own, 'de-DE'),
    )
    expect(read.stored).toBe('sum({m:cost} of all below marked {k:decision}) × 1.25 + 1250.5 + {m:cost} of {t:Lift}')
    applyChanges(own, [
      { op: 'set', topic: 'Lift', field: 'title', value: 'Hoist "A"' },
      { op: 'tree-put', set: 'measures', member: { ...MEASURES[0]!, name: 'Sum of all' } },
    ])
    const names = namesOf(own, 'de-DE')
    const shown = shownFormula(read.stored, own, names, 'de-DE')
    expect(shown).toBe(
      `sum('Sum of all' of all below marked "Decision") × 1,25 + 1250,5 + 'Sum of all' of "Hoist ""A"""`,
    )
    expect(parseTyped(shown, names).stored).toBe(read.stored)
  })

  it('tell two of one title apart by their path', () => {
    const own = treeOf(
      MEASURES,
      `
One
  Lift | cost 1
Two
  LiftB | cost 2`,
    )
    applyChanges(own, [{ op: 'set', topic: 'LiftB', field: 'title', value: 'Lift' }])
    expect(worth(own, 'One', 'Cost of "Lift"')).toContain('There are several topics “Lift”')
    expect(worth(own, 'c', 'Cost of "Two / Lift"')).toBe('2')
    expect(shownFormula('{m:cost} of {t:LiftB}', own, namesOf(own, 'en-GB'), 'en-GB')).toBe('Cost of "Two / Lift"')
  })
})

describe('loops', () => {
  it('name their members, the same whoever is asked first, and end when one is taken out', () => {
    for (const first of ['A', 'B', 'C', 'c']) {
      const tree = treeOf(
        MEASURES,
        `
A | cost =2 × {m:cost} of {t:B}
B | cost ={m:cost} of {t:C} + 1
C | cost ={m:cost} of {t:A}
D | cost ={m:cost} of {t:A} + 5`,
      )
      const figures = figuresOf(tree)
      figures.of(first, 'cost')
      const loop = 'These stand on one another: “Cost” of “A”, “Cost” of “B”, “Cost” of “C”. Give one of them a number.'
      for (const id of ['A', 'B', 'C', 'D', 'c']) expect(says(tree, figures, id)).toBe(loop)
      edit(tree, figures, give('C', 'cost', '10'))
      expect(['A', 'B', 'C', 'D', 'c'].map(id => says(tree, figures, id))).toEqual(['22', '11', '10', '27', '70'])
    }
  })
  it('are seen through roll-ups and lists, and before they’re made', () => {
    const tree = treeOf(
      MEASURES,
      `
A
  B | cost ={m:cost} of parent
  C | cost 3`,
    )
    expect(says(tree, figuresOf(tree), 'C')).toBe('3')
    expect(says(tree, figuresOf(tree), 'A')).toContain('stand on one another: “Cost” of “A”, “Cost” of “B”')
    expect(worth(tree, 'C', 'Cost of "C" + 1')).toBe('It would stand on itself.')
    expect(worth(tree, 'C', 'sum(Cost of children) of "A"')).toBe('It would stand on itself.')
  })
})

describe('what isn’t there', () => {
  it('is named, and comes back', () => {
    const tree = treeOf(MEASURES, FITOUT)
    const figures = figuresOf(tree)
    edit(tree, figures, give('Crates', 'cost', '={m:cost} of {t:Lift}'))
    expect(says(tree, figures, 'Crates')).toBe('48200.5')
    edit(tree, figures, ...removeAll(tree, ['FitOut']).changes)
    expect(says(tree, figures, 'Crates')).toBe('“Lift” isn’t there any more.')
    expect(says(tree, figures, 'c')).toBe('It stands on “Cost” of “Crates”. There: “Lift” isn’t there any more.')
    edit(tree, figures, { op: 'restore', topic: 'FitOut' })
    expect(says(tree, figures, 'Crates')).toBe('48200.5')
    edit(tree, figures, { op: 'tree-take', set: 'measures', member: 'rate' }, give('Crates', 'cost', '={m:rate} × 2'))
    expect(says(tree, figures, 'Crates')).toBe('A measure that it names isn’t there any more.')
  })
})
