<script setup lang="ts">
import { fixedOf } from '#core/figures/fixed'
import { readFigure, readNumber, sayFigure, typedFigure } from '#core/figures/numbers'
import { periodsOf, seriesSum } from '#core/figures/series'
import { type Measure, MOST_PERIODS, PERIODS, type Series } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { blankSeries } from './figuring'

/** A figure that comes again: from when, how often, and how it goes on; each period can be typed otherwise. */
const { measure, series, may } = defineProps<{ measure: Measure; series: Series | null; may: boolean }>()
/** What is shown may be a moment old: a change is made to what is there by then. */
const emit = defineEmits<{ change: [change: ((before: Series) => Series) | null] }>()
const desk = useDesk()
const draft = computed(() => series ?? blankSeries(desk))
const GOES_ON: Record<Series['goesOn'], string> = {
  same: 'stays the same',
  rate: 'changes by',
  step: 'changes by so much:',
}
const NAMES: Record<Series['each'], string> = { month: 'month', quarter: 'quarter', year: 'year' }
const periods = computed(() => periodsOf(draft.value) ?? [])
const sum = computed(() => (series ? seriesSum(series) : null))
const say = (value: bigint): string => sayFigure(value, measure, ownLocale())
const typedBy = computed(() => {
  const by = fixedOf(draft.value.by) ?? 0n
  return typedFigure(by, draft.value.goesOn === 'rate' ? { unit: '%' } : measure, ownLocale())
})
function put(change: Partial<Series>): void {
  emit('change', before => ({ ...before, ...change }))
}
function number(said: string, unit: Pick<Measure, 'unit'>, then: (numeral: string) => void): void {
  const numeral = readFigure(said, unit, ownLocale())
  if (numeral === null) desk.say(`“${said}” is no number.`)
  else then(numeral)
}
function setCount(said: string): void {
  const count = Number(readNumber(said, ownLocale()))
  if (!Number.isInteger(count) || count < 1 || count > MOST_PERIODS)
    desk.say(`A series has 1 to ${MOST_PERIODS} periods.`)
  else emit('change', before => ({ ...before, count, typed: before.typed.filter(({ at }) => at < count) }))
}
function setFrom(said: string): void {
  if (/^\d{4}-(0[1-9]|1[0-2])$/.test(said)) put({ from: said })
  else desk.say('A month is written as year and month: 2027-05.')
}
function type(at: number, said: string): void {
  const put = (typed: Series['typed']): void => {
    emit('change', before => {
      const rest = before.typed.filter(one => one.at !== at)
      return { ...before, typed: [...rest, ...typed].sort((a, b) => a.at - b.at) }
    })
  }
  if (said.trim() === '') put([])
  else number(said, measure, value => put([{ at, value }]))
}
</script>

<template>
  <div class="series">
    <p>
      <input
        v-kept="typedFigure(fixedOf(draft.start) ?? 0n, measure, ownLocale())"
        inputmode="decimal"
        :disabled="!may"
        aria-label="In the first period"
        @change="number(($event.target as HTMLInputElement).value, measure, start => put({ start }))" />
      each
      <select
        :value="draft.each"
        :disabled="!may"
        aria-label="How often"
        @change="put({ each: ($event.target as HTMLSelectElement).value as Series['each'] })">
        <option v-for="each in PERIODS" :key="each" :value="each">{{ NAMES[each] }}</option></select
      >,
      <input
        v-kept="draft.count"
        class="few"
        inputmode="numeric"
        :disabled="!may"
        aria-label="How many periods"
        @change="setCount(($event.target as HTMLInputElement).value)" />
      times from
      <input
        v-kept="draft.from"
        type="month"
        :disabled="!may"
        aria-label="The first period"
        @change="setFrom(($event.target as HTMLInputElement).value)" />
      ; it
      <select
        :value="draft.goesOn"
        :disabled="!may"
        aria-label="How it goes on"
        @change="put({ goesOn: ($event.target as HTMLSelectElement).value as Series['goesOn'], by: '0' })">
        <option v-for="(words, way) in GOES_ON" :key="way" :value="way">{{ words }}</option>
      </select>
      <template v-if="draft.goesOn !== 'same'">
        <input
          v-kept="typedBy"
          class="few"
          inputmode="decimal"
          :disabled="!may"
          aria-label="By how much"
          @change="
            number(($event.target as HTMLInputElement).value, draft.goesOn === 'rate' ? { unit: '%' } : measure, by =>
              put({ by }),
            )
          " />
        {{ draft.goesOn === 'rate' ? '%' : measure.unit }}
      </template>
    </p>
    <details v-if="series">
      <summary>All periods: {{ sum === null ? 'too large' : say(sum) }}</summary>
      <ul aria-label="Periods">
        <li v-for="(one, at) in periods" :key="one.period">
          {{ one.period }}
          <input
            v-kept="typedFigure(one.value, measure, ownLocale())"
            inputmode="decimal"
            :class="{ typed: series.typed.some(other => other.at === at) }"
            :disabled="!may"
            :aria-label="`In ${one.period}`"
            @change="type(at, ($event.target as HTMLInputElement).value)" />
        </li>
      </ul>
    </details>
    <button v-if="series && may" class="plain" @click="emit('change', null)">One figure instead</button>
  </div>
</template>

<style scoped>
.series {
  font-size: 12.5px;
  padding: 6px 8px;
  background: var(--hover);
  border-radius: 6px;
}
.series p {
  margin: 0 0 4px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 5px;
  align-items: center;
}
.series input,
.series select {
  font: inherit;
  width: 84px;
  padding: 2px 5px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
  font-variant-numeric: tabular-nums;
}
.series select {
  width: auto;
}
.series .few {
  width: 52px;
}
.series input[type='month'] {
  width: 128px;
}
.series ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  max-height: 220px;
  overflow: auto;
}
.series li {
  display: flex;
  justify-content: space-between;
  margin-bottom: 2px;
}
.series .typed {
  border-color: var(--sun);
  font-weight: 650;
}
.plain {
  font: inherit;
  font-weight: 600;
  min-height: 26px;
  padding: 0;
}
</style>
