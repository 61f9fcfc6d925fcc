<script setup lang="ts">
import { useDebounceFn, useDocumentVisibility, useEventListener } from '@vueuse/core'
import { itemOf } from '#core/meeting/agenda'
import { briefOf, meetingOf } from '#core/meeting/brief'
import type { ItemReading } from '#core/contract'
import { type HasRead, hasToRead, readersOf, sectionDigest } from '#core/meeting/reading'
import { topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/**
 * An item of a planned meeting is open in the sheet: for whoever is asked to read it, that counts as read after a moment, and
 * they are told that it shows.
 */
const { item } = defineProps<{ item: TopicId }>()
const desk = useDesk()
/** How long it's open before it counts, ms: who only passes by hasn't read it. */
const DWELL_MS = 2000

const reading = ref<Readonly<Record<string, HasRead>>>({})
const asked = computed(() => {
  void desk.lateTick.value
  if (!desk.tree.topics.has(item)) return null
  const meeting = meetingOf(desk.tree, item)
  if (meeting === null || !hasToRead(desk.tree, item)) return null
  const brief = briefOf(topicOf(desk.tree, meeting))
  if (brief.stage !== 'planned') return null
  const readers = readersOf(brief, itemOf(topicOf(desk.tree, item)).owners)
  return readers.length === 0
    ? null
    : { meeting, mine: readers.includes(desk.userId), digest: sectionDigest(desk.tree, item) }
})
const visible = useDocumentVisibility()
let timer = 0
watch(
  () => [item, asked.value?.meeting, asked.value?.mine, asked.value?.digest, visible.value],
  () => {
    clearTimeout(timer)
    timer = 0
    if (!asked.value || visible.value !== 'visible' || !desk.status.ready) return
    timer = window.setTimeout(open, asked.value.mine ? DWELL_MS : 300)
  },
  { immediate: true },
)
watch(
  () => item,
  () => {
    reading.value = {}
  },
)
onBeforeUnmount(() => clearTimeout(timer))
// Somebody else has read it meanwhile, or something else of the meeting.
useEventListener(
  window,
  'read',
  useDebounceFn(() => {
    // What isn't open long enough yet, for oneself, is asked when it is.
    if (visible.value === 'visible' && asked.value && timer === 0) void open()
  }, 300),
)

async function open(): Promise<void> {
  timer = 0
  const [meeting, at] = [asked.value?.meeting, item]
  if (!meeting) return
  try {
    const told = await callApi<ItemReading>(`/api/trees/${desk.session.treeId}/meetings/${meeting}/reading`, {
      method: 'POST',
      body: { item: at },
    })
    if (at === item) reading.value = told.reading
  } catch {
    /* Without a line nothing is said, and nothing is told. */
  }
}
const all = computed(() => Object.entries(reading.value))
const read = computed(() => all.value.filter(([, how]) => how === 'read').length)
const mine = computed(() => reading.value[desk.userId])
const names = (how: HasRead): string =>
  all.value
    .filter(([, one]) => one === how)
    .map(([user]) => desk.nameOf(user))
    .join(', ')
</script>

<template>
  <div v-if="asked" class="reading">
    <Icon :name="mine === 'read' || read === all.length ? 'lucide:book-open-check' : 'lucide:book-open'" size="15" />
    <div>
      <p v-if="asked.mine && mine !== 'read' && all.length">
        {{ mine === 'not' ? 'Its documents belong to it: open them too.' : 'It has changed since you read it.' }}
      </p>
      <p v-if="all.length">
        {{ read }} of {{ all.length }} have read this<template v-if="mine === 'read'"
          >, and you are one of them</template
        >.
      </p>
      <p v-if="names('before')" class="quiet">Before it changed: {{ names('before') }}</p>
      <p v-if="names('not')" class="quiet">Not yet: {{ names('not') }}</p>
      <p v-if="asked.mine" class="quiet">That you opened it is shown to those in the tree.</p>
    </div>
  </div>
</template>

<style scoped>
.reading {
  display: flex;
  gap: 8px;
  font-size: 13px;
  line-height: 1.35;
}
.reading p {
  margin: 0;
}
.reading :deep(.iconify) {
  flex: none;
  margin-top: 2px;
  color: var(--porch);
}
</style>
