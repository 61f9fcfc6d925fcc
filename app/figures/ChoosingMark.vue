<script setup lang="ts">
import type { Measure, TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import FormulaField from './FormulaField.vue'
import { figuresOf, giveFigures, shownResult } from './figuring'

/** An option's mark for a criterion: what it's called and comes to, and a field for it once it's pressed. */
const { topic, measure, may } = defineProps<{ topic: TopicId; measure: Measure; may: boolean }>()
const desk = useDesk()
const open = ref(false)
const shown = computed(() => {
  void desk.tick.value
  return shownResult(desk, figuresOf(desk).of(topic, measure.id), measure, { topic, measure: measure.id }, true)
})
function kept(text: string | null): void {
  open.value = false
  if (text !== null) giveFigures(desk, [{ topic, measure: measure.id, text }])
  nextTick(focusTree)
}
function dropped(): void {
  open.value = false
  nextTick(focusTree)
}
</script>

<template>
  <FormulaField
    v-if="open"
    open
    class="field"
    :topic="topic"
    :measure="measure"
    :label="`${measure.name} of this option`"
    @kept="kept"
    @dropped="dropped" />
  <button
    v-else
    class="value"
    :disabled="!may"
    :aria-label="`${measure.name}: ${shown.text || 'nothing yet'}`"
    @click="open = true">
    <span v-if="shown.fault" class="bad" :data-tip="shown.fault">{{ shown.text }}</span>
    <template v-else>{{ shown.text || '–' }}</template>
  </button>
</template>

<style scoped>
.field {
  display: inline-block;
  width: 110px;
}
.value {
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  cursor: pointer;
  min-height: 26px;
  min-width: 44px;
  text-align: right;
}
.value:disabled {
  cursor: default;
}
.bad {
  color: var(--clay);
}
</style>
