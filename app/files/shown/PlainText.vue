<script setup lang="ts">
/** The words of a file of plain text, as far as they're read at once. */
const { address, size } = defineProps<{ address: string; size: number }>()
const emit = defineEmits<{ ready: []; trouble: [words: string] }>()
const MOST = 400_000
const text = ref('')
onMounted(async () => {
  try {
    const response = await fetch(address, { headers: { range: `bytes=0-${MOST - 1}` } })
    if (!response.ok) throw new Error(String(response.status))
    text.value = (await response.text()) + (size > MOST ? '\n\n… the rest is in the file itself.' : '')
    emit('ready')
  } catch {
    emit('trouble', 'This file can’t be shown here. It can be saved and opened with another program.')
  }
})
</script>

<template>
  <pre v-if="text">{{ text }}</pre>
</template>

<style scoped>
pre {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  width: min(900px, 100%);
  background: var(--surface);
  border: 1px solid var(--line);
  padding: 18px 22px;
  margin: 0;
  font:
    13px/1.55 ui-monospace,
    monospace;
}
</style>
