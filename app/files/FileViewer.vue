<script setup lang="ts">
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { addressOf, canView, download, tellOpened, viewedAs } from './opening'
import { canRead } from './reading/readable'
import ContentsView from './shown/ContentsView.vue'
import MediaPlayer from './shown/MediaPlayer.vue'
import PdfPages from './shown/PdfPages.vue'
import PlainText from './shown/PlainText.vue'

/** A file over the tree: a picture, pages, words, tables, slides, sound. Esc leads back to where one was. */
const desk = useDesk()
const at = computed(() => desk.viewing.value!)
const files = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(at.value.topic)?.files.filter(canView) ?? []
})
const pages = ref<HTMLElement>()
const trouble = ref('')
const status = ref('')
const opening = ref(true)
const kind = computed(() => viewedAs(at.value.file))
const address = computed(() => addressOf(desk, at.value.file.file))

function show(): void {
  const { file } = at.value
  tellOpened(desk, file.file)
  trouble.value = status.value = ''
  opening.value = kind.value !== 'picture'
  if (pages.value) pages.value.scrollTop = 0
}
function failed(words: string): void {
  trouble.value = words
  opening.value = false
}

/** After the last comes the first: files stand in the order in which they arrived, which says nothing to a reader. */
function step(by: number): void {
  const list = files.value
  const here = list.findIndex(file => file.id === at.value.file.id)
  const next = list[(here + by + list.length) % list.length]
  if (next) desk.viewing.value = { topic: at.value.topic, file: next }
}
/** Its words stay in sight while one goes on in the tree. */
function beside(): void {
  desk.reading.value = { ...at.value, passage: null }
  close()
}
function close(): void {
  desk.viewing.value = null
}
function key(event: KeyboardEvent): void {
  // What plays takes the arrows itself.
  if (event.target instanceof HTMLMediaElement) return
  if (event.key === 'ArrowRight' && !event.altKey) step(1)
  else if (event.key === 'ArrowLeft' && !event.altKey) step(-1)
}
// Before what shows it is there: it may be ready at once.
watch(
  () => at.value?.file.id,
  () => {
    if (at.value) show()
  },
  { immediate: true },
)
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
      <span v-if="status" class="quiet" role="status">{{ status }}</span>
      <span class="grow" />
      <template v-if="files.length > 1">
        <button class="icon-button" aria-label="Previous file" @click="step(-1)">
          <Icon name="lucide:chevron-left" size="18" />
        </button>
        <button class="icon-button" aria-label="Next file" @click="step(1)">
          <Icon name="lucide:chevron-right" size="18" />
        </button>
      </template>
      <button
        v-if="canRead(at.file)"
        class="icon-button"
        aria-label="Beside the tree"
        data-tip="Beside the tree"
        @click="beside">
        <Icon name="lucide:panel-right" size="17" />
      </button>
      <button class="icon-button" aria-label="Save the file" @click="download(desk, at.file)">
        <Icon name="lucide:download" size="17" />
      </button>
      <Button size="small" label="Back to the tree" @click="close" />
    </header>
    <p v-if="trouble" class="words" role="alert">{{ trouble }}</p>
    <p v-else-if="opening" class="words quiet" role="status">Opening …</p>
    <div ref="pages" class="pages" tabindex="0" data-first :aria-label="`Contents of ${at.file.name}`">
      <img v-if="at.file.preview" :src="addressOf(desk, at.file.preview.file)" :alt="at.file.name" />
      <template v-else-if="pages">
        <PdfPages
          v-if="kind === 'pdf'"
          :key="at.file.id"
          :address="address"
          :view="pages"
          @ready="opening = false"
          @trouble="failed"
          @status="status = $event" />
        <MediaPlayer
          v-else-if="kind === 'sound' || kind === 'film'"
          :key="at.file.id"
          :address="address"
          :name="at.file.name"
          :moving="kind === 'film'"
          @ready="opening = false"
          @trouble="failed" />
        <ContentsView
          v-else-if="kind === 'contents'"
          :key="at.file.id"
          :address="address"
          :name="at.file.name"
          @ready="opening = false"
          @trouble="failed"
          @status="status = $event" />
        <PlainText
          v-else
          :key="at.file.id"
          :address="address"
          :size="at.file.size"
          @ready="opening = false"
          @trouble="failed" />
      </template>
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
