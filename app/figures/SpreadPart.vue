<script setup lang="ts">
import { spreadOf } from '#core/figures/spread'
import { sayFigure } from '#core/figures/numbers'
import { fixedFrom } from '#core/figures/fixed'
import { type Measure, shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { figuresOf } from './figuring'

/** How sure the sum of a branch is, from what its figures may come to at least and at most. */
const { at, measure } = defineProps<{ at: TopicId; measure: Measure }>()
const desk = useDesk()
const spread = computed(() => {
  void desk.tick.value
  return spreadOf(desk.tree, figuresOf(desk), at, measure.id)
})
const say = (value: number): string => sayFigure(fixedFrom(Math.round(value)), { ...measure, decimals: 0 }, ownLocale())
const percent = (share: number): string => `${Math.round(share * 100)} %`
const WIDE = 560
const HIGH = 170
const curve = computed(() => {
  if (!spread.value) return null
  const { curve: all, half, likely, sure, asIs } = spread.value
  const [first, last] = [Math.min(all[0]!, asIs), all.at(-1)!]
  const x = (value: number): number => ((value - first) / (last - first || 1)) * WIDE
  const path = all
    .map((value, i) => `${i === 0 ? 'M' : 'L'} ${x(value).toFixed(1)} ${(HIGH - (i / 100) * HIGH).toFixed(1)}`)
    .join(' ')
  return {
    path,
    first,
    last,
    asIs: x(asIs),
    marks: [
      { name: '50 %', x: x(half), y: HIGH / 2 },
      { name: '80 %', x: x(likely), y: HIGH * 0.2 },
      { name: '95 %', x: x(sure), y: HIGH * 0.05 },
    ],
  }
})
</script>

<template>
  <div class="spread">
    <p v-if="!spread" class="quiet">
      No figure below has a range yet. The side sheet takes the least and the most that one may come to; then this says
      what the sum is sure not to go over.
    </p>
    <template v-else>
      <p>
        As it stands {{ say(spread.asIs) }}. It doesn’t go over <b>{{ say(spread.half) }}</b> in half of
        {{ spread.rounds.toLocaleString(ownLocale()) }} rounds, <b>{{ say(spread.likely) }}</b> in 80 %,
        <b>{{ say(spread.sure) }}</b> in 95 %.
      </p>
      <svg
        v-if="curve"
        :viewBox="`-6 -12 ${WIDE + 60} ${HIGH + 40}`"
        role="img"
        :aria-label="`What the sum doesn’t go over: ${say(spread.half)} at 50 %, ${say(spread.likely)} at 80 %, ${say(spread.sure)} at 95 %`">
        <path class="line" :d="curve.path" />
        <line class="as-is" :x1="curve.asIs" :x2="curve.asIs" y1="0" :y2="HIGH" />
        <g v-for="mark in curve.marks" :key="mark.name">
          <rect :x="mark.x - 4" :y="mark.y - 4" width="8" height="8" />
          <text :x="mark.x + 9" :y="mark.y + 4">{{ mark.name }}</text>
        </g>
        <text x="0" :y="HIGH + 22">{{ say(curve.first) }}</text>
        <text :x="WIDE" :y="HIGH + 22" text-anchor="end">{{ say(curve.last) }}</text>
      </svg>
      <p class="quiet">
        By the classical sums {{ say(spread.classical.mean) }} on average. Each is drawn by itself: what rises together
        in fact spreads wider than this.
      </p>
      <table aria-label="What drives it">
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">at least</th>
            <th scope="col">likely</th>
            <th scope="col">at most</th>
            <th scope="col">of the spread</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in spread.drivers.slice(0, 20)" :key="one.topic">
            <th scope="row">
              <button class="plain" dir="auto" @click="desk.select(one.topic)">
                {{ shorten(desk.tree.topics.get(one.topic)?.title || 'untitled', 40) }}
              </button>
            </th>
            <td>{{ say(one.estimate.best) }}</td>
            <td>{{ say(one.estimate.likely) }}</td>
            <td>{{ say(one.estimate.worst) }}</td>
            <td>{{ percent(one.share) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.spread svg {
  width: min(100%, 640px);
  height: auto;
  display: block;
}
.line {
  fill: none;
  stroke: var(--porch);
  stroke-width: 2.5;
}
.as-is {
  stroke: var(--clay);
  stroke-width: 2;
  stroke-dasharray: 5 4;
}
rect {
  fill: var(--sun);
  stroke: var(--ink);
}
text {
  fill: var(--ink);
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
table {
  border-collapse: collapse;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
th,
td {
  text-align: right;
  padding: 4px 12px;
  border-bottom: 1px solid var(--line);
  font-weight: 400;
}
th:first-child {
  text-align: left;
  padding-left: 0;
}
thead th {
  color: var(--quiet);
  font-size: 12px;
}
.plain {
  font: inherit;
  font-weight: 600;
  min-height: 26px;
  padding: 0;
}
</style>
