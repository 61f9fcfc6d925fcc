<script setup lang="ts">
import type { DroppedLine } from '~/capture/useDropIn'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { makeOf } from './making'

/** What becomes of a line of the talk that was dropped on the canvas: a topic, a task, or a comment. */
const { line } = defineProps<{ line: DroppedLine }>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
const talk = desk.talking.talk.value
const comment = computed(() => talk?.bench()?.comments.find(({ id }) => id === line.comment))
const over = computed(() => (line.over ? topicOf(desk.tree, line.over) : null))

function close(): void {
  emit('closed')
  focusTree()
}
function make(as: 'topic' | 'task'): void {
  const where = line.slot ? { slot: line.slot } : { under: line.over ?? desk.focus.value }
  const id = comment.value && makeOf(desk, comment.value, as, where)
  close()
  if (id) desk.visit(id)
}
function say(): void {
  const { body } = comment.value ?? {}
  if (body && line.over && talk) {
    talk.begins({ on: 'topic', topic: line.over }, body)
    if (desk.session.canEdit) talk.became(line.comment, { as: 'comment', topic: line.over })
    desk.select(line.over, { quiet: true })
    desk.talking.show(line.over)
  }
  close()
}
</script>

<template>
  <Teleport to="body">
    <div
      v-opened="{ manner: 'layer', close }"
      class="dropped"
      role="dialog"
      aria-label="What becomes of the line"
      :style="{ left: `${line.left}px`, top: `${line.top}px` }">
      <button v-if="desk.session.canEdit" @click="make('topic')">
        <Icon name="lucide:corner-down-right" size="14" /> Topic
      </button>
      <button v-if="desk.session.canEdit" @click="make('task')">
        <Icon name="lucide:square-check" size="14" /> Task
      </button>
      <button v-if="over" @click="say"><Icon name="lucide:message-square" size="14" /> Comment on it</button>
      <button data-close @click="close">Nothing</button>
    </div>
  </Teleport>
</template>

<style scoped>
.dropped {
  position: fixed;
  z-index: 1100;
  display: flex;
  gap: 2px;
  padding: 4px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--surface);
  box-shadow: var(--shadow);
  translate: -20px 6px;
}
button {
  display: flex;
  align-items: center;
  gap: 5px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: 550 13px var(--text);
  padding: 6px 9px;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: var(--ceiling);
}
</style>
