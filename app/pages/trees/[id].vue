<script setup lang="ts">
import { childrenOf, isWithin, lastChild, type MarkerSet, shorten, topicOf, type TopicId } from '#core/tree'
import { land } from '~/capture/building'
import { readyToPaste } from '~/capture/copying'
import { DESK, Desk } from '~/desk/desk'
import { fontsReady } from '~/desk/ruler'
import { givePicture, takeFiles } from '~/files/pictures'
import { afterClick } from '~/focus/opened'
import { commandOf } from '~/keys/commands'
import { tieTo } from '~/canvas/ties'
import { shownCard } from '~/keys/guide'
import { useEventListener, useMediaQuery } from '@vueuse/core'
import { useNotice } from '~/page/notice'
import { BESIDE_MEETING, type CanvasHold, PAGE, Page } from '~/page/page'
import { usePageClipboard } from '~/page/page-clipboard'
import { usePageKeys } from '~/page/page-keys'
import type TreeCanvas from '~/canvas/TreeCanvas.vue'

const route = useRoute()
const account = useAccount()
const theme = useTheme()
const { notice, notify, dismiss } = useNotice()

const desk = new Desk(String(route.params.id), account.me!.id, notify)
provide(DESK, desk)
const page = new Page(desk, theme.toggle)
provide(PAGE, page)
const trouble = ref('')
const arriving = useArrivingWords()
const arrivedWith = useArrivedWith()
const canvas = page.canvas as Ref<(InstanceType<typeof TreeCanvas> & CanvasHold) | undefined>
const { outline, schedule, board, meetingView, sheet, findBar, pictureFile } = page
const menu = ref<{ show(event: Event): void }>()
/** A menu asked for before it has loaded opens when it has. */
let asked: Event | null = null
function showMenu(event: Event): void {
  event.preventDefault()
  if (menu.value) menu.value.show(event)
  else asked = event
}
watch(menu, loaded => {
  if (loaded && asked) loaded.show(asked)
  asked = null
})
const changedSet = ref<MarkerSet | 'new' | null>(null)

// Where the sheet would lie over the tree, it waits until it's asked for.
if (window.matchMedia('(max-width: 900px)').matches) desk.sheetOpen.value = false
if (window.matchMedia('(max-width: 700px)').matches) desk.view.value = 'outline'
const narrow = useNarrow()
/** A sheet at the bottom of a narrow screen has two heights. */
const tall = ref(false)
/** Where a finger is the pointer, or the screen is as small as one's that has no keyboard. */
const thumb = useMediaQuery(THUMB)
useViewHeight()
usePageKeys(desk, page)
usePageClipboard(desk)

/** Others’ edits up to here have been seen. */
function sawAll(): void {
  void callApi(`/api/trees/${desk.session.treeId}/seen`, {
    method: 'POST',
    body: { version: desk.session.replica.version },
  }).catch(() => {})
}
onMounted(async () => {
  try {
    await fontsReady()
    await desk.open()
    if (arriving.value) {
      const made = arrivedWith.value?.tree === desk.session.treeId ? arrivedWith.value.number : null
      desk.session.arrivedWith = made
      desk.say(
        arriving.value,
        made !== null && {
          name: 'Undo',
          run: () => desk.takeBack(made),
          holds: () => desk.session.arrivedWith === made,
        },
      )
      arriving.value = ''
      arrivedWith.value = null
    }
    const wanted = String(route.query.topic ?? '')
    if (desk.tree.topics.has(wanted)) {
      if (route.query.view === 'meeting') {
        desk.focus.value = wanted
        desk.view.value = 'meeting'
      }
      // What somebody is asked to read is open when they come for it, also where the sheet would wait.
      else if (desk.tree.topics.get(wanted)!.item.length > 0) desk.sheetOpen.value = true
      nextTick(() => desk.visit(wanted))
    }
    // What leads here may lead into a panel, or to the comments of the topic.
    if (route.query.steps !== undefined) shownCard.value = 'steps'
    if (route.query.panel === 'comments' && wanted) nextTick(() => desk.talking.show(wanted))
    else if (route.query.panel === 'since' || route.query.panel === 'bench') page.panel(route.query.panel)
    sawAll()
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        page.settled.value = true
        void readyToPaste()
      }),
    )
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : 'This tree can’t be opened.'
  }
})
// A tab that is closed has no time for an answer.
useEventListener(document, 'visibilitychange', () => {
  if (document.visibilityState === 'hidden' && desk.status.ready)
    navigator.sendBeacon(
      `/api/trees/${desk.session.treeId}/seen`,
      new Blob([JSON.stringify({ version: desk.session.replica.version })], { type: 'application/json' }),
    )
})
onBeforeRouteLeave(() => desk.stored(1500))
onBeforeUnmount(() => {
  if (desk.status.ready) sawAll()
  shownCard.value = null
  desk.close()
})

const presenting = computed(() => page.presenting.value !== null)
const panel = computed(() => {
  if (presenting.value) return null
  const side = page.side.value
  return desk.view.value !== 'meeting' || (side !== null && BESIDE_MEETING.has(side)) ? side : null
})
const sheeted = computed(
  () =>
    desk.status.ready &&
    !presenting.value &&
    (panel.value !== null || (desk.view.value !== 'meeting' && desk.sheetOpen.value)),
)
function moveUnder(parent: TopicId): void {
  page.moving.value = false
  if (desk.selected().some(id => isWithin(desk.tree, parent, id))) {
    desk.say('A branch can’t hang under itself.')
    return
  }
  land(desk, desk.selected(), lastChild(desk.tree, parent))
  desk.unfoldTo(desk.focus.value)
  nextTick(() => desk.reveal(desk.focus.value))
}
function tieSelection(to: TopicId): void {
  const what = page.choosing.value
  page.choosing.value = null
  if (what === 'wait') void import('~/schedule/acting').then(({ waitFor }) => waitFor(desk, desk.selected(), to))
  else tieTo(desk, desk.selected(), to)
}
watch([page.choosing, page.moving], ([choosing, moving]) => {
  desk.pointing = choosing ? tieSelection : moving ? moveUnder : null
})
// Whoever is asked for a topic points at it in any view: the press, and the click that comes of it, mean nothing else then.
useEventListener(
  document,
  'pointerdown',
  event => {
    const on = desk.pointing && event.button === 0 ? (event.target as Element) : null
    const to = on?.closest<HTMLElement>('[role="treeitem"][data-topic]')?.dataset.topic
    if (!to) return
    event.preventDefault()
    event.stopPropagation()
    const swallow = (click: Event): void => click.stopPropagation()
    document.addEventListener('click', swallow, { capture: true, once: true })
    document.addEventListener(
      'pointerup',
      () => setTimeout(() => document.removeEventListener('click', swallow, { capture: true })),
      { capture: true, once: true },
    )
    desk.pointing!(to)
  },
  { capture: true },
)
const strip = ['child', 'sibling-after', 'mark', 'task'].map(id => ({
  command: commandOf(id)!,
  icon: {
    child: 'lucide:corner-down-right',
    'sibling-after': 'lucide:arrow-down-to-line',
    mark: 'lucide:bookmark',
    task: 'lucide:square-check',
  }[id]!,
}))
const title = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? topicOf(desk.tree, desk.tree.centre).title : ''
})
const blank = computed(() => {
  void desk.lateTick.value
  return (
    desk.status.ready &&
    childrenOf(desk.tree, desk.tree.centre).length === 0 &&
    childrenOf(desk.tree, null).length === 0
  )
})
useHead({ title: computed(() => (title.value ? `${shorten(title.value, 60)} · Sun Porch` : 'Sun Porch')) })

function choosePicture(event: Event): void {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (chosen) void givePicture(desk, chosen, null)
}
</script>

<template>
  <div
    class="tree-page"
    :class="{ sheeted, presenting, trayed: page.trayOpen.value && desk.status.ready, tall: narrow && sheeted && tall }"
    @click="afterClick">
    <div v-if="trouble" class="trouble">
      <h1>This tree didn’t open</h1>
      <p>{{ trouble }}</p>
      <NuxtLink to="/trees">To all trees</NuxtLink>
    </div>
    <p v-else-if="!desk.status.ready" class="trouble quiet" role="status">Opening …</p>
    <template v-else>
      <TopBar v-if="!presenting" />
      <TrayPanel v-if="page.trayOpen.value && !presenting" class="tray" @closed="page.trayOpen.value = false" />
      <main class="middle">
        <TreeCanvas
          v-if="desk.view.value === 'canvas'"
          ref="canvas"
          @menu="showMenu($event)"
          @files="(files, topic) => takeFiles(desk, files, topic)">
          <template #strip>
            <div class="strip">
              <button
                v-for="item in strip"
                :key="item.command.id"
                :data-tip="item.command.name"
                :aria-label="item.command.name"
                tabindex="-1"
                @click="page.run(item.command)">
                <Icon :name="item.icon" size="15" />
              </button>
            </div>
          </template>
        </TreeCanvas>
        <LazyMeetingView
          v-else-if="desk.view.value === 'meeting'"
          ref="meetingView"
          @make="page.makeMeeting()"
          @tree="desk.view.value = page.treeView.value" />
        <LazyScheduleView v-else-if="desk.view.value === 'schedule'" ref="schedule" @menu="showMenu($event)" />
        <LazyBoardView v-else-if="desk.view.value === 'board'" ref="board" @menu="showMenu($event)" />
        <LazyFiguresView v-else-if="desk.view.value === 'figures'" ref="board" @menu="showMenu($event)" />
        <TreeOutline
          v-else
          ref="outline"
          @menu="showMenu($event)"
          @files="(files, topic) => takeFiles(desk, files, topic)" />
        <div
          v-if="
            blank &&
            desk.view.value !== 'meeting' &&
            !desk.editing.value &&
            desk.session.canEdit &&
            shownCard !== 'steps'
          "
          class="empty">
          <p>
            <kbd>Tab</kbd> begins the first topic. Type it; <kbd>Enter</kbd> goes on to the next, <kbd>Esc</kbd> ends.
            Or paste a list.
          </p>
        </div>
        <NoticeBar v-if="notice" :notice="notice" @taken="dismiss" />
        <LazyTargetPicker
          v-if="page.moving.value"
          class="move-under"
          label="Move under"
          :without="desk.selected()"
          @chosen="moveUnder"
          @closed="page.moving.value = false" />
        <LazyTargetPicker
          v-if="page.choosing.value"
          class="move-under"
          :label="page.choosing.value === 'wait' ? 'Waits for' : 'Tie to'"
          :without="[]"
          @chosen="tieSelection"
          @closed="page.choosing.value = null" />
        <LazyFindBar v-if="desk.finding.open.value" ref="findBar" @filter="page.panel('filter')" />
        <LazyTieBox v-if="desk.tie.value" :key="desk.tie.value.id" />
        <LazyPreviewCard v-if="desk.previewed.value" :key="desk.previewed.value.topic" />
        <LazyVoteSign v-if="desk.voting.open.length" />
        <LazyUploadsBox v-if="desk.uploads.list.value.length" />
        <LazyHandStrip v-if="desk.view.value === 'canvas' && desk.selection.value.size > 1 && !presenting" />
        <WhereBar v-if="!presenting" />
        <LazyGuideCard v-if="shownCard && !presenting" :key="shownCard" />
        <LazyOverviewWindow
          v-if="page.overviewOpen.value && canvas && desk.view.value === 'canvas' && !presenting"
          :layout="canvas.layout"
          :view="canvas.view"
          :painted="canvas.painted"
          @closed="page.overviewOpen.value = false" />
        <input
          ref="pictureFile"
          type="file"
          class="visually-hidden"
          accept="image/png,image/jpeg,image/gif,image/webp,image/avif,image/tiff"
          aria-label="Picture for the topic"
          tabindex="-1"
          @change="choosePicture" />
      </main>
      <SidePanel v-if="panel" :key="panel" data-over-tree class="side" :what="panel" @markers="changedSet = $event">
        <template v-if="narrow" #grip><SheetGrip v-model="tall" @closed="page.side.value = null" /></template>
      </SidePanel>
      <LazySideSheet v-else-if="sheeted && page.settled.value" ref="sheet" data-over-tree class="side">
        <template v-if="narrow" #grip><SheetGrip v-model="tall" @closed="desk.sheetOpen.value = false" /></template>
      </LazySideSheet>
      <LazyThumbBar
        v-if="thumb && !presenting && desk.view.value !== 'meeting'"
        class="thumb"
        @menu="showMenu($event)" />
      <LazyPresentingRoom v-if="presenting" />
      <FootStrip
        v-else
        class="foot"
        :zoom="canvas?.zoom ?? 1"
        @fit="page.fit()"
        @zoom="page.zoom($event)"
        @arrange="page.togglePanel('arrange')"
        @tray="page.trayOpen.value ? (page.trayOpen.value = false) : page.tray()" />
      <LazyTopicMenu v-if="page.settled.value" ref="menu" />
      <StepCard v-if="page.settled.value" />
      <LazyHeardNews v-if="page.settled.value" />
      <PageBoxes v-if="page.settled.value" v-model:markers="changedSet" />
    </template>
  </div>
</template>

<style scoped src="../../page/tree-page.css"></style>
