<script setup lang="ts">
import { useDesk } from '~/desk/desk'

/** Where one is when it isn't the whole tree, and the way back. */
const desk = useDesk()
/** A branch that is shown alone. In an annex the path at the foot, the doorway and a key lead back. */
const alone = computed(() => {
  void desk.lateTick.value
  return desk.only.value !== null && !desk.tree.topics.get(desk.only.value)?.annex
})
</script>

<template>
  <div v-if="alone && desk.view.value !== 'meeting'" data-over-tree class="only" role="status">
    Only this branch <button @click="desk.showOnly(null)">Back to the whole tree</button>
  </div>
  <button v-if="desk.journey.steps.value" data-over-tree class="back" @click="desk.journey.back()">
    <Icon name="lucide:undo-dot" size="15" /> Back to where you were <kbd>Esc</kbd>
  </button>
</template>

<style scoped>
.only {
  position: absolute;
  left: 50%;
  top: 12px;
  transform: translateX(-50%);
  background: var(--ceiling);
  border-radius: 8px;
  padding: 5px 12px;
  z-index: 5;
  font-size: 13px;
  display: flex;
  gap: 7px;
  align-items: center;
}
.only button {
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 650;
  cursor: pointer;
  text-decoration: underline;
  padding: 4px;
}
.back {
  position: absolute;
  left: 50%;
  bottom: 16px;
  transform: translateX(-50%);
  z-index: 5;
  border: 1px solid var(--line);
  background: var(--surface);
  border-radius: 8px;
  box-shadow: var(--shadow);
  padding: 6px 12px;
  cursor: pointer;
  font-size: 13px;
  display: flex;
  gap: 7px;
  align-items: center;
}
.back:hover {
  border-color: var(--porch);
}
</style>
