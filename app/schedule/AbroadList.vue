<script setup lang="ts">
import { dayThatCounts, type WaitAbroad } from '#core/schedule/abroad'
import { shorten } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { namedAbroad } from './abroad'

/** What waits for topics of other trees: for which, until when, and how old that word is. */
defineProps<{ waits: readonly WaitAbroad[] }>()
const emit = defineEmits<{ gone: []; again: [] }>()
const desk = useDesk()
const titled = (id: string): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 40)
function day({ wait, elsewhere }: WaitAbroad): string {
  if (elsewhere.state === 'done') return 'done'
  const counts = dayThatCounts(wait, elsewhere)
  return counts ? `${wait.kind[0] === 'F' ? 'ends' : 'begins'} ${dayInWords(counts)}` : 'no date yet'
}
function visit(id: string): void {
  emit('gone')
  desk.visit(id)
}
</script>

<template>
  <ul class="abroad" aria-label="What waits for other trees">
    <li v-for="one in waits" :key="`${one.by} ${one.wait.id}`">
      <button class="plain" @click="visit(one.by)">{{ titled(one.by) }}</button>
      <span
        >after {{ namedAbroad(one.wait) }}: <b>{{ day(one) }}</b></span
      >
      <small class="quiet">as known {{ agoInWords(new Date(one.elsewhere.asked).toISOString()) }}</small>
    </li>
  </ul>
  <button v-if="desk.status.ready && desk.session.canEdit" class="plain" @click="emit('again')">Look again</button>
</template>

<style scoped>
.abroad {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  max-width: 380px;
  font-size: 13px;
}
li {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 1px;
  padding: 6px 0 6px 10px;
  border-left: 3px solid var(--sun);
  margin-bottom: 6px;
}
li .plain {
  text-align: left;
}
</style>
