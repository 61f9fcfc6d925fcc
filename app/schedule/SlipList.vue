<script setup lang="ts">
import type { Slips } from '#core/schedule/baseline'
import { daysInWords } from '#core/schedule/plan-words'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** What ends on another day than it was to, the latest first, and how much has come and gone. */
const { slips, most } = defineProps<{ slips: Slips; most: number }>()
const emit = defineEmits<{ go: [topic: TopicId] }>()
const desk = useDesk()
const all = ref(false)
/** More than anybody reads. */
const MOST = 200
const moved = computed(() => [...slips.later, ...slips.sooner])
const titled = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 40)
</script>

<template>
  <p v-if="moved.length === 0" class="quiet">Nothing ends on another day.</p>
  <ol v-else aria-label="What slipped">
    <li v-for="one in moved.slice(0, all ? MOST : most)" :key="one.topic">
      <button class="plain" @click="emit('go', one.topic)">{{ titled(one.topic) }}</button>
      <span :class="{ late: one.days > 0 }"
        >{{ daysInWords(Math.abs(one.days)) }} {{ one.days > 0 ? 'later' : 'sooner' }}</span
      >
    </li>
  </ol>
  <button v-if="moved.length > most && !all" class="plain" @click="all = true">
    and {{ moved.length - most }} more
  </button>
  <p v-if="slips.come.length || slips.gone.length" class="quiet">
    {{ slips.come.length }} have come since, {{ slips.gone.length }} gone.
  </p>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  align-items: baseline;
  min-height: 28px;
}
li span {
  white-space: nowrap;
  font-size: 12.5px;
}
.plain {
  font: 600 13px/1.3 var(--text);
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.quiet {
  color: var(--quiet);
  margin: 4px 0;
}
</style>
