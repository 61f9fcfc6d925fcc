<script setup lang="ts">
import { isClosed } from '#core/meeting/clock'
import type { TopicId } from '#core/tree'
import { useMeeting } from './useMeeting'

/** The agenda beside a running meeting: where it is, what is past, how long each item took. */
defineProps<{
  /** The chair's item, while the meeting runs. */
  current: TopicId | null
  shown: TopicId | null
  spent: (id: TopicId) => string
  /** Whether only the agenda is shown, as on a projector. */
  alone: boolean
}>()
const emit = defineEmits<{ look: [id: TopicId] }>()
const meeting = useMeeting()
const { desk, brief, items, starts, clock } = meeting
const isPast = (i: number): boolean =>
  brief.value.stage === 'running' && clock.value !== null && isClosed(clock.value.list, clock.value.run, i)
</script>

<template>
  <nav class="agenda" aria-label="Agenda">
    <ol>
      <li
        v-for="(one, i) in items"
        :key="one.id"
        :class="{ now: one.id === current, shown: one.id === shown, past: isPast(i) }">
        <button :aria-current="one.id === current ? 'step' : undefined" @click="emit('look', one.id)">
          <span class="n">{{ i + 1 }}</span>
          <span class="t"
            >{{ one.title || 'untitled'
            }}<small>{{
              [
                starts.has(one.id) ? meeting.timeAt(starts.get(one.id)!) : '',
                `${one.cut ?? one.minutes ?? '–'} min${one.cut !== null && one.cut !== one.minutes ? ` (of ${one.minutes})` : ''}`,
                one.owners.map(desk.nameOf).join(', '),
              ]
                .filter(Boolean)
                .join(' · ')
            }}</small></span
          >
          <span class="spent">{{ spent(one.id) }}</span>
        </button>
      </li>
    </ol>
    <p v-if="items.length === 0" class="quiet pad">No agenda yet: lay it out in the brief.</p>
    <MeetingAttendance v-if="!alone" />
  </nav>
</template>

<style scoped>
.agenda {
  border-right: 1px solid var(--line);
  overflow: auto;
  padding: 10px 0;
  background: var(--surface);
}
.agenda ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
.agenda button {
  width: 100%;
  display: flex;
  gap: 10px;
  align-items: baseline;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  text-align: left;
  padding: 8px 12px 8px 10px;
  cursor: pointer;
}
.agenda button:hover {
  background: var(--hover);
}
.agenda .n {
  font: 650 14px var(--display);
  color: var(--quiet);
  width: 16px;
  text-align: right;
  flex: none;
}
.agenda .t {
  flex: 1;
  min-width: 0;
  font-weight: 550;
  overflow-wrap: anywhere;
}
.agenda small {
  display: block;
  color: var(--quiet);
  font-weight: 400;
  font-size: 12px;
}
.agenda .spent {
  font-size: 12px;
  color: var(--quiet);
}
.agenda .past .t {
  color: var(--quiet);
}
.agenda .shown button {
  background: var(--hover);
}
.agenda .now button {
  border-left-color: var(--sun);
  background: var(--ceiling);
}
.agenda .now .t {
  font-weight: 700;
}
.pad {
  padding: 0 14px;
}
</style>
