import type { Measure } from '../tree/figure'
import { shorten } from '../tree/title'
import type { TopicId } from '../tree/topic'
import type { Chart } from './chart'
import type { Nested, Part } from './charts'
import { nearly } from './fixed'

/* A chart as the charting library's own description (Apache ECharts): plain data, the same on the screen and in documents. */

export interface ChartLook {
  readonly ink: string
  readonly quiet: string
  readonly line: string
  readonly surface: string
  readonly porch: string
  readonly clay: string
  readonly font: string
  /** The colour of a branch. */
  readonly hueOf: (topic: TopicId) => string
  /** A colour, so far on its way to white. */
  readonly paler: (hue: string, part: number) => string
  /** What can be read on a colour. */
  readonly inkOn: (hue: string) => string
}

export type ChartOption = Record<string, unknown>

/** `day`: a day in words; `locale`: how numbers on the axes are written. */
export function chartOption(
  { data, measure }: Chart,
  look: ChartLook,
  {
    locale,
    day,
    small = false,
  }: {
    readonly locale: string
    readonly day: (day: string) => string
    /** Drawn where there is room for the largest names alone. */
    readonly small?: boolean
  },
): ChartOption {
  const { quiet, line, surface, porch, clay, font, hueOf, inkOn } = look
  const { axes, values, base } = groundsOf(measure, look, locale)
  const hueOfPart = (id: TopicId | null): string => (id === null ? quiet : hueOf(id))
  const upright = (names: readonly string[], series: readonly object[]): ChartOption => ({
    ...base,
    xAxis: {
      type: 'category',
      data: names.map(name => shorten(name, small ? 12 : 22)),
      ...axes,
      // A few parts are all named, aslant where they would stand in each other's way.
      ...(names.length <= MOST_NAMED
        ? { axisLabel: { color: quiet, interval: 0, rotate: names.length > (small ? 2 : 5) ? SLANT : 0 } }
        : {}),
      splitLine: { show: false },
    },
    yAxis: values,
    series,
  })
  const leaf =
    (paler: number) =>
    (one: Nested): object => {
      const hue = hueOfPart(one.id)
      const color = paler > 0 ? look.paler(hue, paler) : hue
      return {
        name: shorten(one.title, 30),
        value: nearly(one.value),
        itemStyle: { color, borderColor: surface },
        label: { color: inkOn(color) },
        // The name of a part with parts of its own stands on the ground round them.
        upperLabel: { color: look.ink },
        ...(one.children.length > 0 ? { children: one.children.map(leaf(paler)) } : {}),
      }
    }
  /** Parts of one branch all have its colour: each is paler than the one before then, so that they can be told apart. */
  const leaves = (parts: readonly Nested[]): object[] => {
    const isOne = parts.length > 1 && new Set(parts.map(({ id }) => hueOfPart(id))).size === 1
    return parts.map((part, i) => leaf(isOne ? (i / (parts.length - 1)) * PALEST : 0)(part))
  }
  const titles = (parts: readonly Part[]): string[] => parts.map(({ title }) => title)
  switch (data.kind) {
    case 'bars':
      return {
        ...base,
        xAxis: values,
        yAxis: {
          type: 'category',
          inverse: true,
          data: titles(data.parts).map(name => shorten(name, 26)),
          ...axes,
          splitLine: { show: false },
        },
        series: [
          {
            type: 'bar',
            barMaxWidth: 30,
            data: data.parts.map(({ id, value }) => ({ value: nearly(value), itemStyle: { color: hueOfPart(id) } })),
          },
        ],
      }
    case 'share':
      return {
        ...base,
        series: [
          {
            type: 'treemap',
            roam: false,
            nodeClick: false,
            breadcrumb: { show: false },
            left: 0,
            top: 0,
            right: 0,
            bottom: 0,
            label: { fontFamily: font, fontSize: 13 },
            upperLabel: { show: true, height: 22 },
            levels: [
              { itemStyle: { gapWidth: 3, borderWidth: 0, borderColor: surface }, upperLabel: { show: false } },
              { itemStyle: { gapWidth: 1, borderWidth: 2 } },
              {},
            ],
            data: leaves(data.nested?.children ?? []),
          },
        ],
      }
    case 'rings':
      return {
        ...base,
        series: [
          {
            type: 'sunburst',
            nodeClick: false,
            radius: ['16%', '96%'],
            label: {
              minAngle: small ? 24 : 12,
              overflow: 'truncate',
              width: small ? 34 : 80,
              fontSize: small ? 10 : 12,
            },
            // What lies further out is too fine to be named where there is little room.
            levels: small ? [{}, {}, { label: { show: false } }, { label: { show: false } }] : [],
            data: leaves(data.nested?.children ?? []),
          },
        ],
      }
    case 'target':
      return upright(titles(data.targets), [
        {
          name: 'target',
          type: 'bar',
          barGap: '-70%',
          barMaxWidth: 46,
          itemStyle: { color: line },
          data: data.targets.map(({ target }) => nearly(target)),
        },
        {
          name: measure.name,
          type: 'bar',
          barMaxWidth: 26,
          z: 3,
          data: data.targets.map(({ value, bad, id }) => ({
            value: nearly(value),
            itemStyle: bad ? { color: clay, decal: OVER } : { color: hueOfPart(id) },
          })),
        },
      ])
    case 'steps':
      return upright(titles(data.steps), [
        {
          type: 'bar',
          stack: 'all',
          // A step may lead from below zero to above it.
          stackStrategy: 'all',
          silent: true,
          itemStyle: { color: 'transparent' },
          data: data.steps.map(({ from, to }) => Math.min(nearly(from), nearly(to))),
        },
        {
          type: 'bar',
          stack: 'all',
          stackStrategy: 'all',
          barMaxWidth: 44,
          data: data.steps.map(({ id, value, kind }) => ({
            value: Math.abs(nearly(value)),
            itemStyle: { color: kind === 'whole' ? porch : kind === 'rest' ? quiet : hueOfPart(id) },
          })),
        },
      ])
    case 'years':
      return upright(
        data.periods.map(({ period }) => period),
        [
          {
            type: 'bar',
            barMaxWidth: 44,
            itemStyle: { color: porch },
            data: data.periods.map(({ value }) => nearly(value)),
          },
        ],
      )
    case 'time':
      return upright(
        data.days.map(one => day(one.day)),
        [
          {
            name: 'by then',
            type: 'line',
            step: 'end',
            symbolSize: 7,
            lineStyle: { width: 2.5 },
            areaStyle: { opacity: 0.12 },
            itemStyle: { color: porch },
            data: data.days.map(({ total }) => nearly(total)),
          },
        ],
      )
  }
}

/** What all charts stand on: axes, the locale's numbers, the page's colours. */
function groundsOf(
  { unit, decimals }: Pick<Measure, 'unit' | 'decimals'>,
  { ink, quiet, line, surface, font }: ChartLook,
  locale: string,
) {
  const number = new Intl.NumberFormat(locale, { maximumFractionDigits: decimals })
  const say = (value: unknown): string => (typeof value === 'number' ? number.format(value).replace('-', '−') : '')
  const axes = {
    axisLine: { lineStyle: { color: line } },
    axisTick: { show: false },
    axisLabel: { color: quiet, hideOverlap: true },
    splitLine: { lineStyle: { color: line } },
  }
  return {
    axes,
    values: {
      type: 'value',
      name: unit.trim(),
      nameTextStyle: { color: quiet },
      ...axes,
      axisLabel: { ...axes.axisLabel, formatter: say },
    },
    base: {
      animation: false,
      aria: { enabled: true },
      textStyle: { fontFamily: font, color: ink },
      tooltip: {
        trigger: 'item',
        backgroundColor: surface,
        borderColor: line,
        textStyle: { color: ink },
        valueFormatter: say,
      },
      grid: { left: 12, right: 24, top: 24, bottom: 12, containLabel: true },
    },
  }
}

/** What a measure came to, time after time, and its target then; null where nothing is known. */
export function overTimeOption(
  times: readonly { readonly name: string; readonly value: number | null; readonly target: number | null }[],
  measure: Measure,
  look: ChartLook,
  locale: string,
): ChartOption {
  const { axes, values, base } = groundsOf(measure, look, locale)
  return {
    ...base,
    tooltip: { ...base.tooltip, trigger: 'axis' },
    xAxis: { type: 'category', data: times.map(({ name }) => name), ...axes, splitLine: { show: false } },
    yAxis: values,
    series: [
      {
        name: measure.name,
        type: 'line',
        symbolSize: 8,
        lineStyle: { width: 2.5 },
        itemStyle: { color: look.porch },
        data: times.map(({ value }) => value),
      },
      {
        name: 'target',
        type: 'line',
        step: 'end',
        symbol: 'none',
        lineStyle: { width: 2, type: 'dashed', color: look.quiet },
        itemStyle: { color: look.quiet },
        data: times.map(({ target }) => target),
      },
    ],
  }
}

/** Parts that are all named on an axis, and how their names are turned, degrees. */
const MOST_NAMED = 14
const SLANT = 28

/** What is beyond its target is told apart by its hatching too. */
/** The last of many parts of one colour is so far on its way to white. */
const PALEST = 0.6
const OVER = { symbol: 'rect', dashArrayX: [1, 0], dashArrayY: [3, 3], rotation: 0.8, color: 'rgba(255,255,255,.4)' }
