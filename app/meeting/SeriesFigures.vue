<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { overTimeOption } from '#core/figures/chart-option'
import { fixedOf, nearly } from '#core/figures/fixed'
import { sayFigure } from '#core/figures/numbers'
import { targetInWords } from '#core/figures/target'
import type { ToldFigures } from '#core/figures/told'
import { inOrder, type Measure, shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { useChartLook } from '~/figures/useChartLook'

/** What the whole tree came to when each meeting of the series ended, and what was left of its targets then. */
const { ends } = defineProps<{
  ends: readonly { readonly id: TopicId; readonly title: string; readonly day: string; readonly number: number }[]
}>()
const emit = defineEmits<{ choose: [id: TopicId] }>()
use([SVGRenderer, LineChart, GridComponent, TooltipComponent, AriaComponent])

/** Meetings whose figures are fetched: the tree is built anew as it was at the end of each. */
const MOST = 12
const desk = useDesk()
const look = useChartLook(desk)
const last = computed(() => ends.slice(-MOST))
const known = shallowRef<ReadonlyMap<number, ToldFigures>>(new Map())
const { wrong, attempt } = useAttempt()
// One after the other, the latest first; what is known already isn't asked again.
watch(
  () => last.value.map(({ number }) => number).join(),
  () =>
    void attempt(async () => {
      for (const { number } of last.value.toReversed()) {
        if (known.value.has(number)) continue
        const told = await callApi<ToldFigures>(`/api/trees/${desk.session.treeId}/figures`, {
          query: { moment: String(number), topic: desk.tree.centre },
        })
        known.value = new Map(known.value).set(number, told)
      }
    }),
  { immediate: true },
)
const measures = computed(() => {
  void desk.lateTick.value
  return inOrder(desk.tree.fields.measures)
})
const chosen = ref<string | null>(null)
const measure = computed(() => measures.value.find(({ id }) => id === chosen.value) ?? measures.value[0]!)
function valueOf(number: number, { id }: Measure): { value: bigint; target: bigint | null } | null {
  const found = known.value.get(number)?.figures.find(one => one.measure === id)
  const value = found?.value ? fixedOf(found.value) : null
  return value === null ? null : { value, target: found?.target ? fixedOf(found.target) : null }
}
function words(number: number, one: Measure): { text: string; bad: boolean } {
  if (!known.value.has(number)) return { text: '…', bad: false }
  const at = valueOf(number, one)
  if (!at) return { text: '–', bad: false }
  const said = sayFigure(at.value, one, ownLocale())
  if (at.target === null) return { text: said, bad: false }
  const left = at.target - at.value
  const bad = one.limit === 'most' ? left < 0n : left > 0n
  return { text: `${said}; ${targetInWords({ left, target: at.target, bad, measure: one }, ownLocale())}`, bad }
}
const option = computed(() =>
  overTimeOption(
    last.value.map(({ title, number }) => {
      const at = valueOf(number, measure.value)
      return {
        name: shorten(title, 16),
        value: at && nearly(at.value),
        target: at && at.target !== null ? nearly(at.target) : null,
      }
    }),
    measure.value,
    look.value,
    ownLocale(),
  ),
)
</script>

<template>
  <section aria-label="What it came to">
    <header>
      <h2>What it came to</h2>
      <select
        v-if="measures.length > 1"
        :value="measure.id"
        aria-label="Measure of the chart"
        @change="chosen = ($event.target as HTMLSelectElement).value">
        <option v-for="one in measures" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </header>
    <p v-if="ends.length > last.length" class="quiet">The last {{ MOST }} meetings.</p>
    <div v-if="last.length > 1" class="drawn">
      <VChart :option="option" autoresize :aria-label="`${measure.name}, meeting by meeting`" />
    </div>
    <div class="scroll">
      <table aria-label="Figures at the end of each meeting">
        <thead>
          <tr>
            <th scope="col">Meeting</th>
            <th scope="col">Day</th>
            <th v-for="one in measures" :key="one.id" scope="col" class="n">{{ one.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in last" :key="row.id">
            <td>
              <button class="plain" @click="emit('choose', row.id)">{{ row.title }}</button>
            </td>
            <td>{{ dayInWords(row.day) }}</td>
            <td v-for="one in measures" :key="one.id" class="n" :class="{ late: words(row.number, one).bad }">
              {{ words(row.number, one).text }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="wrong" class="late" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
header {
  display: flex;
  gap: 14px;
  align-items: center;
  margin-bottom: 8px;
}
select {
  font: inherit;
  font-size: 13px;
  padding: 5px 7px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
}
.drawn {
  height: 220px;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  font-size: 13.5px;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--line);
}
th {
  color: var(--quiet);
  font-weight: 600;
  font-size: 12px;
}
.n {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.late {
  color: var(--clay);
  font-weight: 600;
}
.plain {
  padding: 0;
  min-height: 24px;
  font: inherit;
  font-weight: 600;
}
</style>
