<script setup lang="ts">
import type { CopyChoice } from '#core/capture/copy'

/** What a copy takes along. */
const choice = defineModel<CopyChoice>({ required: true })
const set = (part: Partial<CopyChoice>): void => {
  choice.value = { ...choice.value, ...part }
}
const PARTS = [
  ['notes', 'Notes'],
  ['people', 'People'],
  ['dates', 'Dates'],
  ['progress', 'Progress'],
  ['links', 'Links'],
  ['files', 'Files and pictures'],
  ['figures', 'Figures'],
  ['record', 'Records of meetings'],
] as const
</script>

<template>
  <fieldset>
    <legend>Take along</legend>
    <label v-for="[part, name] in PARTS" :key="part"
      ><input
        type="checkbox"
        :checked="choice[part]"
        @change="set({ [part]: ($event.target as HTMLInputElement).checked })" />
      {{ name }}</label
    >
    <label class="shift" :class="{ off: !choice.dates }"
      >Move dates by
      <NumberField
        :model-value="choice.shift"
        :min="-3650"
        :max="3650"
        :disabled="!choice.dates"
        aria-label="Days to move dates by"
        @update:model-value="set({ shift: $event })" />
      days</label
    >
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.shift {
  grid-column: 1 / -1;
}
legend {
  font-weight: 600;
  padding: 0;
  margin-bottom: 8px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 24px;
}
.shift input {
  width: 76px;
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 6px;
}
.off {
  opacity: 0.5;
}
</style>
