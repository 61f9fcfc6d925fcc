<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { backFromClick } from '~/focus/opened'
import { type Command, COMMANDS } from '~/keys/commands'
import { chordInWords, keys } from '~/keys/keys'
import { usePage } from './page'

/** The context menu of a topic: what is used most at once, the rest under its groups. */
const page = usePage()
const menu = ref<{
  show(event: Event): void
  hide(): void
  /** The groups that are open. */
  readonly activeItemPath: readonly { readonly item: { readonly label?: string } }[]
}>()
const isOpen = ref(false)
// The menu itself hears what is beside it only once it has come in, and a quick finger is beside it before.
useEventListener(
  document,
  'pointerdown',
  (event: PointerEvent) => {
    if (isOpen.value && !(event.target as Element).closest('.p-contextmenu')) menu.value?.hide()
  },
  { capture: true },
)
/**
 * What the pointer has opened on its way, the click that meant to open it doesn't close: asked of the menu itself, since a quick click
 * comes before the page says so, and a tap brings both at once.
 */
function stayOpen(event: Event, group: string): void {
  if (menu.value?.activeItemPath.some(({ item: open }) => open.label === group)) event.stopPropagation()
}
function closed(): void {
  isOpen.value = false
  void nextTick(backFromClick)
}
defineExpose({ show: (event: Event) => menu.value?.show(event) })

const item = (command: Command) => ({
  label: command.name,
  command: () => page.run(command),
  chord: keys.value[command.id]?.[0] ?? '',
})
const items = [
  ...COMMANDS.filter(command => command.menu === 'first').map(item),
  { separator: true },
  ...[...new Set(COMMANDS.map(command => command.group))].flatMap(group => {
    const inner = COMMANDS.filter(command => command.group === group && command.menu === 'more').map(item)
    return inner.length > 0 ? [{ label: group, items: inner }] : []
  }),
]
</script>

<template>
  <ContextMenu ref="menu" :model="items" @before-show="isOpen = true" @hide="closed">
    <template #item="{ item: one, props: at }">
      <a v-bind="at.action" class="menu-item" @click="one.items && stayOpen($event, String(one.label))"
        ><span>{{ one.label }}</span
        ><kbd v-if="one.chord">{{ chordInWords(String(one.chord)) }}</kbd
        ><Icon v-if="one.items" name="lucide:chevron-right" size="15" class="quiet"
      /></a>
    </template>
  </ContextMenu>
</template>

<style scoped>
.menu-item {
  display: flex;
  justify-content: space-between;
  gap: 24px;
  width: 100%;
  color: inherit;
}
</style>
