<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { shorten } from '#core/tree'
import type { SeriesFigures } from '#core/meeting/series'

/** The series in charts. The tables below hold the same numbers, so these are pictures of them. */
const { figures } = defineProps<{ figures: SeriesFigures }>()
use([SVGRenderer, BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, AriaComponent])

/** The colours are read anew when the theme is turned. */
const turned = ref(0)
const turn = (): void => {
  turned.value++
}
onMounted(() => window.addEventListener('theme-changed', turn))
onBeforeUnmount(() => window.removeEventListener('theme-changed', turn))
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
const base = computed(() => {
  void turned.value
  const ink = colour('ink')
  const quiet = colour('quiet')
  const line = colour('line')
  return {
    animation: !still,
    aria: { enabled: true, decal: { show: true } },
    textStyle: { fontFamily: 'Figtree Variable, Figtree, sans-serif', color: ink },
    legend: { bottom: 0, itemHeight: 10, itemWidth: 14, textStyle: { color: quiet } },
    tooltip: { trigger: 'axis', backgroundColor: colour('surface'), borderColor: line, textStyle: { color: ink } },
    grid: { left: 36, right: 14, top: 14, bottom: 52 },
    axes: {
      axisLine: { lineStyle: { color: line } },
      axisTick: { show: false },
      axisLabel: { color: quiet, hideOverlap: true },
      splitLine: { lineStyle: { color: line } },
    },
  }
})
const names = computed(() => figures.rows.map(row => shorten(row.title, 16)))
const actions = computed(() => {
  const { axes, ...rest } = base.value
  return {
    ...rest,
    xAxis: { type: 'category', data: names.value, ...axes },
    yAxis: { type: 'value', minInterval: 1, ...axes },
    series: [
      {
        name: 'raised',
        type: 'bar',
        barMaxWidth: 22,
        itemStyle: { color: colour('porch') },
        data: figures.rows.map(row => row.raised),
      },
      {
        name: 'closed',
        type: 'bar',
        barMaxWidth: 22,
        itemStyle: { color: colour('fern') },
        data: figures.rows.map(row => row.closed),
      },
      {
        name: 'overdue',
        type: 'line',
        symbolSize: 8,
        lineStyle: { width: 2 },
        itemStyle: { color: colour('clay') },
        data: figures.rows.map(row => row.overdue),
      },
    ],
  }
})
const times = computed(() => {
  const { axes, ...rest } = base.value
  return {
    ...rest,
    xAxis: { type: 'category', data: names.value, ...axes },
    yAxis: { type: 'value', minInterval: 1, ...axes, axisLabel: { ...axes.axisLabel, formatter: '{value}' } },
    series: [
      {
        name: 'minutes planned',
        type: 'bar',
        barMaxWidth: 22,
        itemStyle: { color: colour('line') },
        data: figures.rows.map(row => row.planned),
      },
      {
        name: 'minutes used',
        type: 'bar',
        barMaxWidth: 22,
        itemStyle: { color: colour('sun') },
        data: figures.rows.map(row => row.actual),
      },
    ],
  }
})
const came = computed(() => {
  const { axes, ...rest } = base.value
  return {
    ...rest,
    xAxis: { type: 'category', data: names.value, ...axes },
    yAxis: { type: 'value', min: 0, max: 100, ...axes, axisLabel: { ...axes.axisLabel, formatter: '{value} %' } },
    series: [
      {
        name: 'of those asked were there',
        type: 'line',
        symbolSize: 8,
        itemStyle: { color: colour('sky') },
        data: figures.rows.map(row => (row.invited === 0 ? null : Math.round((row.came / row.invited) * 100))),
      },
    ],
  }
})
</script>

<template>
  <div class="charts">
    <figure>
      <figcaption>Actions</figcaption>
      <VChart :option="actions" :init-options="{ renderer: 'svg' }" autoresize />
    </figure>
    <figure>
      <figcaption>Time</figcaption>
      <VChart :option="times" :init-options="{ renderer: 'svg' }" autoresize />
    </figure>
    <figure>
      <figcaption>Attendance</figcaption>
      <VChart :option="came" :init-options="{ renderer: 'svg' }" autoresize />
    </figure>
  </div>
</template>

<style scoped>
.charts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 18px;
}
figure {
  margin: 0;
  background: var(--surface);
  box-shadow: 0 0 0 0.5px var(--line);
  padding: 12px;
  height: 240px;
  display: flex;
  flex-direction: column;
}
figcaption {
  font: 600 14px var(--display);
  margin-bottom: 4px;
}
figure > :last-child {
  flex: 1;
  min-height: 0;
}
</style>
