import { init, use } from 'echarts/core'
import { BarChart, LineChart, SunburstChart, TreemapChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { SVGRenderer } from 'echarts/renderers'
import { describe, expect, it } from 'vitest'
import { applyChanges, CHART_KINDS, type ChartKind } from '../tree'
import { chartOf, chartTable, emptinessOf } from './chart'
import { chartOption } from './chart-option'
import { figureChanges } from './entry'
import { euros, treeOf } from './fixtures/growing'
import { figuresAt } from './told'

use([SVGRenderer, BarChart, LineChart, SunburstChart, TreemapChart, GridComponent])

const tree = treeOf([euros('cost'), euros('other')], 'A\n  B | cost 1000.5\n  C | cost 5\nD | cost 9\nE | cost -2000')
applyChanges(tree, [
  { op: 'set', topic: 'B', field: 'due', value: '2027-03-01' },
  ...figureChanges(tree, [
    { topic: 'A', measure: 'cost', target: '900' },
    {
      topic: 'D',
      measure: 'cost',
      text: '',
      series: { from: '2027-05', each: 'month', count: 2, start: '4.5', goesOn: 'same', by: '0', typed: [] },
    },
  ]),
])
const figures = figuresAt(tree, '2027-02-01')
const chart = (kind: ChartKind, { at = 'c', measure = 'cost', finish = null as string | null } = {}) =>
  chartOf(tree, figures, at, { kind, measure, each: 'month' }, () => finish)
const day = (said: string): string => said
const rows = (kind: ChartKind) =>
  chartTable(chart(kind)!, 'de-DE', day).rows.map(({ name, values }) => [name, ...values])

describe('a chart', () => {
  it('has the numbers of what it draws as a table, in the reader’s own signs', () => {
    expect(rows('bars')).toEqual([
      ['A', '1.005,50 EUR', '−102 %'],
      ['D', '9,00 EUR', '−0,9 %'],
      ['E', '−2.000,00 EUR', '202,9 %'],
    ])
    expect(rows('target')).toEqual([['A', '1.005,50 EUR', '900,00 EUR', '−105,50 EUR']])
    expect(rows('steps').at(-1)).toEqual(['all', '−985,50 EUR', '−985,50 EUR'])
    expect(rows('years')).toEqual([
      ['2027-05', '4,50 EUR'],
      ['2027-06', '4,50 EUR'],
      ['once', '−994,50 EUR'],
    ])
    expect(rows('time')).toEqual([
      ['2027-03-01', '1.000,50 EUR', '1.000,50 EUR'],
      ['without a day', '−1.986,00 EUR', ''],
    ])
    // The plan's day goes before the due date.
    expect(chartTable(chart('time', { finish: '2027-04-01' })!, 'en-GB', day).rows.map(({ name }) => name)).toEqual([
      '2027-04-01',
    ])
  })

  it('says why it has nothing to show, and is none without its measure or topic', () => {
    expect(CHART_KINDS.map(kind => emptinessOf(chart(kind, { measure: 'other' })!))).toEqual([
      'nothing',
      'nothing',
      'nothing',
      'no-target',
      'nothing',
      'nothing',
      'no-series',
    ])
    expect(emptinessOf(chart('share')!)).toBe('no-share')
    expect(chart('bars', { measure: 'gone' })).toBeNull()
    expect(chart('bars', { at: 'gone' })).toBeNull()
  })

  // Apache ECharts itself draws it: a bar from below zero to above it goes from where it begins to where it ends.
  it('is drawn by the charting library, each kind, with numbers on its axes as the reader writes them', () => {
    const look = {
      ink: '#000000',
      quiet: '#777777',
      line: '#cccccc',
      surface: '#ffffff',
      porch: '#17616b',
      clay: '#a93f27',
      font: 'sans-serif',
      hueOf: () => '#aa0000',
      paler: (hue: string, part: number) => `${hue} ${part}`,
      inkOn: () => '#ffffff',
    }
    const drawn = (kind: ChartKind, at = 'c'): string => {
      const drawing = init(null, null, { renderer: 'svg', ssr: true, width: 600, height: 300 })
      drawing.setOption(chartOption(chart(kind, { at })!, look, { locale: 'de-DE', day }))
      const svg = drawing.renderToSVGString()
      drawing.dispose()
      return svg
    }
    for (const kind of CHART_KINDS)
      expect(drawn(kind, kind === 'share' || kind === 'rings' ? 'A' : 'c')).toContain('<path')
    expect(drawn('bars')).toContain('>−2.000<')
    expect(drawn('steps')).toContain('>all<')
    const down = chart('steps')!
    const { series } = chartOption(down, look, { locale: 'de-DE', day }) as {
      series: { data: (number | { value: number })[]; stackStrategy: string }[]
    }
    // E leads from 1,014.50 down to −985.50: its bar stands on the lower end and is as tall as it is.
    expect([series[0]!.data[2], (series[1]!.data[2] as { value: number }).value]).toEqual([-985.5, 2000])
    expect(series.map(({ stackStrategy }) => stackStrategy)).toEqual(['all', 'all'])
    // Parts that have one colour are told apart by how pale they are; each with all that is in it.
    const rings = chartOption(chart('rings', { at: 'A' })!, look, { locale: 'de-DE', day }) as {
      series: { data: { itemStyle: { color: string } }[] }[]
    }
    const colours = rings.series[0]!.data.map(({ itemStyle }) => itemStyle.color)
    expect(colours.length).toBeGreaterThan(1)
    expect(colours[0]).toBe('#aa0000')
    expect(new Set(colours).size).toBe(colours.length)
  })
})
