<script setup lang="ts">
import { MARKER_OUTLINES, MARKER_STROKES, signShift } from '#core/dress/marker-paths'
import { type Marker, markerOf } from '#core/tree'
import { DESK } from '~/desk/desk'

/** A marker as it's drawn: an outline in its colour with a sign on it, or an emoji. */
const props = defineProps<{ id: string; size?: number; marker?: Marker }>()
const desk = inject(DESK, null)
const marker = computed(() => props.marker ?? markerOf(props.id, desk?.status.ready ? desk.tree.fields.markerSets : []))
const bare = computed(() => marker.value?.shape === 'bare')
</script>

<template>
  <span
    v-if="marker?.emoji"
    class="marker emoji"
    role="img"
    :aria-label="marker.name"
    :style="{ width: `${size ?? 17}px`, fontSize: `${(size ?? 17) - 3}px`, lineHeight: `${size ?? 17}px` }"
    >{{ marker.emoji }}</span
  >
  <svg
    v-else-if="marker"
    class="marker"
    :width="size ?? 17"
    :height="size ?? 17"
    viewBox="0 0 18 18"
    role="img"
    :aria-label="marker.name">
    <path v-if="!bare" :d="MARKER_OUTLINES[marker.shape]" :fill="`var(--${marker.hue})`" stroke-linejoin="round" />
    <path
      :d="MARKER_STROKES[marker.sign]"
      fill="none"
      :stroke="bare ? `var(--${marker.hue})` : marker.hue === 'sun' ? '#352400' : 'var(--sign-ground)'"
      :stroke-width="bare ? 1.7 : 1.8"
      stroke-linecap="round"
      stroke-linejoin="round"
      :transform="signShift(marker.shape) ? `translate(0 ${signShift(marker.shape)})` : undefined" />
  </svg>
</template>

<style scoped>
.marker {
  flex: none;
  display: block;
}
.emoji {
  text-align: center;
  overflow: hidden;
}
</style>
