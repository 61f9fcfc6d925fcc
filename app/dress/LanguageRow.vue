<script setup lang="ts">
import { PARTED } from '#core/arrange/hyphenation'
import { branch, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** The language of what is selected, of the branches, or of the whole tree: long words are parted by it, spelling looked at, text read out. */
const { reach } = defineProps<{ reach: 'topic' | 'branch' | 'tree' }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
/** Behind those whose long words are parted. */
const OTHERS = ['ar', 'cs', 'el', 'he', 'hu', 'ja', 'ko', 'ro', 'ru', 'tr', 'uk', 'zh'] as const

const now = computed(() => {
  void desk.lateTick.value
  if (reach === 'tree') return desk.tree.fields.language
  return (desk.tree.topics.get(desk.focus.value) ?? topicOf(desk.tree, desk.tree.centre)).language
})
const names = new Intl.DisplayNames(['en'], { type: 'language', fallback: 'code' })
const named = (tags: readonly string[]) =>
  tags.map(tag => ({ tag, name: names.of(tag) ?? tag })).sort((a, b) => (a.name < b.name ? -1 : 1))
const choices = computed(() => {
  const known: readonly string[] = [...PARTED, ...OTHERS]
  return [
    ...named(PARTED),
    ...named(now.value !== null && !known.includes(now.value) ? [...OTHERS, now.value] : OTHERS),
  ]
})

function choose(event: Event): void {
  const tag = (event.target as HTMLSelectElement).value || null
  if (!desk.guard()) return
  if (reach === 'tree') desk.run({ changes: [{ op: 'tree', field: 'language', value: tag }] })
  else {
    const chosen = [...desk.selection.value].filter(id => desk.tree.topics.has(id))
    const ids = reach === 'topic' ? chosen : chosen.flatMap(id => [...branch(desk.tree, id)].map(topic => topic.id))
    desk.set('language', tag, [...new Set(ids)])
  }
}
</script>

<template>
  <label class="row">
    <span>Language</span>
    <select
      :value="now ?? ''"
      :disabled="!may"
      :aria-label="reach === 'tree' ? 'Language of the tree' : 'Language of what is selected'"
      @change="choose">
      <option value="">{{ reach === 'tree' ? 'not said' : 'as the tree' }}</option>
      <option v-for="{ tag, name } in choices" :key="tag" :value="tag">{{ name }}</option>
    </select>
  </label>
</template>

<style scoped src="./DressPanel.css"></style>
<style scoped>
.row > span:first-child {
  width: 62px;
}
select {
  min-height: 30px;
  padding: 2px 6px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--surface);
  color: var(--ink);
  font: inherit;
}
</style>
