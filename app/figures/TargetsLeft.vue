<script setup lang="ts">
import { targetInWords, targetsIn } from '#core/figures/target'
import { shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { figuresOf } from './figuring'

/** What is left of targets, those that are missed first and in reading order: what a meeting must know before it spends more. */
const desk = useDesk()
const emit = defineEmits<{ visit: [topic: TopicId] }>()
const MOST = 8
const rows = computed(() => {
  void desk.lateTick.value
  return targetsIn(desk.tree, figuresOf(desk))
    .map(one => ({
      ...one,
      title: shorten(topicOf(desk.tree, one.topic).title, 60),
      words: targetInWords(one, ownLocale()),
      wide: `${Math.max(0, Math.min(1, one.part)) * 100}%`,
    }))
    .sort((a, b) => Number(b.bad) - Number(a.bad))
})
</script>

<template>
  <section v-if="rows.length" class="targets" aria-label="What is left of targets">
    <h2>What is left</h2>
    <ul>
      <li v-for="row in rows.slice(0, MOST)" :key="row.topic + row.measure.id" :class="{ bad: row.bad }">
        <button @click="emit('visit', row.topic)">{{ row.title }}</button>
        <span class="bar" aria-hidden="true"><i :style="{ width: row.wide }" /></span>
        <span class="words"
          >{{ row.measure.name }}: <b>{{ row.words }}</b></span
        >
      </li>
    </ul>
    <p v-if="rows.length > MOST" class="quiet">and {{ rows.length - MOST }} more, in Figures.</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 72px;
  gap: 0 10px;
  align-items: center;
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
  font-size: 14px;
}
button {
  border: 0;
  background: none;
  padding: 3px 0;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button:hover {
  text-decoration: underline;
}
.targets {
  margin-top: 22px;
}
h2 {
  margin: 0 0 6px;
  font: 650 16px/1.3 var(--display);
}
.words {
  grid-column: 1 / -1;
  font-size: 13px;
}
.bar {
  height: 6px;
  background: var(--line);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--porch);
}
.bad b {
  color: var(--clay);
}
.bad .bar i {
  background: repeating-linear-gradient(45deg, var(--clay) 0 4px, transparent 4px 6px);
}
</style>
