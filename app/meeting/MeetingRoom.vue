<script setup lang="ts">
import { sayItem, timed } from '#core/meeting/agenda'
import { isClosed, openItems } from '#core/meeting/clock'
import { carriedInto } from '#core/meeting/next'
import { ageInWords } from '#core/meeting/carry'
import { branch, ENTRY_KINDS, type EntryKind, topicOf, type TopicId } from '#core/tree'
import { clockInWords, useMeeting } from '~/meeting/useMeeting'
import { keyOf, actionFor } from '~/keys/keys'
import { canView, openFile, openLink } from '~/files/opening'

/**
 * The meeting while it runs, for a projector and for each laptop: the agenda, the current item large with its branch
 * beside it, the clock, and one key for each thing that is to be kept. Everybody follows the chair's place, or looks
 * around and comes back.
 */
const meeting = useMeeting()
const { desk, brief, items, starts, clock, busy, may } = meeting
const root = ref<HTMLElement>()
const bar = ref<{ begin(kind: EntryKind): void }>()

// — Whose place: the chair's, or one's own
const looking = ref<TopicId | null>(null)
const current = computed<TopicId | null>(() => brief.value.run?.current ?? null)
const shown = computed<TopicId | null>(() => {
  const wanted =
    looking.value ?? current.value ?? (brief.value.stage === 'running' ? null : (items.value[0]?.id ?? null))
  return items.value.some(({ id }) => id === wanted) ? wanted : null
})
const item = computed(() => items.value.find(({ id }) => id === shown.value) ?? null)
const number = computed(() => items.value.findIndex(({ id }) => id === shown.value) + 1)
const isAhead = computed(() => looking.value !== null && looking.value !== current.value)
/** The branch of the item is shown alone, and the whole tree again when one leaves. */
const came = desk.only.value
watch(
  shown,
  id => {
    // A title that somebody is typing in the branch is kept before it goes out of sight.
    if (desk.editing.value) desk.keep()
    if (id !== null && desk.tree.topics.has(id) && desk.only.value !== id) desk.showOnly(id)
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  if (desk.only.value !== came) desk.showOnly(came)
})
// What is captured is in sight in the branch too.
const size = computed(() => {
  void desk.lateTick.value
  return shown.value === null || !desk.tree.topics.has(shown.value) ? 0 : [...branch(desk.tree, shown.value)].length
})
watch(size, () => {
  if (size.value < 60) desk.fitSoon()
})
// Whoever follows goes along when the chair moves on.
watch(current, now => {
  if (looking.value === now) looking.value = null
})
function lookAt(id: TopicId): void {
  looking.value = id === current.value ? null : id
}
/** Whoever can't move everybody goes from item to item alone. */
function lookOn(by: 1 | -1): void {
  const at = items.value.findIndex(({ id }) => id === shown.value)
  const next = items.value[at + by]
  if (next) lookAt(next.id)
}
function comeBack(): void {
  looking.value = null
}

// — Going on: at the last open item the way on is the end
const isLast = computed(
  () =>
    clock.value !== null &&
    current.value !== null &&
    openItems(clock.value.list, clock.value.run, meeting.now.value).length === 0,
)
async function goOn(): Promise<void> {
  if (current.value !== null) await meeting.move({ to: 'next' })
  if (meeting.briefNow().run?.current === null && brief.value.stage === 'running')
    desk.say('Everything on the agenda has been dealt with.', {
      name: 'End the meeting',
      run: () => void meeting.move({ to: 'end' }),
      holds: () => meeting.briefNow().stage === 'running',
    })
}

// — What is said of the time
const running = computed(() => brief.value.stage === 'running')
const paused = computed(() => running.value && brief.value.run?.since === null)
const ends = computed(() => (clock.value ? meeting.timeAt(clock.value.forecast) : ''))
const plannedEnd = computed(() => (meeting.end.value === null ? '' : meeting.timeAt(meeting.end.value)))
const lateMinutes = computed(() => (clock.value ? Math.ceil(clock.value.late / 60_000) : 0))
const overrun = computed(() => {
  const at = clock.value
  if (!at || lateMinutes.value === 0 || !at.cut) return ''
  const rest = openItems(at.list, at.run, meeting.now.value)
  if (rest.length === 0) return `It ends ${lateMinutes.value} min late.`
  const cut = at.list.map(({ id, minutes }) => minutes - (at.cut!.minutes.get(id) ?? minutes)).filter(less => less > 0)
  const most = Math.max(0, ...cut)
  if (at.cut.late > 0) return `Even at their least the rest ends ${at.cut.late} min late.`
  return rest.length === 1
    ? `To end on time the last item gives up ${most} min.`
    : `To end on time the other ${rest.length} give up to ${most} min each.`
})
const canCut = computed(
  () =>
    may.value &&
    running.value &&
    lateMinutes.value > 0 &&
    clock.value !== null &&
    clock.value.cut !== null &&
    openItems(clock.value.list, clock.value.run, meeting.now.value).length > 0,
)
function cutEvenly(): void {
  const at = clock.value
  if (!at?.cut || !canCut.value) return
  const changes = [...at.cut.minutes]
    .filter(([id, minutes]) => at.list.find(one => one.id === id)?.minutes !== minutes)
    .map(([id, minutes]) => sayItem(id, { id: 'cut', kind: 'cut', minutes }))
  if (meeting.run(changes))
    desk.say(
      at.cut.late > 0
        ? `Cut as far as it goes; it still ends ${at.cut.late} min late.`
        : 'Cut evenly: it ends on time again.',
      true,
    )
}
const share = computed(() => {
  const at = clock.value
  const minutes = item.value ? timed(item.value).minutes : 0
  if (!at || minutes === 0 || shown.value !== current.value) return 0
  return Math.min(1, at.spent / (minutes * 60_000))
})
const spentWords = (id: TopicId): string => {
  const one = items.value.find(other => other.id === id)
  if (!one) return ''
  const at = clock.value
  const ms = at && at.list[at.run.current]?.id === id ? at.spent : one.spent
  return ms > 0 ? clockInWords(ms) : ''
}

// — What hangs on the item: files and links open beside it, and back
const documents = computed(() => {
  void desk.lateTick.value
  const id = shown.value
  if (id === null || !desk.tree.topics.has(id)) return []
  const found: { key: string; name: string; icon: string; open: () => void }[] = []
  const walk = (at: TopicId): void => {
    const topic = topicOf(desk.tree, at)
    for (const file of topic.files)
      found.push({
        key: `${at} ${file.id}`,
        name: file.name,
        icon: canView(file) ? 'lucide:file-text' : 'lucide:download',
        open: () => openFile(desk, at, file),
      })
    for (const link of topic.links)
      found.push({
        key: `${at} ${link.id}`,
        name: link.title || link.url,
        icon: 'lucide:external-link',
        open: () => openLink(desk, link),
      })
    for (const child of desk.tree.children.get(at) ?? []) walk(child)
  }
  walk(id)
  return found.slice(0, 9)
})
const carried = computed(() => {
  void desk.lateTick.value
  return meeting.id.value === null
    ? []
    : carriedInto(desk.tree, meeting.id.value, today()).filter(
        ({ reference }) => topicOf(desk.tree, reference).parent === shown.value,
      )
})
function settle(original: TopicId): void {
  desk.set('done', topicOf(desk.tree, original).done === 100 ? 0 : 100, [original])
}

/** What is dropped on the branch hangs on the topic under it, or on the item. */
function takeFiles(files: File[], topic: TopicId | null): void {
  const at = topic ?? shown.value
  if (at !== null && desk.guard()) desk.uploads.add(files, at)
}

// — Presenting
const full = ref(false)
async function present(): Promise<void> {
  try {
    if (document.fullscreenElement) await document.exitFullscreen()
    else await document.documentElement.requestFullscreen()
  } catch {
    desk.say('This browser doesn’t let the page fill the screen.')
  }
}
function onFull(): void {
  full.value = document.fullscreenElement !== null
}

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.closest('[role="dialog"], .p-select, .p-popover') !== null)
function key(event: KeyboardEvent): void {
  if (
    event.ctrlKey ||
    event.metaKey ||
    event.altKey ||
    inField(event.target) ||
    desk.editing.value ||
    desk.viewing.value
  )
    return
  const command = actionFor('room', event)
  const kind = ENTRY_KINDS.find(one => command === `room-${one}`)
  const steps: Record<string, () => void> = {
    'room-next': () => (may.value ? goOn() : lookOn(1)),
    'room-back': () => (may.value ? void meeting.move({ to: 'back' }) : lookOn(-1)),
    'room-cut': cutEvenly,
    'room-present': () => void present(),
    'room-pause': () => void meeting.move({ to: paused.value ? 'go-on' : 'pause' }),
  }
  const step =
    command !== null
      ? kind
        ? () => bar.value?.begin(kind)
        : steps[command]
      : event.key === 'Escape'
        ? isAhead.value
          ? comeBack
          : undefined
        : documents.value[Number(event.key) - 1]?.open
  if (!step) return
  event.preventDefault()
  event.stopImmediatePropagation()
  // A key that is held down is one press: nobody runs through the agenda by leaning on it.
  if (!event.repeat) step()
}
onMounted(() => {
  window.addEventListener('keydown', key, true)
  document.addEventListener('fullscreenchange', onFull)
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', key, true)
  document.removeEventListener('fullscreenchange', onFull)
  if (document.fullscreenElement) void document.exitFullscreen()
})
function underWhat(): TopicId | null {
  return shown.value ?? meeting.id.value
}
</script>

<template>
  <div ref="root" class="room" :class="{ full }">
    <nav class="agenda" aria-label="Agenda">
      <ol>
        <li
          v-for="(one, i) in items"
          :key="one.id"
          :class="{
            now: one.id === current && running,
            shown: one.id === shown,
            past: running && clock && isClosed(clock.list, clock.run, i),
          }">
          <button :aria-current="one.id === current && running ? 'step' : undefined" @click="lookAt(one.id)">
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
            <span class="spent">{{ spentWords(one.id) }}</span>
          </button>
        </li>
      </ol>
      <p v-if="items.length === 0" class="quiet pad">No agenda yet: lay it out in the brief.</p>
      <MeetingAttendance v-if="!full" />
    </nav>
    <div class="main">
      <header class="item">
        <div class="what">
          <h1 v-if="item">
            <span class="n">{{ number }}</span>{{ item.title || 'untitled' }}
          </h1>
          <h1 v-else>{{ running ? 'All items are through' : 'Not begun yet' }}</h1>
          <p v-if="item" class="about">
            {{ [`to ${item.intent}`, item.owners.map(desk.nameOf).join(', ')].filter(Boolean).join(' · ')
            }}<template v-for="must in brief.musts" :key="must.id"
              ><b v-if="item.serves.includes(must.id)"> · settles “{{ must.text }}”</b></template
            >
          </p>
        </div>
        <dl v-if="clock && running" class="clock" aria-label="Clock">
          <div>
            <dt>In this item</dt>
            <dd data-clock="spent">{{ clockInWords(clock.spent) }}</dd>
          </div>
          <div :class="{ over: clock.left < 0 }">
            <dt>Left</dt>
            <dd data-clock="left">{{ clockInWords(clock.left) }}</dd>
          </div>
          <div :class="{ over: lateMinutes > 0 }">
            <dt>Ends</dt>
            <dd data-clock="ends">
              {{ ends }}<small v-if="plannedEnd">of {{ plannedEnd }}</small>
            </dd>
          </div>
        </dl>
      </header>
      <div class="progress" aria-hidden="true">
        <i :style="{ width: `${share * 100}%` }" :class="{ over: share >= 1 }" />
      </div>
      <p v-if="overrun" class="overrun" role="status">
        {{ overrun }}
        <button v-if="canCut" @click="cutEvenly">
          Cut evenly <kbd>{{ keyOf('room-cut') }}</kbd>
        </button>
      </p>
      <p v-if="paused" class="overrun" role="status">
        The clock stands still.
        <button v-if="may" @click="meeting.move({ to: 'go-on' })">
          Go on <kbd>{{ keyOf('room-pause') }}</kbd>
        </button>
      </p>
      <p v-if="isAhead" class="away" role="status">
        You are looking around. <button @click="comeBack">Back to where the chair is <kbd>Esc</kbd></button>
      </p>
      <div class="body">
        <div class="branch">
          <TreeCanvas v-if="shown" :key="full ? 'full' : 'side'" :most="full ? 2.2 : 1.25" @files="takeFiles" />
          <div v-if="documents.length" class="documents" role="group" aria-label="Files and links of the item">
            <button v-for="(one, i) in documents" :key="one.key" @click="one.open">
              <kbd>{{ i + 1 }}</kbd><Icon :name="one.icon" size="15" /><span>{{ one.name }}</span>
            </button>
          </div>
        </div>
        <div class="record">
          <template v-if="carried.length">
            <h2>Still open from before</h2>
            <ul class="carried">
              <li v-for="one in carried" :key="one.reference">
                <label
                  ><input
                    type="checkbox"
                    :checked="topicOf(desk.tree, one.carried.id).done === 100"
                    :disabled="!may"
                    @change="settle(one.carried.id)" /><span>{{
                    topicOf(desk.tree, one.carried.id).title
                  }}</span></label
                >
                <small :class="{ late: one.carried.late }"
                  >{{ ageInWords(one.carried) }}{{ one.carried.late ? ', late' : '' }}</small
                >
              </li>
            </ul>
          </template>
          <MeetingRecord :under="shown" />
        </div>
      </div>
      <MeetingCapture ref="bar" :under="underWhat" />
      <footer v-if="running && may" class="steps">
        <button :disabled="busy !== '' || clock?.run.current === 0" @click="meeting.move({ to: 'back' })">
          <Icon name="lucide:arrow-left" size="15" /> Back <kbd>{{ keyOf('room-back') }}</kbd>
        </button>
        <button class="primary" :disabled="busy !== '' || current === null" @click="goOn">
          {{ isLast ? 'All through' : 'Next' }} <kbd>{{ keyOf('room-next') }}</kbd>
          <Icon name="lucide:arrow-right" size="15" />
        </button>
        <button
          v-if="isAhead && shown"
          :disabled="busy !== ''"
          @click="
            () => {
              meeting.move({ to: 'item', item: shown! })
              comeBack()
            }
          ">
          Bring everybody here
        </button>
        <button :disabled="busy !== ''" @click="meeting.move({ to: paused ? 'go-on' : 'pause' })">
          {{ paused ? 'Go on' : 'Pause' }} <kbd>{{ keyOf('room-pause') }}</kbd>
        </button>
        <span class="grow" />
        <button @click="present">
          {{ full ? 'Leave full screen' : 'Present' }} <kbd>{{ keyOf('room-present') }}</kbd>
        </button>
        <button
          class="end"
          :class="{ primary: current === null }"
          :disabled="busy !== ''"
          @click="meeting.move({ to: 'end' })">
          End the meeting
        </button>
      </footer>
      <footer v-else class="steps">
        <button
          v-if="brief.stage === 'planned' && may"
          class="primary"
          :disabled="busy !== ''"
          @click="meeting.move({ to: 'begin' })">
          Begin the meeting
        </button>
        <span v-else-if="brief.stage === 'ended'" class="quiet">This meeting has ended. Its minutes stand beside.</span>
        <span v-else class="quiet">The chair moves on; you may look around.</span>
        <span class="grow" />
        <button @click="present">
          {{ full ? 'Leave full screen' : 'Present' }} <kbd>{{ keyOf('room-present') }}</kbd>
        </button>
      </footer>
    </div>
  </div>
</template>

<style scoped>
.room {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 244px minmax(0, 1fr);
  background: var(--page);
}
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
.main {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.item {
  display: flex;
  gap: 20px;
  align-items: flex-start;
  padding: 14px 22px 8px;
  flex-wrap: wrap;
}
.what {
  flex: 1;
  min-width: 240px;
}
.item h1 {
  font-size: clamp(22px, 2.4vw, 34px);
  overflow-wrap: anywhere;
}
.item .n {
  color: var(--porch);
  margin-right: 12px;
}
.about {
  margin: 3px 0 0;
  color: var(--quiet);
}
.about b {
  font-weight: 550;
  color: var(--ink);
}
.clock {
  display: flex;
  gap: 22px;
  margin: 0;
}
.clock dt {
  font-size: 12px;
  color: var(--quiet);
}
.clock dd {
  margin: 0;
  font: 650 clamp(22px, 2.2vw, 32px)/1.1 var(--display);
  font-feature-settings: 'tnum';
  white-space: nowrap;
}
.clock small {
  font: 500 12px var(--text);
  color: var(--quiet);
  margin-left: 6px;
}
.clock .over dd {
  color: var(--clay);
}
.progress {
  height: 4px;
  background: var(--line);
  margin: 0 22px;
}
.progress i {
  display: block;
  height: 100%;
  background: var(--porch);
}
.progress .over {
  background: var(--clay);
}
.overrun,
.away {
  margin: 8px 22px 0;
  padding: 5px 12px;
  border-left: 3px solid var(--clay);
  background: var(--surface);
  font-weight: 550;
}
.away {
  border-left-color: var(--sun);
}
.overrun button,
.away button {
  border: 1px solid var(--line);
  background: none;
  border-radius: 6px;
  margin-left: 8px;
  padding: 3px 9px;
  cursor: pointer;
  font-weight: 600;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(260px, 1fr);
  gap: 0;
  margin-top: 10px;
  border-top: 1px solid var(--line);
}
.branch {
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: clip;
  border-right: 1px solid var(--line);
}
.documents {
  position: absolute;
  left: 10px;
  right: 10px;
  bottom: 10px;
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  z-index: 3;
}
.documents button {
  display: flex;
  gap: 6px;
  align-items: center;
  max-width: 240px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 4px 9px;
  cursor: pointer;
  font-size: 13px;
  box-shadow: var(--shadow);
}
.documents span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.record {
  overflow: auto;
  padding: 12px 18px;
  min-width: 0;
}
.record h2 {
  margin-bottom: 6px;
}
.carried {
  list-style: none;
  margin: 0 0 16px;
  padding: 0;
}
.carried li {
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.carried label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
.carried input {
  accent-color: var(--fern);
}
.carried small {
  color: var(--quiet);
  margin-left: 22px;
}
.carried .late {
  color: var(--clay);
  font-weight: 600;
}
.steps {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 8px 22px;
  border-top: 1px solid var(--line);
  background: var(--surface);
  flex-wrap: wrap;
}
.steps button {
  border: 1px solid var(--line);
  background: none;
  border-radius: 7px;
  padding: 5px 11px;
  cursor: pointer;
  font-weight: 550;
  display: inline-flex;
  gap: 7px;
  align-items: center;
  min-height: 32px;
}
.steps button:hover:not(:disabled) {
  border-color: var(--porch);
}
.steps button:disabled {
  opacity: 0.5;
  cursor: default;
}
.steps .primary {
  background: var(--porch);
  border-color: var(--porch);
  color: var(--on-porch);
}
.steps .primary kbd {
  background: transparent;
  border-color: currentcolor;
  color: inherit;
}
.steps .end {
  color: var(--clay);
}
.grow {
  flex: 1;
}
.full .item h1 {
  font-size: clamp(30px, 4vw, 60px);
}
.full .clock dd {
  font-size: clamp(30px, 3.4vw, 52px);
}
/* Over the whole page; what opens over the tree stays over it. */
.full {
  position: fixed;
  inset: 0;
  z-index: 5;
  font-size: 17px;
  grid-template-columns: 280px minmax(0, 1fr);
}
.full .body {
  grid-template-columns: minmax(0, 1.6fr) minmax(300px, 1fr);
}
@media (max-width: 900px) {
  .room {
    grid-template-columns: minmax(0, 1fr);
    overflow: auto;
  }
  .agenda {
    border-right: 0;
    border-bottom: 1px solid var(--line);
    max-height: 30vh;
  }
  .main {
    min-height: auto;
  }
  .body {
    grid-template-columns: minmax(0, 1fr);
    flex: none;
  }
  .record {
    overflow: visible;
  }
  .branch {
    display: none;
  }
}
</style>
