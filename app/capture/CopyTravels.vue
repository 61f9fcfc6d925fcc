<script setup lang="ts">
import { carriedBy, type CopyChoice, copyTree } from '#core/capture/copy'
import { allTopics, childrenOf, shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** What would travel in a copy, as whoever gets it finds it. */
const { choice } = defineProps<{ choice: CopyChoice }>()
const desk = useDesk()
const MOST_SHOWN = 60
const copy = computed(() => {
  void desk.lateTick.value
  return copyTree(desk.tree, choice)
})
const shown = computed(() => {
  const rows: { id: string; title: string; level: number; carries: string }[] = []
  const walk = (id: string, level: number): void => {
    const topic = topicOf(copy.value, id)
    rows.push({ id, title: shorten(topic.title, 60), level, carries: carriedBy(topic).join(', ') })
    for (const child of rows.length < MOST_SHOWN ? childrenOf(copy.value, id) : []) walk(child, level + 1)
  }
  walk(copy.value.centre, 0)
  return rows.slice(0, MOST_SHOWN)
})
const count = computed(() => [...allTopics(copy.value)].length)
</script>

<template>
  <div>
    <h3>{{ count.toLocaleString('en') }} {{ count === 1 ? 'topic' : 'topics' }} as they would travel</h3>
    <ol aria-label="What would travel" tabindex="0">
      <li v-for="row in shown" :key="row.id" :style="{ paddingLeft: `${row.level * 14}px` }" dir="auto">
        {{ row.title }} <span v-if="row.carries" class="quiet">{{ row.carries }}</span>
      </li>
      <li v-if="count > shown.length" class="quiet">and {{ (count - shown.length).toLocaleString('en') }} more</li>
    </ol>
  </div>
</template>

<style scoped>
h3 {
  font: 600 13px var(--text);
  margin: 0 0 4px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 8px 10px;
  height: min(170px, 22vh);
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 8px;
  font-size: 13px;
}
</style>
