<script setup lang="ts">
import { fixedOf } from '#core/figures/fixed'
import { readFigure, typedFigure } from '#core/figures/numbers'
import { figureAt } from '#core/figures/entry'
import { againstTarget } from '#core/figures/target'
import type { Measure, Series, Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'
import FormulaField from './FormulaField.vue'
import SeriesPart from './SeriesPart.vue'
import { blankSeries, figuresOf, giveFigures, measuresOf, shownResult } from './figuring'

/** What one topic has in each measure, what rolls up to it, and its targets. */
const { topic } = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer')
/** What was given to the topic in a measure, as the tree is now: what is shown follows a frame later. */
const givenNow = (measure: Measure) => figureAt(desk.tree, topic.id, measure.id, null)
const lines = computed(() => {
  void desk.lateTick.value
  const figures = figuresOf(desk)
  return measuresOf(desk).map(measure => {
    const of = { topic: topic.id, measure: measure.id }
    const result = figures.of(topic.id, measure.id)
    const rolled = figures.rolled(topic.id, measure.id)
    const shown = shownResult(desk, result, measure, of)
    const target = givenNow(measure)?.target ?? null
    const against = againstTarget(desk.tree, figures, topic.id, measure)
    return {
      measure,
      fault: shown.fault,
      /** Whether something was ever given here: a value, a formula, a target. */
      given: givenNow(measure) !== undefined,
      comes: result.own && result.formula === null ? '' : shown.text,
      rolled: result.own && rolled.value !== null ? shownResult(desk, rolled, measure, of).text : '',
      target: target === null ? '' : typedFigure(fixedOf(target)!, measure, ownLocale()),
      ...endsNow(measure),
      series: givenNow(measure)?.series ?? null,
      left:
        against &&
        shownResult(desk, { value: against.left < 0n ? -against.left : against.left, fault: null }, measure, of).text,
      bad: against?.bad ?? false,
      part: against ? Math.max(0, Math.min(1, against.part)) : null,
    }
  })
})
function kept(measure: Measure, text: string | null, then: string): void {
  if (text !== null) giveFigures(desk, [{ topic: topic.id, measure: measure.id, text }])
  if (then === 'down' || then === 'up') focusTree()
}
/** The measure whose series is being begun. */
const opened = ref('')
function setSeries(measure: Measure, change: ((before: Series) => Series) | null): void {
  const series = change && change(givenNow(measure)?.series ?? blankSeries(desk))
  // Its fields stay where they are, whoever types in them.
  opened.value = series ? measure.id : ''
  giveFigures(desk, [{ topic: topic.id, measure: measure.id, text: '', series }])
}
type Ends = { low: string; high: string }
/** One end of a range that waits for the other. */
const half = ref<Record<string, Ends>>({})
function endsNow(measure: Measure): Ends {
  const range = givenNow(measure)?.range
  const say = (said: string | undefined): string =>
    said === undefined ? '' : typedFigure(fixedOf(said)!, measure, ownLocale())
  return half.value[measure.id] ?? { low: say(range?.low), high: say(range?.high) }
}
function setRange(measure: Measure, change: Partial<Ends>): void {
  const { low, high } = { ...endsNow(measure), ...change }
  const [from, to] = [low, high].map(said => (said.trim() === '' ? null : readFigure(said, measure, ownLocale())))
  if ((low.trim() !== '' && from === null) || (high.trim() !== '' && to === null)) {
    desk.say('That is no number.')
    return
  }
  if (from && to && fixedOf(from)! > fixedOf(to)!) {
    desk.say('The least is more than the most. Nothing was changed.')
    return
  }
  half.value = from && to ? {} : { [measure.id]: { low, high } }
  if ((from && to) || (!from && !to))
    giveFigures(desk, [{ topic: topic.id, measure: measure.id, range: from && to ? { low: from, high: to } : null }])
}
function setTarget(measure: Measure, said: string): void {
  const target = said.trim() === '' ? null : readFigure(said, measure, ownLocale())
  if (said.trim() !== '' && target === null) desk.say(`“${said}” is no number.`)
  else giveFigures(desk, [{ topic: topic.id, measure: measure.id, target }])
}
</script>

<template>
  <section data-part="figures">
    <h3>Figures</h3>
    <div v-for="line in lines" :key="line.measure.id" class="figure">
      <span class="name">{{ line.measure.name }}</span>
      <div class="both">
        <FormulaField
          :topic="topic.id"
          :measure="line.measure"
          :disabled="!may || topic.reference !== null"
          :label="`${line.measure.name} of this topic`"
          @kept="(text, then) => kept(line.measure, text, then)"
          @dropped="focusTree()" />
        <span v-if="line.fault" class="bad">{{ line.fault }}</span>
        <span v-else-if="line.comes || line.rolled" class="comes">
          <template v-if="line.comes">= {{ line.comes }}</template>
          <span v-if="line.rolled" class="quiet">below it comes to {{ line.rolled }}</span>
        </span>
        <label class="target"
          >{{ line.measure.limit === 'most' ? 'at most' : 'at least' }}
          <input
            v-kept="line.target"
            inputmode="decimal"
            :disabled="!may"
            :aria-label="`Target of ${line.measure.name}`"
            @change="setTarget(line.measure, ($event.target as HTMLInputElement).value)" />
          <span v-if="line.left !== null" :class="{ bad: line.bad }">{{
            line.bad
              ? line.measure.limit === 'most'
                ? `${line.left} over`
                : `${line.left} missing`
              : `${line.left} left`
          }}</span></label
        >
        <span class="target"
          >between
          <input
            v-kept="line.low"
            inputmode="decimal"
            :disabled="!may"
            :aria-label="`The least that ${line.measure.name} may come to`"
            @change="setRange(line.measure, { low: ($event.target as HTMLInputElement).value })" />
          and
          <input
            v-kept="line.high"
            inputmode="decimal"
            :disabled="!may"
            :aria-label="`The most that ${line.measure.name} may come to`"
            @change="setRange(line.measure, { high: ($event.target as HTMLInputElement).value })"
        /></span>
        <SeriesPart
          v-if="line.series || opened === line.measure.id"
          :measure="line.measure"
          :series="line.series"
          :may="may"
          @change="setSeries(line.measure, $event)" />
        <button v-else-if="may && !topic.reference" class="again" @click="opened = line.measure.id">
          Over the years …
        </button>
        <NuxtLink
          v-if="desk.then.value === null && line.given"
          class="again"
          :to="`/trees/${desk.session.treeId}/history?branch=${topic.id}&kind=figures`"
          :aria-label="`The story of ${line.measure.name}`"
          >Its story</NuxtLink
        >
        <span v-if="line.part !== null" class="bar" :class="{ bad: line.bad }" aria-hidden="true"
          ><i :style="{ width: `${line.part * 100}%` }"
        /></span>
      </div>
    </div>
    <LazyHungCharts v-if="topic.charts.length" :topic="topic" lasting />
  </section>
</template>

<style scoped>
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 18px 0 7px;
}
.figure {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 8px;
  font-size: 13px;
  margin-bottom: 10px;
}
.name {
  color: var(--quiet);
  padding-top: 5px;
  overflow-wrap: anywhere;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}
.comes {
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}
.comes .quiet {
  font-weight: 400;
  margin-left: 6px;
}
.target {
  color: var(--quiet);
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 12.5px;
  flex-wrap: wrap;
}
.target input {
  width: 84px;
  flex: none;
  font: inherit;
  font-variant-numeric: tabular-nums;
  padding: 2px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
}
/* Two of them, with words between. */
span.target input {
  width: 60px;
}
.again {
  text-decoration: none;
  border: 0;
  background: none;
  color: var(--porch);
  font: inherit;
  font-size: 12.5px;
  font-weight: 600;
  text-align: left;
  padding: 0;
  cursor: pointer;
  min-height: 26px;
}
.bad {
  color: var(--clay);
  font-weight: 650;
}
.bar {
  height: 6px;
  background: var(--line);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--porch);
}
.bar.bad i {
  background: repeating-linear-gradient(45deg, var(--clay) 0 4px, transparent 4px 6px);
}
</style>
