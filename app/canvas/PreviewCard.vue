<script setup lang="ts">
import { noteToHtml } from '#core/formats/note-html'
import { becauseInWords, floatInWords } from '#core/schedule/plan-words'
import { rhythmInWords } from '#core/schedule/turn-words'
import { inOrder, linkInWords, shorten, targetOf, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { addressOf, canView, openFile, openLink, openOriginal } from '~/files/opening'
import { planningOf } from '~/schedule/planning'
import { rollUpInWords } from '~/side-sheet/roll-up-words'
import { stateInWords } from '#core/derive/guises'
import { fileIcon, linkIcon } from '#core/scene/link-signs'
import { sizeInWords } from '~/files/uploads'

/**
 * What hangs on a topic, to read without going there. It comes when the pointer rests on a sign, or by a key; one
 * click opens what it shows.
 */
const desk = useDesk()
const at = computed(() => {
  void desk.tick.value
  const previewed = desk.previewed.value
  return previewed && desk.tree.topics.has(previewed.topic) ? topicOf(desk.tree, previewed.topic) : null
})
const guise = computed(() => at.value && desk.guises.of(at.value))
const note = computed(() => (at.value ? noteToHtml(at.value.note, file => addressOf(desk, file)) : ''))
/** The first pages behind its links. */
const webPages = computed(() =>
  (at.value?.links ?? []).flatMap(({ url }) => (targetOf(url)?.kind === 'web' ? [url] : [])).slice(0, 3),
)
const ties = computed(() => (at.value ? desk.crossLinks.at(at.value.id) : []))
/** Who, when and how far, in words. */
const facts = computed((): [string, string][] => {
  if (!guise.value || !at.value) return []
  const { topic, names } = guise.value
  const people = [...topic.people.map(desk.nameOf), ...names]
  const due = topic.due && momentInWords(topic.due, topic.dueTime)
  const below = desk.rollUps.of(at.value.id)
  const said: [string, string | null][] = [
    ['People', people.join(', ') || null],
    ['Start', topic.start && momentInWords(topic.start, topic.startTime)],
    ['Due', due && (topic.done === 100 ? due : `${due}, ${dueInWords(topic.due!).text}`)],
    ['Again', topic.again && rhythmInWords(topic.again.rule, ownLocale())],
    ['Length', topic.duration === null ? null : `${topic.duration} working ${topic.duration === 1 ? 'day' : 'days'}`],
    ['Done', topic.done === null ? null : `${topic.done} %`],
    ['Below', below && rollUpInWords(below, ownLocale())],
    ['Plan', planned(at.value.id)],
  ]
  return said.filter((one): one is [string, string] => one[1] !== null)
})
/** When it is in the plan, whether it may slip, and why it doesn't begin sooner; null where there is none. */
function planned(id: TopicId): string | null {
  const made = planningOf(desk).of(id)
  if (!made) return null
  const days = `${dayInWords(made.start)} to ${dayInWords(made.finish)}`
  if (!('because' in made)) return days
  const titleOf = (other: TopicId): string => shorten(desk.tree.topics.get(other)?.title || 'untitled', 40)
  return `${days}; ${floatInWords(made)}; ${becauseInWords(made.because, made, { titleOf, day: dayInWords })}`
}
const PREFIX = {
  canvas: 'topic',
  outline: 'row',
  schedule: 'bar',
  board: 'row',
  figures: 'sheet',
  meeting: 'row',
} as const
const box = ref<HTMLElement>()
const place = ref({ left: '20px', top: '20px', maxHeight: '60%' })
let leaving = 0

/** Beside its plank or row, wherever there is more room. */
function stand(): void {
  const element =
    at.value &&
    (document.getElementById(`${PREFIX[desk.view.value]}-${at.value.id}`) ??
      document.querySelector(`[role="treeitem"][data-topic="${CSS.escape(at.value.id)}"]`))
  const around = box.value?.parentElement?.getBoundingClientRect()
  if (!element || !around || !box.value) return
  const plank = element.getBoundingClientRect()
  const { offsetWidth: width, offsetHeight: height } = box.value
  const below = around.bottom - plank.bottom - 14
  const above = plank.top - around.top - 14
  const left = Math.max(10, Math.min(plank.left - around.left, around.width - width - 10))
  const room = Math.max(120, Math.max(below, above))
  place.value =
    below >= Math.min(height, 300) || below >= above
      ? { left: `${left}px`, top: `${plank.bottom - around.top + 7}px`, maxHeight: `${room}px` }
      : {
          left: `${left}px`,
          top: `${Math.max(8, plank.top - around.top - 7 - Math.min(height, room))}px`,
          maxHeight: `${room}px`,
        }
}
onMounted(stand)
watch([at, () => desk.previewed.value?.pinned], stand, { flush: 'post' })

function close(): void {
  desk.previewed.value = null
}
function enter(): void {
  clearTimeout(leaving)
}
function leave(): void {
  if (!desk.previewed.value?.pinned)
    leaving = window.setTimeout(() => {
      if (!desk.previewed.value?.pinned) desk.previewed.value = null
    }, 250)
}
function follow(event: MouseEvent): void {
  const link = (event.target as HTMLElement).closest('a')
  if (!link) return
  event.preventDefault()
  openLink(desk, { id: '', url: link.getAttribute('href') ?? '', title: '' })
}
defineExpose({ enter, leave })
</script>

<template>
  <section
    v-if="at && guise"
    ref="box"
    v-opened="{ manner: 'pane', close }"
    class="preview"
    role="dialog"
    :aria-label="`What hangs on ${guise.topic.title || 'untitled'}`"
    tabindex="-1"
    :style="place"
    @pointerenter="enter"
    @pointerleave="leave"
    @wheel.stop>
    <h4>{{ shorten(guise.topic.title || 'untitled', 90) }}</h4>
    <p v-if="guise.reference" class="quiet">
      {{ guise.reference === 'shown' ? 'Shown from elsewhere.' : stateInWords(guise.reference) }}
      <button v-if="guise.original" class="plain" @click="openOriginal(desk, at.id)">To the original</button>
    </p>
    <dl v-if="facts.length" class="facts">
      <template v-for="[name, said] in facts" :key="name"
        ><dt>{{ name }}</dt>
        <dd>{{ said }}</dd></template
      >
    </dl>
    <!-- Built by core/formats/note-html: named elements, escaped text, checked addresses. -->
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div v-if="note" class="note" @click="follow" v-html="note" />
    <ul v-if="at.checks.length" class="checks">
      <li v-for="check in inOrder(at.checks)" :key="check.id" :class="{ done: check.done }">
        <Icon :name="check.done ? 'lucide:square-check' : 'lucide:square'" size="15" />{{ check.text
        }}<span v-if="check.due" class="quiet"> · {{ dueInWords(check.due).text }}</span>
      </li>
    </ul>
    <div v-if="at.links.length" class="list">
      <button v-for="link in at.links" :key="link.id" class="plain" @click="openLink(desk, link)">
        <Icon :name="linkIcon(link)" size="14" />
        {{ linkInWords(link) }}
      </button>
    </div>
    <LazyPageCard v-for="address in webPages" :key="address" :address="address" />
    <div v-if="at.files.length" class="list">
      <button v-for="file in at.files" :key="file.id" class="plain file" @click="openFile(desk, at.id, file)">
        <img v-if="file.preview" :src="addressOf(desk, file.preview.file)" alt="" /><Icon
          v-else
          :name="fileIcon(file)"
          size="14" />
        {{ file.name }}
        <span class="quiet">{{ sizeInWords(file.size) }}{{ canView(file) ? '' : ', saved when opened' }}</span>
      </button>
    </div>
    <template v-if="at.place">
      <p><Icon name="lucide:map-pin" size="14" /> {{ at.place.name }}</p>
      <LazyWorldMap
        v-if="at.place.lat !== null && at.place.lon !== null"
        :lat="at.place.lat"
        :lon="at.place.lon"
        :name="at.place.name" />
    </template>
    <img
      v-if="at.sketch"
      class="sketch"
      :src="`data:image/svg+xml;utf8,${encodeURIComponent(at.sketch)}`"
      :alt="`Sketch for ${at.title}`" />
    <LazyHungCharts v-if="at.charts.length" :key="`c${at.id}`" :topic="at" @opened="close()" />
    <div v-if="ties.length" class="list">
      <button
        v-for="{ from, tie } in ties"
        :key="tie.id"
        class="plain"
        @click="
          () => {
            desk.journey.to(from === at!.id ? tie.to : from)
            close()
          }
        ">
        <Icon name="lucide:spline" size="14" />
        {{ shorten(topicOf(desk.tree, from === at.id ? tie.to : from).title, 50)
        }}<span v-if="tie.label" class="quiet"> · {{ tie.label }}</span>
      </button>
    </div>
    <p
      v-if="
        !note &&
        !at.checks.length &&
        !at.links.length &&
        !at.files.length &&
        !at.place &&
        !at.sketch &&
        !at.charts.length &&
        !ties.length &&
        !guise.reference
      "
      class="quiet">
      Nothing hangs on this topic yet. <kbd>N</kbd> begins a note; files can be dropped on it.
    </p>
  </section>
</template>

<style scoped>
.preview {
  position: absolute;
  z-index: 8;
  width: min(340px, calc(100% - 20px));
  overflow: auto;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: var(--shadow);
  padding: 10px 14px 12px;
  font-size: 13px;
  display: flex;
  flex-direction: column;
  gap: 7px;
  outline: none;
}
.preview:focus-visible {
  border-color: var(--porch);
}
h4 {
  margin: 0;
  font: 600 14px/1.3 var(--display);
}
p {
  margin: 0;
}
.note {
  line-height: 1.5;
  overflow-wrap: anywhere;
  max-height: 260px;
  overflow: auto;
  flex: none;
}
.note :deep(p),
.note :deep(ul),
.note :deep(ol) {
  margin: 0 0 6px;
}
.note :deep(ul),
.note :deep(ol) {
  padding-left: 19px;
}
.note :deep(li.task) {
  list-style: none;
  display: flex;
  gap: 6px;
  margin-left: -18px;
}
.note :deep(h3),
.note :deep(h4),
.note :deep(h5) {
  font: 600 14px/1.3 var(--display);
  margin: 6px 0 3px;
}
.note :deep(table) {
  border-collapse: collapse;
  width: 100%;
  margin-bottom: 6px;
}
.note :deep(td),
.note :deep(th) {
  border: 1px solid var(--line);
  padding: 3px 6px;
  text-align: left;
  vertical-align: top;
}
.note :deep(td p),
.note :deep(th p),
.note :deep(li p) {
  margin: 0;
}
.note :deep(img) {
  max-width: 100%;
}
.note :deep(blockquote) {
  margin: 0 0 6px;
  padding-left: 9px;
  border-left: 3px solid var(--line);
}
.checks {
  list-style: none;
  margin: 0;
  padding: 0;
}
.checks li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 1px 0;
}
.checks .done {
  color: var(--quiet);
}
.list {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.plain {
  font-weight: 550;
  min-height: 24px;
  max-width: 100%;
}
.file img {
  width: 100%;
  max-height: 130px;
  object-fit: cover;
  display: block;
  border-radius: 4px;
}
.sketch {
  width: 100%;
  background: #fdfdfb;
  border-radius: 5px;
  border: 1px solid var(--line);
}
.facts {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 3px 12px;
  margin: 6px 0;
  font-size: 13px;
}
.facts dt {
  color: var(--quiet);
}
.facts dd {
  margin: 0;
  font-variant-numeric: tabular-nums;
}
</style>
