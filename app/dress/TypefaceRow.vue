<script setup lang="ts">
import { TYPEFACES, type Typeface } from '#core/tree/style-fields'
import { needTypeface } from '~/desk/late-typefaces'

/** The letters of titles: each choice is written in its own. */
const { now, may, label } = defineProps<{ now: Typeface | null; may: boolean; label: string }>()
const emit = defineEmits<{ chosen: [typeface: Typeface | null] }>()
const NAMES: Record<Typeface, string> = { plain: 'Plain', broad: 'Broad', book: 'Book', hand: 'Hand' }
const FAMILIES: Record<Typeface, string> = { plain: 'text', broad: 'display', book: 'book', hand: 'hand' }
onMounted(() => {
  for (const family of ['book', 'hand'] as const) needTypeface({ family, slanted: false })
})
</script>

<template>
  <div class="row" role="group" :aria-label="label">
    <span>Letters</span>
    <button
      class="word"
      :disabled="!may"
      :aria-pressed="now === null"
      aria-label="Letters: usual"
      @click="emit('chosen', null)">
      Usual
    </button>
    <button
      v-for="one in TYPEFACES"
      :key="one"
      class="word"
      :class="one"
      :style="{ fontFamily: `var(--${FAMILIES[one]})` }"
      :disabled="!may"
      :aria-pressed="now === one"
      :aria-label="`Letters: ${NAMES[one].toLowerCase()}`"
      @click="emit('chosen', one)">
      {{ NAMES[one] }}
    </button>
  </div>
</template>

<style scoped src="./DressPanel.css"></style>
<style scoped>
.hand {
  font-size: 1.2em;
  line-height: 1;
}
</style>
