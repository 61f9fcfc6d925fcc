<script setup lang="ts">
import { markerOf } from '#core/tree'

const props = defineProps<{ id: string, size?: number }>()
const marker = computed(() => markerOf(props.id))
const OUTLINES = {
  circle: 'M9 1a8 8 0 1 1 0 16A8 8 0 0 1 9 1Z',
  square: 'M2 2h14v14H2Z',
  triangle: 'M9 1 17.5 16.5H.5Z',
  diamond: 'M9 .5 17.5 9 9 17.5.5 9Z',
  speech: 'M9 1a8 7.5 0 0 1 0 15H1.5V8.5A7.5 7.5 0 0 1 9 1Z',
  pennant: 'M1.5 2h10.5L17 9l-5 7H1.5Z',
} as const
const SIGNS = {
  'tick': 'M5.2 9.4 8 12.2 13 6.2',
  'mark': 'M9 5v5M9 12.8v.4',
  'query': 'M6.7 6.8a2.3 2.3 0 1 1 3.2 2.1c-.6.3-.9.7-.9 1.4M9 12.8v.3',
  'letter-d': 'M6.6 5v8h1.8a4 4 0 0 0 0-8Z',
  'letter-i': 'M9 8.2v4.6M9 5.4v.2',
  'spark': 'M8 5v8M4.2 9h7.6',
} as const
</script>

<template>
  <svg v-if="marker" class="marker" :width="size ?? 17" :height="size ?? 17" viewBox="0 0 18 18" role="img" :aria-label="marker.name">
    <path :d="OUTLINES[marker.shape]" :fill="`var(--${marker.hue})`" stroke-linejoin="round" />
    <path :d="SIGNS[marker.sign]" fill="none" :stroke="marker.hue === 'sun' ? '#352400' : 'var(--surface)'" stroke-width="1.9" stroke-linecap="round" stroke-linejoin="round" :transform="marker.shape === 'triangle' ? 'translate(0 1.6)' : undefined" />
  </svg>
</template>

<style scoped>
.marker { flex: none; display: block; }
</style>
