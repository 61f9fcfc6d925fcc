<script setup lang="ts">
import { MARKERS, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/tree/desk'

/** Stays open from topic to topic: one click, or a letter, gives or takes a marker. */
const props = defineProps<{ ids: readonly TopicId[] }>()
const desk = useDesk()
const SETS = [{ id: 'standing', name: 'How it stands' }, { id: 'kind', name: 'What it is' }] as const

/** How many of the topics have it: none, some or all. */
function held(marker: string): 'none' | 'some' | 'all' {
  void desk.lateTick.value
  const count = props.ids.filter(id => desk.tree.topics.has(id) && topicOf(desk.tree, id).markers.includes(marker)).length
  return count === 0 ? 'none' : count === props.ids.length ? 'all' : 'some'
}
</script>

<template>
  <div class="markers">
    <template v-for="set in SETS" :key="set.id">
      <h3>{{ set.name }}</h3>
      <div class="set" role="group" :aria-label="set.name">
        <button v-for="marker in MARKERS.filter(one => one.set === set.id)" :key="marker.id" :class="held(marker.id)" :aria-pressed="held(marker.id) === 'all' ? 'true' : held(marker.id) === 'some' ? 'mixed' : 'false'" @click="desk.toggle('markers', marker.id, ids)">
          <TreeMarkerSign :id="marker.id" :size="18" aria-hidden="true" />{{ marker.name }}
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
h3 { font: 600 12px var(--text); color: var(--quiet); margin: 6px 4px 4px; }
.set { display: grid; grid-template-columns: 1fr 1fr; gap: 2px; }
button { display: flex; gap: 7px; align-items: center; border: 1px solid transparent; background: none; padding: 5px 10px 5px 6px; border-radius: 6px; cursor: pointer; font-size: 13px; }
button:hover { background: var(--hover); }
button.all { border-color: var(--porch); background: color-mix(in srgb, var(--porch) 10%, transparent); }
button.some { border-color: var(--line); }
</style>
