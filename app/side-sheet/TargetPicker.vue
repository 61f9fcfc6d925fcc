<script setup lang="ts">
import { byLetters } from '#core/find/by-letters'
import { isWithin, pathTo, shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/**
 * Chooses a topic by a few letters of its title. `without`: branches that can't be chosen, since they are what moves.
 */
const props = defineProps<{ label: string; letters?: string; without?: readonly TopicId[] }>()
const emit = defineEmits<{ chosen: [topic: TopicId]; closed: [] }>()
const desk = useDesk()
const target = ref(props.letters ?? '')
const at = ref(0)
const field = ref<HTMLInputElement>()
const MOST = 8

const targets = computed(() => {
  void desk.tick.value
  const { tree } = desk
  return byLetters(tree, target.value, MOST, topic => !props.without?.some(id => isWithin(tree, topic.id, id))).map(
    ({ id, title }) => ({
      id,
      title: shorten(title || 'untitled', 50),
      path: pathTo(tree, id)
        .slice(1, -1)
        .map(above => shorten(above.title, 18))
        .join(' › '),
    }),
  )
})
function key(event: KeyboardEvent): void {
  if (event.key !== 'Escape') event.stopPropagation()
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    at.value = Math.max(0, Math.min(targets.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    if (targets.value[at.value]) emit('chosen', targets.value[at.value]!.id)
  }
}
onMounted(() => {
  field.value?.setSelectionRange(target.value.length, target.value.length)
})
</script>

<template>
  <div
    v-opened="{ manner: 'layer', close: () => emit('closed') }"
    data-over-tree
    class="picker"
    role="dialog"
    :aria-label="label">
    <input
      ref="field"
      v-model="target"
      :placeholder="`${label} …`"
      :aria-label="label"
      role="combobox"
      aria-expanded="true"
      aria-controls="targets"
      :aria-activedescendant="targets[at] ? `target-${at}` : undefined"
      @keydown="key"
      @input="at = 0"
      @blur="emit('closed')" />
    <div id="targets" role="listbox" aria-label="Topics">
      <div
        v-for="(one, i) in targets"
        :id="`target-${i}`"
        :key="one.id"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @pointerdown.prevent="emit('chosen', one.id)">
        <b>{{ one.title }}</b><span class="quiet">{{ one.path }}</span>
      </div>
      <p v-if="targets.length === 0" class="quiet">No topic has these words.</p>
    </div>
  </div>
</template>

<style scoped>
.picker {
  background: var(--surface);
  border: 1px solid var(--porch);
  border-radius: 8px;
  box-shadow: var(--shadow);
  z-index: 9;
  padding: 6px;
}
input {
  width: 100%;
  border: 0;
  outline: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 5px 7px;
}
[role='option'] {
  display: flex;
  gap: 8px;
  padding: 5px 8px;
  border-radius: 5px;
  font-size: 13px;
  cursor: pointer;
  align-items: baseline;
}
.on {
  background: var(--ceiling);
}
b {
  font-weight: 600;
}
.quiet {
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  margin: 4px 8px;
}
[role='option'] .quiet {
  margin: 0;
}
</style>
