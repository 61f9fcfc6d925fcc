<script setup lang="ts">
import { readDetails } from '#core/capture/quick-details'
import { capture, ENTRY_NAMES } from '#core/meeting/record'
import { ENTRY_KINDS, type EntryKind, isLive, shorten, topicOf, type TopicId } from '#core/tree'
import { arrive, expectField } from '~/focus/typeahead'
import { newId } from '~/desk/new-id'
import { keyOf } from '~/keys/keys'
import { useMeeting } from '~/meeting/useMeeting'

/** One key, one line: decision, action, question, idea, parked. After `//` an action gets its owner and day at once. */
const props = defineProps<{ under: () => TopicId | null }>()
const meeting = useMeeting()
const { desk, brief, may } = meeting

const kind = ref<EntryKind | null>(null)
const text = ref('')
const by = ref(desk.userId)
const field = ref<HTMLInputElement>()

const speakers = computed(() => {
  const asked = brief.value.people
  const names = new Map<string, string>([[desk.userId, desk.nameOf(desk.userId)]])
  for (const { user } of asked) if (user !== null) names.set(user, desk.nameOf(user))
  for (const { id, user, name, mail } of asked) if (user === null) names.set(`guest ${id}`, name || mail || 'guest')
  return [...names].map(([id, name]) => ({ id, name }))
})
const known = computed(() => desk.known())
const understood = computed(() => readDetails(text.value, known.value))

/** Under what the line was begun: when the chair moves on meanwhile, it still belongs there. */
const at = ref<TopicId | null>(null)
watch(text, (now, before) => {
  if (now === '') at.value = null
  else if (before === '') at.value = props.under()
})
const elsewhere = computed(() => {
  void desk.lateTick.value
  return at.value !== null && at.value !== props.under() && desk.tree.topics.has(at.value)
    ? shorten(topicOf(desk.tree, at.value).title, 40)
    : ''
})

function begin(wanted: EntryKind): void {
  if (!desk.guard()) return
  expectField()
  kind.value = wanted
  nextTick(() => field.value && arrive(field.value))
}
function keep(): boolean {
  const under = at.value !== null && isLive(desk.tree, at.value) ? at.value : props.under()
  const { title, details } = understood.value
  if (kind.value === null || under === null || title.trim() === '' || !desk.guard()) return false
  const guest = by.value.startsWith('guest ')
  const name = speakers.value.find(({ id }) => id === by.value)?.name ?? ''
  const { changes, id } = capture(
    desk.tree,
    under,
    kind.value,
    { ...details, title: title.trim().toWellFormed() },
    { by: guest ? null : by.value, name, at: desk.session.serverNow() },
    newId,
  )
  if (!desk.run({ changes })) return false
  text.value = ''
  // What was just said is in sight, in the list and in the branch.
  nextTick(() => document.querySelector(`[data-entry="${id}"]`)?.scrollIntoView({ block: 'nearest' }))
  return true
}
function close(): void {
  kind.value = null
  text.value = ''
  focusTree()
}
function key(event: KeyboardEvent): void {
  if (event.isComposing) return
  event.stopPropagation()
  if (event.key === 'Escape') close()
  else if (event.key === 'Enter') {
    event.preventDefault()
    // Enter keeps and goes on with the next of its kind; on an empty line it's done.
    if (text.value.trim() === '' || (keep() && event.ctrlKey)) close()
  }
}
defineExpose({ begin })
</script>

<template>
  <div v-if="may" class="capture" role="group" aria-label="Capture">
    <div class="kinds">
      <button v-for="one in ENTRY_KINDS" :key="one" :aria-pressed="kind === one" @click="begin(one)">
        <MarkerSign :id="one" :size="16" />{{ ENTRY_NAMES[one] }} <kbd>{{ keyOf(`room-${one}`) }}</kbd>
      </button>
    </div>
    <div v-if="kind" class="line">
      <input
        ref="field"
        v-model="text"
        dir="auto"
        :aria-label="`New ${ENTRY_NAMES[kind].toLowerCase()}`"
        :placeholder="
          kind === 'action' ? 'Ask the town for a no-stopping zone // Oskar, fri' : `${ENTRY_NAMES[kind]} …`
        "
        @keydown="key" />
      <span v-if="elsewhere" class="chip">stays under “{{ elsewhere }}”</span>
      <span v-for="chip in understood.chips" :key="chip.text" class="chip">{{ chip.text }}</span>
      <Select
        v-model="by"
        :options="speakers"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Who said it" />
      <button class="plain" @click="close">Esc</button>
    </div>
  </div>
</template>

<style scoped>
.capture {
  border-top: 1px solid var(--line);
  background: var(--surface);
  padding: 8px 22px;
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.kinds {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
}
.kinds button {
  display: inline-flex;
  gap: 7px;
  align-items: center;
  border: 1px solid var(--line);
  background: none;
  border-radius: 7px;
  padding: 4px 10px;
  cursor: pointer;
  font-weight: 550;
  min-height: 32px;
}
.kinds button:hover {
  border-color: var(--porch);
}
.kinds [aria-pressed='true'] {
  background: var(--ceiling);
  border-color: var(--porch);
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.line input {
  flex: 1;
  min-width: 220px;
  font: 550 17px var(--text);
  color: inherit;
  background: var(--page);
  border: 1px solid var(--line);
  border-left: 3px solid var(--sun);
  padding: 8px 12px;
}
.chip {
  background: var(--ceiling);
  border-radius: 5px;
  padding: 2px 8px;
  font-size: 12.5px;
}
.plain {
  color: var(--quiet);
  min-height: 28px;
}
</style>
