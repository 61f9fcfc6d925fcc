<script setup lang="ts">
import { detailChanges, readDetails } from '#core/capture/quick-details'
import { asEntry, ENTRY_NAMES, entriesIn, entriesOf } from '#core/meeting/record'
import type { TopicSign } from '#core/talk/thread'
import { type Change, ENTRY_KINDS, type EntryKind, type Topic, type TopicId } from '#core/tree'
import { meetingOf } from '#core/meeting/brief'
import { expectField } from '~/focus/typeahead'
import { commentsInWords } from '~/talk/count'
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
/** The line whose comments stand open under it, and how many hang on each. */
const CommentsPart = defineAsyncComponent(() => import('~/talk/CommentsPart.vue'))
const talkedOf = ref<TopicId | null>(null)
const list = ref<HTMLElement>()
function signOf(id: TopicId): TopicSign | null {
  void desk.talking.tick.value
  return desk.talking.signAt(id)
}
const talkInWords = ({ id, title }: Topic): string => {
  const count = signOf(id)?.comments ?? 0
  return `${count === 0 ? 'Comment' : commentsInWords(count)} on ${title}`
}
const mayComment = computed(() => {
  void desk.status.role
  return desk.session.canComment
})
/** Opens the comments of a line, or shuts them. They're loaded when they're first wanted: what is typed waits for them. */
function talkUnder(id: TopicId): void {
  if (talkedOf.value === id) {
    talkedOf.value = null
    return
  }
  if (mayComment.value) expectField()
  talkedOf.value = id
}
/** Shuts the comments of a line, with the keys back on their sign. */
async function shut(id: TopicId): Promise<void> {
  talkedOf.value = null
  await nextTick()
  list.value?.querySelector<HTMLElement>(`[data-entry="${id}"] .talk`)?.focus()
}
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
    <ul ref="list">
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
        <button
          v-if="mayComment || signOf(topic.id)"
          class="talk"
          :class="{ some: signOf(topic.id), open: signOf(topic.id)?.open }"
          :aria-expanded="talkedOf === topic.id"
          :aria-label="talkInWords(topic)"
          @click="talkUnder(topic.id)">
          <Icon name="lucide:message-square" size="15" />{{ signOf(topic.id)?.comments || '' }}
        </button>
        <CommentsPart
          v-if="talkedOf === topic.id"
          class="said"
          :topic="topic.id"
          :first="mayComment"
          @left="shut(topic.id)"
          @keydown.esc.stop="shut(topic.id)" />
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
  flex-wrap: wrap;
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
.talk {
  display: flex;
  align-items: center;
  gap: 3px;
  min-width: 32px;
  min-height: 32px;
  justify-content: center;
  border: 0;
  border-radius: 5px;
  background: none;
  color: var(--quiet);
  font: 600 12px var(--text);
  cursor: pointer;
}
.talk:not(.some) {
  opacity: 0.55;
}
.talk:hover,
.talk:focus-visible {
  opacity: 1;
  background: var(--hover);
}
.talk.open {
  color: var(--porch);
}
.said {
  flex: 1 0 100%;
  padding: 2px 6px 8px 52px;
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
