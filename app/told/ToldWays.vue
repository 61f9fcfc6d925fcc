<script setup lang="ts">
import type { ToldWays, Watching } from '#core/contract'
import {
  KIND_WORDS,
  LETTERED,
  TOLD_KINDS,
  changedWays,
  type ToldKind,
  USUAL_WAYS,
  type WaysChange,
  type When,
} from '#core/telling/kinds'

/** How one wants to be told. Each choice is kept as it's made. */
const told = useTold()
const found = ref<ToldWays | null>(null)
const { wrong, attempt } = useAttempt()
const load = (): Promise<void> =>
  attempt(async () => {
    found.value = await callApi<ToldWays>('/api/told/ways')
  })
onMounted(load)

const CHOICES: readonly { readonly value: When; readonly label: string }[] = [
  { value: 'now', label: 'At once' },
  { value: 'daily', label: 'Once a day' },
  { value: 'weekly', label: 'Once a week' },
  { value: 'never', label: 'Never' },
]
const choicesOf = (kind: ToldKind): { readonly value: When; readonly label: string }[] =>
  // A letter of its own goes out for these: there is nothing to gather.
  LETTERED.has(kind) ? CHOICES.filter(({ value }) => value === 'now' || value === 'never') : [...CHOICES]
const choiceOf = (kind: ToldKind): When => {
  const now = found.value!.ways.kinds[kind]
  return LETTERED.has(kind) && now !== 'never' ? 'now' : now
}

/** Only what was chosen goes out, and goes out though one leaves at once: two quick choices can't undo each other. */
async function keep(change: WaysChange): Promise<void> {
  if (!found.value) return
  found.value = { ...found.value, ways: changedWays(found.value.ways, change) }
  await attempt(() => callApi('/api/told/ways', { method: 'PATCH', body: change, keepalive: true }))
  // What isn't kept isn't shown as if it were.
  if (wrong.value) {
    const why = wrong.value
    await load()
    wrong.value = why
  }
}
const choose = (kind: ToldKind, value: When): Promise<void> => keep({ kinds: { [kind]: value } })
function setQuiet(part: 'from' | 'to', event: Event): void {
  const { value } = event.target as HTMLInputElement
  const { quiet } = found.value!.ways
  if (/^\d{2}:\d{2}$/.test(value) && quiet) void keep({ quiet: { ...quiet, [part]: value } })
}

const refused = ref('')
async function ring(to: boolean): Promise<void> {
  refused.value = await told.setRings(to)
}
const nameOf = ({ tree, topic }: Watching): string =>
  topic ? `${topic.title || 'untitled'} in ${tree.title || 'untitled'}` : tree.title || 'untitled'
const stop = (one: Watching): Promise<void> =>
  attempt(async () => {
    await callApi(`/api/trees/${one.tree.id}/watched/${one.watched}`, { method: 'DELETE' })
    await load()
  })
</script>

<template>
  <section class="ways" aria-labelledby="told-how">
    <h2 id="told-how">How I am told</h2>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }} <button @click="load">Try again</button></Message>
    <template v-if="found">
      <table>
        <thead class="sr">
          <tr>
            <th scope="col">What</th>
            <th scope="col">When</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="kind in TOLD_KINDS" :key="kind">
            <th :id="`told-${kind}`" scope="row">{{ KIND_WORDS[kind] }}</th>
            <td>
              <Select
                :model-value="choiceOf(kind)"
                :options="choicesOf(kind)"
                size="small"
                option-label="label"
                option-value="value"
                :aria-labelledby="`told-${kind}`"
                @update:model-value="choose(kind, $event)" />
            </td>
          </tr>
        </tbody>
      </table>
      <p class="quiet">
        It all stands here at once; what is daily or weekly comes as one letter in the morning, or on Monday. Nobody is
        told of what they did themselves.
      </p>
      <label class="line"
        ><input
          type="checkbox"
          :checked="found.ways.letters"
          @change="keep({ letters: ($event.target as HTMLInputElement).checked })" />Write me letters too</label
      >
      <label class="line"
        ><input
          type="checkbox"
          :checked="found.ways.quiet !== null"
          @change="keep({ quiet: ($event.target as HTMLInputElement).checked ? USUAL_WAYS.quiet : null })" />Quiet
        hours</label
      >
      <p v-if="found.ways.quiet" class="line hours">
        <label>from <input type="time" :value="found.ways.quiet.from" @change="setQuiet('from', $event)" /></label>
        <label>to <input type="time" :value="found.ways.quiet.to" @change="setQuiet('to', $event)" /></label>
        <span class="quiet">{{ found.zone }}</span>
      </p>
      <label class="line"
        ><input
          type="checkbox"
          :checked="told.rings"
          @change="ring(($event.target as HTMLInputElement).checked)" />Messages of this browser, while I look
        elsewhere</label
      >
      <p v-if="refused" class="wrong" role="status">{{ refused }}</p>
      <h3>What I watch</h3>
      <p v-if="found.watching.length === 0" class="quiet">
        Nothing yet. In a tree, <kbd>U</kbd> <kbd>W</kbd> watches the branch that is selected; at the centre, the tree.
      </p>
      <ul>
        <li v-for="one in found.watching" :key="one.tree.id + one.topic?.id">
          <NuxtLink :to="`/trees/${one.tree.id}${one.topic ? `?topic=${one.topic.id}` : ''}`" dir="auto">{{
            nameOf(one)
          }}</NuxtLink>
          <button class="plain" :aria-label="`${nameOf(one)}: watch no more`" @click="stop(one)">Let go</button>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
h2 {
  margin: 0 0 10px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: start;
  font-weight: 400;
  padding: 4px 12px 4px 0;
}
td {
  width: 150px;
  padding: 3px 0;
}
td > * {
  width: 100%;
}
.sr {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
.line {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
  margin: 0;
}
.line input[type='checkbox'] {
  accent-color: var(--fern);
}
.hours {
  gap: 4px 14px;
  padding-left: 24px;
}
.hours label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.hours {
  flex-wrap: wrap;
}
.hours input {
  font: inherit;
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 3px 6px;
}
.quiet {
  color: var(--quiet);
}
.wrong {
  color: var(--clay);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
}
li a {
  color: var(--ink);
  overflow-wrap: anywhere;
}
.plain {
  font: inherit;
}
</style>
