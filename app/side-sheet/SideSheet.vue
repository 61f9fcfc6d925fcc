<script setup lang="ts">
import { readLength } from '#core/schedule/day-words'
import { markersOf, type Topic, topicOf } from '#core/tree'
import type { SheetPart } from '~/keys/commands'
import { itemAbove } from '~/meeting/doing'
import { enter } from '~/focus/opened'
import { expectNothing } from '~/focus/typeahead'
import { useDesk } from '~/desk/desk'

/** Everything about what is selected, in one scroll. With many selected it edits them all and says what differs. */
const desk = useDesk()
const NoteEditor = defineAsyncComponent(() => import('./NoteEditor.vue'))
const sketch = ref<{ draw(): void }>()
const ties = ref<{ begin(): void }>()
const scroll = ref<HTMLElement>()

const topics = computed<readonly Topic[]>(() => {
  void desk.lateTick.value
  // A reference says what its original says; what hangs on it here is its own.
  return [...desk.selection.value]
    .filter(id => desk.tree.topics.has(id))
    .map(id => desk.guises.of(topicOf(desk.tree, id)).topic)
})
const one = computed(() => (topics.value.length === 1 ? topics.value[0]! : null))
const ids = computed(() => topics.value.map(topic => topic.id))
/**
 * The topics a field was opened for. A click on another topic selects that one before the field is left, and what was
 * typed is still for these.
 */
let opened: readonly string[] | null = null
const meant = (): readonly string[] => opened ?? ids.value
function hold(): void {
  opened ??= ids.value
}
function letGo(): void {
  opened = null
}
const may = computed(() => desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer')

/** The value that all selected topics share; undefined when they differ. */
function shared<K extends keyof Topic>(key: K): Topic[K] | undefined {
  const [first, ...rest] = topics.value
  return first && rest.every(topic => topic[key] === first[key]) ? first[key] : undefined
}
const differs = (key: keyof Topic): boolean => shared(key) === undefined
const markers = computed(() =>
  markersOf(desk.tree.fields)
    .map(marker => ({ ...marker, count: topics.value.filter(topic => topic.markers.includes(marker.id)).length }))
    .filter(marker => marker.count > 0),
)
const people = computed(() => {
  const all = new Map<string, number>()
  for (const topic of topics.value) for (const id of topic.people) all.set(id, (all.get(id) ?? 0) + 1)
  return [...all].map(([id, count]) => ({ id, name: desk.nameOf(id), everywhere: count === topics.value.length }))
})

const title = ref('')
const titleOpen = ref(false)
watch(
  () => one.value?.title,
  now => {
    if (!titleOpen.value) title.value = now ?? ''
  },
  { immediate: true },
)
function keepTitle(): void {
  titleOpen.value = false
  const [id] = meant()
  const said = title.value.trimEnd().toWellFormed()
  if (id !== undefined && desk.tree.topics.has(id) && said !== topicOf(desk.tree, id).title)
    desk.set('title', said, [id])
  title.value = one.value?.title ?? ''
}

function setNumber(field: 'duration' | 'done', text: string): void {
  const value =
    text.trim() === ''
      ? null
      : field === 'duration'
        ? (readLength(text, ownLocale()) ?? Number(text.replace(',', '.')))
        : Number(text.replace(',', '.').replace(/\s*%$/, ''))
  if (value !== null && (!Number.isFinite(value) || value < 0 || value > (field === 'done' ? 100 : 10_000))) {
    desk.say(
      field === 'done' ? 'Done is a number from 0 to 100.' : 'A length is a number of working days, 10,000 at most.',
    )
    return
  }
  desk.set(field, value === null ? null : field === 'done' ? Math.round(value) : value, meant())
}

const markerMenu = ref()
const personMenu = ref()
/** What only one topic can have is asked for with many selected: that is said, and the keys stay with the tree. */
const PART_NAMES: Record<SheetPart, string> = {
  task: '',
  note: 'a note',
  link: 'a link',
  file: 'a file',
  check: 'a checklist',
  place: 'a place',
  sketch: 'a sketch',
  tie: 'a cross-link',
}
const files = ref<{ choose(): void }>()

/**
 * The part as soon as it stands: the sheet may just have opened, and the editor of notes is loaded when it's first
 * shown.
 */
function whenThere(selector: string, then: (element: HTMLElement) => void): void {
  const look = (): boolean => {
    const found = scroll.value?.querySelector<HTMLElement>(selector)
    if (found) then(found)
    return found !== null && found !== undefined
  }
  if (look()) return
  const watcher = new MutationObserver(() => {
    if (look()) watcher.disconnect()
  })
  watcher.observe(scroll.value!, { childList: true, subtree: true })
  setTimeout(() => watcher.disconnect(), 5000)
}
async function into(part: SheetPart): Promise<void> {
  await nextTick()
  if (part !== 'task' && !one.value) {
    desk.say(`One topic at a time can get ${PART_NAMES[part]}. Select just one.`)
    expectNothing()
  } else if (part === 'sketch' && may.value) sketch.value?.draw()
  else if (part === 'file' && may.value) {
    whenThere('[data-part="file"]', enter)
    files.value?.choose()
  } else if (part === 'note') whenThere('.note-text', enter)
  else whenThere(`[data-part="${part}"]`, enter)
}
defineExpose({ into })

const hasReferences = computed(() => {
  void desk.lateTick.value
  return one.value !== null && desk.guises.isShownElsewhere(one.value.id)
})

/** Whether the topic is a meeting, an item, or stands in a section that was asked for. */
const inMeeting = computed(() => {
  void desk.lateTick.value
  if (!one.value) return false
  if (one.value.meeting.length > 0 || one.value.item.length > 0) return true
  const above = itemAbove(desk, one.value.id)
  return above !== null && desk.tree.topics.get(above)!.item.some(({ kind }) => kind === 'asked' || kind === 'ready')
})

function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || event.defaultPrevented) return
  event.preventDefault()
  event.stopPropagation()
  focusTree()
}
</script>

<template>
  <aside
    ref="scroll"
    class="sheet"
    aria-label="About the selection"
    @keydown="escape"
    @focusin="hold"
    @focusout="letGo">
    <template v-if="one">
      <textarea
        v-model="title"
        class="title"
        rows="1"
        dir="auto"
        aria-label="Title of the selected topic"
        :readonly="!may"
        @focus="titleOpen = true"
        @blur="keepTitle"
        @keydown.enter.exact.prevent="($event.target as HTMLElement).blur()" />
    </template>
    <h2 v-else class="many">{{ topics.length }} topics</h2>

    <div class="chips" aria-label="Markers">
      <button
        v-for="marker in markers"
        :key="marker.id"
        class="chip"
        :disabled="!may"
        :aria-label="`${marker.name}: remove`"
        @click="desk.toggle('markers', marker.id, ids)">
        <MarkerSign :id="marker.id" :size="15" />{{ marker.name
        }}<span v-if="marker.count < topics.length" class="quiet">{{ marker.count }} of {{ topics.length }}</span>
      </button>
      <button v-if="may" class="chip" aria-label="Add a marker" @click="markerMenu.toggle($event)">
        <Icon name="lucide:plus" size="14" />
      </button>
      <PorchPopover ref="markerMenu"><MarkerSheet :ids="ids" /></PorchPopover>
    </div>

    <h3>Task</h3>
    <div class="task" data-part="task">
      <span>People</span>
      <div class="chips">
        <button
          v-for="person in people"
          :key="person.id"
          class="chip"
          :disabled="!may"
          :aria-label="`${person.name}: take off`"
          @click="desk.toggle('people', person.id, ids)">
          {{ person.name }}<span v-if="!person.everywhere" class="quiet"> some</span>
        </button>
        <button v-if="may" class="chip" aria-label="Add a person" @click="personMenu.toggle($event)">
          <Icon name="lucide:plus" size="14" />
        </button>
        <PorchPopover ref="personMenu">
          <div class="pick" role="group" aria-label="People">
            <button
              v-for="person in desk.status.people"
              :key="person.id"
              :aria-pressed="people.some(other => other.id === person.id && other.everywhere)"
              @click="desk.toggle('people', person.id, ids)">
              <span class="initials" :style="{ background: hueOf(person.id) }">{{ initialsOf(person.name) }}</span>{{
                person.name
              }}<Icon v-if="people.some(other => other.id === person.id)" name="lucide:check" size="15" />
            </button>
          </div>
        </PorchPopover>
      </div>
      <label for="sheet-start">Start</label>
      <DayField
        :key="`start ${ids.join()}`"
        :model-value="shared('start') ?? null"
        input-id="sheet-start"
        label="Start"
        :disabled="!may"
        :placeholder="differs('start') ? 'differs' : 'fri, 12 May …'"
        @update:model-value="desk.set('start', $event, meant())" />
      <label for="sheet-due">Due</label>
      <div class="due">
        <DayField
          :key="`due ${ids.join()}`"
          :model-value="shared('due') ?? null"
          input-id="sheet-due"
          label="Due"
          :disabled="!may"
          :placeholder="differs('due') ? 'differs' : 'fri, 12 May …'"
          @update:model-value="desk.set('due', $event, meant())" />
        <span v-if="one?.due && one.done !== 100 && dueInWords(one.due).late" class="late">{{
          dueInWords(one.due).text
        }}</span>
      </div>
      <label for="sheet-length">Length</label>
      <div class="with-unit">
        <InputText
          id="sheet-length"
          v-kept="shared('duration') ?? ''"
          inputmode="decimal"
          :disabled="!may"
          :placeholder="differs('duration') ? 'differs' : ''"
          @change="setNumber('duration', ($event.target as HTMLInputElement).value)" />
        working days
      </div>
      <label for="sheet-done">Done</label>
      <div class="with-unit">
        <div class="stops" role="group" aria-label="Done in five stops">
          <button
            v-for="stop in [0, 25, 50, 75, 100]"
            :key="stop"
            :disabled="!may"
            :class="{ on: (shared('done') ?? -1) >= stop && shared('done') !== null && stop > 0 }"
            :aria-label="`${stop} % done`"
            @click="desk.set('done', stop, ids)" />
        </div>
        <InputText
          id="sheet-done"
          class="percent"
          v-kept="shared('done') ?? ''"
          inputmode="numeric"
          :disabled="!may"
          :placeholder="differs('done') ? 'differs' : ''"
          @change="setNumber('done', ($event.target as HTMLInputElement).value)" />
        %
      </div>
      <label for="sheet-priority">Priority</label>
      <Select
        input-id="sheet-priority"
        :model-value="shared('priority') ?? null"
        :options="[
          { label: '1, most urgent', value: 1 },
          { label: '2', value: 2 },
          { label: '3', value: 3 },
          { label: '4', value: 4 },
          { label: '5', value: 5 },
        ]"
        option-label="label"
        option-value="value"
        show-clear
        :disabled="!may"
        :placeholder="differs('priority') ? 'differs' : 'none'"
        aria-label="Priority"
        @update:model-value="desk.set('priority', $event ?? null, ids)" />
    </div>

    <template v-if="one && inMeeting">
      <h3>Meeting</h3>
      <MeetingPart :key="`m${one.id}`" :topic="one" />
    </template>
    <template v-if="one">
      <h3>Note</h3>
      <NoteEditor data-part="note" :key="one.id" :topic="one.id" />
      <ElsewherePart v-if="one.reference || one.page || hasReferences" :topic="one" />
      <h3>Links</h3>
      <LinksPart data-part="link" :key="`l${one.id}`" :topic="one" />
      <h3>Files</h3>
      <FilesPart ref="files" data-part="file" :topic="one" />
      <h3>Checklist</h3>
      <ChecksPart data-part="check" :key="`c${one.id}`" :topic="one" />
      <h3>Cross-links</h3>
      <TiesPart :key="`t${one.id}`" ref="ties" :topic="one" />
      <h3>Place</h3>
      <PlacePart data-part="place" :key="`p${one.id}`" :topic="one" />
      <h3>Sketch</h3>
      <SketchPart data-part="sketch" :key="`s${one.id}`" ref="sketch" :topic="one" />
      <h3>Picture</h3>
      <PicturePart :key="`i${one.id}`" :topic="one" />
    </template>
    <p v-if="desk.session.lastChange" class="quiet last">
      Last change in this tree: {{ desk.nameOf(desk.session.lastChange.user) }},
      {{ agoInWords(desk.session.lastChange.at) }}
    </p>
  </aside>
</template>

<style scoped>
.sheet {
  height: 100%;
  overflow: auto;
  padding: 16px 18px 24px;
  background: var(--surface);
  border-left: 1px solid var(--line);
}
.title {
  width: 100%;
  font: 600 17px/1.25 var(--display);
  color: inherit;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  padding: 3px 6px;
  margin: -4px -7px 6px;
  resize: none;
  field-sizing: content;
  max-height: 180px;
}
.title:hover,
.title:focus {
  border-color: var(--line);
}
.many {
  margin: 0 0 8px;
}
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 18px 0 7px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
.chip {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  background: var(--page);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 2px 8px;
  font-size: 12.5px;
  min-height: 26px;
  color: inherit;
  max-width: 100%;
}
button.chip {
  cursor: pointer;
}
button.chip:not(:disabled):hover {
  border-color: var(--porch);
}
.task {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  font-size: 13px;
}
.task > span,
.task > label {
  color: var(--quiet);
}
.task :deep(.p-select-label) {
  font-size: 13px;
  padding-block: 0.42rem;
}
.task :deep(input) {
  font-size: 13px;
  width: 100%;
}
.due {
  display: flex;
  align-items: center;
  gap: 8px;
}
.due > :first-child {
  flex: 1;
}
.late {
  color: var(--clay);
  font-weight: 650;
  white-space: nowrap;
}
.with-unit {
  display: flex;
  align-items: center;
  gap: 7px;
  color: var(--quiet);
}
.with-unit :deep(input) {
  width: 64px;
}
.with-unit .percent {
  width: 54px;
}
.stops {
  display: flex;
  flex: 1;
  gap: 2px;
}
.stops button {
  flex: 1;
  min-width: 24px;
  height: 24px;
  border: 0;
  padding: 0;
  background: linear-gradient(var(--line), var(--line)) center/100% 8px no-repeat;
  cursor: pointer;
}
.stops button:first-child {
  flex: 0 0 24px;
}
.stops button.on {
  background-image: linear-gradient(var(--porch), var(--porch));
}
.last {
  font-size: 12px;
  margin: 20px 0 0;
}
.pick {
  display: flex;
  flex-direction: column;
  min-width: 200px;
}
.pick button {
  display: flex;
  gap: 9px;
  align-items: center;
  border: 0;
  background: none;
  padding: 5px 6px;
  border-radius: 6px;
  cursor: pointer;
  text-align: left;
}
.pick button:hover {
  background: var(--hover);
}
</style>
