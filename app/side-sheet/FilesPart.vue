<script setup lang="ts">
import type { Attachment, Topic } from '#core/tree'
import { fileIcon } from '#core/scene/link-signs'
import { useDesk } from '~/desk/desk'
import { addressOf, canView, download, openFile } from '~/files/opening'
import { sizeInWords } from '~/files/uploads'

/** The files of a topic: sent from here or dropped on it, looked at with one click, saved. */
defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const field = ref<HTMLInputElement>()
const PdfThumb = defineAsyncComponent(() => import('~/files/PdfThumb.vue'))

function chosen(event: Event, topic: Topic): void {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length > 0) desk.uploads.add(files, topic.id)
}
defineExpose({ choose: () => field.value?.click() })
const about = (file: Attachment): string =>
  `${file.name.includes('.') ? file.name.split('.').at(-1)!.toUpperCase() : 'File'}, ${sizeInWords(file.size)}`
</script>

<template>
  <div class="files">
    <div v-for="file in topic.files" :key="file.id" class="file">
      <button
        class="look"
        :aria-label="`${canView(file) ? 'Open' : 'Save'} ${file.name}`"
        @click="openFile(desk, topic.id, file)">
        <img v-if="file.preview" :src="addressOf(desk, file.preview.file)" alt="" />
        <PdfThumb v-else-if="file.type === 'application/pdf'" :address="addressOf(desk, file.file)" />
        <Icon v-else :name="fileIcon(file)" size="20" />
      </button>
      <span class="words">
        <button class="open" @click="openFile(desk, topic.id, file)">{{ file.name }}</button>
        <span class="quiet">{{ about(file) }}</span>
      </span>
      <button class="icon-button" :aria-label="`Save ${file.name}`" @click="download(desk, file)">
        <Icon name="lucide:download" size="15" />
      </button>
      <button
        v-if="may"
        class="icon-button"
        :aria-label="`Take ${file.name} off`"
        @click="desk.put(topic.id, { op: 'take', topic: topic.id, set: 'files', member: file.id })">
        <Icon name="lucide:x" size="14" />
      </button>
    </div>
    <input
      ref="field"
      type="file"
      multiple
      class="visually-hidden"
      aria-label="Files for the topic"
      tabindex="-1"
      @change="chosen($event, topic)" />
    <button v-if="may" class="plain" @click="field?.click()">Add files …</button>
  </div>
</template>

<style scoped>
.files {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.file {
  display: flex;
  gap: 8px;
  align-items: center;
}
.look {
  width: 46px;
  height: 40px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--page);
  padding: 0;
  display: grid;
  place-items: center;
  overflow: hidden;
  cursor: pointer;
  color: var(--quiet);
  flex: none;
}
.look img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.words {
  flex: 1;
  min-width: 0;
  font-size: 12px;
  display: flex;
  flex-direction: column;
}
.open {
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  color: var(--porch);
  font-size: 13px;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
}
.open:hover {
  text-decoration: underline;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.plain {
  padding: 3px 0;
  min-height: 24px;
}
</style>
