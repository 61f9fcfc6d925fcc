import { describe, expect, it } from 'vitest'
import { earnedNow } from '../schedule/earned'
import { planOf } from '../schedule/plan'
import { applyChanges, type Change, type Measure, type Tree } from '../tree'
import { differing, nestedParts, overTime, partsOfBranch, waterfall } from './charts'
import { figureColumns } from './columns'
import { completionsOf } from './complete'
import { figureChanges, readEntry, typedText } from './entry'
import type { Figures } from './figures'
import { euros, give, treeOf } from './fixtures/growing'
import { fixedOf, nearly, numeralOf } from './fixed'
import { figureMeets } from './meets'
import { figurePrint } from './on-planks'
import { readQuickFigure } from './quick'
import { spreadOf } from './spread'
import { blockOf, blockText, sheetRows } from './sheet'
import { namesOf } from './shown'
import { againstTarget, targetInWords, targetsIn } from './target'
import { worthIn } from './worth'
import { figuresAt } from './told'

const TODAY = '2027-02-01'
const figuresOf = (tree: Tree, whatIf: string | null = null): Figures => figuresAt(tree, TODAY, whatIf)

describe('what is typed for a figure', () => {
  const tree = treeOf([euros('cost')], 'Lift | cost 10')
  const names = namesOf(tree, 'de-DE')
  const entry = (typed: string) => readEntry(typed, euros('cost'), names, 'de-DE')
  it('is a number, a formula or nothing, and comes back as it was', () => {
    expect(entry(' 1.250,5 ')).toEqual({ text: '1250.5', read: null })
    expect(entry('')).toEqual({ text: '', read: null })
    expect(entry('= Cost of "Lift" × 1,5')).toMatchObject({ text: '= {m:cost} of {t:Lift} × 1.5' })
    expect(typedText('= {m:cost} of {t:Lift} × 1.5', euros('cost'), tree, names, 'de-DE')).toBe(
      '= Cost of "Lift" × 1,5',
    )
    expect(typedText('1250.5', euros('cost'), tree, names, 'de-DE')).toBe('1250,5')
  })
  it('says what can’t be understood, and where', () => {
    expect(entry('twelve')).toMatchObject({ message: '“twelve” is no number. A formula begins with “=”.' })
    expect(entry(' = Cost of "Elevator"')).toMatchObject({ span: { from: 11, to: 21 } })
    expect(entry('12345678901234567')).toMatchObject({
      message: 'A number has at most 15 digits before the point and 10 after it.',
    })
  })
  it('keeps target and range, and goes when nothing is left', () => {
    applyChanges(tree, figureChanges(tree, [{ topic: 'Lift', measure: 'cost', target: '20' }]))
    expect(tree.topics.get('Lift')!.figures).toMatchObject([{ text: '10', target: '20' }])
    expect(figureChanges(tree, [{ topic: 'Lift', measure: 'cost', text: '10' }])).toEqual([])
    applyChanges(tree, figureChanges(tree, [{ topic: 'Lift', measure: 'cost', text: '', target: null }]))
    expect(tree.topics.get('Lift')!.figures).toEqual([])
    // In a what-if nothing is said too: that there is none.
    expect(figureChanges(tree, [{ topic: 'Lift', measure: 'cost', whatIf: 'b', text: '' }])).toHaveLength(1)
  })
  it('stands after // in words', () => {
    const measures = [euros('cost'), euros('hours', { unit: 'h', name: 'Hours' })]
    const read = (words: string, locale = 'en-GB', work = false) =>
      readQuickFigure(words, measures, locale, [], work)?.text ?? null
    expect(read('cost 1,250')).toBe('Cost 1,250.00 EUR')
    expect(read('Cost: 1.250,50', 'de-DE')).toBe('Cost 1.250,50 EUR')
    expect(read('12 h')).toBe('Hours 12.00 h')
    expect(read('12 h', 'en-GB', true)).toBeNull()
    expect(read('costly 5')).toBeNull()
    expect(read('3 d')).toBeNull()
    expect(read('cost soon')).toBeNull()
  })
  it('offers what may go on', () => {
    const offered = (typed: string) => completionsOf(typed, typed.length, names).map(({ name }) => name)
    expect(offered('=co')).toEqual(['Cost', 'count'])
    expect(offered('=Cost of ch')).toEqual(['children'])
    expect(offered('=sum(Cost of all below marked dec')).toEqual(['Decision'])
    expect(offered('="Li')).toEqual([])
    expect(offered('=1 + 2')).toEqual([])
  })
})

describe('the sheet', () => {
  it('has rows as the tree has them, or siblings by what they come to', () => {
    const tree = treeOf([euros('cost')], 'A\n  B | cost 1\n  C | cost 5\n  D\nE | cost 9')
    const figures = figuresOf(tree)
    const rows = (sort: { down: boolean } | null, folded: string[] = []): string =>
      sheetRows(tree, {
        only: null,
        folded: id => folded.includes(id),
        hidden: id => id === 'hidden',
        sort: sort && { ...sort, value: id => figures.of(id, 'cost').value },
      })
        .map(({ id, level }) => `${id}${level}`)
        .join(' ')
    expect(rows(null)).toBe('c1 A2 B3 C3 D3 E2')
    expect(rows({ down: true })).toBe('c1 E2 A2 C3 B3 D3')
    expect(rows({ down: false })).toBe('c1 A2 B3 C3 D3 E2')
    expect(rows(null, ['A'])).toBe('c1 A2 E2')
  })
  it('takes and gives blocks as other programs have them', () => {
    expect(blockOf('1\t"a ""b""\nc"\r\n\t3\r\n')).toEqual([
      ['1', 'a "b"\nc'],
      ['', '3'],
    ])
    expect(
      blockOf(
        blockText([
          ['1', 'a\tb'],
          ['', 'x"y'],
        ]),
      ),
    ).toEqual([
      ['1', 'a\tb'],
      ['', 'x"y'],
    ])
  })
})

describe('charts', () => {
  const tree = treeOf([euros('cost')], 'A\n  B | cost 1\n  C | cost 5\nD | cost 9\nE | cost -2')
  applyChanges(tree, [
    { op: 'set', topic: 'B', field: 'due', value: '2027-03-01' },
    { op: 'set', topic: 'A', field: 'due', value: '2027-03-05' },
    { op: 'set', topic: 'D', field: 'due', value: '2027-03-01' },
  ])
  const figures = figuresOf(tree)
  const due = (id: string) => tree.topics.get(id)!.due
  it('go from the parts to the whole', () => {
    const parts = partsOfBranch(tree, figures, 'c', 'cost')
    expect(parts.map(({ title, value }) => [title, numeralOf(value)])).toEqual([
      ['A', '6'],
      ['D', '9'],
      ['E', '-2'],
    ])
    const steps = waterfall(parts, fixedOf('15')!, { all: 'all', byItself: 'by itself' })
    expect(steps.map(({ title, from, to }) => [title, nearly(from), nearly(to)])).toEqual([
      ['A', 0, 6],
      ['D', 6, 15],
      ['E', 15, 13],
      ['by itself', 13, 15],
      ['all', 0, 15],
    ])
    expect(
      nestedParts(tree, figures, 'c', 'cost', 2)!.children.map(({ title, children }) => [title, children.length]),
    ).toEqual([
      ['A', 2],
      ['D', 0],
    ])
  })
  it('go over time by the day of a topic, or of what it belongs to', () => {
    const { days, without } = overTime(tree, figures, 'c', 'cost', due)
    expect(days.map(({ day, value, total }) => [day, numeralOf(value), numeralOf(total)])).toEqual([
      ['2027-03-01', '10', '10'],
      ['2027-03-05', '5', '15'],
    ])
    expect(numeralOf(without)).toBe('-2')
  })
  it('name what differs under a what-if', () => {
    applyChanges(tree, [give('B', 'cost', '4', 'b')])
    expect(differing(tree, 'c', 'cost', figures, [figuresOf(tree, 'b')])).toEqual(['c', 'A', 'B'])
  })
  it('planks say what is over its target by a sign, and what is faulty', () => {
    applyChanges(tree, figureChanges(tree, [{ topic: 'A', measure: 'cost', target: '5' }]))
    applyChanges(tree, [give('E', 'cost', '=1 ÷ 0')])
    const say = (id: string): unknown => figurePrint(tree, figuresOf(tree), [euros('cost')], id, 'en-GB')
    expect(say('A')).toEqual([{ text: '↑ 6.00 of 5 EUR', tone: 'late', part: 1.2 }])
    expect(say('D')).toEqual([{ text: '9.00 EUR', tone: 'plain' }])
    expect(say('E')).toEqual([{ text: '⚠ Cost: ÷ 0', tone: 'late' }])
  })
})

describe('a target', () => {
  const tree = (limit: Measure['limit'], text: string, target: string): Tree => {
    const made = treeOf([euros('cost', { limit })], 'Lift')
    applyChanges(made, [
      {
        op: 'put',
        topic: 'Lift',
        set: 'figures',
        member: { id: 'cost', measure: 'cost', whatIf: null, text, target, range: null },
      },
    ])
    return made
  }
  const against = (limit: Measure['limit'], text: string, target: string) => {
    const made = tree(limit, text, target)
    return againstTarget(made, figuresOf(made), 'Lift', made.fields.measures[0]!)
  }
  it('is missed on its wrong side only, and what isn’t there is on neither', () => {
    expect(against('most', '120', '100')).toMatchObject({ bad: true, part: 1.2 })
    expect(numeralOf(against('most', '120', '100')!.left)).toBe('-20')
    expect(against('most', '100', '100')).toMatchObject({ bad: false, part: 1 })
    expect(against('least', '90', '100')).toMatchObject({ bad: true, part: 0.9 })
    expect(against('least', '120', '100')).toMatchObject({ bad: false })
    expect(against('least', '', '100')).toMatchObject({ bad: false, part: 0 })
    expect(against('most', '5', '0')).toMatchObject({ bad: true, part: 0 })
    const none = treeOf([euros('cost')], 'Lift | cost 5')
    expect(againstTarget(none, figuresOf(none), 'Lift', none.fields.measures[0]!)).toBeNull()
  })
  it('is said in words, those of a whole tree in reading order', () => {
    const words = (limit: Measure['limit'], text: string): string => {
      const made = tree(limit, text, '100')
      return targetsIn(made, figuresOf(made))
        .map(one => `${one.topic}: ${targetInWords(one, 'en-GB')}`)
        .join()
    }
    expect(words('most', '90.5')).toBe('Lift: 9.50 EUR left of 100.00 EUR')
    expect(words('most', '120')).toBe('Lift: 20.00 EUR over 100.00 EUR')
    expect(words('least', '90')).toBe('Lift: 10.00 EUR missing of 100.00 EUR')
    expect(words('least', '')).toBe('Lift: 100.00 EUR missing of 100.00 EUR')
    expect(words('least', '101')).toBe('Lift: 100.00 EUR reached')
    const two = treeOf(
      [euros('later', { order: 'a5' }), euros('cost')],
      'Rooms | cost 5\n  Lift | cost 5\nBooks | later 1',
    )
    const put = (topic: string, measure: string, text: string): Change => ({
      op: 'put',
      topic,
      set: 'figures',
      member: { id: measure, measure, whatIf: null, text, target: '4', range: null },
    })
    applyChanges(two, [put('Books', 'later', '1'), put('Lift', 'cost', '5'), put('Books', 'cost', '')])
    expect(targetsIn(two, figuresOf(two)).map(one => `${one.topic} ${one.measure.id}`)).toEqual([
      'Lift cost',
      'Books cost',
      'Books later',
    ])
  })
  it('is the same to the filter', () => {
    for (const limit of ['most', 'least'] as const)
      for (const text of ['', '90', '100', '120']) {
        const made = tree(limit, text, '100')
        const bad = againstTarget(made, figuresOf(made), 'Lift', made.fields.measures[0]!)!.bad
        expect(figureMeets(made, figuresOf(made), 'Lift', { about: 'figure', measure: 'cost', is: 'off' })).toBe(bad)
      }
  })
})

describe('columns of figures', () => {
  it('are numbers, in the order of the measures; digits where a number can’t hold them', () => {
    const tree = treeOf(
      [euros('later', { order: 'a5' }), euros('cost', { decimals: 10 })],
      'Lift | cost -12.5 | later 123456789012345.0123456789',
    )
    expect(figureColumns(tree, figuresOf(tree))).toEqual({
      headings: ['Cost, EUR', 'Later, EUR'],
      rows: [
        [-12.5, '123456789012345.0123456789'],
        [-12.5, '123456789012345.0123456789'],
      ],
    })
  })
})

describe('how sure a sum is', () => {
  const tree = treeOf([euros('cost')], 'A\n  B | cost 100\n  C | cost 50\nD | cost 10')
  applyChanges(
    tree,
    figureChanges(tree, [
      { topic: 'B', measure: 'cost', range: { low: '80', high: '160' } },
      { topic: 'C', measure: 'cost', range: { low: '50', high: '90' } },
      // One that doesn't hold the figure says nothing.
      { topic: 'D', measure: 'cost', range: { low: '20', high: '30' } },
    ]),
  )
  it('comes to the closed form of beta-PERT: sums of means, and of (μ − a)(b − μ) ÷ 7', () => {
    const spread = spreadOf(tree, figuresOf(tree), 'c', 'cost', { rounds: 60_000 })!
    const parts = [
      [80, 100, 160],
      [50, 50, 90],
    ] as const
    const mean = 10 + parts.reduce((all, [a, m, b]) => all + (a + 4 * m + b) / 6, 0)
    const variance = parts.reduce((all, [a, m, b]) => {
      const centre = (a + 4 * m + b) / 6
      return all + ((centre - a) * (b - centre)) / 7
    }, 0)
    expect(spread.asIs).toBe(160)
    expect(Math.abs(spread.mean - mean)).toBeLessThan(0.2)
    expect(Math.abs(spread.deviation / Math.sqrt(variance) - 1)).toBeLessThan(0.02)
    expect(spread.classical.mean).toBeCloseTo(mean, 9)
    expect(spread.half).toBeLessThan(spread.likely)
    expect(spread.likely).toBeLessThan(spread.sure)
    expect(spread.drivers.map(({ topic }) => topic)).toEqual(['B', 'C'])
    expect(spread.drivers.reduce((all, { share }) => all + share, 0)).toBeCloseTo(1, 9)
  })
  it('is the same for the same seed, and nothing without a range', () => {
    const figures = figuresOf(tree)
    expect(spreadOf(tree, figures, 'c', 'cost')).toEqual(spreadOf(tree, figures, 'c', 'cost'))
    expect(spreadOf(tree, figures, 'D', 'cost')).toBeNull()
  })
})

describe('a filter by figures', () => {
  it('asks what is over, under, off its target, missing, or can’t be worked out', () => {
    const tree = treeOf([euros('cost')], 'A | cost 5\nB | cost 20\nC\nD | cost =1 ÷ 0')
    applyChanges(tree, figureChanges(tree, [{ topic: 'B', measure: 'cost', target: '10' }]))
    const figures = figuresOf(tree)
    const meet = (is: 'over' | 'under' | 'off' | 'some' | 'none' | 'wrong', value?: string): string =>
      ['A', 'B', 'C', 'D']
        .filter(id =>
          figureMeets(tree, figures, id, { about: 'figure', measure: 'cost', is, ...(value ? { value } : {}) }),
        )
        .join('')
    expect([
      meet('over', '5'),
      meet('over', '4.99'),
      meet('under', '20'),
      meet('off'),
      meet('some'),
      meet('none'),
      meet('wrong'),
    ]).toEqual(['B', 'AB', 'A', 'B', 'AB', 'C', 'D'])
  })
})

describe('earned value in money', () => {
  it('counts what tasks cost, by their share in time and how far they are', () => {
    const tree = treeOf([euros('cost'), euros('paid')], 'A | cost 400 | paid 250\nB | cost 100\nC | cost 999')
    applyChanges(tree, [
      { op: 'tree', field: 'planFrom', value: '2027-02-01' },
      { op: 'tree', field: 'statusDay', value: '2027-02-02' },
      { op: 'set', topic: 'A', field: 'duration', value: 4 },
      { op: 'set', topic: 'A', field: 'done', value: 25 },
      { op: 'set', topic: 'B', field: 'duration', value: 2 },
    ])
    const plan = planOf(tree, TODAY)
    if (typeof plan === 'string') throw new Error(plan)
    const base = {
      tasks: { A: { start: '2027-02-01', finish: '2027-02-04' }, B: { start: '2027-02-01', finish: '2027-02-02' } },
    }
    // By hand: half of A and all of B were to be done on Tuesday, a quarter of A is; C is no task.
    const earned = earnedNow(tree, plan, base, worthIn(figuresOf(tree), 'cost', 'paid'))
    expect([earned.bac, earned.pv, earned.ev, earned.ac, earned.sv, earned.cv, earned.cpi]).toEqual([
      500, 300, 100, 250, -200, -150, 0.4,
    ])
    expect(earned.eac.typical).toBe(1250)
    expect(earnedNow(tree, plan, base, worthIn(figuresOf(tree), 'cost', null)).ac).toBeNull()
  })
})
