<script setup lang="ts">
import { itemOf, sayItem, takeItem } from '#core/meeting/agenda'
import { isMeeting } from '#core/meeting/brief'
import { INTENTS, type Topic } from '#core/tree'
import { itemAbove, toggleReady } from '~/meeting/doing'
import { useDesk } from '~/desk/desk'

/**
 * What a topic is in a meeting: the meeting itself, an item of its agenda, or a part of a section that somebody fills
 * in.
 */
const { topic } = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer')
const above = computed(() => {
  void desk.lateTick.value
  return itemAbove(desk, topic.id)
})
const item = computed(() => (topic.item.length > 0 ? itemOf(topic) : null))
const section = computed(() => {
  void desk.lateTick.value
  return above.value === null ? null : itemOf(desk.tree.topics.get(above.value)!)
})
function keepMinutes(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  const minutes = Number(text)
  if (text === '') desk.put(topic.id, takeItem(topic.id, 'minutes'))
  else if (!Number.isInteger(minutes) || minutes < 1 || minutes > 1440) {
    desk.say('Minutes are a whole number from 1 to 1440. What was there stays.')
    field.value = String(item.value?.minutes ?? '')
  } else if (minutes !== item.value?.minutes)
    desk.put(topic.id, sayItem(topic.id, { id: 'minutes', kind: 'minutes', minutes }))
}
</script>

<template>
  <div class="part">
    <button v-if="isMeeting(topic)" class="plain" @click="desk.view.value = 'meeting'">
      <Icon name="lucide:presentation" size="15" /> Brief, meeting and minutes
    </button>
    <div v-if="item" class="item">
      <span class="segments" role="group" aria-label="What the item is for">
        <button
          v-for="intent in INTENTS"
          :key="intent"
          :aria-pressed="item.intent === intent"
          :disabled="!may"
          @click="desk.put(topic.id, sayItem(topic.id, { id: 'intent', kind: 'intent', intent }))">
          {{ intent }}
        </button>
      </span>
      <label
        ><input
          v-kept="item.minutes ?? ''"
          inputmode="numeric"
          :disabled="!may"
          aria-label="Minutes of the item"
          @change="keepMinutes" />
        min</label
      >
    </div>
    <div v-if="section && (section.asked || section.ready)" class="section" :class="{ ok: section.ready }">
      <span>{{
        section.ready ? 'This section is ready.' : `Asked to be filled in by ${dayInWords(section.asked!.by)}.`
      }}</span>
      <Button
        v-if="may"
        :label="section.ready ? 'Not ready after all' : 'It’s ready'"
        size="small"
        :outlined="section.ready"
        @click="toggleReady(desk, section.id)" />
    </div>
    <LazyReadingPart v-if="above" :item="above" />
  </div>
</template>

<style scoped>
.part {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.plain {
  min-height: 28px;
  padding: 0;
  display: inline-flex;
  gap: 7px;
  align-items: center;
}
.item {
  display: flex;
  gap: 10px;
  align-items: center;
}
.segments {
  flex: 1;
}
.item input {
  width: 46px;
  text-align: right;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: inherit;
  font: 500 13px var(--text);
  padding: 5px;
}
.section {
  display: flex;
  gap: 10px;
  align-items: center;
  background: var(--page);
  border-left: 3px solid var(--sun);
  padding: 7px 10px;
}
.section span {
  flex: 1;
  font-size: 13px;
}
.section.ok {
  border-left-color: var(--fern);
}
</style>
