<script setup lang="ts">
import { type MarkerSet, markerSetsOf, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { expectField } from '~/focus/typeahead'

/**
 * Stays open from topic to topic: one click gives or takes a marker, on the whole selection; or a marker is dragged
 * onto a topic.
 */
const props = defineProps<{ ids: readonly TopicId[]; editable?: boolean }>()
const emit = defineEmits<{ change: [set: MarkerSet | null] }>()
const desk = useDesk()
const shelf = ref(false)
function openShelf(): void {
  expectField()
  shelf.value = true
}

const sets = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? markerSetsOf(desk.tree.fields) : []
})

/** How many of the topics have it: none, some or all. */
function held(marker: string): 'none' | 'some' | 'all' {
  void desk.lateTick.value
  const count = props.ids.filter(
    id => desk.tree.topics.has(id) && topicOf(desk.tree, id).markers.includes(marker),
  ).length
  return count === 0 ? 'none' : count === props.ids.length ? 'all' : 'some'
}

function drag(event: DragEvent, marker: string): void {
  event.dataTransfer?.setData('text/x-sun-porch-marker', marker)
  if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copy'
}
</script>

<template>
  <div class="markers" data-named-panel>
    <NameField placeholder="Marker: a few letters, Enter" />
    <template v-for="set in sets" :key="set.id">
      <h3>
        {{ set.name }}<span v-if="set.exclusive" class="quiet"> · one at a time</span>
        <button v-if="editable" class="edit" :aria-label="`Change the set ${set.name}`" @click="emit('change', set)">
          <Icon name="lucide:pencil" size="12" />
        </button>
      </h3>
      <div class="set" role="group" :aria-label="set.name" :class="{ signs: set.id === 'emoji' || set.id === 'free' }">
        <button
          v-for="marker in set.markers"
          :key="marker.id"
          :class="held(marker.id)"
          draggable="true"
          :aria-pressed="held(marker.id) === 'all' ? 'true' : held(marker.id) === 'some' ? 'mixed' : 'false'"
          :aria-label="marker.name"
          :title="marker.name"
          @click="desk.toggle('markers', marker.id, ids)"
          @dragstart="drag($event, marker.id)">
          <MarkerSign :id="marker.id" :size="18" aria-hidden="true" /><span class="name">{{ marker.name }}</span>
        </button>
      </div>
    </template>
    <button v-if="editable" class="new" @click="emit('change', null)">
      <Icon name="lucide:plus" size="14" /> A set of our own
    </button>
    <button v-if="editable" class="new" @click="openShelf">
      <Icon name="lucide:search" size="14" /> From the shelf of pictures …
    </button>
    <LazyShelfDialog v-if="shelf" :topics="ids" first="marker" @closed="shelf = false" />
  </div>
</template>

<style scoped>
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 8px 4px 3px;
  display: flex;
  align-items: center;
  gap: 4px;
}
.edit {
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--quiet);
  padding: 3px;
  margin-left: auto;
  min-width: 24px;
  min-height: 22px;
}
.set {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1px;
}
.set.signs {
  display: flex;
  flex-wrap: wrap;
}
.signs .name {
  display: none;
}
.set button {
  display: flex;
  gap: 7px;
  align-items: center;
  border: 1px solid transparent;
  background: none;
  padding: 4px 8px 4px 6px;
  border-radius: 6px;
  cursor: pointer;
  font-size: 13px;
  text-align: left;
  min-height: 28px;
}
.set.signs button {
  padding: 4px 6px;
}
.set button:hover,
.new:hover {
  background: var(--hover);
}
.set button.all {
  border-color: var(--porch);
  background: color-mix(in srgb, var(--porch) 10%, transparent);
}
.set button.some {
  border-color: var(--line);
}
.new {
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 600;
  padding: 7px 6px;
  cursor: pointer;
  display: flex;
  gap: 5px;
  align-items: center;
  border-radius: 6px;
}
</style>
