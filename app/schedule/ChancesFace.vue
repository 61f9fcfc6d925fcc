<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { chanceBy, type ChancesAsked, classicalChance } from '#core/schedule/chances'
import { addDays } from '#core/schedule/days'
import type { Plan } from '#core/schedule/plan'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { useChances } from './useChances'

/** How sure the end is: the curve, the days for 50, 80 and 95 %, what drives the spread, and the classical figure beside it. */
const { plan } = defineProps<{ plan: Plan }>()
const desk = useDesk()
const asked = reactive<ChancesAsked & { rounds: number; seed: number }>({ rounds: 10_000, seed: 1, shape: 'beta' })
const { made, rounds, wrong, run, stop } = useChances(desk)
const again = useDebounceFn(() => run({ ...asked }), 300)
watch(() => plan, again)
watch(asked, again)
onMounted(() => run({ ...asked }))

const titled = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 46)
const percent = (share: number): string =>
  new Intl.NumberFormat(ownLocale(), {
    style: 'percent',
    maximumFractionDigits: share > 0 && share < 0.01 ? 1 : 0,
  }).format(share)
const day = ref<string | null>(null)
const chance = computed(() => {
  if (!made.value || day.value === null) return null
  const days = plan.calendar.workingDaysBetween(desk.tree.fields.planFrom!, addDays(day.value, 1))
  return { drawn: chanceBy(made.value, day.value), classical: classicalChance(made.value.classical, days) }
})
const DAYS = [
  { key: 'half', name: '50 %' },
  { key: 'likely', name: '80 %' },
  { key: 'sure', name: '95 %' },
] as const

// The curve, drawn as a stair of planks: each day as high as the share of rounds that had ended by then.
const narrow = useNarrow()
const wide = computed(() => (narrow.value ? 330 : 640))
const HIGH = 190
const curve = computed(() => {
  if (!made.value || made.value.curve.length === 0) return null
  const { curve: all, days } = made.value
  const [first, last] = [all[0]!.day, all.at(-1)!.day]
  const count = Math.max(1, plan.calendar.workingDaysBetween(first, last))
  const x = (at: string): number => (plan.calendar.workingDaysBetween(first, at) / count) * wide.value
  const y = (by: number): number => HIGH - by * HIGH
  let path = `M 0 ${HIGH}`
  for (const one of all) path += ` H ${x(one.day).toFixed(1)} V ${y(one.by).toFixed(1)}`
  return {
    first,
    last,
    line: `${path} H ${wide.value}`,
    area: `${path} H ${wide.value} V ${HIGH} Z`,
    at: DAYS.map(({ key, name }) => ({ name, x: x(days[key]), y: y(chanceBy(made.value!, days[key])) })),
    classical: Math.max(0, Math.min(wide.value, x(made.value.classical.day))),
  }
})
</script>

<template>
  <div class="chances" tabindex="0" role="region" aria-label="Chances of the plan’s end">
    <div class="asked">
      <label
        >Lengths are drawn from
        <select v-model="asked.shape">
          <option value="beta">a beta curve</option>
          <option value="triangle">a triangle</option>
        </select></label
      >
      <label>in <NumberField v-model="asked.rounds" :min="100" :max="100_000" aria-label="Rounds" /> rounds</label>
      <label>from the seed <NumberField v-model="asked.seed" :min="0" :max="2_147_483_647" aria-label="Seed" /></label>
      <span v-if="rounds !== null" role="status" class="quiet">
        {{ rounds.toLocaleString(ownLocale()) }} of {{ asked.rounds.toLocaleString(ownLocale()) }} …
        <button class="plain" @click="stop">Stop</button>
      </span>
    </div>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <template v-if="made">
      <p v-if="made.estimated === 0" class="hint">
        Nobody has estimated a task three ways yet, so every round ends on the same day. Best, likely and worst stand in
        the side sheet, under Plan; or type “3 to 8 days” after <kbd>//</kbd>.
      </p>
      <dl class="days">
        <div v-for="one in DAYS" :key="one.key">
          <dt>{{ one.name }} sure</dt>
          <dd>{{ dayInWords(made.days[one.key]) }}</dd>
        </div>
        <div class="classical">
          <dt>The classical sum</dt>
          <dd>{{ dayInWords(made.classical.day) }}</dd>
        </div>
      </dl>
      <p class="quiet about">
        By that day all was done in {{ percent(chanceBy(made, made.classical.day)) }} of the rounds. The classical sum
        adds up one path alone, so it’s too hopeful where several meet: there the latest of them counts.
      </p>
      <figure v-if="curve">
        <svg
          :viewBox="`-4 -12 ${wide + 60} ${HIGH + 40}`"
          role="img"
          aria-label="Share of rounds that had ended, day by day; the table below says the same">
          <path class="area" :d="curve.area" />
          <path class="line" :d="curve.line" />
          <g v-for="one in curve.at" :key="one.name" class="mark">
            <path :d="`M ${one.x} ${HIGH} V ${one.y}`" />
            <text :x="one.x + 4" :y="one.y - 3">{{ one.name }}</text>
          </g>
          <path class="classical" :d="`M ${curve.classical} ${HIGH} V 0`" />
          <text class="quiet" :x="curve.classical - 5" :y="8" text-anchor="end">classical</text>
          <text :x="0" :y="HIGH + 18">{{ dayInWords(curve.first) }}</text>
          <text :x="wide" :y="HIGH + 18" text-anchor="end">{{ dayInWords(curve.last) }}</text>
        </svg>
      </figure>
      <p class="ask">
        By
        <DayField v-model="day" label="By which day" placeholder="which day?" class="which" />
        <template v-if="chance">
          it’s done with a chance of <b>{{ percent(chance.drawn) }}</b>
          <span class="quiet">(classical: {{ percent(chance.classical) }})</span>.
        </template>
      </p>
      <table v-if="made.drivers.length">
        <caption>
          What drives it
        </caption>
        <thead>
          <tr>
            <th scope="col">Task</th>
            <th scope="col">part in the spread</th>
            <th scope="col">decided the end</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in made.drivers.slice(0, 20)" :key="one.topic">
            <th scope="row">
              <button class="plain" @click="desk.visit(one.topic)">{{ titled(one.topic) }}</button>
            </th>
            <td>
              <i class="share" :style="{ width: `${one.share * 90}px` }" />{{
                one.share > 0 ? percent(one.share) : '–'
              }}
            </td>
            <td>{{ percent(one.critical) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet about">
        {{ made.rounds.toLocaleString(ownLocale()) }} rounds; the end lies
        {{ made.deviation.toLocaleString(ownLocale(), { maximumFractionDigits: 1 }) }} working days about its mean
        (standard deviation; the classical sum says
        {{ made.classical.deviation.toLocaleString(ownLocale(), { maximumFractionDigits: 1 }) }}).
      </p>
    </template>
  </div>
</template>

<style scoped>
.chances {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 12px 18px 40px;
  max-width: 860px;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  font-size: 13px;
}
.asked select,
.asked input {
  font: inherit;
  font-weight: 600;
  color: var(--porch);
  background: none;
  border: 0;
  border-bottom: 2px solid var(--sun);
  min-height: 28px;
}
.asked input {
  width: 86px;
}
.hint {
  border-left: 4px solid var(--sun);
  padding: 6px 12px;
  background: var(--page);
}
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 16px 0 4px;
}
.days div {
  border-left: 4px solid var(--porch);
  padding-left: 9px;
}
.days .classical {
  border-left: 4px dashed var(--quiet);
}
.days dt {
  color: var(--quiet);
  font-size: 12.5px;
}
.days dd {
  margin: 0;
  font: 650 19px/1.3 var(--display);
}
.about {
  font-size: 13px;
  max-width: 640px;
}
figure {
  margin: 12px 0;
  max-width: 720px;
}
.area {
  fill: var(--ceiling);
}
.line {
  fill: none;
  stroke: var(--porch);
  stroke-width: 2.4;
}
.mark path {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.classical {
  stroke: var(--quiet);
  stroke-width: 1.6;
  stroke-dasharray: 4 4;
}
svg text {
  font: 600 12px var(--text);
  fill: var(--ink);
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.which {
  width: 190px;
}
table {
  border-collapse: collapse;
  font-size: 13px;
}
caption {
  text-align: left;
  font: 600 15px var(--display);
  padding: 8px 0 4px;
}
th,
td {
  text-align: left;
  padding: 3px 18px 3px 0;
  border-bottom: 1px solid var(--line);
  font-variant-numeric: tabular-nums;
}
thead th {
  color: var(--quiet);
  font-weight: 500;
}
.share {
  display: inline-block;
  height: 9px;
  background: var(--porch);
  margin-right: 7px;
}
.plain {
  padding: 0;
  min-height: 26px;
}
</style>
