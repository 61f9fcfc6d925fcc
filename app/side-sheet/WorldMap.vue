<script setup lang="ts">
import { geoEquirectangular, geoGraticule10, geoPath } from 'd3-geo'
import { feature } from 'topojson-client'
import type { Topology } from 'topojson-specification'

/**
 * A small map of the world that comes with the app, with one place on it. Near or far; a click names another place
 * where that's allowed.
 */
const props = withDefaults(
  defineProps<{ lat: number; lon: number; name?: string; may?: boolean; width?: number; height?: number }>(),
  { name: '', may: false, width: 300, height: 160 },
)
const emit = defineEmits<{ chosen: [lat: number, lon: number] }>()
const NEAR = [1, 4, 14] as const
const near = ref(1)
const land = shallowRef<Parameters<ReturnType<typeof geoPath>>[0] | null>(null)

onMounted(async () => {
  const world = (await import('world-atlas/land-50m.json')).default as unknown as Topology
  land.value = feature(world, world.objects.land!)
})

const projection = computed(() => {
  const zoom = NEAR[near.value]!
  const base = geoEquirectangular()
    .scale((props.width / (2 * Math.PI)) * zoom)
    .translate([props.width / 2, props.height / 2])
  // Turned so that the place is in the middle: nothing is cut at ±180° there. North stays up, and far out the whole
  // world shows.
  return base
    .rotate([-props.lon, 0])
    .center([0, zoom === 1 ? 0 : props.lat])
    .precision(0.3)
    .clipExtent([
      [-5, -5],
      [props.width + 5, props.height + 5],
    ])
})
const shape = computed(() => (land.value ? (geoPath(projection.value)(land.value) ?? '') : ''))
const grid = computed(() => geoPath(projection.value)(geoGraticule10()) ?? '')
const pin = computed(() => projection.value([props.lon, props.lat]) ?? [0, 0])

function choose(event: MouseEvent): void {
  if (!props.may) return
  const box = (event.currentTarget as Element).getBoundingClientRect()
  const at = projection.value.invert?.([
    ((event.clientX - box.left) / box.width) * props.width,
    ((event.clientY - box.top) / box.height) * props.height,
  ])
  if (at) emit('chosen', Math.round(Math.max(-90, Math.min(90, at[1])) * 1e4) / 1e4, Math.round(at[0] * 1e4) / 1e4)
}
</script>

<template>
  <div class="map">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Map: ${name || 'a place'} at ${lat}, ${lon}`"
      :class="{ may }"
      @click="choose">
      <path class="grid" :d="grid" />
      <path class="land" :d="shape" />
      <circle class="halo" :cx="pin[0]" :cy="pin[1]" r="9" />
      <circle class="pin" :cx="pin[0]" :cy="pin[1]" r="4.5" />
    </svg>
    <span class="zoom">
      <button aria-label="Map from nearer" :disabled="near === NEAR.length - 1" @click="near++">+</button>
      <button aria-label="Map from further" :disabled="near === 0" @click="near--">−</button>
    </span>
  </div>
</template>

<style scoped>
.map {
  position: relative;
  border: 1px solid var(--line);
  border-radius: 7px;
  overflow: hidden;
  background: color-mix(in srgb, var(--sky) 14%, var(--surface));
}
svg {
  display: block;
  width: 100%;
}
.may {
  cursor: crosshair;
}
.land {
  fill: color-mix(in srgb, var(--fern) 34%, var(--surface));
  stroke: color-mix(in srgb, var(--fern) 55%, var(--surface));
  stroke-width: 0.5;
}
.grid {
  fill: none;
  stroke: var(--line);
  stroke-width: 0.5;
}
.pin {
  fill: var(--clay);
  stroke: var(--surface);
  stroke-width: 1.5;
}
.halo {
  fill: var(--clay);
  opacity: 0.25;
}
.zoom {
  position: absolute;
  right: 5px;
  bottom: 5px;
  display: flex;
  gap: 3px;
}
.zoom button {
  width: 26px;
  height: 26px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  cursor: pointer;
  padding: 0;
}
.zoom button:disabled {
  opacity: 0.5;
  cursor: default;
}
</style>
