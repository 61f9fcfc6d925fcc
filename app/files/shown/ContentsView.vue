<script setup lang="ts">
import type { FileContents } from '#core/formats/contents'
import DocumentBlocks from './DocumentBlocks.vue'
import SheetTables from './SheetTables.vue'
import SlideCards from './SlideCards.vue'

/** An office program's document in place: the server reads it in a thread apart, and words, tables and pictures come, nothing that runs. */
const { address, name } = defineProps<{ address: string; name: string }>()
const emit = defineEmits<{ ready: []; trouble: [words: string]; status: [words: string] }>()
const contents = shallowRef<FileContents | null>(null)
const stop = new AbortController()
const notes = computed(() => {
  const shown = contents.value
  return !shown || shown.kind === 'sheets' ? [] : shown.left
})
const isEmpty = computed(() => {
  const shown = contents.value
  return shown?.kind === 'document' ? shown.blocks.length === 0 : shown?.kind === 'slides' && shown.slides.length === 0
})
onMounted(async () => {
  try {
    contents.value = await callApi<FileContents>(`${address}/contents?name=${encodeURIComponent(name)}`, {
      signal: stop.signal,
    })
    emit('ready')
    if (contents.value.kind === 'slides') {
      const { length } = contents.value.slides
      emit('status', length === 1 ? 'one slide' : `${length} slides`)
    }
  } catch (error) {
    if (!stop.signal.aborted) emit('trouble', error instanceof Error ? error.message : 'This file can’t be shown here.')
  }
})
onBeforeUnmount(() => stop.abort())
</script>

<template>
  <template v-if="contents">
    <p v-for="said in notes" :key="said" class="quiet left" role="note">{{ said }}</p>
    <p v-if="isEmpty" class="quiet left">There is nothing in it that can be shown.</p>
    <DocumentBlocks v-if="contents.kind === 'document'" :blocks="contents.blocks" />
    <SheetTables v-else-if="contents.kind === 'sheets'" :sheets="contents.sheets" />
    <SlideCards v-else :slides="contents.slides" />
  </template>
</template>

<style scoped>
.left {
  margin: 0;
  width: min(820px, 100%);
  flex: none;
}
</style>
