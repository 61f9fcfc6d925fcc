<script setup lang="ts">
import { together } from '#core/formats/passages'
import { fold } from '#core/find/text'
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { canRead } from './readable'
import { readBefore, useReading } from './useReading'

/**
 * A document beside the tree. Passages are chosen like rows, one key makes topics of them where the tree's focus is, and what was used is
 * ticked off.
 */
const desk = useDesk()
const { passages, documents, used, said, trouble, take } = useReading(desk)
const may = computed(() => desk.status.ready && desk.session.canEdit)
const words = ref('')
const leftOnly = ref(false)
/** Passages that are shown at first, and more with each press. */
const STEP = 600
const most = ref(STEP)
const found = computed(() => {
  const wanted = fold(words.value.trim())
  return passages.value.filter(
    one => (!leftOnly.value || !used.value.has(one.at)) && (wanted === '' || fold(one.text).includes(wanted)),
  )
})
const shown = computed(() => found.value.slice(0, most.value))
const list = useTemplateRef<HTMLElement>('list')
const active = ref(0)
const chosen = ref<ReadonlySet<number>>(new Set())
let anchor = 0
const id = useId()

const under = computed(() => {
  void desk.tick.value
  return shorten(desk.tree.topics.get(desk.focus.value)?.title || 'the topic', 40)
})
const current = computed(() =>
  documents.value.findIndex(
    one => one.file.file === desk.reading.value?.file.file && one.topic === desk.reading.value.topic,
  ),
)
function choose(event: Event): void {
  const one = documents.value[Number((event.target as HTMLSelectElement).value)]
  if (one) desk.reading.value = { ...one, passage: null }
}

// What was asked for; else the document of the topic that has the focus, the one that was read before, the first there is.
if (desk.reading.value === null) {
  const own = topicOf(desk.tree, desk.focus.value).files.find(canRead)
  const first = own ? { topic: desk.focus.value, file: own } : (readBefore.get(desk) ?? documents.value[0])
  if (first) desk.reading.value = { ...first, passage: null }
}
onBeforeUnmount(() => {
  if (desk.reading.value) readBefore.set(desk, desk.reading.value)
  desk.reading.value = null
})

/** Where the reader stands; what is chosen is told apart from it. */
function stand(at: number): void {
  active.value = at
  void nextTick(() => document.getElementById(`${id}-${at}`)?.scrollIntoView({ block: 'nearest' }))
}
// A link leads to a passage: there once it's read.
watch(
  [passages, () => desk.reading.value],
  () => {
    const to = desk.reading.value?.passage ?? null
    if (to === null || passages.value.length === 0) {
      chosen.value = new Set()
      anchor = 0
      stand(0)
      return
    }
    words.value = ''
    leftOnly.value = false
    most.value = Math.max(most.value, to + STEP)
    chosen.value = new Set([to])
    anchor = to
    stand(to)
  },
  { immediate: true },
)

// What is narrowed away is neither stood on nor chosen: a key acts on what is seen.
watch(shown, now => {
  const there = new Set(now.map(one => one.at))
  if ([...chosen.value].some(at => !there.has(at)))
    chosen.value = new Set([...chosen.value].filter(at => there.has(at)))
  if (!there.has(active.value) && now[0]) active.value = anchor = now[0].at
})

const where = (at: number): number => shown.value.findIndex(one => one.at === at)
function range(from: number, to: number): ReadonlySet<number> {
  const [a, b] = [where(from), where(to)].sort((x, y) => x - y) as [number, number]
  return new Set(shown.value.slice(Math.max(0, a), b + 1).map(one => one.at))
}
function go(by: number, extend: boolean): void {
  const next = shown.value[Math.max(0, Math.min(shown.value.length - 1, Math.max(0, where(active.value)) + by))]
  if (!next) return
  stand(next.at)
  if (extend) chosen.value = range(anchor, next.at)
  else {
    anchor = next.at
    chosen.value = new Set()
  }
}
function toggle(at: number): void {
  const now = new Set(chosen.value)
  if (!now.delete(at)) now.add(at)
  chosen.value = now
  anchor = at
}
function press(event: MouseEvent & { pointerType?: string }, at: number): void {
  active.value = at
  if (event.shiftKey) chosen.value = range(anchor, at)
  else if (event.ctrlKey || event.metaKey || event.pointerType === 'touch') toggle(at)
  else {
    chosen.value = new Set([at])
    anchor = at
  }
}
function make(which: readonly number[], tray = false): void {
  if (take(which, tray) === 0) return
  chosen.value = new Set()
  const last = Math.max(...which)
  // What comes next is what wasn't used yet.
  const next = passages.value.find(one => one.at > last && !used.value.has(one.at)) ?? passages.value[last]
  if (next) {
    anchor = next.at
    stand(next.at)
  }
}
const meant = (): number[] =>
  chosen.value.size > 0 ? [...chosen.value].sort((a, b) => a - b) : where(active.value) < 0 ? [] : [active.value]
const whole = (): number[] => (where(active.value) < 0 ? [] : together(passages.value, active.value))
function key(event: KeyboardEvent): void {
  const command = event.ctrlKey || event.metaKey
  const acts: Record<string, () => void> = {
    ArrowDown: () => go(1, event.shiftKey),
    ArrowUp: () => go(-1, event.shiftKey),
    PageDown: () => go(8, event.shiftKey),
    PageUp: () => go(-8, event.shiftKey),
    Home: () => go(-Infinity, event.shiftKey),
    End: () => go(Infinity, event.shiftKey),
    ' ': () => toggle(active.value),
    Enter: () => (command ? make(whole()) : make(meant(), event.shiftKey)),
  }
  if (command && event.key.toLowerCase() === 'a')
    acts[event.key] = () => (chosen.value = new Set(shown.value.map(one => one.at)))
  const act = acts[event.key]
  if (act) {
    event.preventDefault()
    event.stopPropagation()
    act()
  } else if (!command && !event.altKey && event.key.length === 1) event.stopPropagation()
}
function down(event: KeyboardEvent): void {
  if (event.key !== 'ArrowDown' && event.key !== 'Enter') return
  event.preventDefault()
  list.value?.focus()
}
</script>

<template>
  <div class="reading">
    <label class="field">
      <span>Find in the document</span>
      <input v-model="words" data-first type="search" @keydown="down" />
    </label>
    <p v-if="documents.length === 0" class="quiet">
      No document hangs on a topic of this tree. Drop a PDF, a text, a Word document or a page on one, and open it here.
    </p>
    <template v-else>
      <label class="field">
        <span>Document</span>
        <select :value="current" @change="choose">
          <option v-if="current < 0" :value="-1">{{ desk.reading.value?.file.name ?? 'Choose one …' }}</option>
          <option v-for="(one, i) in documents" :key="i" :value="i">
            {{ one.file.name }} on “{{ shorten(topicOf(desk.tree, one.topic).title, 30) }}”
          </option>
        </select>
      </label>
      <p v-if="trouble" role="alert">{{ trouble }}</p>
      <p v-else-if="said" class="quiet" role="status">{{ said }}</p>
      <template v-else>
        <div class="count">
          <span role="status">{{ used.size.toLocaleString() }} of {{ passages.length.toLocaleString() }} used</span>
          <label><input v-model="leftOnly" type="checkbox" /> only what is left</label>
        </div>
        <div
          ref="list"
          class="passages"
          role="listbox"
          aria-multiselectable="true"
          aria-label="Passages"
          tabindex="0"
          :aria-activedescendant="shown.length > 0 ? `${id}-${active}` : undefined"
          @keydown="key">
          <div
            v-for="one in shown"
            :id="`${id}-${one.at}`"
            :key="one.at"
            role="option"
            :class="[one.kind, { active: one.at === active, used: used.has(one.at) }]"
            :style="{ '--level': one.level }"
            :aria-selected="chosen.has(one.at)"
            @click="press($event as PointerEvent, one.at)">
            <Icon v-if="used.has(one.at)" name="lucide:check" size="14" class="tick" />
            <span v-if="used.has(one.at)" class="visually-hidden">used, </span>
            <span>{{ one.text }}</span>
            <small v-if="one.page !== null && one.kind === 'heading'" class="quiet">page {{ one.page }}</small>
          </div>
        </div>
        <button v-if="found.length > shown.length" class="plain" @click="most += STEP">
          Show more ({{ (found.length - shown.length).toLocaleString() }} are left)
        </button>
        <p v-if="found.length === 0" class="quiet">
          {{ words ? 'No passage has these words.' : 'All of it has been used.' }}
        </p>
        <div v-if="may" class="acts">
          <p class="quiet where">Under “{{ under }}”</p>
          <Button
            size="small"
            data-tip="Enter"
            :label="chosen.size > 1 ? `Make ${chosen.size} topics` : 'Make a topic'"
            @click="make(meant())" />
          <Button
            size="small"
            severity="secondary"
            data-tip="Ctrl Enter"
            label="With all under it"
            @click="make(whole())" />
          <Button
            size="small"
            severity="secondary"
            data-tip="Shift Enter"
            label="Into the tray"
            @click="make(meant(), true)" />
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.reading {
  display: flex;
  flex-direction: column;
  gap: 10px;
  height: calc(100% - 44px);
  min-height: 300px;
}
p {
  margin: 0;
}
.field {
  display: grid;
  gap: 3px;
  font-size: 13px;
}
.field input,
.field select {
  min-width: 0;
  width: 100%;
  font: inherit;
  min-height: 32px;
}
.count {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  font-size: 13px;
}
.count label {
  display: flex;
  align-items: center;
  gap: 5px;
  min-height: 24px;
}
.passages {
  flex: 1;
  min-height: 120px;
  overflow: auto;
  border: 1px solid var(--line);
  background: var(--page);
}
.passages [role='option'] {
  content-visibility: auto;
  contain-intrinsic-size: auto 44px;
  padding: 6px 10px;
  padding-left: calc(10px + max(0, var(--level) - 1) * 14px);
  border-left: 3px solid transparent;
  line-height: 1.45;
  font-size: 14px;
  overflow-wrap: anywhere;
  cursor: pointer;
}
.passages .heading {
  padding-left: 10px;
  font-weight: 650;
}
.passages .item::before {
  content: '· ';
}
.passages .used {
  color: var(--quiet);
}
.passages [aria-selected='true'] {
  background: var(--surface);
  border-left-color: var(--accent);
}
.passages:focus-visible .active {
  outline: 2px solid var(--accent);
  outline-offset: -2px;
}
.tick {
  margin-right: 4px;
  vertical-align: -2px;
}
.heading small {
  margin-left: 8px;
  font-weight: 400;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.where {
  flex-basis: 100%;
  font-size: 13px;
}
</style>
