<script setup lang="ts">
import { movedLine, type Change, type TopicId } from '#core/tree'
import { lastKey } from '#core/meeting/agenda'
import { lastBegun } from '#core/meeting/brief'
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { type Finding, LONGEST_WHY } from '#core/meeting/readiness'
import type { HasRead } from '#core/meeting/reading'
import { newId } from '~/desk/new-id'
import { takeReply } from '~/meeting/replies'
import { useMeeting } from '~/meeting/useMeeting'

/** The brief in three parts: is it worth meeting, the way there, when and who. */
const meeting = useMeeting()
const { desk, brief, findings, readiness, may } = meeting
function showFigures(id: TopicId): void {
  desk.view.value = 'figures'
  desk.visit(id)
}
const mostMusts = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.mostMusts
})
const root = ref<HTMLElement>()

// — Why
const why = ref('')
const whyOpen = ref(false)
watch(
  () => brief.value.why,
  now => {
    if (!whyOpen.value) why.value = now
  },
  { immediate: true },
)
function keepWhy(): void {
  whyOpen.value = false
  const said = why.value.trim().toWellFormed()
  if (said === brief.value.why) return
  if (said === '') meeting.unsay('why')
  else meeting.say({ id: 'why', kind: 'why', text: said.slice(0, 4000) })
}
const whyNudge = computed(() => {
  const length = why.value.trim().length
  if (length === 0) return 'One sentence. If it can’t be found, perhaps no meeting is needed.'
  return length > LONGEST_WHY ? `${length} letters: ${LONGEST_WHY} are enough for a sentence.` : ''
})

// — What must be settled
const fresh = ref('')
function addMust(): void {
  const text = fresh.value.trim().toWellFormed()
  if (text === '') return
  fresh.value = ''
  meeting.say({ id: newId(), kind: 'must', order: lastKey(meeting.briefNow().musts), text: text.slice(0, 1000) })
}
function keepMust(id: string, order: string, event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim().toWellFormed()
  const before = brief.value.musts.find(one => one.id === id)
  if (!before || before.text === text) return
  if (text === '') meeting.unsay(id)
  else meeting.say({ id, kind: 'must', order, text: text.slice(0, 1000) })
}
function mustKey(event: KeyboardEvent, i: number): void {
  const list = meeting.briefNow().musts
  const one = list[i]!
  if (event.key === 'Enter') {
    event.preventDefault()
    ;(event.target as HTMLElement).blur()
    root.value?.querySelector<HTMLInputElement>('[data-fresh-must]')?.focus()
  } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    const by = event.key === 'ArrowUp' ? -1 : 1
    const moved = movedLine(list, one.id, by)
    if (moved.length === 0 || meeting.id.value === null) return
    meeting.run(
      moved.map(({ id, text, order }): Change => ({
        op: 'put',
        topic: meeting.id.value!,
        set: 'meeting',
        member: { id, kind: 'must', text, order },
      })),
    )
    nextTick(() => root.value?.querySelector<HTMLInputElement>(`[data-must="${one.id}"] input`)?.focus())
  }
}

// — What stands in the way, and where it's mended
function fieldOf({ kind, where }: Finding): string {
  const item = 'item' in where ? `[data-item="${where.item}"]` : ''
  switch (kind) {
    case 'why-missing':
    case 'why-long':
      return '#meeting-why'
    case 'musts-missing':
      return '[data-fresh-must]'
    case 'musts-many':
      return `.musts li:nth-child(${mostMusts.value + 2}) input`
    // Where the items are: the number of the thing, on the first of them.
    case 'must-unserved':
      return `.serves button:nth-child(${brief.value.musts.findIndex(must => 'must' in where && must.id === where.must) + 1})`
    case 'items-missing':
      return '.items .fresh'
    case 'item-minutes':
      return `${item} .minutes input`
    case 'item-owner':
      return `${item} .owner [role="combobox"]`
    case 'section-open':
    case 'document-closed':
    case 'unread':
      return `${item} .title`
    case 'over-slot':
      return '#meeting-slot'
    case 'start-missing':
    case 'start-gap':
    case 'elsewhere':
      return '#meeting-day'
    case 'not-laid-out':
      return '[data-lay-out]'
    case 'nobody-needed':
      return '[data-fresh-person]'
    case 'not-invited':
      return '[data-invite]'
  }
}
function mend(finding: Finding): void {
  const field = root.value?.querySelector<HTMLElement>(fieldOf(finding))
  field?.scrollIntoView({ block: 'center' })
  field?.focus()
}
// — Who has read what
const readingOfItem = ({ kind, where }: Finding): readonly (readonly [string, HasRead])[] =>
  kind === 'unread' && 'item' in where ? Object.entries(meeting.world.value.reading[where.item] ?? {}) : []
function notYet(finding: Finding): string {
  const named = (how: HasRead): string =>
    readingOfItem(finding)
      .filter(([, one]) => one === how)
      .map(([user]) => (user === desk.userId ? 'you' : desk.nameOf(user)))
      .join(', ')
  return [named('not') && `Not yet: ${named('not')}`, named('before') && `Before it changed: ${named('before')}`]
    .filter(Boolean)
    .join('. ')
}
async function remind(finding: Finding): Promise<void> {
  if (!('item' in finding.where)) return
  const told = await meeting.ask<{ sent: number; lately: number }>('reading', 'reading/letters', {
    item: finding.where.item,
  })
  if (!told) return
  const { sent, lately } = told
  desk.say(
    sent === 0
      ? lately > 0
        ? 'They were reminded today already.'
        : 'Everybody has read it by now.'
      : `${sent === 1 ? 'One letter is' : `${sent} letters are`} on the way.`,
  )
}
/** Others read while this is open; whoever was away a while looks once more. */
const lookAgain = useDebounceFn(() => {
  if (brief.value.stage === 'planned') void meeting.look()
}, 300)
useEventListener(window, 'read', lookAgain)
useEventListener(document, 'visibilitychange', lookAgain)
watch(
  () => desk.status.state,
  state => {
    if (state === 'live') void lookAgain()
  },
)

// — An answer in a calendar file can be dropped anywhere on the brief
const dropping = ref(false)
function drop(event: DragEvent): void {
  dropping.value = false
  const file = event.dataTransfer?.files[0]
  if (file) void takeReply(desk, file)
}
const way = ref<{ layOutNow(): void }>()
const who = ref<{ invite(cancel?: boolean): Promise<void>; request(): Promise<void> }>()
defineExpose({
  layOut: () => way.value?.layOutNow(),
  invite: () => who.value?.invite(),
  request: () => who.value?.request(),
})
/** The meeting that was held last, when it isn't this one: what slipped since is something to talk about. */
const before = computed(() => {
  void desk.lateTick.value
  return brief.value.run || desk.tree.fields.planFrom === null ? null : lastBegun(desk.tree)
})
const percent = computed(() => Math.round(readiness.value * 100))
</script>

<template>
  <div
    ref="root"
    class="brief"
    :class="{ dropping }"
    @dragover.prevent="dropping = true"
    @dragleave.self="dropping = false"
    @drop.prevent="drop">
    <div class="column">
      <h2>Is it worth meeting?</h2>
      <section data-part="why">
        <h3><label for="meeting-why">Why we meet</label></h3>
        <textarea
          id="meeting-why"
          v-model="why"
          rows="2"
          dir="auto"
          :readonly="!may"
          placeholder="So that …"
          @focus="whyOpen = true"
          @blur="keepWhy"
          @keydown.enter.exact.prevent="($event.target as HTMLElement).blur()" />
        <p v-if="whyNudge" class="nudge" role="note">{{ whyNudge }}</p>
      </section>
      <section data-part="musts">
        <h3>What must be settled</h3>
        <ol class="musts">
          <template v-for="(must, i) in brief.musts" :key="must.id">
            <li v-if="i === mostMusts" class="divider" aria-hidden="true">To a later meeting</li>
            <li :data-must="must.id" :class="{ later: i >= mostMusts }">
              <span class="rank" aria-hidden="true">{{ i < mostMusts ? i + 1 : '·' }}</span>
              <input
                v-kept="must.text"
                dir="auto"
                :readonly="!may"
                :aria-label="`${i < mostMusts ? 'Must be settled' : 'To a later meeting'}, ${i + 1}`"
                @blur="keepMust(must.id, must.order, $event)"
                @keydown="mustKey($event, i)" />
              <button
                v-if="may"
                class="icon-button"
                :aria-label="`Remove: ${must.text}`"
                @click="meeting.unsay(must.id)">
                <Icon name="lucide:x" size="14" />
              </button>
            </li>
          </template>
        </ol>
        <input
          v-if="may"
          v-model="fresh"
          data-fresh-must
          class="fresh"
          dir="auto"
          :placeholder="
            brief.musts.length === 0
              ? 'The first thing that must be settled, then Enter'
              : brief.musts.length < mostMusts
                ? 'And …'
                : 'To a later meeting …'
          "
          aria-label="Another thing to be settled"
          @keydown.enter.prevent="addMust"
          @blur="addMust" />
      </section>
      <MeetingBriefItems ref="way" data-part="items" />
      <h2>When and who</h2>
      <MeetingBriefTime data-part="time" />
      <MeetingBriefPeople ref="who" data-part="people" />
    </div>
    <aside class="ready" aria-label="How ready it is">
      <h2>{{ findings.length === 0 ? 'Ready' : `${percent} % ready` }}</h2>
      <div class="bar" role="img" :aria-label="`${percent} per cent ready`">
        <i :style="{ width: `${percent}%` }" :class="{ full: findings.length === 0 }" />
      </div>
      <p v-if="findings.length === 0" class="quiet">Nothing stands in the way of holding it.</p>
      <ul>
        <li v-for="finding in findings" :key="finding.kind + JSON.stringify(finding.where)">
          <button :class="finding.weight" @click="mend(finding)">
            <Icon :name="finding.weight === 'stop' ? 'lucide:circle-alert' : 'lucide:eye'" size="15" />
            <span
              >{{ finding.words }}<small v-if="finding.kind === 'unread'">{{ notYet(finding) }}</small
              ><small v-else
                >{{ finding.who === desk.userId ? 'you' : desk.nameOf(finding.who) }} can mend it</small
              ></span
            >
          </button>
          <button
            v-if="may && readingOfItem(finding).some(([user, how]) => how !== 'read' && user !== desk.userId)"
            class="remind"
            :disabled="meeting.busy.value !== ''"
            @click="remind(finding)">
            Remind them by letter
          </button>
        </li>
      </ul>
      <LazyTargetsLeft v-if="desk.tree.fields.measures.length" @visit="showFigures" />
      <PlanSlips v-if="before" :since="before.number" :head="`The plan since “${before.title || 'untitled'}”`" />
    </aside>
  </div>
</template>

<style scoped src="./MeetingBrief.css"></style>
