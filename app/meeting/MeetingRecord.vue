<script setup lang="ts">
import { detailChanges, readDetails } from '#core/capture/quick-details'
import { asEntry, ENTRY_NAMES, entriesIn, entriesOf } from '#core/meeting/record'
import { type Change, ENTRY_KINDS, type EntryKind, type Topic, type TopicId } from '#core/tree'
import { meetingOf } from '#core/meeting/brief'
import { itemAbove } from '~/meeting/doing'
import { useMeeting } from '~/meeting/useMeeting'

/** The record of an item, or of the whole meeting: each line corrected in place, by anyone. */
const props = defineProps<{ under: TopicId | null; title?: string }>()
const meeting = useMeeting()
const { desk, may } = meeting
const lines = computed<readonly Topic[]>(() => {
  void desk.lateTick.value
  const id = meeting.id.value
  if (id === null || !desk.tree.topics.has(id)) return []
  if (props.under !== null && desk.tree.topics.has(props.under)) return entriesIn(desk.tree, props.under)
  return entriesOf(desk.tree, id).filter(
    topic => itemAbove(desk, topic.id) === null && meetingOf(desk.tree, topic.id) === id,
  )
})
const known = computed(() => desk.known())

/** Words after `//` are details here too. An emptied line goes away. */
function keep(topic: Topic, event: Event): void {
  const field = event.target as HTMLInputElement
  const { title, details } = readDetails(field.value.trim().toWellFormed(), known.value)
  if (title === '') {
    if (meeting.run([{ op: 'remove', topic: topic.id }])) desk.say(`Removed “${topic.title}”.`, true)
    return
  }
  const changes: Change[] = [
    ...(title === topic.title ? [] : [{ op: 'set' as const, topic: topic.id, field: 'title' as const, value: title }]),
    ...detailChanges(topic.id, details),
  ]
  if (changes.length > 0 && meeting.run(changes)) field.value = title
}
function key(event: KeyboardEvent, topic: Topic): void {
  const field = event.target as HTMLInputElement
  event.stopPropagation()
  if (event.key === 'Enter') field.blur()
  else if (event.key === 'Escape') {
    field.value = topic.title
    field.blur()
    focusTree()
  }
}
const KINDS = ENTRY_KINDS.map(id => ({ id, name: ENTRY_NAMES[id] }))
function setKind(topic: Topic, kind: EntryKind): void {
  if (kind !== topic.entry!.kind)
    meeting.run(asEntry(topic, kind, { by: desk.userId, name: desk.nameOf(desk.userId), at: desk.session.serverNow() }))
}
const said = ({ entry }: Topic): string =>
  `${entry!.by === null ? entry!.name : desk.nameOf(entry!.by)}, ${meeting.timeAt(entry!.at)}`
</script>

<template>
  <div class="lines">
    <h2>{{ title ?? 'Said and decided' }}</h2>
    <p v-if="lines.length === 0" class="quiet">
      Nothing yet.{{ may ? ' One key begins a line: D, A, Q, I or P.' : '' }}
    </p>
    <ul>
      <li v-for="topic in lines" :key="topic.id" :data-entry="topic.id" :class="{ done: topic.done === 100 }">
        <Select
          :model-value="topic.entry!.kind"
          :options="KINDS"
          option-label="name"
          option-value="id"
          size="small"
          class="kind"
          :disabled="!may"
          :aria-label="`Kind of ${topic.title}`"
          @update:model-value="setKind(topic, $event)">
          <template #value><MarkerSign :id="topic.entry!.kind" :size="17" /></template>
        </Select>
        <span class="text">
          <input
            v-kept="topic.title"
            dir="auto"
            :readonly="!may"
            :aria-label="`${ENTRY_NAMES[topic.entry!.kind]}: ${topic.title}`"
            @blur="keep(topic, $event)"
            @keydown="key($event, topic)" />
          <small
            ><template v-if="topic.entry!.kind === 'action'"
              ><b>{{ topic.people.map(desk.nameOf).join(', ') || 'nobody yet' }}</b
              >{{ topic.due ? `, due ${dayInWords(topic.due)}` : ', no date' }} · </template
            >{{ said(topic) }}</small
          >
        </span>
        <label v-if="topic.entry!.kind !== 'decision' && topic.entry!.kind !== 'idea'" class="settled"
          ><input
            type="checkbox"
            :checked="topic.done === 100"
            :disabled="!may"
            :aria-label="`Settled: ${topic.title}`"
            @change="desk.set('done', topic.done === 100 ? 0 : 100, [topic.id])"
        /></label>
      </li>
    </ul>
  </div>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
li {
  display: flex;
  gap: 4px;
  align-items: flex-start;
  border-bottom: 1px solid var(--line);
  padding: 3px 0;
}
.kind {
  flex: none;
  width: 48px;
  border-color: transparent;
  background: none;
  box-shadow: none;
}
.kind :deep(.p-select-label) {
  padding: 6px 0 2px 6px;
}
.kind :deep(.p-select-dropdown) {
  width: 18px;
}
.text {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.text input {
  border: 1px solid transparent;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: 550 15px var(--text);
  padding: 4px 6px;
  width: 100%;
}
.text input:hover {
  border-color: var(--line);
}
small {
  color: var(--quiet);
  font-size: 12px;
  padding-left: 7px;
}
small b {
  font-weight: 600;
  color: var(--ink);
}
.done .text input {
  color: var(--quiet);
  text-decoration: line-through;
}
.settled {
  padding: 8px 4px;
}
.settled input {
  width: 16px;
  height: 16px;
  accent-color: var(--fern);
}
</style>
