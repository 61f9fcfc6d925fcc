<script setup lang="ts">
import type { OtherSide } from '#core/contract/operations/trees'
import { keptInWords, type KeptMoment } from '#core/history/kept'
import { fileStem, shorten, topicOf } from '#core/tree'
import { DESK, Desk } from '~/desk/desk'
import { fontsReady } from '~/desk/ruler'
import { type CanvasHold, PAGE, Page } from '~/page/page'
import { usePageKeys } from '~/page/page-keys'
import { useNotice } from '~/page/notice'
import { FoldedSession } from '~/session/folded-session'
import { useComparison } from '~/compare/useComparison'

/** A tree side by side with another state of it: as a list, in two columns, and folded into one. */
definePageMeta({ path: '/trees/:id/compare', key: route => String(route.params.id) })

/** Keys that look and go; nothing is changed on the folded tree. */
const LOOKING = new Set([
  ...['up', 'down', 'left', 'right', 'first', 'last', 'centre', 'fold', 'fit', 'fit-selection'],
  ...['zoom-in', 'zoom-out', 'zoom-whole', 'depth-all', 'theme'],
  ...[1, 2, 3, 4, 5, 6].map(n => `depth-${n}`),
])
const VIEWS = { list: 'List', columns: 'Two columns', folded: 'Folded into one' } as const

const route = useRoute()
const account = useAccount()
const theme = useTheme()
const { notice, notify, dismiss } = useNotice()
const id = String(route.params.id)
const arriving = useArrivingWords()
const arrivedWith = useArrivedWith()
const desk = new Desk(id, account.me!.id, notify, events => new FoldedSession(id, account.me!.id, events))
provide(DESK, desk)
const page = new Page(desk, theme.toggle)
provide(PAGE, page)
usePageKeys(desk, page, LOOKING)
const canvas = page.canvas as Ref<CanvasHold | undefined>
const comparing = useComparison(id)
const view = ref<keyof typeof VIEWS>('list')
const called = ref('')
const asking = ref(false)
const ready = ref(false)
const narrow = useNarrow()
const filterOpen = ref(false)
const { busy, wrong, attempt } = useAttempt()
const saving = ref<{ toggle(event: Event): void }>()
useViewHeight()

async function choose(other: OtherSide, name: string, here?: number): Promise<void> {
  called.value = name
  asking.value = false
  hereAt.value = here ?? ''
  await comparing.load(other, here)
  if (comparing.wrong.value || !comparing.trees.value) return
  refold()
  if (!ready.value) {
    await fontsReady()
    desk.sheetOpen.value = false
    await desk.open()
    desk.view.value = 'canvas'
    ready.value = true
  }
}
/** Shows the comparison on the canvas as well. */
function refold(): void {
  if (comparing.trees.value) (desk.session as FoldedSession).show(comparing.foldedTree())
}
onMounted(() => {
  callApi<KeptMoment[]>(`/api/trees/${id}/moments`).then(
    kept => {
      moments.value = [...kept].reverse()
    },
    () => {
      /* then this side is the tree as it is now */
    },
  )
  const { moment, with: tree, here } = route.query
  if (moment !== undefined)
    void choose({ kind: 'moment', number: Number(moment) || 0 }, '', here ? Number(here) : undefined)
  else if (tree !== undefined) void choose({ kind: 'tree', tree: String(tree) }, '')
  else asking.value = true
})
onBeforeUnmount(() => desk.close())
watch(
  [comparing.marks, ready],
  () => {
    desk.marks.value = comparing.marks.value
  },
  { flush: 'post' },
)

const title = computed(() => {
  const tree = comparing.trees.value?.here
  return tree ? topicOf(tree, tree.centre).title : ''
})
const there = computed(() => {
  const other = comparing.comparison.value?.other
  if (!other) return called.value
  if (other.tree === id) return called.value || (other.number === 0 ? 'as it was made' : `after edit ${other.number}`)
  return other.tree === null ? `the file ${called.value}` : `“${shorten(other.title || 'untitled', 50)}”`
})
const here = computed(() => {
  const now = comparing.comparison.value
  return now && now.number < now.version ? `this tree after edit ${now.number}` : 'this tree now'
})
/** Whether anything is known of who changed what. */
const apart = computed(() => comparing.comparison.value !== null && comparing.comparison.value.sides.common === null)
function show(topic: string): void {
  if (!desk.tree.topics.has(topic)) return
  view.value = 'folded'
  void nextTick(() => desk.visit(topic))
}
/** Two moments of one tree: this side can be an earlier one too. */
const moments = shallowRef<readonly KeptMoment[]>([])
const hereAt = ref<number | ''>('')
async function goHere(event: Event): Promise<void> {
  const { value } = event.target as HTMLSelectElement
  hereAt.value = value === '' ? '' : Number(value)
  await comparing.at(hereAt.value === '' ? undefined : hereAt.value)
  refold()
}
const leave = (): unknown => navigateTo(`/trees/${id}`)
const takeOver = (): Promise<void> =>
  attempt(async () => {
    const count = comparing.chosen.value
    const { number } = await comparing.takeOver()
    arriving.value = `Taken over from ${there.value}: ${count} ${count === 1 ? 'difference' : 'differences'}.`
    arrivedWith.value = { tree: id, number }
    await navigateTo(`/trees/${id}`)
  })
function takeAll(all: boolean): void {
  comparing.set(
    comparing.shown.value.flatMap(({ keys }) => keys),
    all ? 'there' : 'here',
  )
}
async function save(kind: 'md' | 'html'): Promise<void> {
  const { reportHtml, reportMarkdown } = await import('#core/side-by-side/report')
  const head = { title: title.value, here: here.value, there: there.value, language: ownLocale() }
  const text = (kind === 'md' ? reportMarkdown : reportHtml)(head, comparing.shown.value)
  const type = kind === 'md' ? 'text/markdown' : 'text/html'
  const address = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }))
  saveAs(address, `${fileStem(title.value)}-compared.${kind}`)
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}
const kinds = [
  { label: 'As Markdown', command: () => save('md') },
  { label: 'As a page (HTML)', command: () => save('html') },
]
useHead({ title: computed(() => `${shorten(title.value || 'A tree', 60)}, side by side · Sun Porch`) })
</script>

<template>
  <div class="compare-page">
    <LookingHead
      v-model:view="view"
      back="Back to the tree"
      :title="title || 'Side by side'"
      :views="!asking && comparing.comparison.value ? VIEWS : null"
      @back="leave">
      <template #about>
        <p v-if="!asking && comparing.comparison.value" class="sides" dir="auto">
          <select v-if="moments.length" :value="hereAt" aria-label="This tree" @change="goHere">
            <option value="">this tree now</option>
            <option v-for="one in moments" :key="`${one.number} ${one.why}`" :value="one.number">
              {{ shorten(keptInWords(one), 50) }}
            </option>
          </select>
          <template v-else>{{ here }}</template>
          beside
          <button class="plain" title="Beside something else" @click="asking = true">{{ there }}</button>
        </p>
      </template>
      <Button
        v-if="!asking && comparing.comparison.value"
        size="small"
        text
        label="Save"
        aria-haspopup="menu"
        @click="saving?.toggle($event)" />
      <Menu ref="saving" :model="kinds" popup />
    </LookingHead>
    <main class="middle">
      <OtherSide v-if="asking" :tree-id="id" @choose="choose" />
      <div v-else-if="comparing.wrong.value" class="trouble">
        <p role="alert">{{ comparing.wrong.value }}</p>
        <Button size="small" label="Try again" @click="comparing.again()" />
        <Button size="small" text label="Beside something else" @click="asking = true" />
      </div>
      <p v-else-if="comparing.loading.value || !comparing.trees.value" class="trouble quiet" role="status">
        Comparing …
      </p>
      <template v-else>
        <EntryList v-if="view === 'list'" :comparing="comparing" @show="show" />
        <PairTable v-else-if="view === 'columns'" :comparing="comparing" :there="there" :here="here" @show="show" />
        <TreeCanvas v-else-if="ready" ref="canvas" />
        <NoticeBar v-if="notice" :notice="notice" @taken="dismiss" />
      </template>
    </main>
    <footer v-if="!asking && comparing.trees.value && !comparing.wrong.value" class="foot">
      <button v-if="narrow" class="plain" :aria-expanded="filterOpen" @click="filterOpen = !filterOpen">
        {{ comparing.isNarrowed.value ? 'Some differences' : 'Which differences' }}
      </button>
      <CompareFilter v-if="!narrow || filterOpen" :comparing="comparing" />
      <div v-if="comparing.mayTake.value && comparing.entries.value.length" class="taking">
        <span v-if="wrong" class="wrong" role="alert"
          >{{ wrong }} <button class="plain" @click="comparing.again()">Compare anew</button></span
        >
        <span v-else-if="comparing.open.value" class="open" role="status"
          >{{ comparing.open.value }} changed on both sides, as here until you say</span
        >
        <span v-else-if="apart" class="quiet">They have no moment in common, so nothing is chosen</span>
        <button class="plain" @click="takeAll(true)">Choose all</button>
        <button class="plain" @click="takeAll(false)">None</button>
        <Button
          size="small"
          :label="`Take over ${comparing.chosen.value}`"
          :disabled="busy || comparing.chosen.value === 0"
          @click="takeOver" />
      </div>
    </footer>
  </div>
</template>

<style scoped>
.compare-page {
  height: var(--view-height, 100%);
  overflow: clip;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  padding: 6px 16px;
  background: var(--surface);
  border-top: 1px solid var(--line);
}
.sides {
  margin: 0;
}
.middle {
  position: relative;
  min-width: 0;
  overflow: clip;
  display: grid;
}
.middle > * {
  min-height: 0;
}
.taking {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 6px 14px;
  margin-left: auto;
}
.trouble {
  padding: 48px;
}
.open,
.wrong {
  color: var(--clay);
  font-size: 13px;
  font-weight: 600;
}
</style>
