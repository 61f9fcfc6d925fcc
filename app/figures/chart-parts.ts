import { BarChart, LineChart, PieChart, SunburstChart, TreemapChart } from 'echarts/charts'
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'

/* What the charts draw with. */

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
