<script setup lang="ts">
import Popover from 'primevue/popover'
import { backFromClick } from '~/focus/opened'

/** A small box beside the button that opens it; Esc, or a click elsewhere, closes it and leads back to the tree. */
const box = ref<{ toggle(event: Event): void; hide(): void }>()
defineExpose({ toggle: (event: Event) => box.value?.toggle(event), hide: () => box.value?.hide() })
</script>

<template>
  <Popover ref="box" @hide="nextTick(backFromClick)">
    <div v-opened="{ manner: 'layer', close: () => box?.hide() }"><slot /></div>
  </Popover>
</template>
