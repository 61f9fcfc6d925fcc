<script setup lang="ts">
import { briefOf, dayOf } from '#core/meeting/brief'
import { whenInWords } from '#core/meeting/invitation'
import { addressesIn, shorten } from '#core/tree'
import { focusTree } from '~/focus/opened'
import { isFieldExpected } from '~/focus/typeahead'
import { makeNext } from '~/meeting/making-next'
import { makeMeeting, MEETING, MEETING_TABS, type MeetingAct, type MeetingTab, until } from '~/meeting/useMeeting'

/** One meeting, before, during and after: its brief, its running, its minutes, its series. */
const meeting = makeMeeting()
provide(MEETING, meeting)
const { desk, id, tab, topic, brief, all, ending } = meeting
const emit = defineEmits<{ make: []; tree: [] }>()

meeting.choose()
// A meeting that is made or removed while this is open.
watch(all, list => {
  if (id.value === null || !list.some(one => one.id === id.value)) meeting.choose(list[0]?.id ?? null)
})
const part = ref<{ layOut?(): void; invite?(): void; request?(): void; mail?(): void }>()
/** What is done to the meeting that is shown, by name: from the everything box. */
async function act(what: MeetingAct): Promise<void> {
  if (topic.value === null || !desk.guard()) return
  if (what === 'end') {
    meeting.endMeeting()
    return
  }
  if (what === 'begin') {
    await meeting.move({ to: what })
    return
  }
  if (what === 'next') {
    next()
    return
  }
  const wanted = what === 'mail' ? 'minutes' : 'brief'
  if (tab.value !== wanted) tab.value = wanted
  // The part is loaded when it's first shown.
  await until(() => part.value?.[what] !== undefined)
  part.value?.[what]?.()
}
defineExpose({ choose: meeting.choose, act })

const options = computed(() =>
  [...all.value]
    .sort((a, b) => (dayOf(briefOf(a)) < dayOf(briefOf(b)) ? 1 : -1))
    .map(one => ({
      id: one.id,
      name: [shorten(one.title || 'untitled', 60), dayOf(briefOf(one)) ? dayInWords(dayOf(briefOf(one))) : '']
        .filter(Boolean)
        .join(', '),
    })),
)
const STAGES = { planned: 'planned', running: 'running now', ended: 'ended', cancelled: 'cancelled' } as const
const when = computed(() => {
  void desk.lateTick.value
  return topic.value ? whenInWords(desk.tree, topic.value.id) : ''
})
/** The address of a call, where the place names one. */
const call = computed(() =>
  brief.value.stage === 'planned' || brief.value.stage === 'running'
    ? (addressesIn(brief.value.where).find(url => /^https?:/i.test(url)) ?? '')
    : '',
)
function next(): void {
  const made = makeNext(desk, id.value)
  if (made !== null) meeting.choose(made)
}
function showInTree(): void {
  emit('tree')
  if (id.value !== null) {
    const at = id.value
    nextTick(() => desk.visit(at))
  }
}

/** Alt and a number goes from view to view; the rest of the keys belong to the view. */
function key(event: KeyboardEvent): void {
  const at = event.altKey && !event.ctrlKey && !event.metaKey ? Number(event.code.replace('Digit', '')) : 0
  const wanted = (Object.keys(MEETING_TABS) as MeetingTab[])[at - 1]
  if (!wanted || id.value === null) return
  event.preventDefault()
  event.stopPropagation()
  tab.value = wanted
}
onMounted(() => {
  window.addEventListener('keydown', key, true)
  // The keys are here now, unless something has asked for them.
  if (!isFieldExpected() && document.activeElement === document.body) focusTree()
})
onBeforeUnmount(() => window.removeEventListener('keydown', key, true))
</script>

<template>
  <section class="meeting" aria-label="Meeting" tabindex="-1" data-home>
    <LazyEndingBox v-if="ending" v-model:visible="ending" />
    <template v-if="topic">
      <header class="head">
        <Select
          v-if="options.length > 1"
          v-model="id"
          :options="options"
          option-label="name"
          option-value="id"
          size="small"
          class="which"
          aria-label="Which meeting" />
        <span v-else class="one">{{ shorten(topic.title, 70) }}</span>
        <span class="stage" :class="brief.stage">{{ STAGES[brief.stage] }}</span>
        <span class="quiet when">{{ when }}</span>
        <a v-if="call" class="call" :href="call" target="_blank" rel="noopener noreferrer"
          ><Icon name="lucide:video" size="15" /> Join the call</a
        >
        <span class="grow" />
        <div class="tabs" role="tablist" aria-label="Parts of the meeting">
          <button
            v-for="(name, one, i) in MEETING_TABS"
            :key="one"
            role="tab"
            :aria-selected="tab === one"
            :data-tip="`Alt + ${i + 1}`"
            @click="tab = one">
            {{ name }}
          </button>
        </div>
        <button
          class="icon-button from-right"
          data-tip="Show it in the tree"
          aria-label="Show it in the tree"
          @click="showInTree">
          <Icon name="lucide:shapes" size="16" />
        </button>
        <Button
          v-if="brief.stage === 'planned' && meeting.may.value"
          label="Begin"
          size="small"
          :disabled="meeting.busy.value !== ''"
          @click="meeting.move({ to: 'begin' })" />
        <Button
          v-else-if="brief.stage === 'running' && meeting.may.value && tab !== 'room'"
          label="To the meeting"
          size="small"
          @click="tab = 'room'" />
        <Button
          v-else-if="brief.stage === 'ended' && meeting.may.value"
          label="Next meeting"
          size="small"
          @click="next" />
      </header>
      <LazyMeetingBrief v-if="tab === 'brief'" ref="part" :key="topic.id" />
      <LazyMeetingRoom v-else-if="tab === 'room'" :key="`room ${topic.id}`" />
      <LazyMeetingMinutes v-else-if="tab === 'minutes'" ref="part" :key="`minutes ${topic.id}`" @next="next" />
      <LazyMeetingSeries v-else :key="`series ${topic.id}`" @choose="meeting.choose($event)" />
    </template>
    <div v-else class="none">
      <h1>No meeting in this tree yet</h1>
      <p class="quiet">
        Any topic can be one: the centre, or a branch in a series. It gets a brief, an agenda that stands in the tree,
        and a record that writes itself while you meet.
      </p>
      <Button v-if="meeting.may.value" label="Make the selected topic a meeting" @click="emit('make')" />
    </div>
  </section>
</template>

<style scoped>
.meeting {
  height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--page);
  min-width: 0;
}
.head {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 16px;
  border-bottom: 1px solid var(--line);
  background: var(--surface);
  flex: none;
  flex-wrap: wrap;
}
.which {
  max-width: 340px;
}
.one {
  font-weight: 600;
}
.stage {
  font-size: 12px;
  font-weight: 650;
  border-radius: 4px;
  padding: 2px 8px;
  background: var(--ceiling);
}
.stage.running {
  background: var(--sun);
  color: #16292d;
}
.stage.ended {
  background: none;
  border: 1px solid var(--fern);
  color: var(--fern);
}
.stage.cancelled {
  background: none;
  border: 1px solid var(--clay);
  color: var(--clay);
  text-decoration: line-through;
}
.when {
  font-size: 12.5px;
}
.call {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  font-weight: 600;
  min-height: 28px;
}
.grow {
  flex: 1;
}
.tabs {
  display: flex;
  gap: 2px;
}
.tabs button {
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  padding: 5px 10px;
  cursor: pointer;
  color: var(--quiet);
  font-weight: 550;
  min-height: 30px;
}
.tabs button:hover {
  color: var(--ink);
}
.tabs [aria-selected='true'] {
  color: var(--porch);
  border-bottom-color: var(--porch);
}
.none {
  margin: auto;
  max-width: 460px;
  padding: 24px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  align-items: flex-start;
}
@media (max-width: 700px) {
  .when {
    display: none;
  }
  .head {
    padding: 6px 8px;
    gap: 6px;
  }
}
</style>
