<script setup lang="ts">
import VChart from 'vue-echarts'
import { nestedParts, type Nested, overTime, partsOfBranch, waterfall } from '#core/figures/charts'
import { nearly } from '#core/figures/fixed'
import { overYears } from '#core/figures/over-years'
import { sayFigure } from '#core/figures/numbers'
import { againstTarget } from '#core/figures/target'
import { type Measure, type Series, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { planNow } from '~/schedule/planning'
import { KINDS } from './chart-kinds'
import { figuresOf } from './figuring'
import { saveChart } from './save-chart'

/** Charts of a branch: what it's made of, against its targets, over time. The table holds the numbers of the chart. */
const { measures } = defineProps<{ measures: readonly Measure[] }>()
const desk = useDesk()
const kind = ref<(typeof KINDS)[number]['id']>('bars')
const measureId = ref<string | null>(null)
const measure = computed(() => measures.find(({ id }) => id === measureId.value) ?? measures[0]!)
/** The branch that has the focus, or the one around it, so that there is something below it. */
const at = computed<TopicId>(() => {
  void desk.tick.value
  const { tree } = desk
  const id = desk.focus.value
  if (!tree.topics.has(id)) return tree.centre
  return (tree.children.get(id)?.length ?? 0) > 0 ? id : (topicOf(tree, id).parent ?? tree.centre)
})
const title = computed(() => {
  void desk.tick.value
  return topicOf(desk.tree, at.value).title
})

interface Row {
  readonly id: TopicId | null
  readonly name: string
  readonly values: readonly string[]
}
const say = (value: bigint): string => sayFigure(value, measure.value, ownLocale())
const parts = computed(() => {
  void desk.tick.value
  return partsOfBranch(desk.tree, figuresOf(desk), at.value, measure.value.id)
})
const whole = computed(() => {
  void desk.tick.value
  return figuresOf(desk).of(at.value, measure.value.id).value ?? 0n
})
const steps = computed(() => waterfall(parts.value, whole.value, 'all'))
const targets = computed(() => {
  void desk.tick.value
  return parts.value.flatMap(part => {
    const against = part.id && againstTarget(desk.tree, figuresOf(desk), part.id, measure.value)
    return against ? [{ ...part, ...against }] : []
  })
})
const time = computed(() => {
  void desk.tick.value
  const plan = planNow(desk)
  return overTime(
    desk.tree,
    figuresOf(desk),
    at.value,
    measure.value.id,
    id => plan?.tasks.get(id)?.finish ?? topicOf(desk.tree, id).due,
  )
})
const each = ref<Series['each']>('year')
const years = computed(() => {
  void desk.tick.value
  return overYears(desk.tree, figuresOf(desk), at.value, measure.value.id, each.value)
})
const nested = computed(() => {
  void desk.tick.value
  return nestedParts(desk.tree, figuresOf(desk), at.value, measure.value.id, 3)
})
const percent = (value: bigint): string =>
  whole.value === 0n
    ? ''
    : `${new Intl.NumberFormat(ownLocale(), { maximumFractionDigits: 1 }).format((nearly(value) / nearly(whole.value)) * 100)} %`
const table = computed<{ heads: string[]; rows: Row[] }>(() => {
  switch (kind.value) {
    case 'target':
      return {
        heads: ['', measure.value.name, 'Target', 'Left'],
        rows: targets.value.map(one => ({
          id: one.id,
          name: one.title,
          values: [say(one.value), say(one.target), say(one.left)],
        })),
      }
    case 'steps':
      return {
        heads: ['', measure.value.name, 'So far'],
        rows: steps.value.map(one => ({ id: one.id, name: one.title, values: [say(one.value), say(one.to)] })),
      }
    case 'years':
      return {
        heads: ['In', measure.value.name],
        rows: [
          ...years.value.periods.map(one => ({ id: null, name: one.period, values: [say(one.value)] })),
          ...(years.value.once === 0n ? [] : [{ id: null, name: 'once', values: [say(years.value.once)] }]),
        ],
      }
    case 'time':
      return {
        heads: ['By', measure.value.name, 'So far'],
        rows: [
          ...time.value.days.map(one => ({
            id: null,
            name: dayInWords(one.day),
            values: [say(one.value), say(one.total)],
          })),
          ...(time.value.without === 0n
            ? []
            : [{ id: null, name: 'without a day', values: [say(time.value.without), ''] }]),
        ],
      }
    default:
      return {
        heads: ['', measure.value.name, 'Share'],
        rows: parts.value.map(one => ({ id: one.id, name: one.title, values: [say(one.value), percent(one.value)] })),
      }
  }
})
const empty = computed(() => {
  if (kind.value === 'years' && years.value.periods.length === 0)
    return 'Nothing below comes again. “Over the years …” in the side sheet makes a series of a figure.'
  if (table.value.rows.length === 0)
    return kind.value === 'target'
      ? 'Nothing below has a target in this measure. The side sheet gives one to the selected topic.'
      : 'Nothing below has a figure in this measure.'
  if ((kind.value === 'share' || kind.value === 'rings') && !nested.value?.children.length)
    return 'Only what is above zero has a share.'
  return ''
})

/** The colours are read anew when the theme is turned. */
const turned = ref(0)
const turn = (): void => {
  turned.value++
}
onMounted(() => window.addEventListener('theme-changed', turn))
onBeforeUnmount(() => window.removeEventListener('theme-changed', turn))
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
const hueOfPart = (id: TopicId | null): string => (id === null ? colour('quiet') : desk.dressing.hueOf(id))
const leaf = (one: Nested): object => ({
  name: shorten(one.title, 30),
  value: nearly(one.value),
  itemStyle: { color: hueOfPart(one.id), borderColor: colour('surface') },
  ...(one.children.length > 0 ? { children: one.children.map(leaf) } : {}),
})
const option = computed((): Record<string, unknown> => {
  void turned.value
  void desk.tick.value
  const [ink, quiet, line, surface] = [colour('ink'), colour('quiet'), colour('line'), colour('surface')]
  const axes = {
    axisLine: { lineStyle: { color: line } },
    axisTick: { show: false },
    axisLabel: { color: quiet, hideOverlap: true },
    splitLine: { lineStyle: { color: line } },
  }
  const base = {
    animation: false,
    aria: { enabled: true },
    textStyle: { fontFamily: 'Figtree Variable, Figtree, sans-serif', color: ink },
    tooltip: { trigger: 'item', backgroundColor: surface, borderColor: line, textStyle: { color: ink } },
    grid: { left: 12, right: 24, top: 24, bottom: 12, containLabel: true },
  }
  const unit = measure.value.unit.trim()
  const upright = (names: string[], series: object[]): Record<string, unknown> => ({
    ...base,
    xAxis: { type: 'category', data: names.map(name => shorten(name, 22)), ...axes, splitLine: { show: false } },
    yAxis: { type: 'value', name: unit, nameTextStyle: { color: quiet }, ...axes },
    series,
  })
  switch (kind.value) {
    case 'bars':
      return {
        ...base,
        xAxis: { type: 'value', name: unit, nameTextStyle: { color: quiet }, ...axes },
        yAxis: {
          type: 'category',
          inverse: true,
          data: parts.value.map(({ title: name }) => shorten(name, 26)),
          ...axes,
          splitLine: { show: false },
        },
        series: [
          {
            type: 'bar',
            barMaxWidth: 30,
            data: parts.value.map(({ id, value }) => ({ value: nearly(value), itemStyle: { color: hueOfPart(id) } })),
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
            label: { color: '#fff', fontFamily: 'Figtree Variable, sans-serif', fontSize: 13 },
            upperLabel: { show: true, color: '#fff', height: 22 },
            levels: [
              { itemStyle: { gapWidth: 3, borderWidth: 0 }, upperLabel: { show: false } },
              { itemStyle: { gapWidth: 1, borderWidth: 2 } },
              {},
            ],
            data: nested.value?.children.map(leaf) ?? [],
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
            label: { color: '#fff', minAngle: 12, overflow: 'truncate', width: 80 },
            data: nested.value?.children.map(leaf) ?? [],
          },
        ],
      }
    case 'target':
      return upright(
        targets.value.map(({ title: name }) => name),
        [
          {
            name: 'target',
            type: 'bar',
            barGap: '-70%',
            barMaxWidth: 46,
            itemStyle: { color: line },
            data: targets.value.map(({ target }) => nearly(target)),
          },
          {
            name: measure.value.name,
            type: 'bar',
            barMaxWidth: 26,
            z: 3,
            data: targets.value.map(({ value, bad, id }) => ({
              value: nearly(value),
              itemStyle: bad
                ? {
                    color: colour('clay'),
                    decal: {
                      symbol: 'rect',
                      dashArrayX: [1, 0],
                      dashArrayY: [3, 3],
                      rotation: 0.8,
                      color: 'rgba(255,255,255,.4)',
                    },
                  }
                : { color: hueOfPart(id) },
            })),
          },
        ],
      )
    case 'steps':
      return upright(
        steps.value.map(({ title: name }) => name),
        [
          {
            type: 'bar',
            stack: 'all',
            silent: true,
            itemStyle: { color: 'transparent' },
            data: steps.value.map(({ from, to }) => Math.min(nearly(from), nearly(to))),
          },
          {
            type: 'bar',
            stack: 'all',
            barMaxWidth: 44,
            data: steps.value.map(({ id, value, kind: of }) => ({
              value: Math.abs(nearly(value)),
              itemStyle: { color: of === 'whole' ? colour('porch') : of === 'rest' ? quiet : hueOfPart(id) },
            })),
          },
        ],
      )
    case 'years':
      return upright(
        years.value.periods.map(({ period }) => period),
        [
          {
            type: 'bar',
            barMaxWidth: 44,
            itemStyle: { color: colour('porch') },
            data: years.value.periods.map(({ value }) => nearly(value)),
          },
        ],
      )
    case 'sure':
      return base
    default:
      return upright(
        time.value.days.map(({ day }) => dayInWords(day)),
        [
          {
            name: 'by then',
            type: 'line',
            step: 'end',
            symbolSize: 7,
            lineStyle: { width: 2.5 },
            areaStyle: { opacity: 0.12 },
            itemStyle: { color: colour('porch') },
            data: time.value.days.map(({ total }) => nearly(total)),
          },
        ],
      )
  }
})
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
    </div>
    <h2 dir="auto">{{ shorten(title, 60) }}: {{ sayFigure(whole, measure, ownLocale()) }}</h2>
    <SpreadPart v-if="kind === 'sure'" :at="at" :measure="measure" />
    <p v-else-if="empty" class="quiet">{{ empty }}</p>
    <figure v-else class="figure-chart">
      <VChart :option="option" autoresize :aria-label="`${measure.name} of ${title}`" />
    </figure>
    <table v-if="kind !== 'sure' && table.rows.length" aria-label="The numbers of the chart">
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
