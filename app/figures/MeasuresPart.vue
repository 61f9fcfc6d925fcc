<script setup lang="ts">
import { BEGINNINGS, measuresFor, ordersBehind } from '#core/figures/beginnings'
import { digitsOf } from '#core/figures/currencies'
import { readUnit } from '#core/figures/units'
import { type Measure, MOST_ON_PLANK, ROLL_UPS } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { beginWith, measuresOf, namedValuesOf } from './figuring'
import NamedValueRow from './NamedValueRow.vue'
import { newShortId, ownCurrency } from './naming'

/** The measures of the tree: what they're called, their unit, how they roll up; and values that all formulas know. */
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const measures = computed(() => {
  void desk.tick.value
  return measuresOf(desk)
})
const values = computed(() => {
  void desk.tick.value
  return namedValuesOf(desk)
})
const ROLL_UP_WORDS: Record<Measure['rollUp'], string> = {
  sum: 'adds up',
  mean: 'mean',
  weighted: 'weighted mean',
  min: 'the least',
  max: 'the most',
  count: 'how many',
  none: 'stays where it is',
}
const opened = ref<string | null>(null)

function put(measure: Measure, change: Partial<Measure>): void {
  if (!desk.guard()) return
  const member = { ...measure, ...change }
  desk.run({ changes: [{ op: 'tree-put', set: 'measures', member }] })
}
function rename(measure: Measure, name: string): void {
  const said = name.trim().toWellFormed().slice(0, 60)
  if (said === '' || said === measure.name) return
  if (measures.value.some(one => one.id !== measure.id && one.name.toLowerCase() === said.toLowerCase()))
    desk.say(`There is a measure “${said}” already.`)
  else put(measure, { name: said })
}
function setUnit(measure: Measure, unit: string): void {
  const said = unit.trim().toWellFormed()
  if (said !== '%' && readUnit(said) === null) {
    desk.say(`“${said}” can’t be a unit. EUR, h, d, %, a word, or two of them (EUR/h) can.`)
    return
  }
  const digits = digitsOf(said)
  put(measure, { unit: said, ...(digits === null ? {} : { decimals: digits }) })
}
function setDecimals(measure: Measure, text: string): void {
  const decimals = Number(text)
  if (!Number.isInteger(decimals) || decimals < 0 || decimals > 10)
    desk.say('Decimals are a whole number from 0 to 10.')
  else put(measure, { decimals })
}
function show(measure: Measure): void {
  if (!measure.onPlank && measures.value.filter(one => one.onPlank).length >= MOST_ON_PLANK)
    desk.say(`Three figures stand on a plank at most. Take one off first.`)
  else put(measure, { onPlank: !measure.onPlank })
}
function add(): void {
  if (!desk.guard()) return
  const [order] = ordersBehind(measures.value, 1)
  let name = 'New measure'
  for (let n = 2; measures.value.some(one => one.name === name); n++) name = `New measure ${n}`
  const [model] = measuresFor('budget', ownCurrency(), [], newShortId)
  desk.run({
    changes: [{ op: 'tree-put', set: 'measures', member: { ...model!, order: order!, name, onPlank: false } }],
  })
}
function remove(measure: Measure): void {
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree-take', set: 'measures', member: measure.id }] })
  desk.say(`“${measure.name}” isn’t a measure any more. What topics have in it is kept, and comes back with it.`, true)
}
function addValue(): void {
  if (!desk.guard()) return
  const [order] = ordersBehind(values.value, 1)
  let name = 'Rate of tax'
  for (let n = 2; values.value.some(one => one.name === name); n++) name = `Value ${n}`
  desk.run({
    changes: [
      { op: 'tree-put', set: 'namedValues', member: { id: newShortId(), order: order!, name, unit: '%', text: '0' } },
    ],
  })
}
</script>

<template>
  <div class="measures">
    <p v-if="measures.length === 0" class="quiet">
      A measure is something that topics have so much of: what they cost, hours, seats, marks.
    </p>
    <ul v-if="measures.length" aria-label="Measures">
      <li v-for="measure in measures" :key="measure.id">
        <div class="line">
          <input
            v-kept="measure.name"
            class="name"
            maxlength="60"
            aria-label="Name of the measure"
            :disabled="!may"
            @change="rename(measure, ($event.target as HTMLInputElement).value)" />
          <input
            v-kept="measure.unit"
            class="unit"
            maxlength="24"
            list="measure-units"
            placeholder="no unit"
            :aria-label="`Unit of ${measure.name}`"
            :disabled="!may"
            @change="setUnit(measure, ($event.target as HTMLInputElement).value)" />
          <Select
            :model-value="measure.rollUp"
            :options="ROLL_UPS.map(value => ({ value, label: ROLL_UP_WORDS[value] }))"
            option-label="label"
            option-value="value"
            size="small"
            :disabled="!may"
            :aria-label="`What ${measure.name} comes to further up`"
            @update:model-value="put(measure, { rollUp: $event })" />
          <button
            class="icon-button"
            :aria-pressed="measure.onPlank"
            :disabled="!may"
            :aria-label="`${measure.name} on the planks`"
            data-tip="On the planks"
            @click="show(measure)">
            <Icon :name="measure.onPlank ? 'lucide:eye' : 'lucide:eye-off'" size="15" />
          </button>
          <button
            class="icon-button"
            :aria-expanded="opened === measure.id"
            :aria-label="`More of ${measure.name}`"
            data-tip="More"
            @click="opened = opened === measure.id ? null : measure.id">
            <Icon name="lucide:ellipsis" size="15" />
          </button>
        </div>
        <div v-if="opened === measure.id" class="more">
          <label
            >Decimals
            <input
              v-kept="measure.decimals"
              class="few"
              inputmode="numeric"
              :disabled="!may"
              @change="setDecimals(measure, ($event.target as HTMLInputElement).value)"
          /></label>
          <label
            >A half is rounded
            <select
              :value="measure.rounding"
              :disabled="!may"
              @change="put(measure, { rounding: ($event.target as HTMLSelectElement).value as Measure['rounding'] })">
              <option value="half-even">to the even neighbour</option>
              <option value="half-up">away from zero</option>
            </select></label
          >
          <label v-if="measure.rollUp === 'weighted'"
            >weighted by
            <select
              :value="measure.by ?? ''"
              :disabled="!may"
              @change="put(measure, { by: ($event.target as HTMLSelectElement).value || null })">
              <option value="">nothing yet</option>
              <option v-for="other in measures.filter(one => one.id !== measure.id)" :key="other.id" :value="other.id">
                {{ other.name }}
              </option>
            </select></label
          >
          <label
            >Its target is
            <select
              :value="measure.limit"
              :disabled="!may"
              @change="put(measure, { limit: ($event.target as HTMLSelectElement).value as Measure['limit'] })">
              <option value="most">at most (a budget)</option>
              <option value="least">at least (a goal)</option>
            </select></label
          >
          <button v-if="may" class="plain clay" @click="remove(measure)">Take the measure away</button>
        </div>
      </li>
    </ul>
    <datalist id="measure-units">
      <option
        v-for="unit in [ownCurrency(), 'EUR', 'h', 'd', '%', `${ownCurrency()}/h`, 'seats', 'm²']"
        :key="unit"
        :value="unit" />
    </datalist>
    <div v-if="may" class="row">
      <Button size="small" label="Add a measure" @click="add" />
      <button
        v-for="one in BEGINNINGS"
        :key="one.id"
        class="plain"
        :data-tip="one.purpose"
        @click="beginWith(desk, one.id)">
        {{ one.name }}
      </button>
    </div>
    <template v-if="measures.length">
      <h3>Values that all formulas know</h3>
      <ul v-if="values.length" aria-label="Named values">
        <NamedValueRow v-for="value in values" :key="value.id" :value="value" :may="may" />
      </ul>
      <button v-if="may" class="plain" @click="addValue">Add a value</button>
    </template>
  </div>
</template>

<style scoped>
.measures {
  width: min(560px, 86vw);
}
ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-bottom: 5px;
}
.measures :deep(input),
.measures :deep(select) {
  font: inherit;
  font-size: 13px;
  padding: 5px 7px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
  min-width: 0;
}
.name {
  flex: 2;
}
.unit {
  flex: 1;
  max-width: 96px;
  min-width: 58px;
}
.line :deep(.p-select) {
  flex: 1.4;
  min-width: 96px;
}
.line :deep(.p-select-label) {
  font-size: 13px;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  margin: 0 0 10px;
  padding: 8px 10px;
  background: var(--hover);
  border-radius: 6px;
  font-size: 13px;
}
.few {
  width: 46px;
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
}
.plain {
  font-size: 13px;
  min-height: 28px;
}
.clay {
  color: var(--clay);
}
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 16px 0 7px;
}
</style>
