<script setup lang="ts">
import type { Choice } from '#core/handing/choice'
import type { MadeFile } from './making'
import { type Paper, PAPERS, paperOf, printable, printDocument, printInFrame } from './printing'

/** Onto paper, by the browser's own printing. */
const { wanted, isPicture, make, busy } = defineProps<{
  /** The choice as it stands; null when its part has gone. */
  wanted: () => Choice | null
  isPicture: boolean
  make: (choice: Choice) => Promise<MadeFile | null>
  busy: boolean
}>()
const emit = defineEmits<{ said: [words: string]; failed: [words: string] }>()
const paper = ref<Paper>(paperOf(ownLocale()))
const grey = ref(false)

async function print(): Promise<void> {
  const choice = wanted()
  if (!choice) return
  const made = await make(printable(choice, isPicture))
  if (!made) return
  try {
    await printInFrame(await printDocument(made, { paper: paper.value, grey: grey.value }))
    emit('said', 'It is with the browser’s printing.')
  } catch (error) {
    emit('failed', (error as Error).message)
  }
}
</script>

<template>
  <span class="print" role="group" aria-label="Onto paper">
    <Button label="To the printer" outlined :disabled="busy" @click="print" />
    <select v-model="paper" aria-label="Paper to print on">
      <option v-for="one in PAPERS" :key="one" :value="one">{{ one }}</option>
    </select>
    <label><input v-model="grey" type="checkbox" /> black and white</label>
  </span>
</template>

<style scoped src="./fields.css"></style>
<style scoped>
.print {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
label {
  white-space: nowrap;
}
</style>
