import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, type Change, type Measure } from '../tree'
import { euros, treeOf } from './fixtures/growing'
import { numeralOf } from './fixed'
import { groupedRows, isTopicRow, placeInSheet } from './sheet-groups'
import { figuresAt } from './told'

const TODAY = '2027-02-01'
const put = (topic: string, set: 'people' | 'markers', member: string): Change => ({ op: 'put', topic, set, member })
const reader = {
  today: TODAY,
  locale: 'en-GB',
  personName: (id: string) => ({ i: 'Ines', r: 'Rana' })[id] ?? 'Somebody',
  markerName: (id: string) => id,
}

describe('the sheet in groups', () => {
  const cost = euros('cost')
  const measures: Measure[] = [cost, euros('days', { unit: 'd', rollUp: 'mean' }), euros('rate', { rollUp: 'none' })]
  const tree = treeOf(
    measures,
    'A\n  B | cost 10 | days 3\n  C | cost 0.2 | days 4\nD | cost 5 | rate 7\n  E | cost 99 | days 8\nF',
  )
  applyChanges(tree, [
    put('B', 'people', 'i'),
    put('D', 'people', 'r'),
    put('D', 'people', 'i'),
    put('E', 'people', 'r'),
    put('B', 'markers', 'risk'),
    { op: 'set', topic: 'C', field: 'due', value: '2027-01-31' },
    { op: 'set', topic: 'D', field: 'due', value: '2027-02-01' },
  ])
  const said = (group: 'person' | 'marker' | 'state' | 'due', more: object = {}) =>
    groupedRows(tree, figuresAt(tree, TODAY), measures, {
      only: null,
      hidden: () => false,
      sort: null,
      groupOf: id => placeInSheet(tree, id, group, reader),
      compare: (a, b) => (a < b ? -1 : a > b ? 1 : 0),
      ...more,
    }).map(line =>
      isTopicRow(line)
        ? line.id
        : `# ${line.name} ${line.count}: ${line.sums.map(({ value }) => (value === null ? '-' : numeralOf(value))).join(' ')}`,
    )

  it('holds each topic once; those of several people stand together; what nobody has stands last', () => {
    // E lies below D, which has its own cost: it counts in days alone.
    expect(said('person')).toEqual([
      '# Ines 1: 10 3 -',
      'B',
      '# Ines, Rana 1: 5 - -',
      'D',
      '# Rana 1: - 8 -',
      'E',
      '# Nobody 1: 0.2 4 -',
      'C',
    ])
    expect(said('marker').filter(one => one.startsWith('#'))).toEqual(['# risk 1: 10 3 -', '# No marker 3: 5.2 6 -'])
    expect(said('due').filter(one => one.startsWith('#'))).toEqual([
      '# Late 1: 0.2 4 -',
      '# Today 1: 5 - -',
      '# No date 2: 10 5.5 -',
    ])
  })

  it('keeps the order of a measure inside groups, the branch that is shown, and what a filter hides away', () => {
    const figures = figuresAt(tree, TODAY)
    const sort = { down: true, value: (id: string) => figures.of(id, 'cost').value }
    expect(said('state', { sort })).toEqual(['# Not begun 4: 15.2 5 -', 'E', 'B', 'D', 'C'])
    expect(said('person', { only: 'A' })).toEqual(['# Ines 1: 10 3 -', 'B', '# Nobody 1: 0.2 4 -', 'C'])
    expect(said('person', { hidden: (id: string) => id === 'D' })).not.toContain('D')
  })

  // Sums of groups add up to what the whole comes to, whatever is given where: to the last place.
  it('says of a group how many of its figures can’t be worked out', () => {
    const faulty = treeOf([cost], 'A | cost 1\nB | cost =1/0\nC | cost ={m:cost} of {t:B}')
    const [group] = groupedRows(faulty, figuresAt(faulty, TODAY), [cost], {
      only: null,
      hidden: () => false,
      sort: null,
      groupOf: () => ({ key: '', name: 'All', rank: 0 }),
      compare: () => 0,
    })
    expect(group).toMatchObject({ count: 3, sums: [{ value: null, faults: 2 }] })
  })
  it('adds up to the whole', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('A', 'B', 'C', 'D', 'E', 'F'), fc.integer({ min: -999, max: 999 })), {
          maxLength: 8,
        }),
        given => {
          const made = treeOf([cost], 'A\n  B\n  C\nD\n  E\nF')
          applyChanges(made, [
            put('B', 'people', 'i'),
            put('E', 'people', 'r'),
            ...given.map(([topic, value]): Change => ({
              op: 'put',
              topic,
              set: 'figures',
              member: { id: 'cost', measure: 'cost', whatIf: null, text: `${value}.01`, target: null, range: null },
            })),
          ])
          const figures = figuresAt(made, TODAY)
          const lines = groupedRows(made, figures, [cost], {
            only: null,
            hidden: () => false,
            sort: null,
            groupOf: id => placeInSheet(made, id, 'person', reader),
            compare: (a, b) => a.localeCompare(b),
          })
          const sums = lines.flatMap(line => (isTopicRow(line) ? [] : [line.sums[0]!.value ?? 0n]))
          expect(sums.reduce((all, one) => all + one, 0n)).toBe(figures.of('c', 'cost').value ?? 0n)
        },
      ),
    )
  })
})
