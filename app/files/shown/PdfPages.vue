<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { PDFDocumentProxy } from 'pdfjs-dist'
import { drawPage, openPdf } from '../pdf'

/** The pages of a PDF one below the other. They're drawn when they come near the view, so that a long document opens as fast as a short one. */
const { address, view } = defineProps<{ address: string; view: HTMLElement }>()
const emit = defineEmits<{ ready: []; trouble: [words: string]; status: [words: string] }>()
const count = ref(0)
const drawn = new Set<number>()
let document: PDFDocumentProxy | null = null
let watcher: IntersectionObserver | null = null

function watchPages(): void {
  watcher = new IntersectionObserver(
    entries => {
      for (const entry of entries) {
        const number = Number((entry.target as HTMLElement).dataset.page)
        if (!entry.isIntersecting || drawn.has(number) || !document) continue
        drawn.add(number)
        const canvas = entry.target.querySelector('canvas')!
        void drawPage(document, number, canvas, Math.min(900, view.clientWidth - 40)).catch(() =>
          emit('trouble', 'A page of this file is broken.'),
        )
      }
    },
    { root: view, rootMargin: '400px' },
  )
  for (const element of view.querySelectorAll('[data-page]')) watcher.observe(element)
}

/** The page that lies across a third of the view from above. */
function tell(): void {
  if (count.value === 0) return
  const line = view.getBoundingClientRect().top + view.clientHeight / 3
  const at = [...view.querySelectorAll<HTMLElement>('[data-page]')].findLast(
    element => element.getBoundingClientRect().top <= line,
  )
  emit('status', `page ${at?.dataset.page ?? 1} of ${count.value}`)
}
useEventListener(() => view, 'scroll', tell)

let gone = false
onMounted(async () => {
  try {
    const opened = await openPdf(address)
    if (gone) return
    document = opened
    count.value = opened.numPages
    await nextTick()
    watchPages()
    tell()
    emit('ready')
  } catch {
    if (!gone) emit('trouble', 'This file can’t be shown here. It can be saved and opened with another program.')
  }
})
onBeforeUnmount(() => {
  gone = true
  watcher?.disconnect()
})
</script>

<template>
  <div v-for="n in count" :key="n" :data-page="n" class="page">
    <canvas :aria-label="`Page ${n}`" />
  </div>
</template>

<style scoped>
.page {
  flex: none;
  min-height: 500px;
  background: #fff;
  box-shadow: var(--shadow);
}
</style>
