<script setup lang="ts">
import { commandOf } from './commands'
import { chordInWords, firstStep } from './keys'
import { ACTION_NAMES } from './keymap'

/** What can follow the first key of two, for whoever stops to think. */
const SOON_MS = 500
const shown = ref(false)
let timer = 0
watch(firstStep, now => {
  clearTimeout(timer)
  shown.value = false
  if (now) timer = window.setTimeout(() => (shown.value = true), SOON_MS)
})
onBeforeUnmount(() => clearTimeout(timer))
const nameOf = (action: string): string => commandOf(action)?.name ?? ACTION_NAMES[action] ?? action
</script>

<template>
  <div v-if="shown && firstStep" class="steps" role="status">
    <p class="quiet">
      <kbd>{{ chordInWords(firstStep.chord) }}</kbd> and then
    </p>
    <ul>
      <li v-for="one in firstStep.follow" :key="one.chord">
        <kbd>{{ chordInWords(one.chord) }}</kbd> {{ nameOf(one.action) }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.steps {
  position: fixed;
  right: 18px;
  bottom: 48px;
  z-index: 9;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 8px;
  box-shadow: var(--shadow);
  padding: 10px 14px;
}
.steps p {
  margin: 0;
}
.steps kbd {
  margin-right: 5px;
}
.steps ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  display: grid;
  gap: 4px;
}
</style>
