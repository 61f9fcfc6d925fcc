<script setup lang="ts">
import type { Run } from '#core/formats/contents'

/** Words with what is strong, slanted or leads somewhere. */
const { runs } = defineProps<{ runs: readonly Run[] }>()
</script>

<template>
  <template v-for="({ text, strong, slanted, link }, i) in runs" :key="i">
    <a v-if="link" :href="link" target="_blank" rel="noopener noreferrer" :class="{ strong, slanted }">{{ text }}</a>
    <span v-else-if="strong || slanted" :class="{ strong, slanted }">{{ text }}</span>
    <template v-else>{{ text }}</template>
  </template>
</template>

<style scoped>
.strong {
  font-weight: 650;
}
.slanted {
  font-style: italic;
}
</style>
