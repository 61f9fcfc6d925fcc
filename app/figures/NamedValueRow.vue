<script setup lang="ts">
import { readEntry, typedText } from '#core/figures/entry'
import { readUnit } from '#core/figures/units'
import type { NamedValue } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { faultNames, figuresOf, formulaNames } from './figuring'
import { faultInWords } from '#core/figures/words'
import { sayFigure } from '#core/figures/numbers'

/** A value that the whole tree's formulas know by its name. */
const { value, may } = defineProps<{ value: NamedValue; may: boolean }>()
const desk = useDesk()
const said = computed(() => {
  void desk.tick.value
  return typedText(value.text, value, desk.tree, formulaNames(desk), ownLocale())
})
const comes = computed(() => {
  void desk.tick.value
  const { value: number, fault } = figuresOf(desk).named(value.id)
  if (fault) return { text: faultInWords(fault, { topic: null, measure: value.id }, faultNames(desk)), wrong: true }
  return {
    text: number === null ? '' : sayFigure(number, { ...value, decimals: 2, rounding: 'half-even' }, ownLocale()),
    wrong: false,
  }
})
function put(change: Partial<NamedValue>): void {
  if (desk.guard()) desk.run({ changes: [{ op: 'tree-put', set: 'namedValues', member: { ...value, ...change } }] })
}
function rename(name: string): void {
  const words = name.trim().toWellFormed().slice(0, 60)
  if (words !== '' && words !== value.name) put({ name: words })
}
function setUnit(unit: string): void {
  const words = unit.trim().toWellFormed()
  if (words !== '%' && readUnit(words) === null) desk.say(`“${words}” can’t be a unit.`)
  else put({ unit: words })
}
function setText(text: string): void {
  const entry = readEntry(text, value, formulaNames(desk), ownLocale())
  if ('message' in entry) desk.say(entry.message)
  else if (entry.text !== value.text) put({ text: entry.text })
}
function remove(): void {
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree-take', set: 'namedValues', member: value.id }] })
  desk.say(`“${value.name}” is taken away.`, true)
}
</script>

<template>
  <li class="value">
    <input
      v-kept="value.name"
      maxlength="60"
      aria-label="Name of the value"
      :disabled="!may"
      @change="rename(($event.target as HTMLInputElement).value)" />
    <input
      v-kept="said"
      class="text"
      maxlength="6000"
      :aria-label="`What ${value.name} is`"
      :disabled="!may"
      @change="setText(($event.target as HTMLInputElement).value)" />
    <input
      v-kept="value.unit"
      class="unit"
      maxlength="24"
      list="measure-units"
      placeholder="no unit"
      :aria-label="`Unit of ${value.name}`"
      :disabled="!may"
      @change="setUnit(($event.target as HTMLInputElement).value)" />
    <span v-if="comes.wrong || value.text.startsWith('=')" class="comes" :class="{ wrong: comes.wrong }">{{
      comes.text
    }}</span>
    <button v-if="may" class="icon-button" :aria-label="`Take ${value.name} away`" @click="remove">
      <Icon name="lucide:x" size="13" />
    </button>
  </li>
</template>

<style scoped>
.value {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-bottom: 5px;
}
.value input {
  flex: 1;
}
.value .unit {
  max-width: 80px;
}
.comes {
  font-size: 13px;
  font-weight: 600;
}
.wrong {
  color: var(--clay);
}
</style>
