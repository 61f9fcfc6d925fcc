<script setup lang="ts">
import type { Run } from '#core/compare/words'
import { byBranch, countsInWords } from '#core/side-by-side/report'
import type { Entry, EntryLine } from '#core/side-by-side/entries'
import { shorten } from '#core/tree'
import type { Answer, Comparing } from './useComparison'

/** What is different, branch by branch: a box for each topic that can be taken over, and a question where both sides changed it. */
const { comparing } = defineProps<{ comparing: Comparing }>()
const emit = defineEmits<{ show: [id: string] }>()
const list = ref<HTMLElement>()
/** Entries that are drawn at once; the rest by asking. */
const STEP = 300
const most = ref(STEP)
watch(comparing.shown, () => {
  most.value = STEP
})
const branches = computed(() => byBranch(comparing.shown.value.slice(0, most.value)))
const left = computed(() => comparing.shown.value.length - most.value)
const SNAGS = {
  'removed-there': 'gone there, but changed here',
  'removed-here': 'gone here, but changed there',
  round: 'both moves together would lead round in a circle',
} as const
const WHO = { here: 'changed here', there: 'changed there', both: 'changed on both sides', neither: '' } as const
function who({ by, snag, kinds }: Entry): string {
  if (snag) return SNAGS[snag]
  if (by === 'both' || by === 'neither') return WHO[by]
  if (kinds.includes('only here')) return by === 'here' ? 'new here' : 'taken away there'
  if (kinds.includes('only there')) return by === 'there' ? 'new there' : 'taken away here'
  return WHO[by]
}
const asksAsWhole = (entry: Entry): boolean => entry.by === 'both' && entry.lines.every(({ by }) => by !== 'both')
const tick = (entry: Entry, event: Event): void =>
  comparing.set(entry.keys, (event.target as HTMLInputElement).checked ? 'there' : 'here')
const answers = (line: Pick<EntryLine, 'canJoin'> | null): { value: Exclude<Answer, 'open'>; words: string }[] => [
  { value: 'here', words: 'as here' },
  { value: 'there', words: 'as there' },
  ...(line?.canJoin && comparing.comparison.value?.sides.common
    ? [{ value: 'both' as const, words: 'keep both' }]
    : []),
]
/** What a line says as text by words, where it isn't compared so: what was there, then what is here. */
const runsOf = ({ runs, there, here }: EntryLine): readonly Run[] =>
  runs ?? [
    there ? { kind: 'gone', text: there } : { kind: 'same', text: 'none' },
    { kind: 'same', text: ' → ' },
    here ? { kind: 'come', text: here } : { kind: 'same', text: 'none' },
  ]
const LEGEND: readonly Run[] = [
  { kind: 'gone', text: 'as there' },
  { kind: 'same', text: ' → ' },
  { kind: 'come', text: 'as here' },
]

/** Arrow keys go from entry to entry. */
function key(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step || event.target instanceof HTMLSelectElement) return
  const all = [...(list.value?.querySelectorAll<HTMLElement>('[data-entry]') ?? [])]
  const at = all.indexOf(document.activeElement?.closest('article')?.querySelector('[data-entry]') as HTMLElement)
  event.preventDefault()
  all[Math.min(all.length - 1, Math.max(0, at + step))]?.focus()
}
</script>

<template>
  <div ref="list" class="entries" @keydown="key">
    <p v-if="comparing.entries.value.length === 0" class="none" role="status">Nothing is different.</p>
    <p v-else-if="comparing.shown.value.length === 0" class="none" role="status">Nothing of that kind is different.</p>
    <p v-else class="counts">
      <b role="status">{{ countsInWords(comparing.shown.value) }}</b>
      <small><WordRuns :runs="LEGEND" /></small>
    </p>
    <section v-for="branch in branches" :key="branch.title">
      <h3 dir="auto">{{ shorten(branch.title, 60) }}</h3>
      <article v-for="entry in branch.entries" :key="entry.id ?? ''" :aria-label="entry.title || 'untitled'">
        <input
          v-if="comparing.mayTake.value && entry.keys.length"
          type="checkbox"
          :aria-label="`Take over ${entry.title || 'untitled'}`"
          :checked="comparing.isTaken(entry.keys) === true"
          :indeterminate="comparing.isTaken(entry.keys) === 'some'"
          @change="tick(entry, $event)" />
        <span v-else class="box" :title="comparing.mayTake.value ? 'It comes or goes with the branch above it' : ''" />
        <div class="what">
          <button class="head" data-entry @click="entry.id && emit('show', entry.id)">
            <b v-for="kind in entry.kinds" :key="kind" class="word" :class="kind">{{ kind }}</b>
            <span dir="auto">{{ shorten(entry.title || 'untitled', 120) }}</span>
            <small v-if="entry.path.length > 2" dir="auto">{{
              entry.path
                .slice(2)
                .map(one => shorten(one || 'untitled', 24))
                .join(' › ')
            }}</small>
            <small v-if="who(entry)" class="by" :class="{ asks: entry.by === 'both' }">{{ who(entry) }}</small>
          </button>
          <p
            v-if="asksAsWhole(entry) && comparing.mayTake.value"
            class="asks"
            role="group"
            aria-label="Which of the two">
            <button
              v-for="one in answers(null)"
              :key="one.value"
              :aria-pressed="comparing.answerOf(entry) === one.value"
              @click="comparing.set(entry.keys, one.value)">
              {{ one.words }}
            </button>
          </p>
          <dl v-if="entry.lines.length">
            <template v-for="line in entry.lines" :key="line.name">
              <dt>{{ line.name }}</dt>
              <dd dir="auto">
                <WordRuns :runs="runsOf(line)" />
                <span
                  v-if="line.by === 'both' && comparing.mayTake.value"
                  class="asks"
                  role="group"
                  :aria-label="`Which ${line.name}`">
                  <button
                    v-for="one in answers(line)"
                    :key="one.value"
                    :aria-pressed="comparing.answerOf(line) === one.value"
                    @click="comparing.set(line.keys, one.value)">
                    {{ one.words }}
                  </button>
                </span>
              </dd>
            </template>
          </dl>
        </div>
      </article>
    </section>
    <button v-if="left > 0" class="plain" @click="most += STEP">
      Show {{ Math.min(left, STEP) }} more of {{ left }}
    </button>
  </div>
</template>

<style scoped>
.entries {
  overflow: auto;
  height: 100%;
  padding: 12px 20px 24px;
}
.entries > * {
  max-width: 860px;
  margin-inline: auto;
}
.none {
  font-weight: 600;
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: baseline;
}
h3 {
  margin: 18px 0 4px;
  font: 600 15px var(--display);
}
article {
  display: flex;
  gap: 10px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
article > input,
.box {
  flex: none;
  width: 16px;
  height: 16px;
  margin: 8px 0 0;
  accent-color: var(--porch);
}
.what {
  flex: 1;
  min-width: 0;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 3px 9px;
  width: 100%;
  min-height: 30px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
  padding: 4px 6px;
  cursor: pointer;
}
.head:hover {
  background: var(--hover);
}
.word {
  flex: none;
  padding: 0 6px;
  font: 650 11px/17px var(--text);
  outline: 1.5px solid var(--sun);
}
.word.here {
  background: var(--sun);
  color: #352400;
}
.word.there {
  outline: 1.5px dashed var(--clay);
  color: var(--clay);
}
.word.moved {
  outline-style: dashed;
}
small {
  color: var(--quiet);
  overflow-wrap: anywhere;
}
.by {
  margin-left: auto;
}
.by.asks {
  color: var(--clay);
  font-weight: 600;
}
dl {
  display: grid;
  grid-template-columns: minmax(70px, 110px) minmax(0, 1fr);
  gap: 2px 12px;
  margin: 0 0 4px 6px;
  font-size: 13.5px;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
p.asks {
  margin: 2px 0 4px 6px;
}
span.asks {
  display: inline-flex;
  margin-left: 10px;
}
.asks button {
  border: 1px solid var(--line);
  background: var(--surface);
  color: inherit;
  font: 600 12px var(--text);
  min-height: 26px;
  padding: 2px 9px;
  cursor: pointer;
}
.asks button:first-child {
  border-radius: 6px 0 0 6px;
}
.asks button:last-child {
  border-radius: 0 6px 6px 0;
}
.asks [aria-pressed='true'] {
  background: var(--porch);
  border-color: var(--porch);
  color: var(--on-porch);
}
</style>
