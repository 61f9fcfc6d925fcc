<script setup lang="ts">
import { allTopics, type Marker, markerSetsOf } from '#core/tree'
import { useDesk } from '~/tree/desk'

/** The key: which markers this tree uses, what they mean and how often they stand. One click shows only those. */
const desk = useDesk()
const used = computed(() => {
  void desk.lateTick.value
  const counts = new Map<string, number>()
  for (const topic of allTopics(desk.tree)) for (const id of topic.markers) counts.set(id, (counts.get(id) ?? 0) + 1)
  return markerSetsOf(desk.tree.fields).flatMap((set) => {
    const markers = set.markers.flatMap((marker): { marker: Marker, count: number }[] => counts.has(marker.id) ? [{ marker, count: counts.get(marker.id)! }] : [])
    return markers.length > 0 ? [{ set, markers }] : []
  })
})
const only = desk.finding.marker
function toggle(id: string): void {
  only.value = only.value === id ? null : id
}
</script>

<template>
  <div class="key">
    <p v-if="used.length === 0" class="quiet">No topic has a marker yet. <kbd>M</kbd> opens the markers.</p>
    <template v-for="{ set, markers } in used" :key="set.id">
      <h3>{{ set.name }}</h3>
      <button v-for="{ marker, count } in markers" :key="marker.id" :aria-pressed="only === marker.id" @click="toggle(marker.id)">
        <TreeMarkerSign :id="marker.id" :size="18" aria-hidden="true" /><span class="name">{{ marker.name }}</span><b>{{ count }}</b>
      </button>
    </template>
    <p v-if="only" class="quiet">The others step back. <button class="plain" @click="only = null">Show all</button></p>
  </div>
</template>

<style scoped>
.key { display: flex; flex-direction: column; }
h3 { font: 600 12px var(--text); color: var(--quiet); margin: 6px 4px 2px; }
.key > button { display: flex; gap: 8px; align-items: center; border: 1px solid transparent; background: none; border-radius: 6px; padding: 4px 6px; cursor: pointer; font-size: 13px; text-align: left; }
.key > button:hover { background: var(--hover); }
.key > [aria-pressed='true'] { border-color: var(--porch); background: color-mix(in srgb, var(--porch) 10%, transparent); }
.name { flex: 1; }
.plain { border: 0; background: none; color: var(--porch); font-weight: 600; cursor: pointer; text-decoration: underline; padding: 2px; }
p { margin: 8px 4px 2px; font-size: 13px; }
</style>
