<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { type Difference, differencesOf, fieldInWords } from '#core/compare/differences'
import { byOthers, marksOfDifferences, NEWS_WORDS, type NewsWord, wordOf } from '#core/history/marks'
import { lastBegun } from '#core/meeting/brief'
import { allTopics, fromSnapshot, shorten, topicOf, type TopicId, type Tree } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { SentTree } from '~/session/offline'

/**
 * What is new since one last looked, or since the last meeting began: pointed out on the planks, and listed branch by
 * branch, to be gone through by the arrow keys. Leaving it takes the marks away.
 */
const desk = useDesk()
const list = ref<HTMLElement>()

const lastMeeting = computed(() => {
  void desk.lateTick.value
  return lastBegun(desk.tree)
})
type From = 'looked' | 'meeting'
const from = ref<From>('looked')
const since = computed(() => (from.value === 'meeting' ? lastMeeting.value?.number : desk.session.seenBefore) ?? null)
const found = shallowRef<readonly Difference[] | null>(null)
const wrong = ref('')
/** The tree as it was then: asked for once, and compared here with what it becomes. */
let before: Tree | null = null
let asked = 0
async function ask(): Promise<void> {
  const mine = ++asked
  wrong.value = ''
  found.value = before = null
  if (since.value === null) return
  try {
    const [{ snapshot }, whose] = await Promise.all([
      callApi<SentTree>(`/api/trees/${desk.session.treeId}/moments/${since.value}`),
      askWhose(),
    ])
    if (mine !== asked) return
    before = fromSnapshot(snapshot)
    touched = whose
    compare()
  } catch (error) {
    if (mine === asked) wrong.value = (error as Error).message
  }
}
/** What others touched since one looked: what one did oneself, here or in another browser, is nothing new. Null: it's everybody's. */
let touched: ReadonlySet<TopicId> | null = null
async function askWhose(): Promise<ReadonlySet<TopicId> | null> {
  const topics =
    from.value === 'meeting'
      ? null
      : await callApi<TopicId[]>(`/api/trees/${desk.session.treeId}/touched`, {
          query: { since: String(since.value ?? 0) },
        })
  return topics && new Set(topics)
}
function compare(): void {
  if (!before) return
  const all = differencesOf(before, desk.tree, { order: true })
  const own = touched ? byOthers(all, before, touched) : all
  // In reading order; what went has no place any more.
  const places = new Map<TopicId, number>()
  if (own.length > 1) for (const { id } of allTopics(desk.tree)) places.set(id, places.size)
  found.value = [...own].sort((a, b) => (places.get(a.id) ?? Infinity) - (places.get(b.id) ?? Infinity) || 0)
  desk.marks.value = marksOfDifferences(found.value, before, desk.tree)
}
watch([since, from], ask, { immediate: true })
// What is done meanwhile is new as well; it may wait for a pause.
const compareLater = useDebounceFn(async () => {
  const mine = asked
  // Without a line nothing comes from others.
  const whose = await askWhose().catch(() => touched)
  if (mine !== asked) return
  touched = whose
  compare()
}, 400)
const stop = desk.onChange(() => void compareLater())
onBeforeUnmount(() => {
  stop()
  // An answer that is still on its way points nothing out any more.
  asked++
  before = null
  desk.marks.value = new Map()
})
const word = (one: Difference): NewsWord => wordOf(one, desk.tree)

/** Letters that titles must have. */
const words = ref('')
const branches = computed(() => {
  const groups = new Map<string, Difference[]>()
  const wanted = words.value.trim().toLocaleLowerCase()
  for (const one of found.value ?? []) {
    if (!one.title.toLocaleLowerCase().includes(wanted)) continue
    const branch = one.path[1] ?? one.title
    groups.set(branch, [...(groups.get(branch) ?? []), one])
  }
  return [...groups].map(([title, items]) => ({ title: title || 'untitled', items }))
})
const counts = computed(() =>
  NEWS_WORDS.map(each => [each, (found.value ?? []).filter(one => word(one) === each).length] as const)
    .filter(([, count]) => count > 0)
    .map(([each, count]) => `${count} ${each}`)
    .join(' · '),
)
function more(one: Difference): string {
  if (one.kind === 'changed') {
    const fields = [
      ...new Set(
        one.fields.filter(field => field !== 'title' && !(field === 'done' && word(one) === 'done')).map(fieldInWords),
      ),
    ].join(', ')
    return [one.was === null ? '' : `was “${shorten(one.was, 40)}”`, fields].filter(Boolean).join('; ')
  }
  return one.kind === 'moved' ? `to ${one.path.slice(1).join(' › ') || 'the centre'}` : ''
}
function show(one: Difference): void {
  if (desk.tree.topics.has(one.id) && one.kind !== 'removed') desk.visit(one.id)
}
function key(event: KeyboardEvent): void {
  const enters = event.key === 'Enter' && event.target instanceof HTMLInputElement
  const step = enters ? 1 : { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step) return
  const all = [...(list.value?.querySelectorAll<HTMLButtonElement>('button') ?? [])]
  const at = all.indexOf(document.activeElement as HTMLButtonElement)
  const next = all[Math.min(all.length - 1, Math.max(0, at + step))]
  event.preventDefault()
  next?.focus()
  next?.click()
}
const centre = computed(() => topicOf(desk.tree, desk.tree.centre).title)
</script>

<template>
  <div class="since" @keydown="key">
    <InputText
      v-model="words"
      data-first
      aria-label="Find in what is new"
      placeholder="A few letters, or the arrow keys" />
    <span class="segments" role="group" aria-label="Since when"
      ><button :aria-pressed="from === 'looked'" @click="from = 'looked'">Since I last looked</button
      ><button
        :aria-pressed="from === 'meeting'"
        :disabled="!lastMeeting"
        :title="lastMeeting ? `Since “${lastMeeting.title}” began` : 'No meeting has begun yet'"
        @click="from = 'meeting'">
        Since the last meeting
      </button></span
    >
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }} <button class="plain" @click="ask">Try again</button></p>
    <p v-else-if="since === null" class="quiet">Without a line it isn’t known what is new.</p>
    <p v-else-if="!found" class="quiet" role="status">Comparing …</p>
    <p v-else-if="found.length === 0" class="quiet" role="status">Nothing in “{{ shorten(centre, 40) }}” is new.</p>
    <p v-else class="counts" role="status">{{ counts }}</p>
    <div ref="list">
      <template v-for="branch in branches" :key="branch.title">
        <h3>{{ shorten(branch.title, 40) }}</h3>
        <button
          v-for="one in branch.items"
          :key="`${one.kind} ${one.id}`"
          class="line"
          :class="{ went: one.kind === 'removed' }"
          @click="show(one)">
          <b class="word" :class="word(one)">{{ word(one) }}</b>
          <span class="what" dir="auto"
            >{{ shorten(one.title || 'untitled', 80) }}<small v-if="more(one)">{{ more(one) }}</small></span
          >
        </button>
      </template>
    </div>
  </div>
</template>

<style scoped>
.since {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.counts {
  margin: 4px 0;
  font-weight: 600;
}
h3 {
  margin: 12px 0 4px;
  font: 600 13px var(--text);
  color: var(--quiet);
}
.line {
  display: flex;
  gap: 10px;
  align-items: baseline;
  width: 100%;
  min-height: 34px;
  text-align: left;
  border: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  padding: 5px 6px;
  border-radius: 5px;
  cursor: pointer;
}
.line:hover {
  background: var(--hover);
}
.word {
  flex: none;
  width: 60px;
  text-align: center;
  font: 650 11px/17px var(--text);
  outline: 1.5px solid var(--sun);
}
.word.new {
  background: var(--sun);
  color: #352400;
}
.word.moved {
  outline-style: dashed;
}
.word.done {
  background: var(--fern);
  color: #fff;
  outline-color: var(--fern);
}
.word.went {
  outline: 1.5px dashed var(--clay);
  color: var(--clay);
}
.went .what {
  text-decoration: line-through;
}
small {
  display: block;
  color: var(--quiet);
  overflow-wrap: anywhere;
}
.wrong {
  color: var(--clay);
}
</style>
