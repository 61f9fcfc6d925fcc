<script setup lang="ts">
/** Sound or moving pictures, as the browser itself plays them: parts are fetched as they're heard, and one can go to any place. */
const { address, name, moving } = defineProps<{ address: string; name: string; moving: boolean }>()
const emit = defineEmits<{ ready: []; trouble: [words: string] }>()
const failed = (): void =>
  emit('trouble', 'This browser can’t play it. It can be saved and opened with another program.')
</script>

<template>
  <video
    v-if="moving"
    controls
    preload="metadata"
    :src="address"
    :aria-label="name"
    @loadedmetadata="emit('ready')"
    @error="failed" />
  <audio
    v-else
    controls
    preload="metadata"
    :src="address"
    :aria-label="name"
    @loadedmetadata="emit('ready')"
    @error="failed" />
</template>

<style scoped>
video {
  max-width: 100%;
  max-height: 100%;
  margin: auto;
  background: #000;
}
audio {
  width: min(640px, 100%);
  margin: auto;
}
</style>
