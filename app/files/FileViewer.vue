<script setup lang="ts">
import type { PDFDocumentProxy } from 'pdfjs-dist'
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { addressOf, canView, download, tellOpened } from './opening'
import { drawPage, openPdf } from './pdf'

/** A file over the tree: a picture, the pages of a PDF, or plain text. Esc leads back to where one was. */
const desk = useDesk()
const at = computed(() => desk.viewing.value!)
const files = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(at.value.topic)?.files.filter(canView) ?? []
})
const pages = ref<HTMLElement>()
const trouble = ref('')
const text = ref('')
const opening = ref(true)
const count = ref(0)
const page = ref(1)
const MOST_TEXT = 400_000
let document: PDFDocumentProxy | null = null
const drawn = new Set<number>()
let watcher: IntersectionObserver | null = null

async function show(): Promise<void> {
  const { file } = at.value
  tellOpened(desk, file.file)
  trouble.value = text.value = ''
  opening.value = true
  count.value = 0
  page.value = 1
  document = null
  drawn.clear()
  watcher?.disconnect()
  try {
    if (file.preview) return
    if (file.type === 'application/pdf') {
      const opened = await openPdf(addressOf(desk, file.file))
      if (at.value?.file !== file) return
      document = opened
      count.value = opened.numPages
      await nextTick()
      watchPages()
    } else {
      const response = await fetch(addressOf(desk, file.file), { headers: { range: `bytes=0-${MOST_TEXT - 1}` } })
      text.value = (await response.text()) + (file.size > MOST_TEXT ? '\n\n… the rest is in the file itself.' : '')
    }
  } catch {
    trouble.value = 'This file can’t be shown here. It can be saved and opened with another program.'
  } finally {
    opening.value = false
  }
}

/** Pages are drawn when they come near the view, so that a long document opens as fast as a short one. */
function watchPages(): void {
  watcher = new IntersectionObserver(
    entries => {
      for (const entry of entries) {
        const number = Number((entry.target as HTMLElement).dataset.page)
        if (!entry.isIntersecting || drawn.has(number) || !document) continue
        drawn.add(number)
        const canvas = entry.target.querySelector('canvas')!
        void drawPage(document, number, canvas, Math.min(900, pages.value!.clientWidth - 40)).catch(() => {
          trouble.value = 'A page of this file is broken.'
        })
      }
    },
    { root: pages.value ?? null, rootMargin: '400px' },
  )
  for (const element of pages.value?.querySelectorAll('[data-page]') ?? []) watcher.observe(element)
}

/** The page that lies across a third of the view from above. */
function scrolled(): void {
  const view = pages.value
  if (!view || count.value === 0) return
  const line = view.getBoundingClientRect().top + view.clientHeight / 3
  const at = [...view.querySelectorAll<HTMLElement>('[data-page]')].findLast(
    element => element.getBoundingClientRect().top <= line,
  )
  page.value = Number(at?.dataset.page ?? 1)
}

/** After the last comes the first: files stand in the order in which they arrived, which says nothing to a reader. */
function step(by: number): void {
  const list = files.value
  const here = list.findIndex(file => file.id === at.value.file.id)
  const next = list[(here + by + list.length) % list.length]
  if (next) desk.viewing.value = { topic: at.value.topic, file: next }
}
function close(): void {
  desk.viewing.value = null
}
function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowRight' && !event.altKey) step(1)
  else if (event.key === 'ArrowLeft' && !event.altKey) step(-1)
}
watch(
  () => at.value?.file.id,
  () => {
    if (at.value) void show()
  },
)
onMounted(() => void show())
onBeforeUnmount(() => watcher?.disconnect())
</script>

<template>
  <div
    v-opened="{ manner: 'dialog', close }"
    class="viewer"
    role="dialog"
    aria-modal="true"
    :aria-label="`File ${at.file.name}`"
    tabindex="-1"
    @keydown="key">
    <header>
      <Icon name="lucide:paperclip" size="16" />
      <b>{{ at.file.name }}</b>
      <span class="quiet">on “{{ shorten(topicOf(desk.tree, at.topic).title, 40) }}”</span>
      <span v-if="count" class="quiet" role="status">page {{ page }} of {{ count }}</span>
      <span class="grow" />
      <template v-if="files.length > 1">
        <button class="icon-button" aria-label="Previous file" @click="step(-1)">
          <Icon name="lucide:chevron-left" size="18" />
        </button>
        <button class="icon-button" aria-label="Next file" @click="step(1)">
          <Icon name="lucide:chevron-right" size="18" />
        </button>
      </template>
      <button class="icon-button" aria-label="Save the file" @click="download(desk, at.file)">
        <Icon name="lucide:download" size="17" />
      </button>
      <Button size="small" label="Back to the tree" @click="close" />
    </header>
    <p v-if="trouble" class="words" role="alert">{{ trouble }}</p>
    <p v-else-if="opening && !at.file.preview" class="words quiet" role="status">Opening …</p>
    <div
      ref="pages"
      class="pages"
      tabindex="0"
      data-first
      @scroll="scrolled"
      :aria-label="`Contents of ${at.file.name}`">
      <img v-if="at.file.preview" :src="addressOf(desk, at.file.preview.file)" :alt="at.file.name" />
      <template v-else-if="count">
        <div v-for="n in count" :key="`${at.file.id}-${n}`" :data-page="n" class="page">
          <canvas :aria-label="`Page ${n}`" />
        </div>
      </template>
      <pre v-else-if="text">{{ text }}</pre>
    </div>
  </div>
</template>

<style scoped>
.viewer {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: var(--page);
  display: flex;
  flex-direction: column;
  outline: none;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 52px;
  padding: 0 16px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  flex: none;
}
header b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
header .quiet {
  white-space: nowrap;
  font-size: 13px;
}
.grow {
  flex: 1;
}
.pages {
  flex: 1;
  overflow: auto;
  padding: 20px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 14px;
}
.page {
  flex: none;
  min-height: 500px;
  background: #fff;
  box-shadow: var(--shadow);
}
.pages img {
  max-width: 100%;
  max-height: 100%;
  object-fit: contain;
  margin: auto;
  box-shadow: var(--shadow);
}
.words {
  margin: 20px auto 0;
}
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
@media (max-width: 700px) {
  header .quiet {
    display: none;
  }
  header b {
    flex: 1;
  }
  .grow {
    display: none;
  }
}
</style>
