<script setup lang="ts">
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { alignSelection, byHand, distributeSelection, layer } from './arranging'

/** What lines up, spreads and layers topics that stand by hand; it comes when several of them are selected. */
const desk = useDesk()
const standing = computed(() => {
  void desk.lateTick.value
  return desk.session.canEdit && desk.selection.value.size > 1 ? byHand(desk) : []
})
const anchor = computed(() => {
  void desk.lateTick.value
  const { value: focus } = desk.focus
  const id = standing.value.includes(focus) ? focus : standing.value.at(-1)
  return id === undefined ? '' : shorten(topicOf(desk.tree, id).title || 'untitled', 24)
})
const LINES = [
  ['left', 'lucide:align-start-vertical', 'Left edges'],
  ['middle', 'lucide:align-center-vertical', 'In one column'],
  ['right', 'lucide:align-end-vertical', 'Right edges'],
  ['top', 'lucide:align-start-horizontal', 'Top edges'],
  ['centre', 'lucide:align-center-horizontal', 'In one row'],
  ['bottom', 'lucide:align-end-horizontal', 'Bottom edges'],
] as const
const GAPS = [
  ['across', 'lucide:align-horizontal-space-around', 'Equal gaps across'],
  ['down', 'lucide:align-vertical-space-around', 'Equal gaps down'],
] as const
const LAYERS = [
  ['backward', 'lucide:chevron-down', 'One layer to the back'],
  ['forward', 'lucide:chevron-up', 'One layer to the front'],
  ['back', 'lucide:send-to-back', 'To the back'],
  ['front', 'lucide:bring-to-front', 'To the front'],
] as const
</script>

<template>
  <div v-if="standing.length > 1" data-over-tree class="hand" role="toolbar" aria-label="Line up by hand">
    <span class="quiet">with “{{ anchor }}”</span>
    <button
      v-for="[line, icon, name] in LINES"
      :key="line"
      tabindex="-1"
      :aria-label="name"
      :data-tip="name"
      @click="alignSelection(desk, line)">
      <Icon :name="icon" size="17" />
    </button>
    <button
      v-for="[way, icon, name] in GAPS"
      :key="way"
      tabindex="-1"
      class="first"
      :aria-label="name"
      :data-tip="name"
      :disabled="standing.length < 3"
      @click="distributeSelection(desk, way)">
      <Icon :name="icon" size="17" />
    </button>
    <button
      v-for="[where, icon, name] in LAYERS"
      :key="where"
      tabindex="-1"
      :aria-label="name"
      :data-tip="name"
      @click="layer(desk, where)">
      <Icon :name="icon" size="17" />
    </button>
  </div>
</template>

<style scoped>
.hand {
  position: absolute;
  left: 50%;
  /* Over where notices and the way back stand. */
  bottom: 62px;
  transform: translateX(-50%);
  z-index: 4;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  width: max-content;
  max-width: calc(100% - 24px);
  background: var(--surface);
  border: 1px solid var(--line);
  border-top: 3px solid var(--sun);
  box-shadow: var(--shadow);
  padding: 3px 6px 3px 10px;
  font-size: 12.5px;
}
.hand span {
  margin-right: 6px;
}
.hand button {
  width: 32px;
  height: 30px;
  border: 0;
  background: none;
  border-radius: 6px;
  cursor: pointer;
  display: grid;
  place-items: center;
  color: inherit;
}
.hand button:hover:not(:disabled) {
  background: var(--hover);
}
.hand button:disabled {
  opacity: 0.35;
}
@media (pointer: coarse) {
  .hand button {
    width: 44px;
    height: 44px;
  }
}
</style>
