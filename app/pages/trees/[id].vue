<script setup lang="ts">
import { childrenOf, lastChild, type MarkerSet, readAddress, shorten, topicOf, type TopicId } from '#core/tree'
import type TreeCanvas from '~/components/tree/TreeCanvas.vue'
import { type Box, COMMANDS, type Command, commandOf, type House, type Panel, type SheetPart } from '~/tree/commands'
import { isMeeting } from '#core/meeting/brief'
import { makeMeetingOf } from '~/meeting/doing'
import { isReply, takeReply } from '~/meeting/replies'
import { type MeetingAct, until } from '~/meeting/useMeeting'
import { copy as copyBranches, cut as cutBranches, paste as pasteBranches } from '~/tree/copying'
import { land } from '~/tree/building'
import { DESK, Desk, type Offer } from '~/tree/desk'
import { newId } from '~/tree/new-id'
import { afterClick, backFromClick, closeTop, enter as enterOpened, isDialogOpen } from '~/focus/opened'
import { expectField, isTextField } from '~/focus/typeahead'
import { chordInWords, commandFor, keys } from '~/tree/keys'
import { putPicture } from '~/tree/pictures'
import { tieTo } from '~/tree/ties'
import { fontsReady } from '~/tree/ruler'

const route = useRoute()
const account = useAccount()
const theme = useTheme()

const notice = shallowRef<{ readonly words: string; readonly offer: Offer | null } | null>(null)
let noticeTimer = 0
function notify(words: string, offer: Offer | null): void {
  clearTimeout(noticeTimer)
  notice.value = { words, offer }
  noticeTimer = window.setTimeout(
    () => {
      notice.value = null
    },
    offer ? 9000 : 6000,
  )
}

const desk = new Desk(String(route.params.id), account.me!.id, notify)
provide(DESK, desk)
const trouble = ref('')
const arriving = useArrivingWords()
const canvas = ref<InstanceType<typeof TreeCanvas>>()
const outline = ref<{ focus(): void; escape(): boolean; cells(): void }>()
const sheet = ref<{ into(part: SheetPart): void }>()
const menu = ref()
const open = reactive({
  everything: false,
  keys: false,
  share: false,
  help: false,
  duplicate: false,
  starter: false,
  about: false,
})
/** The panel beside the canvas that stays open from topic to topic. */
const panel = ref<Panel | null>(null)
const tray = ref(false)
const overview = ref(false)
const moving = ref(false)
/** A topic that is being looked for, to tie the selection to or to show here. */
const choosing = ref<'tie' | null>(null)
const referring = ref(false)
const PANELS: Record<Panel, string> = {
  markers: 'Markers',
  dress: 'Colour and style',
  arrange: 'Arrangement',
  key: 'Key',
  filter: 'Filter and views',
  pages: 'Pages and numbers',
}
/**
 * What isn't needed for the first look is loaded after it: the sheet, the menu, and each dialog when it's first
 * opened.
 */
const settled = ref(false)
const met = reactive({
  everything: false,
  keys: false,
  share: false,
  help: false,
  duplicate: false,
  starter: false,
  about: false,
})
watch(open, () => {
  for (const what of Object.keys(met) as Box[]) if (open[what]) met[what] = true
})
const narrow = window.matchMedia('(max-width: 700px)')
if (narrow.matches) {
  desk.view.value = 'outline'
  desk.sheetOpen.value = false
}

onMounted(async () => {
  try {
    await fontsReady()
    await desk.open()
    if (arriving.value) {
      desk.say(arriving.value)
      arriving.value = ''
    }
    const wanted = String(route.query.topic ?? '')
    if (desk.tree.topics.has(wanted)) {
      if (route.query.view === 'meeting') {
        desk.focus.value = wanted
        desk.view.value = 'meeting'
      }
      nextTick(() => desk.visit(wanted))
    }
    void callApi(`/api/trees/${desk.session.treeId}/seen`, {
      method: 'POST',
      body: { version: desk.session.replica.version },
    }).catch(() => {})
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        settled.value = true
      }),
    )
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : 'This tree can’t be opened.'
  }
  window.addEventListener('keydown', key)
  document.addEventListener('copy', copy)
  document.addEventListener('cut', cut)
  document.addEventListener('paste', paste)
})
onBeforeUnmount(() => {
  if (desk.status.ready)
    void callApi(`/api/trees/${desk.session.treeId}/seen`, {
      method: 'POST',
      body: { version: desk.session.replica.version },
    }).catch(() => {})
  window.removeEventListener('keydown', key)
  document.removeEventListener('copy', copy)
  document.removeEventListener('cut', cut)
  document.removeEventListener('paste', paste)
  desk.close()
})

const house: House = {
  fit: () => canvas.value?.fit(),
  fitSelection: () => canvas.value?.fitSelection(),
  zoom: by => canvas.value?.zoomBy(by),
  open: what => {
    expectField()
    open[what] = true
  },
  panel: what => {
    // One that is open already is gone into, so that a key never closes what the other hand reaches for; the key, which
    // only shows, goes.
    if (panel.value === what && what === 'key') panel.value = null
    else if (panel.value === what) enterOpened(document.querySelector<HTMLElement>('aside.panel')!)
    else {
      if (what !== 'key') expectField()
      panel.value = what
    }
  },
  tray: () => {
    if (tray.value) {
      enterOpened(document.querySelector<HTMLElement>('section.tray')!)
      return
    }
    if (desk.session.canEdit) expectField()
    tray.value = true
  },
  find: () => {
    expectField()
    if (desk.finding.open.value) findBar.value?.focus()
    desk.finding.open.value = true
  },
  moveUnder: () => {
    if (!desk.guard()) return
    expectField()
    moving.value = true
  },
  overview: () => {
    overview.value = !overview.value
  },
  picture: () => pictureFile.value?.click(),
  toggleTheme: theme.toggle,
  into: part => {
    // The place of the sheet may be taken by a panel; what is asked for comes first.
    expectField()
    panel.value = null
    desk.sheetOpen.value = true
    if (sheet.value) sheet.value.into(part)
    else watchOnce(sheet, now => now?.into(part))
  },
  choose: what => {
    if (!desk.guard()) return
    expectField()
    if (what === 'reference') referring.value = true
    else choosing.value = what
  },
  meeting: () => {
    if (desk.view.value === 'meeting') desk.view.value = treeView.value
    else desk.view.value = 'meeting'
  },
  meetingDo: async what => {
    desk.view.value = 'meeting'
    await until(() => meeting.value !== undefined)
    await meeting.value?.act(what)
  },
  makeMeeting: () => {
    const id = desk.focus.value
    if (makeMeetingOf(desk, id)) {
      if (desk.view.value === 'meeting') meeting.value?.choose(id)
      else desk.view.value = 'meeting'
    } else if (isMeeting(topicOf(desk.tree, id))) desk.view.value = 'meeting'
  },
  cells: () => {
    desk.view.value = 'outline'
    nextTick(() => outline.value?.cells())
  },
}

/** The view of the tree to come back to from the meeting. */
const treeView = ref<'canvas' | 'outline'>('canvas')
watch(
  desk.view,
  (now, before) => {
    if (now !== 'meeting') treeView.value = now
    if (before === 'meeting') nextTick(focusTree)
  },
  { immediate: true },
)
const meeting = ref<{ choose(id: TopicId): void; act(what: MeetingAct): Promise<void> }>()
const sheeted = computed(() => desk.view.value !== 'meeting' && (panel.value !== null || desk.sheetOpen.value))
/** What the keys do while a meeting is shown; the rest of them belong to its own views. */
const IN_MEETING = new Set(['meeting', 'undo', 'redo', 'everything', 'help', 'keys', 'theme', 'next-meeting'])

const findBar = ref<{ focus(): void }>()
const pictureFile = ref<HTMLInputElement>()
function moveUnder(parent: TopicId): void {
  moving.value = false
  land(desk, desk.selected(), lastChild(desk.tree, parent))
  desk.unfoldTo(desk.focus.value)
  nextTick(() => desk.reveal(desk.focus.value))
}
function tieSelection(to: TopicId): void {
  choosing.value = null
  tieTo(desk, desk.selected(), to)
}
/** Looks at what becomes of a value the next time it changes to something. */
function watchOnce<T>(source: Ref<T>, then: (value: T) => void): void {
  const stop = watch(source, now => {
    if (!now) return
    stop()
    then(now)
  })
}
/** A button that shows a panel also hides it. */
function togglePanel(what: Panel): void {
  if (panel.value === what) panel.value = null
  else house.panel(what)
}

/** What is done to the tree is done in sight of it: from a meeting, its view comes first. */
function run(command: Command): void {
  if (
    desk.view.value !== 'meeting' ||
    IN_MEETING.has(command.id) ||
    command.group === 'Meet' ||
    command.group === 'General'
  ) {
    command.run(desk, house)
    return
  }
  desk.view.value = treeView.value
  void nextTick(() => command.run(desk, house))
}

const inField = (target: EventTarget | null): boolean => isTextField(target) || target instanceof HTMLSelectElement
const inTree = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target === document.body || target.hasAttribute('data-home') || target.closest('[role="tree"]') !== null)

function key(event: KeyboardEvent): void {
  if (!desk.status.ready || event.defaultPrevented || inField(event.target)) return
  if (event.key === 'Escape') {
    if (canvas.value?.escape() || outline.value?.escape() || closeTop()) return
    if (desk.selection.value.size > 1) desk.select(desk.focus.value)
    else if (desk.finding.open.value || desk.finding.active) desk.finding.close()
    else if (desk.journey.back()) return
    else if (desk.only.value) desk.showOnly(desk.pageOf(desk.only.value))
    return
  }
  if ((event.key === 'Delete' || event.key === 'Backspace') && desk.tie.value && inTree(event.target)) {
    event.preventDefault()
    const { topic, id: tie } = desk.tie.value
    desk.tie.value = null
    desk.put(topic, { op: 'take', topic, set: 'ties', member: tie })
    desk.say('Untied.', true)
    return
  }
  const id = isDialogOpen() ? null : commandFor(event)
  const command = id && commandOf(id)
  if (!command) return
  // Outside the tree a button keeps its own Enter, Tab and arrows; chords with Mod work everywhere.
  if (!inTree(event.target) && !event.ctrlKey && !event.metaKey && !['?', '/'].includes(event.key)) return
  if (
    desk.view.value === 'meeting' &&
    !IN_MEETING.has(command.id) &&
    !(event.target instanceof HTMLElement && event.target.closest('[role="tree"]'))
  )
    return
  event.preventDefault()
  run(command)
}

function copy(event: ClipboardEvent): void {
  if (!desk.status.ready || inField(event.target) || !event.clipboardData) return
  copyBranches(desk, event.clipboardData)
  event.preventDefault()
}
function cut(event: ClipboardEvent): void {
  if (!desk.status.ready || inField(event.target) || !event.clipboardData) return
  cutBranches(desk, event.clipboardData)
  event.preventDefault()
}
function paste(event: ClipboardEvent): void {
  if (!desk.status.ready || inField(event.target) || !event.clipboardData || isDialogOpen()) return
  const image = [...event.clipboardData.files].find(file => file.type.startsWith('image/'))
  const files = [...event.clipboardData.files].filter(file => file !== image)
  const text = event.clipboardData.getData('text/plain')
  if (image && !text) {
    event.preventDefault()
    void givePicture(image, null)
  } else if (files.length > 0 && !text) {
    event.preventDefault()
    desk.uploads.add(files, desk.focus.value)
  } else if (pasteAddress(text)) event.preventDefault()
  else if (pasteBranches(desk, event.clipboardData)) event.preventDefault()
}

/** One address and nothing else, pasted on a topic, becomes a link of it. */
function pasteAddress(text: string): boolean {
  const said = text.trim()
  if (!/^(?:[a-z][a-z0-9+.-]*:|www\.|[^\s@]+@)/i.test(said) || said.includes('\n')) return false
  const url = readAddress(said, location.origin)
  if (!url || !desk.guard()) return false
  const topic = desk.focus.value
  if (
    !desk.run({
      changes: [{ op: 'put', topic, set: 'links', member: { id: newId(), url: url.toWellFormed(), title: '' } }],
    })
  )
    return false
  desk.say(`“${shorten(url, 60)}” is a link of “${shorten(topicOf(desk.tree, topic).title, 30)}” now.`, true)
  return true
}

const menuItem = (command: Command) => ({
  label: command.name,
  command: () => run(command),
  chord: keys.value[command.id]?.[0] ?? '',
})
const menuItems = [
  ...COMMANDS.filter(command => command.menu === 'first').map(menuItem),
  { separator: true },
  ...[...new Set(COMMANDS.map(command => command.group))].flatMap(group => {
    const items = COMMANDS.filter(command => command.group === group && command.menu === 'more').map(menuItem)
    return items.length > 0 ? [{ label: group, items }] : []
  }),
]
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
function rename(event: Event): void {
  const said = (event.target as HTMLInputElement).value.trim().toWellFormed()
  if (said !== title.value) desk.set('title', said, [desk.tree.centre])
}

const here = computed(() => {
  const seen = new Map<string, { id: string; name: string }>()
  if (account.me) seen.set(account.me.id, account.me)
  for (const person of desk.status.present) seen.set(person.id, person)
  return [...seen.values()]
})
function visitPerson(id: string): void {
  const person = desk.status.present.find(one => one.id === id)
  const topic = person?.typing ?? person?.selected[0]
  if (topic && desk.tree.topics.has(topic)) desk.visit(topic)
}
/** The page that is shown, and the one it hangs on. */
const onPage = computed(() => {
  void desk.lateTick.value
  const id = desk.only.value
  if (id === null || !desk.tree.topics.get(id)?.page) return null
  const above = desk.pageOf(id)
  return {
    title: shorten(topicOf(desk.tree, id).title || 'untitled', 40),
    above,
    aboveTitle: above === null ? 'the whole tree' : `“${shorten(topicOf(desk.tree, above).title, 30)}”`,
  }
})
/** What the notice offers, while it can be done. */
const offered = computed(() => {
  void desk.lateTick.value
  const offer = notice.value?.offer
  return offer && offer.holds?.() !== false ? offer : null
})
function takeOffer(offer: Offer): void {
  notice.value = null
  offer.run()
}
const changedSet = ref<MarkerSet | 'new' | null>(null)

// — Pictures: from a file, dropped, or pasted
async function givePicture(file: File | string, topic: TopicId | null): Promise<void> {
  if (!desk.guard()) return
  try {
    await putPicture(desk, file, topic ?? desk.focus.value)
  } catch (error) {
    desk.say(error instanceof Error ? error.message : 'The picture didn’t arrive. Nothing was changed.')
  }
}
function choosePicture(event: Event): void {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (chosen) void givePicture(chosen, null)
}
async function takeFiles(files: File[], topic: TopicId | null): Promise<void> {
  // An answer to an invitation isn't hung on a topic: it's taken.
  if (files.length === 1 && (await isReply(files[0]!))) {
    await takeReply(desk, files[0]!)
    return
  }
  // One picture that is dropped shows in its topic; everything else hangs on it as a file.
  const at = topic ?? desk.focus.value
  if (files.length === 1 && /^image\/(?:png|jpeg|gif|webp|avif)$/.test(files[0]!.type)) void givePicture(files[0]!, at)
  else if (files.length > 0) desk.uploads.add(files, at)
}

const VIEWS = [
  { id: 'canvas', name: 'Canvas' },
  { id: 'outline', name: 'Outline' },
  { id: 'meeting', name: 'Meeting' },
] as const
</script>

<template>
  <div
    class="tree-page"
    @click="afterClick"
    :class="{ sheeted: sheeted && desk.status.ready, trayed: tray && desk.status.ready }">
    <div v-if="trouble" class="trouble">
      <h1>This tree didn’t open</h1>
      <p>{{ trouble }}</p>
      <NuxtLink to="/trees">To all trees</NuxtLink>
    </div>
    <p v-else-if="!desk.status.ready" class="trouble quiet" role="status">Opening …</p>
    <template v-else>
      <header class="top">
        <input
          class="tree-title"
          v-kept="title"
          :readonly="!desk.session.canEdit"
          aria-label="Title of the tree"
          @change="rename"
          @keydown.enter="($event.target as HTMLInputElement).blur()" />
        <div class="views" role="tablist" aria-label="Views">
          <button
            v-for="view in VIEWS"
            :key="view.id"
            role="tab"
            :aria-selected="desk.view.value === view.id"
            :class="{ on: desk.view.value === view.id }"
            @click="desk.view.value = view.id">
            {{ view.name }}
          </button>
        </div>
        <span class="grow" />
        <button data-tip="Find" class="icon-button" aria-label="Find" @click="house.find()">
          <Icon name="lucide:search" size="17" />
        </button>
        <button
          data-tip="Undo"
          class="icon-button"
          aria-label="Undo"
          :disabled="!desk.status.canUndo"
          @click="desk.undo()">
          <Icon name="lucide:undo-2" size="17" />
        </button>
        <button
          data-tip="Redo"
          class="icon-button redo"
          aria-label="Redo"
          :disabled="!desk.status.canRedo"
          @click="desk.redo()">
          <Icon name="lucide:redo-2" size="17" />
        </button>
        <button
          v-if="desk.view.value !== 'meeting'"
          data-tip="Side sheet"
          class="icon-button"
          aria-label="Side sheet"
          :aria-pressed="desk.sheetOpen.value"
          @click="desk.sheetOpen.value = !desk.sheetOpen.value">
          <Icon name="lucide:panel-right" size="17" />
        </button>
        <button
          v-if="desk.view.value !== 'meeting'"
          data-tip="Arrangement"
          class="icon-button extra"
          aria-label="Arrangement"
          :aria-pressed="panel === 'arrange'"
          @click="togglePanel('arrange')">
          <Icon name="lucide:network" size="17" />
        </button>
        <button
          v-if="desk.view.value !== 'meeting'"
          data-tip="Markers"
          class="icon-button extra"
          aria-label="Markers"
          :aria-pressed="panel === 'markers'"
          @click="togglePanel('markers')">
          <Icon name="lucide:bookmark" size="17" />
        </button>
        <button
          v-if="desk.view.value !== 'meeting'"
          data-tip="Colour and style"
          class="icon-button extra"
          aria-label="Colour and style"
          :aria-pressed="panel === 'dress'"
          @click="togglePanel('dress')">
          <Icon name="lucide:palette" size="17" />
        </button>
        <button data-tip="Help" class="icon-button extra" aria-label="Help" @click="house.open('help')">
          <Icon name="lucide:circle-help" size="17" />
        </button>
        <button data-tip="Keys" class="icon-button keys" aria-label="Keys" @click="house.open('keys')">
          <Icon name="lucide:keyboard" size="17" />
        </button>
        <span class="here" role="group" aria-label="Who is here">
          <button
            v-for="person in here"
            :key="person.id"
            :data-tip="person.name"
            class="initials"
            :style="{ background: hueOf(person.id) }"
            :aria-label="person.id === account.me?.id ? `${person.name}, you` : `${person.name} is here`"
            @click="visitPerson(person.id)">
            {{ initialsOf(person.name) }}
          </button>
        </span>
        <Button label="Share" size="small" @click="house.open('share')" />
      </header>
      <TreeTrayPanel v-if="tray" class="tray" @closed="tray = false" />
      <main class="middle">
        <TreeCanvas v-if="desk.view.value === 'canvas'" ref="canvas" @menu="menu.show($event)" @files="takeFiles">
          <template #strip>
            <div class="strip">
              <button
                v-for="item in strip"
                :key="item.command.id"
                :data-tip="item.command.name"
                :aria-label="item.command.name"
                tabindex="-1"
                @click="run(item.command)">
                <Icon :name="item.icon" size="15" />
              </button>
            </div>
          </template>
        </TreeCanvas>
        <LazyMeetingView
          v-else-if="desk.view.value === 'meeting'"
          ref="meeting"
          @make="house.makeMeeting()"
          @tree="desk.view.value = treeView" />
        <TreeOutline v-else ref="outline" @menu="menu.show($event)" @files="takeFiles" />
        <div v-if="blank && desk.view.value !== 'meeting' && !desk.editing.value && desk.session.canEdit" class="empty">
          <p>
            <kbd>Tab</kbd> begins the first topic. Type it; <kbd>Enter</kbd> goes on to the next, <kbd>Esc</kbd> ends.
            Or paste a list.
          </p>
        </div>
        <div v-if="notice" class="offer" :class="{ high: desk.view.value === 'meeting' }" role="status">
          {{ notice.words }}<button v-if="offered" @click="takeOffer(offered)">{{ offered.name }}</button>
        </div>
        <TreeTargetPicker
          v-if="moving"
          class="move-under"
          label="Move under"
          :without="desk.selected()"
          @chosen="moveUnder"
          @closed="moving = false" />
        <TreeTargetPicker
          v-if="choosing"
          class="move-under"
          label="Tie to"
          :without="[]"
          @chosen="tieSelection"
          @closed="choosing = null" />
        <TreeFindBar v-if="desk.finding.open.value" ref="findBar" @filter="house.panel('filter')" />
        <LazyTreeTieBox v-if="desk.tie.value" :key="desk.tie.value.id" />
        <LazyTreePreviewCard v-if="desk.previewed.value" :key="desk.previewed.value.topic" />
        <TreeUploadsBox />
        <div v-if="desk.only.value && desk.view.value !== 'meeting'" class="only" role="status">
          <template v-if="onPage"
            ><Icon name="lucide:book-open" size="14" /> Page “{{ onPage.title }}”
            <button @click="desk.showOnly(onPage.above)">Back to {{ onPage.aboveTitle }}</button></template
          ><template v-else
            >Only this branch <button @click="desk.showOnly(null)">Back to the whole tree</button></template
          >
        </div>
        <button v-if="desk.journey.steps.value" class="back" @click="desk.journey.back()">
          <Icon name="lucide:undo-dot" size="15" /> Back to where you were <kbd>Esc</kbd>
        </button>
        <LazyTreeOverviewWindow
          @closed="overview = false"
          v-if="overview && canvas && desk.view.value === 'canvas'"
          :layout="canvas.layout"
          :view="canvas.view"
          :painted="canvas.painted" />
        <input
          ref="pictureFile"
          type="file"
          class="visually-hidden"
          accept="image/png,image/jpeg,image/gif,image/webp,image/avif"
          aria-label="Picture for the topic"
          tabindex="-1"
          @change="choosePicture" />
      </main>
      <aside
        v-if="panel && desk.view.value !== 'meeting'"
        :key="panel"
        v-opened="{
          manner: panel === 'key' ? 'pane' : 'panel',
          close: () => {
            panel = null
          },
        }"
        class="panel side"
        :aria-label="PANELS[panel]">
        <div class="panel-head">
          <h2>{{ PANELS[panel] }}</h2>
          <button class="icon-button" aria-label="Close" data-close @click="panel = null">
            <Icon name="lucide:x" size="16" />
          </button>
        </div>
        <TreeMarkerSheet
          v-if="panel === 'markers'"
          :ids="[...desk.selection.value]"
          :editable="desk.session.canEdit"
          @change="changedSet = $event ?? 'new'" />
        <LazyTreeDressPanel v-else-if="panel === 'dress'" />
        <LazyTreeArrangePanel v-else-if="panel === 'arrange'" />
        <LazyTreeFilterPanel v-else-if="panel === 'filter'" />
        <LazyTreePagesPanel v-else-if="panel === 'pages'" />
        <LazyTreeKeyPanel v-else />
      </aside>
      <LazyTreeSideSheet
        v-else-if="desk.sheetOpen.value && settled && desk.view.value !== 'meeting'"
        ref="sheet"
        class="side" />
      <TreeFootStrip
        class="foot"
        :zoom="canvas?.zoom ?? 1"
        @fit="house.fit()"
        @zoom="house.zoom($event)"
        @arrange="togglePanel('arrange')"
        @tray="tray ? (tray = false) : house.tray()" />
      <ContextMenu v-if="settled" ref="menu" :model="menuItems" @hide="nextTick(backFromClick)">
        <template #item="{ item, props: at }">
          <a v-bind="at.action" class="menu-item"
            ><span>{{ item.label }}</span
            ><kbd v-if="item.chord">{{ chordInWords(String(item.chord)) }}</kbd></a
          >
        </template>
      </ContextMenu>
      <LazyTreeEverythingBox v-if="met.everything" v-model:visible="open.everything" @run="run" />
      <LazyTreeKeyList v-if="met.keys" v-model:visible="open.keys" />
      <LazyTreeShareDialog v-if="met.share" v-model:visible="open.share" />
      <LazyTreeMarkerSetDialog v-if="changedSet" :set="changedSet" @closed="changedSet = null" />
      <LazyTreeDuplicateDialog v-if="met.duplicate" v-model:visible="open.duplicate" />
      <LazyTreeStarterDialog v-if="met.starter" v-model:visible="open.starter" />
      <LazyTreeAboutDialog v-if="met.about" v-model:visible="open.about" />
      <LazyTreeHelpBox v-if="met.help" v-model:visible="open.help" />
      <LazyTreeReferenceDialog v-if="referring" @closed="referring = false" />
      <LazyTreeFileViewer v-if="desk.viewing.value" />
    </template>
  </div>
</template>

<style scoped>
.tree-page {
  height: 100%;
  overflow: clip;
  display: grid;
  grid-template: 52px minmax(0, 1fr) 34px / auto minmax(0, 1fr) auto;
}
.tree-page.sheeted {
  grid-template-columns: auto minmax(0, 1fr) 340px;
}
.tray {
  grid-row: 2;
  grid-column: 1;
}
.trouble {
  padding: 64px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: flex-start;
  grid-row: 1 / -1;
}
.top {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 16px 0 14px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  min-width: 0;
}
.tree-title {
  font: 600 19px var(--display);
  letter-spacing: -0.01em;
  border: 1px solid transparent;
  background: none;
  color: inherit;
  border-radius: 6px;
  padding: 4px 6px;
  min-width: 60px;
  max-width: 420px;
  field-sizing: content;
  text-overflow: ellipsis;
}
.tree-title:hover,
.tree-title:focus {
  border-color: var(--line);
}
.views {
  display: flex;
  gap: 2px;
  margin-left: 10px;
}
.views button {
  border: 0;
  background: none;
  padding: 6px 11px;
  border-radius: 7px;
  color: var(--quiet);
  font-weight: 500;
  cursor: pointer;
}
.views button:hover {
  color: var(--ink);
}
.views .on {
  background: var(--ceiling);
  color: var(--ink);
  font-weight: 600;
}
.grow {
  flex: 1;
}
.here {
  display: flex;
  padding: 0 12px 0 10px;
}
.here .initials {
  margin-left: -8px;
  cursor: pointer;
  padding: 0;
}
.middle {
  grid-row: 2;
  grid-column: 2;
  position: relative;
  min-width: 0;
  overflow: clip;
}
.side {
  grid-row: 2 / -1;
  grid-column: 3;
  width: 340px;
}
.foot {
  grid-row: 3;
  grid-column: 1 / 3;
}
.strip {
  display: flex;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 7px;
  box-shadow: var(--shadow);
}
.strip button {
  width: 29px;
  height: 27px;
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
  display: grid;
  place-items: center;
}
.strip button:hover {
  color: var(--porch);
  background: var(--hover);
}
.offer {
  position: absolute;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  background: var(--ink);
  color: var(--surface);
  border-radius: 8px;
  padding: 8px 14px;
  display: flex;
  gap: 12px;
  box-shadow: var(--shadow);
  z-index: 6;
  max-width: 90%;
}
/* Below stand the keys of the meeting. */
.offer.high {
  top: 58px;
  bottom: auto;
}
.offer button {
  border: 0;
  background: none;
  color: var(--offer);
  font-weight: 700;
  cursor: pointer;
  padding: 0;
}
.empty {
  position: absolute;
  left: 50%;
  top: 62%;
  transform: translateX(-50%);
  background: var(--surface);
  border: 1px dashed var(--line);
  border-radius: 8px;
  padding: 4px 18px;
  color: var(--quiet);
  pointer-events: none;
  text-align: center;
}
.panel {
  overflow: auto;
  background: var(--surface);
  border-left: 1px solid var(--line);
  padding: 10px 16px 16px;
}
.panel-head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 6px;
}
.move-under {
  position: absolute;
  left: 50%;
  top: 14px;
  transform: translateX(-50%);
  width: min(420px, calc(100% - 28px));
}
.only {
  position: absolute;
  left: 50%;
  top: 12px;
  transform: translateX(-50%);
  background: var(--ceiling);
  border-radius: 8px;
  padding: 5px 12px;
  z-index: 5;
  font-size: 13px;
}
.only button {
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 650;
  cursor: pointer;
  text-decoration: underline;
  padding: 4px;
}
.back {
  position: absolute;
  left: 50%;
  bottom: 16px;
  transform: translateX(-50%);
  z-index: 5;
  border: 1px solid var(--line);
  background: var(--surface);
  border-radius: 8px;
  box-shadow: var(--shadow);
  padding: 6px 12px;
  cursor: pointer;
  font-size: 13px;
  display: flex;
  gap: 7px;
  align-items: center;
}
.back:hover {
  border-color: var(--porch);
}
.only {
  display: flex;
  gap: 7px;
  align-items: center;
}
.icon-button[aria-pressed='true'] {
  background: var(--ceiling);
  color: var(--ink);
}
.menu-item {
  display: flex;
  justify-content: space-between;
  gap: 24px;
  width: 100%;
  color: inherit;
}
@media (max-width: 900px) {
  .tree-page.sheeted {
    grid-template-columns: auto minmax(0, 1fr);
  }
  .tray {
    position: fixed;
    left: 0;
    top: 52px;
    bottom: 86px;
    z-index: 8;
    height: auto;
    box-shadow: var(--shadow);
  }
  .side {
    position: fixed;
    right: 0;
    top: 52px;
    bottom: 86px;
    width: min(340px, 100vw);
    z-index: 8;
    box-shadow: var(--shadow);
  }
}
@media (max-width: 700px) {
  .top {
    padding: 0 8px;
    gap: 0;
  }
  .keys,
  .here,
  .redo,
  .extra {
    display: none;
  }
  .tree-title {
    flex: 1;
    min-width: 0;
    width: 0;
  }
  .grow {
    display: none;
  }
  .views {
    margin: 0;
  }
  .views button {
    padding: 6px 7px;
    font-size: 13px;
  }
}
</style>
