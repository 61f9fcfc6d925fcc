<script setup lang="ts">
import { initialsOf, pathTo, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** A task on the board: a plank with its title, and what one must know of it. */
const { id, kind, lanes } = defineProps<{ id: TopicId; kind: string; lanes: boolean }>()
const desk = useDesk()
const topic = computed(() => {
  void desk.tick.value
  return topicOf(desk.tree, id)
})
const due = computed(() => {
  const { due: day, done } = topic.value
  return day === null || done === 100 ? null : dueInWords(day)
})
/** What it belongs to, where no row says so. */
const above = computed(() => {
  void desk.tick.value
  const path = pathTo(desk.tree, id).slice(1, -1)
  const at = path.at(-1)
  return at && !(lanes && path.length === 1) ? shorten(at.title, 28) : ''
})
const people = computed(() => (kind === 'person' && topic.value.people.length < 2 ? [] : topic.value.people))
</script>

<template>
  <slot name="title">
    <span class="words" dir="auto">{{ topic.title || '\u00A0' }}</span>
  </slot>
  <span class="small">
    <MarkerSign v-for="marker in topic.markers.slice(0, 5)" :id="marker" :key="marker" :size="15" />
    <span v-if="topic.priority !== null && kind !== 'priority'">P{{ topic.priority }}</span>
    <span v-if="topic.done !== null && topic.done > 0 && topic.done < 100">{{ topic.done }} %</span>
    <span v-if="topic.done === 100 && kind !== 'state'" class="done">done</span>
    <span v-if="due" :class="{ late: due.late }">{{ due.text }}</span>
    <span v-for="person in people" :key="person" class="who" :data-tip="desk.nameOf(person)">{{
      initialsOf(desk.nameOf(person))
    }}</span>
    <span v-if="above" class="above" dir="auto">{{ above }}</span>
  </span>
</template>

<style scoped>
.words {
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
  font-weight: 550;
  line-height: 1.25;
  overflow-wrap: anywhere;
}
.small {
  display: flex;
  align-items: center;
  gap: 7px;
  margin-top: auto;
  font-size: 11.5px;
  color: var(--quiet);
  white-space: nowrap;
  overflow: hidden;
  min-height: 16px;
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.done {
  color: var(--fern);
}
.who {
  font-weight: 650;
}
.above {
  overflow: hidden;
  text-overflow: ellipsis;
  margin-left: auto;
}
</style>
