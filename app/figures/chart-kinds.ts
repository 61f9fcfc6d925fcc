import { BarChart, LineChart, PieChart, SunburstChart, TreemapChart } from 'echarts/charts'
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'

/* What the charts draw with, and the ways there are. */

use([
  SVGRenderer,
  BarChart,
  LineChart,
  PieChart,
  SunburstChart,
  TreemapChart,
  GridComponent,
  TooltipComponent,
  AriaComponent,
])

/** The ways a branch is charted. */
export const KINDS = [
  { id: 'bars', name: 'Parts' },
  { id: 'share', name: 'Shares' },
  { id: 'rings', name: 'Rings' },
  { id: 'target', name: 'Against target' },
  { id: 'steps', name: 'To the whole' },
  { id: 'time', name: 'Over time' },
  { id: 'years', name: 'Over the years' },
  { id: 'sure', name: 'How sure' },
] as const
