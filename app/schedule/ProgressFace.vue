<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { Baseline } from '#core/schedule/baseline'
import { worthIn } from '#core/figures/worth'
import { curveOf, earnedNow, hoursIn } from '#core/schedule/earned'
import type { Plan } from '#core/schedule/plan'
import { useDesk } from '~/desk/desk'
import { figuresOf } from '~/figures/figuring'

/** Planned, earned, actual: how far the work is, against what was agreed. The table holds the numbers of the chart. */
const { plan, against } = defineProps<{ plan: Plan; against: Baseline | null }>()
const desk = useDesk()
use([SVGRenderer, LineChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent])

/** What it's counted by: hours of work, or a measure of the tree; and the measure that says what was spent. */
const by = ref('')
const spentBy = ref('')
const measures = computed(() => {
  void desk.tick.value
  return desk.tree.fields.measures
})
const measure = computed(() => measures.value.find(({ id }) => id === by.value) ?? null)
const others = computed(() =>
  measures.value.filter(({ id, unit }) => id !== by.value && unit.trim() === measure.value?.unit.trim()),
)
const worth = computed(() => {
  void desk.tick.value
  const spent = others.value.find(({ id }) => id === spentBy.value)?.id ?? null
  return measure.value ? worthIn(figuresOf(desk), measure.value.id, spent) : hoursIn(desk.tree, plan)
})
/** What is done by a day, or what is left then. */
const shows = ref<'done' | 'left'>('done')
const unit = computed(() => (measure.value ? measure.value.unit.trim() : 'h'))
const earned = computed(() => earnedNow(desk.tree, plan, against, worth.value))
const curve = computed(() => curveOf(desk.tree, plan, against, worth.value))
/** A point of the curve as it's shown: what is to be done by then, or what is to be left. */
const drawn = computed(() => {
  const all = curve.value.at(-1)
  return shows.value === 'done'
    ? curve.value
    : curve.value.map(one => ({
        ...one,
        agreed: one.agreed === null ? null : (all!.agreed ?? 0) - one.agreed,
        planned: all!.planned - one.planned,
      }))
})
const number = (value: number | null, digits = 1): string =>
  value === null ? '–' : new Intl.NumberFormat(ownLocale(), { maximumFractionDigits: digits }).format(value)
const hours = (value: number | null): string =>
  value === null ? '–' : `${number(value, measure.value?.decimals ?? 1)} ${unit.value}`.trim()

const rows = computed(() => {
  const { bac, pv, ev, ac, sv, cv, spi, cpi, eac, etc, vac, tcpi } = earned.value
  return [
    ['BAC', 'All work in the plan', hours(bac)],
    ['PV', 'Planned by the status date', hours(pv)],
    ['EV', 'Earned: what is done of it', hours(ev)],
    ['AC', 'Actual: hours spent', hours(ac)],
    ['SV', 'Ahead of the plan (behind: −)', hours(sv)],
    ['CV', 'Under what was planned for it (over: −)', hours(cv)],
    ['SPI', 'Earned ÷ planned', number(spi, 2)],
    ['CPI', 'Earned ÷ actual', number(cpi, 2)],
    ['EAC', 'All will take, as what is done went', hours(eac.typical)],
    ['', '… as planned from here on', hours(eac.asPlanned)],
    ['', '… as what is done went, in time too', hours(eac.both)],
    ['ETC', 'Still to come', hours(etc)],
    ['VAC', 'Left over at the end (short: −)', hours(vac)],
    ['TCPI', 'How well the rest must go', number(tcpi, 2)],
  ] as const
})

/** The colours are read anew when the theme is turned. */
const turned = ref(0)
const turn = (): void => {
  turned.value++
}
onMounted(() => window.addEventListener('theme-changed', turn))
onBeforeUnmount(() => window.removeEventListener('theme-changed', turn))
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
const option = computed(() => {
  void turned.value
  const [ink, quiet, line] = [colour('ink'), colour('quiet'), colour('line')]
  const axes = {
    axisLine: { lineStyle: { color: line } },
    axisTick: { show: false },
    axisLabel: { color: quiet, hideOverlap: true },
    splitLine: { lineStyle: { color: line } },
  }
  const at = curve.value.findIndex(({ day }) => day >= plan.status)
  const point = (value: number | null): (number | null)[] => curve.value.map((_, i) => (i === at ? value : null))
  const inFact = {
    name: 'left in fact',
    type: 'line',
    symbol: 'none',
    lineStyle: { width: 3.5 },
    itemStyle: { color: colour('fern') },
    data: drawn.value.map(one => one.left),
  }
  const standing = [
    {
      name: 'earned',
      type: 'line',
      symbol: 'rect',
      symbolSize: 12,
      itemStyle: { color: colour('fern') },
      data: point(earned.value.ev),
    },
    {
      name: 'actual',
      type: 'line',
      symbol: 'triangle',
      symbolSize: 13,
      itemStyle: { color: colour('clay') },
      data: point(earned.value.ac),
    },
  ]
  return {
    animation: false,
    aria: { enabled: true },
    textStyle: { fontFamily: 'Figtree Variable, Figtree, sans-serif', color: ink },
    legend: { bottom: 0, textStyle: { color: quiet } },
    tooltip: { trigger: 'axis', backgroundColor: colour('surface'), borderColor: line, textStyle: { color: ink } },
    grid: { left: 52, right: 16, top: 30, bottom: 56 },
    xAxis: { type: 'category', data: curve.value.map(({ day }) => dayInWords(day)), ...axes },
    yAxis: { type: 'value', name: measure.value ? unit.value : 'hours', nameTextStyle: { color: quiet }, ...axes },
    series: [
      ...(against
        ? [
            {
              name: 'as agreed',
              type: 'line',
              symbol: 'none',
              lineStyle: { width: 2, type: 'dashed' },
              itemStyle: { color: quiet },
              data: drawn.value.map(one => one.agreed),
            },
          ]
        : []),
      {
        name: 'as planned now',
        type: 'line',
        symbol: 'none',
        lineStyle: { width: 2.5 },
        itemStyle: { color: colour('porch') },
        data: drawn.value.map(one => one.planned),
      },
      ...(shows.value === 'left' ? [inFact] : standing),
    ],
  }
})
</script>

<template>
  <div class="progress" tabindex="0" role="region" aria-label="Progress of the plan">
    <p v-if="measures.length" class="counted">
      Counted by
      <select v-model="by" aria-label="Counted by">
        <option value="">hours of work</option>
        <option v-for="one in measures" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <template v-if="others.length"
        >, spent by
        <select v-model="spentBy" aria-label="What was spent">
          <option value="">nothing that is kept</option>
          <option v-for="one in others" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select></template
      >.
    </p>
    <p class="quiet about">
      {{ measure ? `${measure.name} of tasks` : 'Hours of work' }}, against
      {{
        against
          ? `“${against.name || 'as agreed'}”`
          : 'the plan as it is; hold it against a baseline to see what has slipped'
      }}.
      {{ measure ? 'What isn’t a task doesn’t count.' : 'Work that nobody estimated counts its length in full days.' }}
    </p>
    <div class="segments" role="group" aria-label="What the chart shows">
      <button :aria-pressed="shows === 'done'" @click="shows = 'done'">Done</button>
      <button :aria-pressed="shows === 'left'" @click="shows = 'left'">Still to do</button>
    </div>
    <figure class="chart"><VChart :option="option" autoresize aria-label="Hours of work over time" /></figure>
    <table aria-label="Earned value">
      <tbody>
        <tr v-for="[short, long, value] in rows" :key="long">
          <td>
            <b>{{ short }}</b>
          </td>
          <th scope="row">{{ long }}</th>
          <td class="value">{{ value }}</td>
        </tr>
      </tbody>
    </table>
    <details>
      <summary>The numbers of the chart</summary>
      <table :aria-label="shows === 'left' ? 'Still to be done, week by week' : 'Hours to be done, week by week'">
        <thead>
          <tr>
            <th scope="col">By</th>
            <th v-if="against" scope="col">as agreed</th>
            <th scope="col">as planned now</th>
            <th v-if="shows === 'left'" scope="col">left in fact</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in drawn" :key="one.day">
            <th scope="row">{{ dayInWords(one.day) }}</th>
            <td v-if="against" class="value">{{ hours(one.agreed) }}</td>
            <td class="value">{{ hours(one.planned) }}</td>
            <td v-if="shows === 'left'" class="value">{{ one.left === null ? '' : hours(one.left) }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
</template>

<style scoped>
.progress {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 12px 18px 40px;
  max-width: 900px;
}
.about {
  margin: 0 0 6px;
  font-size: 13px;
}
.segments {
  max-width: 260px;
  margin-bottom: 4px;
}
.counted select {
  padding: 4px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
  font: inherit;
}
.chart {
  height: 280px;
  margin: 0 0 10px;
}
table {
  border-collapse: collapse;
  font-size: 13px;
}
th,
td {
  text-align: left;
  font-weight: 450;
  padding: 3px 16px 3px 0;
  border-bottom: 1px solid var(--line);
}
.value {
  text-align: right;
  font-variant-numeric: tabular-nums;
  font-weight: 600;
}
summary {
  margin: 10px 0 4px;
  min-height: 28px;
  cursor: pointer;
  color: var(--porch);
  font-weight: 600;
}
</style>
