<script setup lang="ts">
import { choiceOf, leewaysOf, MOST_INCONSISTENT, MOST_PAIRED, pairsOf, weightsOf } from '#core/figures/choosing'
import { compared, criterionTurned } from '#core/figures/choosing-changes'
import {
  addAt,
  allTopics,
  childrenOf,
  type Criterion,
  lastChild,
  type Measure,
  shorten,
  topicOf,
  type TopicId,
} from '#core/tree'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { figuresOf, measuresOf } from './figuring'
import ChoosingMark from './ChoosingMark.vue'

/** Choosing among the topics below one: marks, weights, what they come to, and how sure that is. */
defineProps<{ measures: readonly Measure[] }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
/** What is chosen among: the topic that has the focus, or the nearest above it that has criteria. */
const at = computed<TopicId>(() => {
  void desk.tick.value
  const { topics, centre } = desk.tree
  let id: TopicId | null = topics.has(desk.focus.value) ? desk.focus.value : centre
  for (let up: TopicId | null = id; up !== null; up = topics.get(up)?.parent ?? null)
    if (topicOf(desk.tree, up).choice.length > 0) return up
  if (childrenOf(desk.tree, id).length === 0) id = topics.get(id)?.parent ?? centre
  return id
})
const topic = computed(() => {
  void desk.tick.value
  return topicOf(desk.tree, at.value)
})
/** Other topics that have criteria. */
const elsewhere = computed(() => {
  void desk.tick.value
  return [...allTopics(desk.tree)].filter(({ choice: parts }) => parts.length > 0).slice(0, 12)
})
const all = computed(() => {
  void desk.tick.value
  return measuresOf(desk)
})
const choice = computed(() => {
  void desk.tick.value
  return choiceOf(desk.tree, at.value, figuresOf(desk), all.value)
})
const options = computed(() => {
  void desk.tick.value
  const scored = new Map(choice.value.options.map(one => [one.id, one]))
  return childrenOf(desk.tree, at.value).map(id => ({
    id,
    title: topicOf(desk.tree, id).title,
    scored: scored.get(id) ?? null,
  }))
})
const leeways = computed(() => leewaysOf(choice.value))
const number = (value: number, digits = 2): string =>
  new Intl.NumberFormat(ownLocale(), { minimumFractionDigits: digits, maximumFractionDigits: digits }).format(value)
const percent = (value: number): string => `${number(value * 100, 0)} %`

function toggle(measure: Measure): void {
  if (!desk.guard()) return
  desk.run({ changes: criterionTurned(desk.tree, at.value, measure) })
}
function put(criterion: Criterion, change: Partial<Criterion>): void {
  if (desk.guard())
    desk.run({ changes: [{ op: 'put', topic: at.value, set: 'choice', member: { ...criterion, ...change } }] })
}
function setWeight(criterion: Criterion, said: string): void {
  const weight = Number(said.replace(',', '.'))
  if (!Number.isFinite(weight) || weight < 0 || weight > 1000)
    desk.say('A weight is a number from 0 to 1,000: what counts is its part of all.')
  else put(criterion, { weight })
}

// — Two by two

const pairing = ref(false)
const ids = computed(() => choice.value.criteria.map(({ measure }) => measure.id))
const pairs = computed(() => pairsOf(topic.value))
const couples = computed(() =>
  choice.value.criteria.flatMap((a, i) =>
    choice.value.criteria.slice(i + 1).map(b => ({ a: a.measure, b: b.measure })),
  ),
)
const paired = computed(() => weightsOf(ids.value, topic.value.choice))
const RATIOS = [9, 7, 5, 3, 2, 1, 1 / 2, 1 / 3, 1 / 5, 1 / 7, 1 / 9]
const ratioWords = (ratio: number, a: string, b: string): string =>
  ratio === 1
    ? 'as much as'
    : ratio > 1
      ? `${a} ${Math.round(ratio)} × as much`
      : `${b} ${Math.round(1 / ratio)} × as much`
function ratioOf(a: string, b: string): number {
  const found = pairs.value.find(one => (one.a === a && one.b === b) || (one.a === b && one.b === a))
  return !found ? 1 : found.a === a ? found.ratio : 1 / found.ratio
}
function setRatio(a: string, b: string, ratio: number): void {
  if (!desk.guard()) return
  const criteria = choice.value.criteria.map(({ criterion }) => criterion)
  desk.run({ changes: compared(desk.tree, at.value, criteria, [a, b], ratio) })
}

/** What it came to becomes a decision under the topic, with its reason. */
function keepReason(): void {
  if (!desk.guard()) return
  const ranked = [...choice.value.options].sort((a, b) => a.rank - b.rank)
  const [first, second] = ranked
  if (!first) return
  const weights = choice.value.criteria.map(({ measure, weight }) => `${measure.name} ${percent(weight)}`).join(', ')
  const words = `${first.title}: ${number(first.score)} of 10${second ? `, before ${second.title} with ${number(second.score)}` : ''} (${weights})`
  const { changes } = addAt(desk.tree, lastChild(desk.tree, at.value), newId, {
    title: words.slice(0, 2000),
    markers: ['decision'],
  })
  if (desk.run({ changes }))
    desk.say('The reason is kept as a decision; in a meeting’s item the minutes name it.', true)
}
function visit(id: TopicId): void {
  desk.select(id, { quiet: true })
}
</script>

<template>
  <div class="choosing" tabindex="0" role="region" aria-label="Choosing">
    <div class="choose">
      <h2 dir="auto">{{ shorten(topic.title, 60) || 'untitled' }}</h2>
      <div role="group" aria-label="Criteria" class="criteria">
        <button
          v-for="measure in all"
          :key="measure.id"
          :disabled="!may"
          :aria-pressed="ids.includes(measure.id)"
          @click="toggle(measure)">
          {{ measure.name }}
        </button>
      </div>
    </div>
    <p v-if="ids.length === 0 && elsewhere.length">
      Chosen among already:
      <button v-for="one in elsewhere" :key="one.id" class="plain" dir="auto" @click="visit(one.id)">
        {{ shorten(one.title, 40) }}
      </button>
    </p>
    <p v-if="ids.length === 0" class="quiet">
      The topics right below are what one chooses among. Press the measures that count: each becomes a criterion with a
      weight. Marks without a unit go from 0 to 10; of what has one, the best has 10 and the others are in proportion.
    </p>
    <table v-else aria-label="Options and what they come to">
      <thead>
        <tr>
          <th scope="col" />
          <th v-for="one in choice.criteria" :key="one.measure.id" scope="col">
            {{ one.measure.name }} <span class="quiet">{{ one.measure.unit }}</span>
          </th>
          <th scope="col">of 10</th>
          <th scope="col">Rank</th>
        </tr>
        <tr class="weights">
          <th scope="row">weighs</th>
          <td v-for="one in choice.criteria" :key="one.measure.id">
            <input
              v-kept="number(one.criterion.weight, one.criterion.weight % 1 ? 1 : 0)"
              inputmode="decimal"
              :disabled="!may"
              :aria-label="`Weight of ${one.measure.name}`"
              @change="setWeight(one.criterion, ($event.target as HTMLInputElement).value)" />
            <span class="quiet part">{{ percent(one.weight) }}</span>
            <button
              class="plain"
              :disabled="!may"
              :aria-label="`${one.measure.name}: ${one.criterion.better} is better`"
              @click="put(one.criterion, { better: one.criterion.better === 'more' ? 'less' : 'more' })">
              {{ one.criterion.better }} is better
            </button>
          </td>
          <td colspan="2" />
        </tr>
      </thead>
      <tbody>
        <tr v-for="option in options" :key="option.id" :class="{ first: option.scored?.rank === 1 }">
          <th scope="row">
            <button class="plain" dir="auto" @click="visit(option.id)">
              {{ shorten(option.title, 40) || 'untitled' }}
            </button>
          </th>
          <td v-for="(one, i) in choice.criteria" :key="one.measure.id">
            <ChoosingMark :topic="option.id" :measure="one.measure" :may="may" />
            <span v-if="option.scored?.marks[i] != null && one.measure.unit" class="quiet mark">{{
              number(option.scored.marks[i]!, 1)
            }}</span>
          </td>
          <td class="score">
            <template v-if="option.scored"
              ><span class="bar" aria-hidden="true"><i :style="{ width: `${option.scored.score * 10}%` }" /></span
              ><b>{{ number(option.scored.score) }}</b></template
            >
          </td>
          <td>{{ option.scored ? option.scored.rank : '' }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="ids.length && choice.options.length">
      <p v-if="choice.missing" class="quiet">
        {{ choice.missing === 1 ? 'One mark is missing' : `${choice.missing} marks are missing` }}, and counted as 0.
      </p>
      <div class="row">
        <Button v-if="may" size="small" label="Keep as a decision’s reason" @click="keepReason" />
        <button
          v-if="ids.length > 1 && ids.length <= MOST_PAIRED"
          class="plain"
          :aria-expanded="pairing"
          @click="pairing = !pairing">
          Weigh two by two
        </button>
      </div>
      <div v-if="pairing" class="pairs">
        <p v-for="couple in couples" :key="`${couple.a.id} ${couple.b.id}`">
          <label
            >{{ couple.a.name }} or {{ couple.b.name }}:
            <select
              :value="RATIOS.findIndex(one => Math.abs(one - ratioOf(couple.a.id, couple.b.id)) < 0.001)"
              :disabled="!may"
              @change="setRatio(couple.a.id, couple.b.id, RATIOS[Number(($event.target as HTMLSelectElement).value)]!)">
              <option v-for="(ratio, i) in RATIOS" :key="i" :value="i">
                {{ ratioWords(ratio, couple.a.name, couple.b.name) }}
              </option>
            </select></label
          >
        </p>
        <p :class="{ bad: paired.inconsistency > MOST_INCONSISTENT }">
          Consistency ratio {{ percent(paired.inconsistency) }}:
          {{
            paired.inconsistency > MOST_INCONSISTENT
              ? 'these contradict one another. Look at them again.'
              : 'these fit together.'
          }}
        </p>
      </div>
      <h3>How sure is that?</h3>
      <table aria-label="How far a weight may change before another leads">
        <tbody>
          <tr v-for="(leeway, i) in leeways" :key="leeway.criterion">
            <th scope="row">{{ choice.criteria[i]!.measure.name }}</th>
            <td class="scale">
              <span class="range" aria-hidden="true">
                <i
                  :style="{
                    left: `${(leeway.below?.weight ?? 0) * 100}%`,
                    width: `${((leeway.above?.weight ?? 1) - (leeway.below?.weight ?? 0)) * 100}%`,
                  }" />
                <b :style="{ left: `${leeway.weight * 100}%` }" />
              </span>
            </td>
            <td class="words">
              <template v-if="!leeway.below && !leeway.above">whatever it weighs, the first stays first</template>
              <template v-else>
                <span v-if="leeway.below"
                  >under {{ percent(leeway.below.weight) }}
                  {{ shorten(topicOf(desk.tree, leeway.below.leads).title, 24) }} leads</span
                ><span v-if="leeway.below && leeway.above">; </span
                ><span v-if="leeway.above"
                  >over {{ percent(leeway.above.weight) }}
                  {{ shorten(topicOf(desk.tree, leeway.above.leads).title, 24) }} leads</span
                >
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped src="./ChoosingFace.css"></style>
