<script setup lang="ts">
import { HAPPENING_KINDS } from '#core/history/happenings'
import { shorten, topicOf } from '#core/tree'
import { DESK, Desk } from '~/desk/desk'
import { fontsReady } from '~/desk/ruler'
import { MomentSession } from '~/session/moment-session'
import { useHistory } from '~/history/useHistory'
import { useNotice } from '~/page/notice'
import { type BoardHold, type CanvasHold, type OutlineHold, PAGE, Page, type ScheduleHold } from '~/page/page'
import { usePageKeys } from '~/page/page-keys'

/** A tree as it was, over the boards of its floor. */
definePageMeta({ path: '/trees/:id/history', key: route => String(route.params.id) })

/** Keys that look and go; nothing is changed in the past. */
const LOOKING = new Set([
  ...['up', 'down', 'left', 'right', 'first', 'last', 'centre', 'fold', 'fit', 'fit-selection'],
  ...['zoom-in', 'zoom-out', 'zoom-whole', 'depth-all', 'theme', 'switch-view', 'schedule', 'board', 'next-critical'],
  ...[1, 2, 3, 4, 5, 6].map(n => `depth-${n}`),
])

const route = useRoute()
const account = useAccount()
const theme = useTheme()
const { notice, notify, dismiss } = useNotice()
const id = String(route.params.id)
const arriving = useArrivingWords()
const arrivedWith = useArrivedWith()
const me = account.me!.id
const desk = new Desk(id, me, notify, events => new MomentSession(id, me, events))
provide(DESK, desk)
const page = new Page(desk, theme.toggle)
provide(PAGE, page)
usePageKeys(desk, page, LOOKING)
const canvas = page.canvas as Ref<CanvasHold | undefined>
const outline = page.outline as Ref<OutlineHold | undefined>
const schedule = page.schedule as Ref<ScheduleHold | undefined>
const board = page.board as Ref<BoardHold | undefined>
const branch = String(route.query.branch ?? '')
/** Narrowed from the first list on: nobody is to go about in a list that isn't the one of the address. */
const history = useHistory(desk, id, { branch, kind: HAPPENING_KINDS.find(one => one === route.query.kind) ?? '' })
const trouble = ref('')
const mayEdit = computed(() => history.role.value === 'owner' || history.role.value === 'editor')
const listOpen = ref(!window.matchMedia('(max-width: 900px)').matches)
const narrow = useNarrow()
const filterOpen = ref(false)
useViewHeight()

onMounted(async () => {
  try {
    await fontsReady()
    await history.begin(route.query.at === undefined ? null : Number(route.query.at) || 0)
    desk.sheetOpen.value = false
    await desk.open()
    if (desk.view.value === 'meeting') desk.view.value = 'canvas'
    await history.settle()
    const topic = branch || String(route.query.topic ?? '')
    if (desk.tree.topics.has(topic)) desk.visit(topic)
    else if (branch) history.narrowing.branch = ''
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : 'This tree’s history can’t be opened.'
  }
})
onBeforeUnmount(() => desk.close())

const title = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? topicOf(desk.tree, desk.tree.centre).title : ''
})
const moment = new Intl.DateTimeFormat(ownLocale(), { dateStyle: 'full', timeStyle: 'short' })
const shownWhen = computed(() => {
  if (history.isNow.value) return 'as it is now'
  const edit = history.edit.value
  if (edit) return `as it was on ${moment.format(Date.parse(edit.at))}`
  return history.at.value === 0 ? 'as it was made' : 'as it was'
})
/** The plan of a moment is told as it was known on its day. */
watchEffect(() => {
  const edit = history.edit.value
  if (history.isNow.value) desk.then.value = null
  else if (edit) desk.then.value = isoDay(new Date(edit.at))
})
/** Topics that this sitting has taken away so far: they aren't on the tree any more. */
const gone = computed(() =>
  history.told.value
    .filter(({ number }) => number <= history.at.value)
    .flatMap(({ happenings }) => happenings)
    .filter(({ kind, topic }) => kind === 'removed' && topic !== null)
    .map(({ title: words }) => words),
)
function back(topic: string | null, words: string, number: number): void {
  arriving.value = words
  arrivedWith.value = { tree: id, number }
  void navigateTo({ path: `/trees/${id}`, query: topic ? { topic } : {} })
}
const view = computed({
  get: () => (desk.view.value === 'meeting' ? 'canvas' : desk.view.value),
  set: to => {
    desk.view.value = to
  },
})
const leave = (): unknown => navigateTo(`/trees/${id}`)
useHead({ title: computed(() => (title.value ? `${shorten(title.value, 60)}, history · Sun Porch` : 'Sun Porch')) })
</script>

<template>
  <div class="history-page" :class="{ listed: listOpen && desk.status.ready }">
    <div v-if="trouble" class="trouble">
      <h1>This history didn’t open</h1>
      <p>{{ trouble }}</p>
      <NuxtLink :to="`/trees/${id}`">To the tree</NuxtLink>
    </div>
    <p v-else-if="!desk.status.ready" class="trouble quiet" role="status">Opening …</p>
    <template v-else>
      <LookingHead
        v-model:view="view"
        back="Back to now"
        :title="title || 'untitled'"
        :views="{ canvas: 'Canvas', outline: 'Outline', schedule: 'Schedule', board: 'Board', figures: 'Figures' }"
        @back="leave">
        <template #about
          ><p class="when" role="status">{{ shownWhen }}</p></template
        >
        <Button
          size="small"
          text
          :label="listOpen ? 'Hide the words' : 'In words'"
          :aria-pressed="listOpen"
          @click="listOpen = !listOpen" />
        <MomentActs :history="history" :may-edit="mayEdit" @back="back" />
      </LookingHead>
      <main class="middle">
        <TreeCanvas v-if="desk.view.value === 'canvas'" ref="canvas" />
        <LazyScheduleView v-else-if="desk.view.value === 'schedule'" ref="schedule" />
        <LazyBoardView v-else-if="desk.view.value === 'board'" ref="board" />
        <LazyFiguresView v-else-if="desk.view.value === 'figures'" ref="board" />
        <TreeOutline v-else ref="outline" />
        <p v-if="gone.length" class="gone" role="status">
          Went:
          {{
            gone
              .slice(0, 4)
              .map(words => `“${shorten(words || 'untitled', 30)}”`)
              .join(', ')
          }}{{ gone.length > 4 ? ` and ${gone.length - 4} more` : '' }}
        </p>
        <NoticeBar v-if="notice" :notice="notice" @taken="dismiss" />
        <Message v-if="history.wrong.value" class="wrong" severity="error" role="alert">{{
          history.wrong.value
        }}</Message>
      </main>
      <HappeningList v-if="listOpen" class="list" :history="history" />
      <footer class="foot">
        <div class="bar">
          <button
            class="play"
            :aria-label="history.playing.value ? 'Stop the replay' : 'Replay'"
            :data-tip="history.playing.value ? 'Stop' : 'Replay'"
            @click="history.playing.value = !history.playing.value">
            <Icon :name="history.playing.value ? 'lucide:pause' : 'lucide:play'" size="16" />
          </button>
          <select v-model.number="history.speed.value" aria-label="Speed of the replay">
            <option v-for="speed in [0.5, 1, 2, 4, 8]" :key="speed" :value="speed">{{ speed }} ×</option>
          </select>
          <button v-if="narrow" class="plain" :aria-expanded="filterOpen" @click="filterOpen = !filterOpen">
            {{ history.narrowed.value ? 'Some sittings' : 'Which sittings' }}
          </button>
          <KeptMoments :history="history" :may-edit="mayEdit" />
          <HistoryFilter v-if="!narrow || filterOpen" :history="history" />
        </div>
        <TimeLine :history="history" />
      </footer>
    </template>
  </div>
</template>

<style scoped>
.history-page {
  height: var(--view-height, 100%);
  overflow: clip;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 0;
}
.history-page.listed {
  grid-template-columns: minmax(0, 1fr) 320px;
}
.foot {
  grid-column: 1 / -1;
  background: var(--surface);
}
.when {
  margin: 0;
}
.middle {
  position: relative;
  min-width: 0;
  overflow: clip;
}
.gone {
  position: absolute;
  left: 14px;
  top: 12px;
  margin: 0;
  max-width: 60%;
  padding: 4px 10px;
  background: var(--surface);
  border: 1.5px dashed var(--clay);
  color: var(--clay);
}
.wrong {
  position: absolute;
  left: 50%;
  bottom: 16px;
  translate: -50%;
}
.foot {
  border-top: 1px solid var(--line);
  padding: 6px 12px 4px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.play {
  width: 34px;
  height: 30px;
  border: 1px solid var(--line);
  background: var(--porch);
  color: var(--on-porch);
  border-radius: 6px;
  cursor: pointer;
  display: grid;
  place-items: center;
}
.bar select {
  height: 30px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
}
.trouble {
  padding: 64px;
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .history-page.listed {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr) 30% auto;
  }
  .list {
    border-top: 1px solid var(--line);
  }
}
</style>
