<script setup lang="ts">
import type { Run } from '#core/compare/words'
import { shorten } from '#core/tree'

/** Text by words: what went is struck, what came is underlined. */
const { runs } = defineProps<{ runs: readonly Run[] }>()
/** Letters of a run that are shown. */
const MOST = 600
function cut({ kind, text }: Run): string {
  // The spaces at its ends belong to it.
  if (text.length <= MOST) return text
  return kind === 'same' ? `${text.slice(0, 80)} … ${text.slice(-80)}` : shorten(text, MOST)
}
</script>

<template>
  <span class="runs"
    ><template v-for="(run, i) in runs" :key="i"
      ><del v-if="run.kind === 'gone'">{{ cut(run) }}</del
      ><ins v-else-if="run.kind === 'come'">{{ cut(run) }}</ins
      ><template v-else>{{ cut(run) }}</template></template
    ></span
  >
</template>

<style scoped>
.runs {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
del {
  color: var(--clay);
}
ins {
  text-decoration-color: var(--fern);
  text-decoration-thickness: 2px;
  text-underline-offset: 3px;
}
</style>
