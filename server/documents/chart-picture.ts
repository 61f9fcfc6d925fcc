import { Resvg } from '@resvg/resvg-js'
import { BarChart, LineChart, SunburstChart, TreemapChart } from 'echarts/charts'
import { AriaComponent, GridComponent } from 'echarts/components'
import { init, setPlatformAPI, use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import sharp from 'sharp'
import { inkOn, mix } from '#core/dress/colour'
import { Dressing } from '#core/dress/dressing'
import { type Chart, chartOf, emptinessOf } from '#core/figures/chart'
import { chartOption } from '#core/figures/chart-option'
import type { Figures } from '#core/figures/figures'
import type { HandedChart } from '#core/handing/handed'
import type { Language } from '#core/handing/choice'
import { LOCALES, WORDS } from '#core/handing/words'
import { dayInWords } from '#core/schedule/days'
import { inOrder, topicOf, type TopicId, type Tree } from '#core/tree'
import { FONT_NAMES, fontPath } from './fonts'
import { Typesetter } from './typesetter'

/* Charts that hang on topics, drawn for documents as they are on the screen, by day. */

use([SVGRenderer, BarChart, LineChart, SunburstChart, TreemapChart, GridComponent, AriaComponent])

const FONT = 'Figtree'
const { ruler } = new Typesetter()
setPlatformAPI({
  measureText(text, font) {
    const size = Number(/(\d+(?:\.\d+)?)px/.exec(font ?? '')?.[1] ?? 12)
    const weight = /bold|[6-9]00/.test(font ?? '') ? 700 : 400
    return { width: ruler(text, { family: 'text', size, weight, slanted: false }) }
  },
})

/** Dots of a chart as it's described; it's drawn twice as fine. */
const WIDE = 640
const SCALE = 2
/** A row of bars needs so many dots. */
const BAR = 34
const TALL = { least: 180, usual: 340, most: 900 } as const

const LOOK = {
  ink: '#16292d',
  quiet: '#4f6468',
  line: '#d5e2e0',
  surface: '#ffffff',
  porch: '#17616b',
  clay: '#a93f27',
  font: FONT,
  paler: (hue: string, part: number) => mix(hue, '#ffffff', part),
  inkOn: (hue: string) => inkOn(hue),
} as const

/** How tall a chart is drawn: a bar for each part, however many there are. */
function heightOf({ data }: Chart): number {
  return data.kind === 'bars' ? Math.min(TALL.most, Math.max(TALL.least, 70 + data.parts.length * BAR)) : TALL.usual
}

export interface ChartsAsked {
  /** What is handed out: what isn't in it is in no chart either. */
  readonly part: Tree
  /** Of the whole tree. */
  readonly figures: Figures
  readonly language: Language
  /** The day on which the plan ends a topic; null where there is none, or tasks don't go along. */
  readonly finishOf: (topic: TopicId) => string | null
}

/** The charts of a topic as drawings (SVG); those that have nothing to show, or whose measure is gone, are left out. */
export function chartsIn({ part, figures, language, finishOf }: ChartsAsked): (id: TopicId) => HandedChart[] {
  const dressing = new Dressing(
    () => part,
    () => false,
  )
  dressing.refresh()
  const locale = LOCALES[language]
  const day = (said: string): string => dayInWords(said, locale)
  return id =>
    inOrder(topicOf(part, id).charts).flatMap(asked => {
      const chart = chartOf(part, figures, id, asked, finishOf, WORDS[language])
      if (!chart || emptinessOf(chart) !== null) return []
      const drawing = init(null, null, { renderer: 'svg', ssr: true, width: WIDE, height: heightOf(chart) })
      try {
        drawing.setOption(chartOption(chart, { ...LOOK, hueOf: topic => dressing.hueOf(topic) }, { locale, day }))
        return [{ words: `${chart.title}: ${chart.measure.name}`, svg: drawing.renderToSVGString() }]
      } finally {
        drawing.dispose()
      }
    })
}

/** A chart in dots (PNG), its letters in the fonts of documents. */
export function chartPng(svg: string): Promise<Buffer> {
  const { pixels, width, height } = new Resvg(svg, {
    fitTo: { mode: 'zoom', value: SCALE },
    background: '#ffffff',
    font: { loadSystemFonts: false, fontFiles: FONT_NAMES.map(fontPath), defaultFontFamily: FONT },
  }).render()
  // Paper is behind it everywhere: what can be seen through makes a document twice as heavy.
  return sharp(pixels, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .png()
    .toBuffer()
}
