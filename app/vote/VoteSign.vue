<script setup lang="ts">
import { shorten } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { usePage } from '~/page/page'

/** Says that something is asked which one hasn't answered; the keys stay where they are. */
const desk = useDesk()
const page = usePage()
const first = computed(() => desk.voting.open[0] ?? null)
const words = computed(() => {
  if (!first.value) return ''
  const { by, question, topic } = first.value
  return `${desk.nameOf(by)} asks: ${shorten(question || desk.tree.topics.get(topic)?.title || 'untitled', 60)}`
})
</script>

<template>
  <div v-if="first" class="sign" role="status">
    <Icon name="lucide:vote" size="16" /><span dir="auto">{{ words }}</span>
    <Button size="small" label="Vote" @click="page.open('vote')" />
  </div>
</template>

<style scoped>
.sign {
  position: absolute;
  top: 10px;
  left: 50%;
  translate: -50%;
  z-index: 6;
  display: flex;
  align-items: center;
  gap: 10px;
  max-width: calc(100% - 24px);
  padding: 6px 8px 6px 14px;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-left: 3px solid var(--sun);
  border-radius: 6px;
  box-shadow: var(--shadow);
}
.sign span {
  overflow-wrap: anywhere;
}
</style>
