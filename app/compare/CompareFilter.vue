<script setup lang="ts">
import { ENTRY_KINDS } from '#core/side-by-side/entries'
import { collator, shorten, topicOf } from '#core/tree'
import type { Comparing } from './useComparison'

/** Which differences are shown: by kind, field, person, branch and letters; or what is asked. */
const { comparing } = defineProps<{ comparing: Comparing }>()
const { wanted } = comparing
const words = collator(ownLocale())
const fields = computed(() =>
  [...new Set(comparing.entries.value.flatMap(({ lines }) => lines.map(({ name }) => name)))].sort(words.compare),
)
const people = computed(() =>
  Object.entries(comparing.comparison.value?.names ?? {}).sort(([, a], [, b]) => words.compare(a, b)),
)
const branches = computed(() => {
  const trees = comparing.trees.value
  if (!trees) return []
  const found = new Map<string, string>()
  for (const tree of [trees.here, trees.there])
    for (const id of tree.children.get(tree.centre) ?? [])
      if (!found.has(id)) found.set(id, shorten(topicOf(tree, id).title || 'untitled', 40))
  return [...found]
})
const asks = computed(() => comparing.entries.value.some(({ by }) => by === 'both'))
const clear = (): unknown =>
  Object.assign(wanted, { kind: '', field: '', person: '', branch: '', letters: '', asked: false })
</script>

<template>
  <div class="narrow-by" role="group" aria-label="Which differences">
    <InputText v-model="wanted.letters" class="letters" aria-label="Letters of the title" placeholder="A few letters" />
    <select v-model="wanted.kind" aria-label="Kind of difference">
      <option value="">any difference</option>
      <option v-for="kind in ENTRY_KINDS" :key="kind" :value="kind">{{ kind }}</option>
    </select>
    <select v-model="wanted.field" aria-label="Field">
      <option value="">any field</option>
      <option v-for="field in fields" :key="field" :value="field">{{ field }}</option>
    </select>
    <select v-if="people.length" v-model="wanted.person" aria-label="Person">
      <option value="">anybody’s</option>
      <option v-for="[id, name] in people" :key="id" :value="id">{{ name }}</option>
    </select>
    <select v-model="wanted.branch" aria-label="Branch">
      <option value="">any branch</option>
      <option v-for="[id, title] in branches" :key="id" :value="id">{{ title }}</option>
    </select>
    <button v-if="asks" class="chip" :aria-pressed="wanted.asked" @click="wanted.asked = !wanted.asked">
      changed on both sides
    </button>
    <button v-if="comparing.isNarrowed.value" class="plain" @click="clear">All</button>
  </div>
</template>

<style scoped>
.letters {
  width: 120px;
  padding: 5px 8px;
  font-size: 13px;
}
select {
  max-width: 138px;
}
</style>
