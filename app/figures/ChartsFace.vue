<script setup lang="ts">
import VChart from 'vue-echarts'
import { chartOf, chartTable, emptinessOf } from '#core/figures/chart'
import { chartOption } from '#core/figures/chart-option'
import { sayFigure } from '#core/figures/numbers'
import { type Measure, type ShownChart, shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { planNow } from '~/schedule/planning'
import './chart-parts'
import { allCharts, chartedAt, chartingOf, hangChart, hungOn, kindName, KINDS, showChart } from './charting'
import { EMPTY_WORDS } from './chart-words'
import { figuresOf } from './figuring'
import { saveChart } from './save-chart'
import { useChartLook } from './useChartLook'

/** Charts of a branch: what it's made of, against its targets, over time. The table holds the numbers of the chart. */
const { measures } = defineProps<{ measures: readonly Measure[] }>()
const desk = useDesk()
const { kind, measure: measureId, each } = chartingOf(desk)
const measure = computed(() => measures.find(({ id }) => id === measureId.value) ?? measures[0]!)
const at = computed(() => {
  void desk.tick.value
  return chartedAt(desk)
})
const title = computed(() => {
  void desk.tick.value
  return topicOf(desk.tree, at.value).title
})
const whole = computed(() => {
  void desk.tick.value
  return figuresOf(desk).of(at.value, measure.value.id).value ?? 0n
})
/** What is shown, as it's kept; null where the sum's chances are. */
const asked = computed((): ShownChart | null =>
  kind.value === 'sure' ? null : { at: at.value, kind: kind.value, measure: measure.value.id, each: each.value },
)
const chart = computed(() => {
  void desk.tick.value
  const plan = planNow(desk)
  return (
    asked.value && chartOf(desk.tree, figuresOf(desk), at.value, asked.value, id => plan?.tasks.get(id)?.finish ?? null)
  )
})
const table = computed(() => chart.value && chartTable(chart.value, ownLocale(), dayInWords))
const empty = computed(() => {
  const why = chart.value && emptinessOf(chart.value)
  return why ? EMPTY_WORDS[why] : ''
})
const look = useChartLook(desk)
const option = computed(() => {
  void desk.tick.value
  return chart.value ? chartOption(chart.value, look.value, { locale: ownLocale(), day: dayInWords }) : {}
})
const hung = computed(() => {
  void desk.tick.value
  return asked.value !== null && hungOn(desk, at.value, asked.value) !== undefined
})
const everywhere = computed(() => {
  void desk.tick.value
  return allCharts(desk).flatMap(one => {
    const of = measures.find(({ id }) => id === one.chart.measure)
    return of ? [{ ...one, name: `${shorten(one.title, 30)}: ${kindName(one.chart.kind)}, ${of.name}` }] : []
  })
})
function go(id: string): void {
  const found = everywhere.value.find(({ chart: { id: own } }) => own === id)
  if (found)
    showChart(desk, { at: found.at, kind: found.chart.kind, measure: found.chart.measure, each: found.chart.each })
}
const save = (): void => saveChart('.figure-chart svg', `${title.value || 'chart'} ${measure.value.name}`)
</script>

<template>
  <div class="charts" tabindex="0" role="region" aria-label="Charts of a branch">
    <div class="choose">
      <div role="group" aria-label="Kind of chart" class="kinds">
        <button v-for="one in KINDS" :key="one.id" :aria-pressed="kind === one.id" @click="kind = one.id">
          {{ one.name }}
        </button>
      </div>
      <Select
        v-if="measures.length > 1"
        :model-value="measure.id"
        :options="[...measures]"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Measure"
        @update:model-value="measureId = $event" />
      <select v-if="kind === 'years'" v-model="each" class="each" aria-label="Gathered by">
        <option value="month">by months</option>
        <option value="quarter">by quarters</option>
        <option value="year">by years</option>
      </select>
      <button class="plain" :disabled="empty !== '' || kind === 'sure'" @click="save">Save as a picture</button>
      <button
        v-if="asked && desk.session.canEdit"
        class="plain"
        :aria-pressed="hung"
        :data-tip="`${hung ? 'Take the chart off' : 'The chart hangs on'} “${shorten(title, 40) || 'untitled'}”, there for everybody and in documents`"
        @click="hangChart(desk, asked)">
        {{ hung ? 'Hangs on its topic' : 'Hang it on its topic' }}
      </button>
      <select
        v-if="everywhere.length"
        class="each hung"
        aria-label="Charts that hang in the tree"
        :value="''"
        @change="go(($event.target as HTMLSelectElement).value)">
        <option value="">charts of the tree …</option>
        <option v-for="one in everywhere" :key="one.chart.id" :value="one.chart.id">{{ one.name }}</option>
      </select>
    </div>
    <h2 dir="auto">{{ shorten(title, 60) }}: {{ sayFigure(whole, measure, ownLocale()) }}</h2>
    <SpreadPart v-if="kind === 'sure'" :at="at" :measure="measure" />
    <p v-else-if="empty" class="quiet">{{ empty }}</p>
    <figure v-else class="figure-chart">
      <VChart :option="option" autoresize :aria-label="`${measure.name} of ${title}`" />
    </figure>
    <table v-if="table?.rows.length" aria-label="The numbers of the chart">
      <thead>
        <tr>
          <th v-for="head in table.heads" :key="head" scope="col">{{ head }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in table.rows" :key="`${row.id} ${row.name}`">
          <th scope="row">
            <button v-if="row.id" class="plain" dir="auto" @click="desk.select(row.id)">
              {{ shorten(row.name, 60) || 'untitled' }}
            </button>
            <template v-else>{{ row.name }}</template>
          </th>
          <td v-for="(value, i) in row.values" :key="i">{{ value }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped src="./ChartsFace.css"></style>
