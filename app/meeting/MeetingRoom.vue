<script setup lang="ts">
import { ageInWords } from '#core/meeting/carry'
import { ENTRY_KINDS, type EntryKind, topicOf, type TopicId } from '#core/tree'
import { actionFor, firstStep, keyOf } from '~/keys/keys'
import { useMeeting } from './useMeeting'
import { useItemSubstance } from './useItemSubstance'
import { useRoomPlace } from './useRoomPlace'
import { useRoomTime } from './useRoomTime'

/**
 * The meeting while it runs, for a projector and for each laptop: the agenda, the current item large with its branch
 * beside it, the clock, and one key for each thing that is to be kept. Everybody follows the chair's place, or looks
 * around and comes back.
 */
const meeting = useMeeting()
const { desk, brief, clock, busy, may } = meeting
const root = ref<HTMLElement>()
const bar = ref<{ begin(kind: EntryKind): void }>()
const place = useRoomPlace(meeting)
const { current, shown, item, number, isAhead, lookAt, lookOn, comeBack } = place
const time = useRoomTime(meeting, place)
const { running, paused, ends, plannedEnd, lateMinutes, overrun, canCut, cutEvenly, share, spentWords, isLast, goOn } =
  time
const { documents, carried, settle } = useItemSubstance(meeting, shown)

/** What is dropped on the branch hangs on the topic under it, or on the item. */
function takeFiles(files: File[], topic: TopicId | null): void {
  const at = topic ?? shown.value
  if (at !== null && desk.guard()) desk.uploads.add(files, at)
}

// — Presenting
const { full, fill: present } = useFullScreen(words => desk.say(words))

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
  // A first step waits for its second, which isn't a key of the room then.
  if (firstStep.value !== null) return
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
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', key, true)
})
function underWhat(): TopicId | null {
  return shown.value ?? meeting.id.value
}
</script>

<template>
  <div ref="root" class="room" :class="{ full }">
    <RoomAgenda :current="running ? current : null" :shown="shown" :spent="spentWords" :alone="full" @look="lookAt" />
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
          <RoomMusts />
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
          @click="meeting.endMeeting()">
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

<style scoped src="./MeetingRoom.css"></style>
