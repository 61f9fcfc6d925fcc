<script setup lang="ts">
/**
 * The grip of a sheet that comes up from the bottom of a narrow screen: pulled or pressed, it makes the sheet tall or
 * low; pulled down when it's low, it closes it.
 */
const tall = defineModel<boolean>({ required: true })
const emit = defineEmits<{ closed: [] }>()
const PULL = 28
let from: number | null = null

function down(event: PointerEvent): void {
  from = event.clientY
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function up(event: PointerEvent): void {
  if (from === null) return
  const by = event.clientY - from
  from = null
  if (Math.abs(by) < PULL) tall.value = !tall.value
  else if (by < 0) tall.value = true
  else if (tall.value) tall.value = false
  else emit('closed')
}
</script>

<template>
  <div class="grip">
    <button
      class="handle"
      :aria-label="tall ? 'Lower the sheet' : 'Raise the sheet'"
      :aria-expanded="tall"
      @pointerdown="down"
      @pointerup="up"
      @pointercancel="from = null"
      @keydown.enter.prevent="tall = !tall">
      <i />
    </button>
    <button class="icon-button" aria-label="Close the sheet" @click="emit('closed')">
      <Icon name="lucide:x" size="18" />
    </button>
  </div>
</template>

<style scoped>
.grip {
  position: sticky;
  top: 0;
  z-index: 3;
  display: flex;
  background: var(--surface);
}
.handle {
  flex: 1;
  height: 44px;
  padding-left: 44px;
  border: 0;
  background: none;
  touch-action: none;
  cursor: grab;
}
.handle i {
  display: inline-block;
  width: 44px;
  height: 5px;
  border-radius: 2px;
  background: var(--line);
}
.icon-button {
  width: 44px;
  height: 44px;
}
</style>
