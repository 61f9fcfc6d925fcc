<script setup lang="ts">
import { readDay } from '#core/schedule/day-words'
import { type Check, inOrder, keysAt, movedLine, type Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { useDraft } from './useDraft'

/**
 * The checklist of a topic. Enter keeps a line and goes on to the next; an emptied line goes; `//` gives a date or a
 * priority.
 */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const checks = computed(() => inOrder(props.topic.checks))
/**
 * The lines as the tree has them this moment: what is shown follows a frame later, and a fast hand adds the next line
 * before that.
 */
const checksNow = (): readonly Check[] => inOrder(desk.tree.topics.get(props.topic.id)?.checks ?? [])
const box = ref<HTMLElement>()
const fresh = useDraft('check', props.topic.id)

const putAll = (checks: readonly Check[]): void => {
  if (desk.guard())
    desk.run({
      changes: checks.map(member => ({ op: 'put' as const, topic: props.topic.id, set: 'checks' as const, member })),
    })
}
/** Changes a part of a line, as it is in the tree: two quick changes of one line are both kept. */
function change(id: string, part: Partial<Check>): void {
  const now = checksNow().find(one => one.id === id)
  if (now) desk.put(props.topic.id, { op: 'put', topic: props.topic.id, set: 'checks', member: { ...now, ...part } })
}
const take = (id: string): void => {
  desk.put(props.topic.id, { op: 'take', topic: props.topic.id, set: 'checks', member: id })
}

/** What a line says, without what it says after `//`. */
function read(said: string): Pick<Check, 'text'> & Partial<Pick<Check, 'due' | 'priority'>> {
  const [text = '', details] = said.split(/\s\/\/\s/)
  const found: { text: string; due?: string; priority?: number } = { text: text.trim().toWellFormed().slice(0, 1000) }
  for (const part of details?.split(',') ?? []) {
    const priority = /^\s*p?([1-5])\s*$/i.exec(part)
    const due = priority ? null : readDay(part.trim(), daySense())
    if (priority) found.priority = Number(priority[1])
    else if (due) found.due = due
    else found.text += ` // ${part.trim()}`
  }
  return found
}
function add(): void {
  const lines = fresh.value
    .split('\n')
    .map(line => line.trim())
    .filter(Boolean)
  const list = checksNow()
  const { keys } = keysAt(
    list.map(check => check.order),
    list.length,
    lines.length,
  )
  const members = lines.map((line, i): Check => ({
    id: newId(),
    order: keys[i]!,
    done: /^[-*•]\s+\[x\]/i.test(line),
    due: null,
    priority: null,
    ...read(line.replace(/^[-*•]\s+(?:\[[ x]\]\s+)?/i, '')),
  }))
  if (members.length > 0) putAll(members)
  fresh.value = ''
}
function keep(check: Check, said: string): void {
  if (said.trim() === '') take(check.id)
  else if (said.trim() !== check.text) change(check.id, read(said))
}
function move(check: Check, by: 1 | -1): void {
  const moved = movedLine(checksNow(), check.id, by)
  if (moved.length > 0) putAll(moved)
}
function key(event: KeyboardEvent, check: Check): void {
  const field = event.target as HTMLInputElement
  if (event.key === 'Enter') {
    event.preventDefault()
    keep(check, field.value)
    const fields = [...box.value!.querySelectorAll<HTMLInputElement>('input[data-line]')]
    fields[fields.indexOf(field) + 1]?.focus()
  } else if (event.key === 'Escape') {
    event.stopPropagation()
    field.value = check.text
    field.blur()
  } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    move(check, event.key === 'ArrowUp' ? -1 : 1)
  }
}
function paste(event: ClipboardEvent): void {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!text.includes('\n')) return
  event.preventDefault()
  fresh.value = text
  add()
}
</script>

<template>
  <div ref="box" class="checks">
    <div v-for="check in checks" :key="check.id" class="check" :class="{ done: check.done }">
      <Checkbox
        :model-value="check.done"
        binary
        :disabled="!may"
        :aria-label="check.text"
        @update:model-value="change(check.id, { done: Boolean($event) })" />
      <input
        data-line
        v-kept="check.text"
        :readonly="!may"
        dir="auto"
        :aria-label="`Line ${check.text}`"
        @keydown="key($event, check)"
        @blur="keep(check, ($event.target as HTMLInputElement).value)" />
      <button
        v-if="check.due"
        class="when"
        :class="{ late: !check.done && dueInWords(check.due).late }"
        :disabled="!may"
        :title="dayInWords(check.due)"
        :aria-label="`Due ${dayInWords(check.due)}: take off`"
        @click="change(check.id, { due: null })">
        {{ dueInWords(check.due).text }}
      </button>
      <button
        v-if="check.priority"
        class="when"
        :disabled="!may"
        :aria-label="`Priority ${check.priority}: take off`"
        @click="change(check.id, { priority: null })">
        P{{ check.priority }}
      </button>
      <button v-if="may" class="icon-button" :aria-label="`Remove the line ${check.text}`" @click="take(check.id)">
        <Icon name="lucide:x" size="13" />
      </button>
    </div>
    <input
      v-if="may"
      v-model="fresh"
      data-line
      class="fresh"
      placeholder="Next line // fri, p2"
      aria-label="New line of the checklist"
      @keydown.enter.prevent="add"
      @paste="paste" />
  </div>
</template>

<style scoped>
.checks {
  display: flex;
  flex-direction: column;
  gap: 1px;
}
.check {
  display: flex;
  align-items: center;
  gap: 7px;
}
input[data-line] {
  flex: 1;
  min-width: 0;
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13px;
  padding: 4px 2px;
  outline: none;
  min-height: 26px;
}
input[data-line]:hover,
input[data-line]:focus {
  border-bottom-color: var(--line);
}
input[data-line]:focus {
  border-bottom-color: var(--porch);
}
.done input[data-line] {
  color: var(--quiet);
  text-decoration: line-through;
}
.when {
  border: 0;
  background: none;
  padding: 0 2px;
  min-height: 24px;
  font-size: 12px;
  color: var(--quiet);
  white-space: nowrap;
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.icon-button {
  min-width: 24px;
  height: 24px;
  padding: 0;
}
</style>
