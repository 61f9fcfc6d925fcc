<script setup lang="ts">
import { addSibling } from '~/capture/building'
import { useDesk } from '~/desk/desk'
import { commandOf } from '~/keys/commands'
import { usePage } from './page'

/**
 * What a thumb does to the selection, where there is no keyboard: add, nest, move, mark, date, finish, take away, and the
 * menu for the rest. While a title is being typed it goes on, in and out without leaving the field.
 */
const emit = defineEmits<{ menu: [event: Event] }>()
const desk = useDesk()
const page = usePage()
const may = computed(() => desk.status.ready && desk.session.canEdit)

const ITEMS = (
  [
    ['child', 'lucide:corner-down-right', 'Under'],
    ['sibling-after', 'lucide:arrow-down-to-line', 'After'],
    ['mark', 'lucide:bookmark', 'Mark'],
    ['task', 'lucide:calendar-days', 'Date'],
    ['done', 'lucide:square-check', 'Done'],
    ['move-in', 'lucide:indent-increase', 'In'],
    ['move-out', 'lucide:indent-decrease', 'Out'],
    ['move-up', 'lucide:arrow-up', 'Up'],
    ['move-down', 'lucide:arrow-down', 'Down'],
    ['edit', 'lucide:pencil', 'Title'],
    ['picture', 'lucide:image', 'Picture'],
    ['remove', 'lucide:trash-2', 'Delete'],
  ] as const
).map(([id, icon, word]) => ({ command: commandOf(id)!, icon, word }))
const TYPING = [
  { name: 'Next topic', icon: 'lucide:arrow-down-to-line', word: 'Next', run: () => addSibling(desk, 'after') },
  { name: 'One level in', icon: 'lucide:indent-increase', word: 'In', run: () => desk.moveWhileTyping('in') },
  { name: 'One level out', icon: 'lucide:indent-decrease', word: 'Out', run: () => desk.moveWhileTyping('out') },
  { name: 'Keep the title', icon: 'lucide:check', word: 'Keep', run: () => desk.keep() },
] as const
</script>

<template>
  <div v-if="may" class="thumb" role="toolbar" aria-label="The selected topic">
    <!-- The field keeps the focus: what is pressed here belongs to it. -->
    <template v-if="desk.editing.value">
      <button
        v-for="item in TYPING"
        :key="item.name"
        tabindex="-1"
        :aria-label="item.name"
        @pointerdown.prevent
        @click="item.run()">
        <Icon :name="item.icon" size="19" /><span>{{ item.word }}</span>
      </button>
    </template>
    <template v-else>
      <!-- It's longer than a narrow screen, and can be pushed along by keys too. -->
      <div class="row" role="group" aria-label="What is done to it" tabindex="0">
        <button
          v-for="item in ITEMS"
          :key="item.command.id"
          tabindex="-1"
          :aria-label="item.command.name"
          @click="page.run(item.command)">
          <Icon :name="item.icon" size="19" /><span>{{ item.word }}</span>
        </button>
      </div>
      <button class="more" tabindex="-1" aria-label="More for this topic" @click="emit('menu', $event)">
        <Icon name="lucide:ellipsis" size="19" /><span>More</span>
      </button>
    </template>
  </div>
</template>

<style scoped>
.thumb {
  display: flex;
  min-width: 0;
  background: var(--surface);
  border-top: 1px solid var(--line);
}
.row {
  display: flex;
  flex: 1;
  min-width: 0;
  overflow-x: auto;
  scrollbar-width: none;
}
button {
  flex: 1 0 54px;
  height: 50px;
  border: 0;
  background: none;
  color: var(--ink);
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 3px;
  cursor: pointer;
  touch-action: manipulation;
}
button:active {
  background: var(--hover);
}
button span {
  font: 550 10.5px/1 var(--text);
  color: var(--quiet);
}
.more {
  flex: 0 0 52px;
  border-left: 1px solid var(--line);
}
</style>
