<script setup lang="ts">
import { drawPage, openPdf } from './pdf'

/** The first page of a PDF, small. */
const props = defineProps<{ address: string }>()
const paper = ref<HTMLCanvasElement>()
const failed = ref(false)
onMounted(async () => {
  try {
    const document = await openPdf(props.address)
    if (paper.value) await drawPage(document, 1, paper.value, 46)
  } catch {
    failed.value = true
  }
})
</script>

<template>
  <Icon v-if="failed" name="lucide:file-text" size="20" />
  <canvas v-else ref="paper" aria-hidden="true" />
</template>
