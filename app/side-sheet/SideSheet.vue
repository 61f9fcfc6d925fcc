<script setup lang="ts">
import { languageOf, markersOf, type Topic, topicOf } from '#core/tree'
import type { SheetPart } from '~/keys/commands'
import { itemAbove } from '~/meeting/doing'
import { enter } from '~/focus/opened'
import { expectNothing } from '~/focus/typeahead'
import { useDesk } from '~/desk/desk'
import { useMeant } from './useMeant'
import { useSettled } from './useSettled'

/** Everything about what is selected, in one scroll. With many selected it edits them all and says what differs. */
const desk = useDesk()
const NoteEditor = defineAsyncComponent(() => import('./NoteEditor.vue'))
const CommentsPart = defineAsyncComponent(() => import('~/talk/CommentsPart.vue'))
const PlanPart = defineAsyncComponent(() => import('~/schedule/PlanPart.vue'))
const sketch = ref<{ draw(): void }>()
const ties = ref<{ begin(): void }>()
const scroll = ref<HTMLElement>()

const { settled, now: catchUp } = useSettled(() => desk.selection.value)
const topics = computed<readonly Topic[]>(() => {
  void desk.lateTick.value
  // A reference says what its original says; what hangs on it here is its own.
  return [...settled.value]
    .filter(id => desk.tree.topics.has(id))
    .map(id => desk.guises.of(topicOf(desk.tree, id)).topic)
})
const one = computed(() => (topics.value.length === 1 ? topics.value[0]! : null))
const ids = computed(() => topics.value.map(topic => topic.id))
const { meant, hold, letGo } = useMeant(ids)
const may = computed(() => desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer')

const markers = computed(() =>
  markersOf(desk.tree.fields)
    .map(marker => ({ ...marker, count: topics.value.filter(topic => topic.markers.includes(marker.id)).length }))
    .filter(marker => marker.count > 0),
)
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

const markerMenu = ref()
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
  comment: 'a comment',
}
const files = ref<{ choose(): void }>()

/** The sheet may just have opened, and the editor of notes is loaded when it's first shown. */
const whenThere = (selector: string, then: (element: HTMLElement) => void): void =>
  whenBelow(scroll.value!, selector, then)
async function into(part: SheetPart): Promise<void> {
  catchUp()
  await nextTick()
  if (part !== 'task' && !one.value) {
    desk.say(`One topic at a time can get ${PART_NAMES[part]}. Select just one.`)
    expectNothing()
  } else if (part === 'sketch' && may.value) sketch.value?.draw()
  else if (part === 'file' && may.value) {
    whenThere('[data-part="file"]', enter)
    files.value?.choose()
  } else if (part === 'note') whenThere('.note-text', enter)
  else if (part === 'comment')
    whenThere('[data-part="comment"] > .say .say-text', element => {
      enter(element)
      toTop(element.closest<HTMLElement>('[data-part]')!)
    })
  else whenThere(`[data-part="${part}"]`, enter)
}
/** With its heading at the top of the sheet, as far as there is enough below it: what was said is to be read. */
function toTop(element: HTMLElement): void {
  scroll.value!.scrollTop += element.getBoundingClientRect().top - scroll.value!.getBoundingClientRect().top - 36
}
async function show(part: SheetPart): Promise<void> {
  catchUp()
  await nextTick()
  whenThere(`[data-part="${part}"]`, toTop)
}
defineExpose({ into, show })

const hasReferences = computed(() => {
  void desk.lateTick.value
  return one.value !== null && desk.guises.isShownElsewhere(one.value.id)
})

/** Whether it's of account what the topic is in the plan. */
const planned = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.planFrom !== null || (one.value?.waits.length ?? 0) > 0
})

const measured = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.measures.length > 0
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
    <slot name="grip" />
    <template v-if="one">
      <textarea
        v-model="title"
        class="title"
        rows="1"
        dir="auto"
        :lang="languageOf(desk.tree, one) ?? undefined"
        aria-label="Title of the selected topic"
        :readonly="!may"
        @focus="titleOpen = true"
        @blur="keepTitle"
        @keydown.enter.exact.prevent="($event.target as HTMLElement).blur()" />
    </template>
    <h2 v-else class="many">{{ topics.length }} topics</h2>

    <button v-if="one && desk.watching.topics.value.has(one.id)" class="watched" @click="desk.watching.toggle(one.id)">
      <Icon name="lucide:eye" size="14" /> You watch
      {{ one.id === desk.tree.centre ? 'this tree' : 'this and what is below' }}
    </button>
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
    <TaskPart data-part="task" :topics="topics" />

    <template v-if="one && planned">
      <h3>Plan</h3>
      <PlanPart :key="`w${one.id}`" :topic="one" />
    </template>
    <LazyFiguresPart v-if="one && measured" :key="`f${one.id}`" :topic="one" />
    <template v-if="one && inMeeting">
      <h3>Meeting</h3>
      <MeetingPart :key="`m${one.id}`" :topic="one" />
    </template>
    <template v-if="one">
      <h3>Note</h3>
      <NoteEditor data-part="note" :key="one.id" :topic="one.id" />
      <ElsewherePart v-if="one.reference || one.annex || hasReferences" :topic="one" />
      <div v-if="one.votes.length" data-part="vote"><LazyVotesPart :topic="one" /></div>
      <h3>Comments</h3>
      <CommentsPart data-part="comment" :key="`s${one.id}`" :topic="one.id" />
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

<style scoped src="./chips.css"></style>

<style scoped>
.watched {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  margin: 2px 0 8px;
  padding: 3px 9px;
  border: 1px solid var(--line);
  border-radius: 999px;
  background: none;
  color: var(--quiet);
  font: inherit;
  font-size: 12.5px;
}
.sheet {
  height: 100%;
  overflow: auto;
  padding: 16px 18px 24px;
  background: var(--surface);
  border-left: 1px solid var(--line);
}
@media (max-width: 700px) {
  .sheet {
    padding-top: 0;
    border-left: 0;
  }
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
.last {
  font-size: 12px;
  margin: 20px 0 0;
}
</style>
