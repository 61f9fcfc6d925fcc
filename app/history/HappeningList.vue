<script setup lang="ts">
import { useDesk } from '~/desk/desk'
import { inWords } from '#core/history/words'
import { shorten } from '#core/tree'
import { speakerOf } from './speaking'
import type { History } from './useHistory'

/** What a sitting did, edit by edit in words; the one that is shown is marked, and a press goes to another. */
const { history } = defineProps<{ history: History }>()
const desk = useDesk()
const box = ref<HTMLElement>()
const time = new Intl.DateTimeFormat(ownLocale(), { hour: '2-digit', minute: '2-digit' })
const speaker = computed(() => speakerOf(desk, history.names.value))
const lines = computed(() =>
  history.told.value.map(edit => ({
    number: edit.number,
    at: edit.at,
    who: history.names.value[edit.by] ?? 'Somebody',
    hue: hueOf(edit.by),
    when: time.format(Date.parse(edit.at)),
    told: edit.happenings.map(told => ({ words: inWords(told, speaker.value), runs: told.words ?? [] })),
    more: edit.more,
    source:
      edit.source?.kind === 'moment'
        ? 'brought back from an earlier moment'
        : edit.source?.kind === 'taken-back'
          ? 'took an edit back'
          : edit.source?.kind === 'merged'
            ? 'taken over from a comparison'
            : '',
    first: edit.happenings.find(({ topic }) => topic !== null)?.topic ?? null,
  })),
)
/** Edits, and what was said between them, by time. */
const all = computed(() => {
  const said = history.said.value.map(one => ({ ...one, said: true as const }))
  const edits = lines.value.map(line => ({ ...line, said: false as const }))
  return [...edits, ...said].sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || Number(a.said) - Number(b.said))
})
const where = ({ topic }: { topic: { title: string } | null }): string =>
  topic ? `on “${shorten(topic.title || 'untitled', 60)}”` : 'in the talk of the tree'
async function show(number: number, topic: string | null): Promise<void> {
  await history.goTo(number)
  if (topic && desk.tree.topics.has(topic)) desk.visit(topic)
}
watch(history.at, () =>
  nextTick(() => box.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' })),
)
</script>

<template>
  <aside ref="box" class="happenings" aria-label="What happened">
    <h2 v-if="history.here.value">
      {{ dayInWords(isoDay(new Date(history.here.value.began))) }}, {{ time.format(history.here.value.began) }}–{{
        time.format(history.here.value.ended)
      }}
    </h2>
    <p v-else class="quiet">
      {{ history.at.value === 0 ? 'The tree as it was made.' : 'Choose a board below to see what was done.' }}
    </p>
    <ol>
      <template v-for="line in all" :key="line.said ? `s${line.number}` : line.number">
        <li v-if="line.said" class="said">
          <span class="who"
            ><i :style="{ background: hueOf(line.by) }" aria-hidden="true" />{{
              history.names.value[line.by] ?? 'Somebody'
            }}<time>{{ time.format(Date.parse(line.at)) }}</time></span
          >
          <span class="words"
            ><Icon name="lucide:message-square" size="13" /> {{ line.what }} {{ where(line)
            }}<q v-if="line.words" dir="auto">{{ line.words }}</q></span
          >
        </li>
        <li v-else :aria-current="line.number === history.at.value ? 'step' : undefined">
          <button :class="{ ahead: line.number > history.at.value }" @click="show(line.number, line.first)">
            <span class="who"
              ><i :style="{ background: line.hue }" aria-hidden="true" />{{ line.who
              }}<time>{{ line.when }}</time></span
            >
            <span v-if="line.source" class="quiet">{{ line.source }}</span>
            <span v-for="(one, i) in line.told" :key="i" class="words" dir="auto"
              >{{ one.words }}<WordRuns v-if="one.runs.length" class="note" :runs="one.runs"
            /></span>
            <span v-if="line.more" class="quiet">and {{ line.more }} more</span>
            <span v-if="line.told.length === 0" class="quiet">looked at it another way</span>
          </button>
        </li>
      </template>
    </ol>
  </aside>
</template>

<style scoped>
.said {
  padding: 7px 14px 7px 16px;
}
.said q {
  display: block;
  quotes: none;
  color: var(--quiet);
  padding-left: 8px;
  border-left: 3px solid var(--ceiling);
}
.happenings {
  background: var(--surface);
  border-left: 1px solid var(--line);
  overflow: auto;
  padding: 12px 0;
}
h2 {
  margin: 0 16px 8px;
  font: 600 14px var(--text);
}
p {
  margin: 0 16px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
button {
  display: block;
  width: 100%;
  text-align: left;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: var(--ink);
  padding: 7px 14px 7px 12px;
  cursor: pointer;
  font: inherit;
}
button:hover {
  background: var(--hover);
}
[aria-current] button {
  border-left-color: var(--sun);
  background: var(--hover);
}
.ahead {
  opacity: 0.62;
}
.who {
  display: flex;
  align-items: center;
  gap: 6px;
  font-weight: 600;
  font-size: 12.5px;
}
.who i {
  width: 9px;
  height: 9px;
}
time {
  margin-left: auto;
  color: var(--quiet);
  font-weight: 400;
}
.note {
  display: block;
  margin: 3px 0;
  padding-left: 8px;
  border-left: 3px solid var(--line);
  font-size: 12.5px;
}
.words {
  display: block;
  overflow-wrap: anywhere;
}
.quiet {
  display: block;
  color: var(--quiet);
}
</style>
