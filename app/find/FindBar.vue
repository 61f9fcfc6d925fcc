<script setup lang="ts">
import { useDesk } from '~/desk/desk'

/**
 * Looks for words in titles, notes, links and files; what doesn't match steps back, and the path to each match stays.
 */
const desk = useDesk()
const emit = defineEmits<{ filter: [] }>()
const field = ref<HTMLInputElement>()
const { text, matches, at } = desk.finding
const typed = ref(text.value)
let timer = 0
function type(): void {
  clearTimeout(timer)
  timer = window.setTimeout(
    () => {
      text.value = typed.value
    },
    desk.tree.topics.size > 5000 ? 120 : 0,
  )
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Escape') return
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    text.value = typed.value
    nextTick(() => desk.goFound(event.shiftKey ? -1 : 1))
  } else if (event.key === 'ArrowDown') focusTree()
}
function close(): void {
  clearTimeout(timer)
  desk.finding.close()
}
onBeforeUnmount(() => clearTimeout(timer))
const words = computed(() => {
  if (typed.value.trim() === '') return ''
  const count = matches.value.length
  if (count === 0) return 'nothing'
  return at.value >= 0 ? `${at.value + 1} of ${count}` : `${count} found`
})
defineExpose({ focus: () => field.value?.select() })
</script>

<template>
  <div v-opened="{ manner: 'layer', close }" data-over-tree class="find" role="search">
    <Icon name="lucide:search" size="15" class="quiet" />
    <input
      ref="field"
      v-model="typed"
      placeholder="Find in this tree"
      aria-label="Find in this tree"
      @input="type"
      @keydown="key" />
    <span class="quiet count" role="status">{{ words }}</span>
    <button class="icon-button" aria-label="Previous found" :disabled="matches.length === 0" @click="desk.goFound(-1)">
      <Icon name="lucide:chevron-up" size="16" />
    </button>
    <button class="icon-button" aria-label="Next found" :disabled="matches.length === 0" @click="desk.goFound(1)">
      <Icon name="lucide:chevron-down" size="16" />
    </button>
    <button class="icon-button" aria-label="Filter and views" @click="emit('filter')">
      <Icon name="lucide:list-filter" size="16" />
    </button>
    <button class="icon-button" aria-label="Close find" @click="close"><Icon name="lucide:x" size="16" /></button>
  </div>
</template>

<style scoped>
.find {
  position: absolute;
  top: 12px;
  left: 12px;
  z-index: 6;
  display: flex;
  align-items: center;
  gap: 4px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: var(--shadow);
  padding: 2px 4px 2px 11px;
  max-width: calc(100% - 24px);
}
input {
  border: 0;
  outline: 0;
  background: none;
  font: inherit;
  color: inherit;
  width: 190px;
  min-width: 60px;
  padding: 6px 2px;
}
.find:focus-within {
  border-color: var(--porch);
}
.count {
  font-size: 12.5px;
  min-width: 56px;
  text-align: right;
  white-space: nowrap;
}
</style>
