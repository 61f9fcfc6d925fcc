<script setup lang="ts">
import { HAPPENING_KINDS, type HappeningKind } from '#core/history/happenings'
import { collator, shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { History } from './useHistory'

/** Which sittings stand on the floor: by person, kind of change, branch and period. */
const { history } = defineProps<{ history: History }>()
const desk = useDesk()
const KINDS: Readonly<Record<HappeningKind, string>> = {
  added: 'added',
  removed: 'taken away',
  restored: 'brought back',
  moved: 'moved',
  renamed: 'renamed',
  task: 'dates and progress',
  people: 'people',
  markers: 'markers',
  note: 'notes',
  files: 'files',
  figures: 'figures',
  meeting: 'meetings',
  look: 'looks',
  other: 'anything else of a topic',
  tree: 'the tree itself',
}
const words = collator(ownLocale())
const people = computed(() => Object.entries(history.names.value).sort(([, a], [, b]) => words.compare(a, b)))
const { narrowing } = history
const branchTitle = computed(() => {
  void desk.tick.value
  const topic = narrowing.branch && desk.tree.topics.has(narrowing.branch) ? topicOf(desk.tree, narrowing.branch) : null
  return topic ? shorten(topic.title || 'untitled', 24) : 'a branch'
})
function clear(): void {
  Object.assign(narrowing, { person: '', kind: '', branch: '', since: null, until: null })
}
</script>

<template>
  <div class="narrow-by" role="group" aria-label="Which sittings">
    <select v-model="narrowing.person" aria-label="By">
      <option value="">by anybody</option>
      <option v-for="[id, name] in people" :key="id" :value="id">by {{ name }}</option>
    </select>
    <select v-model="narrowing.kind" aria-label="Kind of change">
      <option value="">any change</option>
      <option v-for="kind in HAPPENING_KINDS" :key="kind" :value="kind">{{ KINDS[kind] }}</option>
    </select>
    <button
      class="chip"
      :class="{ on: narrowing.branch }"
      :aria-pressed="narrowing.branch !== ''"
      @click="narrowing.branch = narrowing.branch ? '' : desk.focus.value">
      {{ narrowing.branch ? `in ${branchTitle}` : 'this branch only' }}
    </button>
    <DayField v-model="narrowing.since" class="day" label="From" placeholder="from …" />
    <DayField v-model="narrowing.until" class="day" label="Until" placeholder="until …" />
    <button v-if="history.narrowed.value" class="plain" @click="clear">All</button>
  </div>
</template>

<style scoped>
.day {
  width: 150px;
}
</style>
