<script setup lang="ts">
import Collaboration from '@tiptap/extension-collaboration'
import { TaskItem, TaskList } from '@tiptap/extension-list'
import { TableKit } from '@tiptap/extension-table'
import StarterKit from '@tiptap/starter-kit'
import { useEventListener } from '@vueuse/core'
import * as Y from 'yjs'
import {
  fromBase64,
  isSafeAddress,
  languageOf,
  NOTE_FRAGMENT,
  openNote,
  readAddress,
  toBase64,
  topicOf,
  type TopicId,
} from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pictureIn, storePicture, treePicture } from '~/files/tree-picture'
import EditorFrame from './EditorFrame.vue'
import { formatTools } from './format-tools'
import { useLateEditor } from './late-editor'

/** The note of one topic: a Yjs document, so that two people may type in it at once. */
const props = defineProps<{ topic: TopicId }>()
const desk = useDesk()
const doc = openNote(topicOf(desk.tree, props.topic).note)
let taken = topicOf(desk.tree, props.topic).note
const language = languageOf(desk.tree, topicOf(desk.tree, props.topic))
let pending: Uint8Array[] = []
let timer = 0

doc.on('update', (update: Uint8Array, origin: unknown) => {
  if (origin === 'news') return
  pending.push(update)
  clearTimeout(timer)
  timer = window.setTimeout(send, 250)
})

function send(): void {
  clearTimeout(timer)
  if (pending.length === 0 || !desk.tree.topics.has(props.topic)) return
  const update = toBase64(Y.mergeUpdates(pending))
  pending = []
  // Undo of note text lives in the editor, so it stays out of the tree's.
  desk.session.make([{ op: 'note', topic: props.topic, update }], { silent: true })
}

const stop = desk.onChange(touched => {
  if (touched !== 'all' && !touched.has(props.topic)) return
  const note = desk.tree.topics.get(props.topic)?.note ?? null
  if (note === null || note === taken) return
  taken = note
  Y.applyUpdate(doc, fromBase64(note), 'news')
  late.make()
})

/** Characters of one note that stay comfortable to type in. What is pasted beyond is refused whole. */
const MOST_TEXT = 300_000

const pictureField = ref<HTMLInputElement>()
async function addPicture(file: File): Promise<void> {
  const at = late.make()
  try {
    const picture = await storePicture(desk, file, 'pictures')
    if (at.isDestroyed) desk.say('The note was left before its picture was here: it isn’t in it.')
    else at.chain().focus().insertContent(picture).run()
  } catch (error) {
    desk.say((error as Error).message)
  }
}
function choosePicture(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void addPicture(file)
}
/** Takes pictures from the clipboard or a drag, and refuses text that would make the note too long. */
function takeOver(data: DataTransfer | null): boolean {
  const picture = pictureIn(data)
  if (picture) {
    void addPicture(picture)
    return true
  }
  const more = data?.getData('text/plain').length ?? 0
  if (more + (editor.value?.state.doc.content.size ?? 0) <= MOST_TEXT) return false
  desk.say(
    `A note holds ${MOST_TEXT.toLocaleString('en')} characters at most, and this would be more. Nothing was changed; a file can hang on the topic instead.`,
  )
  return true
}

function askLink(): void {
  const at = late.make()
  linking.value = linking.value === null ? String(at.getAttributes('link').href ?? '') : null
  if (linking.value !== null) nextTick(() => linkField.value?.focus())
}
const linking = ref<string | null>(null)
const linkField = ref<HTMLInputElement>()
function keepLink(): void {
  const at = editor.value
  const said = linking.value?.trim() ?? ''
  linking.value = null
  if (!at) return
  if (said === '') {
    at.chain().focus().extendMarkRange('link').unsetLink().run()
    return
  }
  const href = readAddress(said, location.origin)
  if (!href) {
    desk.say('That isn’t an address that can be opened. Nothing was changed.')
    return
  }
  if (at.state.selection.empty && !at.isActive('link'))
    at.chain()
      .focus()
      .insertContent({ type: 'text', text: said, marks: [{ type: 'link', attrs: { href } }] })
      .run()
  else at.chain().focus().extendMarkRange('link').setLink({ href }).run()
}

const late = useLateEditor(
  () => ({
    editable: desk.session.canEdit,
    extensions: [
      StarterKit.configure({
        undoRedo: false,
        heading: { levels: [1, 2, 3] },
        link: { openOnClick: false, autolink: true, isAllowedUri: isSafeAddress },
      }),
      TaskList,
      TaskItem.configure({ nested: true }),
      TableKit.configure({ table: { resizable: false } }),
      treePicture(desk),
      Collaboration.configure({ document: doc, field: NOTE_FRAGMENT }),
    ],
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': 'Note',
        class: 'note-text',
        spellcheck: 'true',
        ...(language === null ? {} : { lang: language }),
      },
      handlePaste: (_, event) => takeOver(event.clipboardData),
      handleDrop: (_, event) => takeOver(event.dataTransfer),
      handleKeyDown: (_, event) => {
        event.stopPropagation()
        if (event.key === 'Escape') {
          focusTree()
          return true
        }
        return false
      },
    },
    onBlur: send,
  }),
  taken !== null,
)
const { editor } = late
watch(
  () => desk.status.role,
  () => editor.value?.setEditable(desk.session.canEdit),
)

/** Words that are selected in the note, to be commented on: by whoever may read it and say something, too. */
const words = ref('')
useEventListener(document, 'selectionchange', () => {
  const selection = getSelection()
  const inside = selection?.anchorNode && frame.value?.querySelector('.note-text')?.contains(selection.anchorNode)
  words.value = inside ? selection.toString().trim().slice(0, 500).toWellFormed() : ''
})
const frame = ref<HTMLElement>()
function commentOn(): void {
  desk.talking.quoting.value = { topic: props.topic, words: words.value }
}

const tools = computed(() => {
  const at = editor.value
  return [
    ...formatTools(at, late.make, ['bold', 'italic', 'heading', 'bulletList', 'orderedList', 'taskList', 'blockquote']),
    { name: 'Link', icon: 'lucide:link', on: at?.isActive('link') ?? false, run: askLink },
    { name: 'Picture', icon: 'lucide:image', on: false, run: () => pictureField.value?.click() },
    {
      name: 'Table',
      icon: 'lucide:table',
      on: at?.isActive('table') ?? false,
      run: () =>
        at?.isActive('table') ||
        late.make().chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
    },
  ]
})

/** What can be done with the table that the cursor is in. */
const tableTools = computed(() => {
  const at = editor.value
  if (!at?.isActive('table')) return []
  return [
    { name: 'Row below', icon: 'lucide:between-horizontal-end', run: () => at.chain().focus().addRowAfter().run() },
    { name: 'Column after', icon: 'lucide:between-vertical-end', run: () => at.chain().focus().addColumnAfter().run() },
    { name: 'Remove the row', icon: 'lucide:table-rows-split', run: () => at.chain().focus().deleteRow().run() },
    {
      name: 'Remove the column',
      icon: 'lucide:table-columns-split',
      run: () => at.chain().focus().deleteColumn().run(),
    },
    { name: 'Remove the table', icon: 'lucide:trash-2', run: () => at.chain().focus().deleteTable().run() },
  ]
})

onBeforeUnmount(() => {
  send()
  stop()
  doc.destroy()
})
</script>

<template>
  <div ref="frame" class="note" :class="{ empty: editor?.isEmpty ?? true }" @copy.stop @cut.stop @paste.stop>
    <div v-if="desk.session.canEdit" class="tools" role="toolbar" aria-label="Text form">
      <button
        v-for="tool in tools"
        :key="tool.name"
        :title="tool.name"
        class="icon-button"
        :class="{ on: tool.on }"
        :aria-label="tool.name"
        :aria-pressed="tool.on"
        @mousedown.prevent
        @click="tool.run()">
        <Icon :name="tool.icon" size="15" />
      </button>
    </div>
    <div v-if="tableTools.length && desk.session.canEdit" class="tools" role="toolbar" aria-label="Table">
      <button
        v-for="tool in tableTools"
        :key="tool.name"
        :title="tool.name"
        class="icon-button"
        :aria-label="tool.name"
        @mousedown.prevent
        @click="tool.run()">
        <Icon :name="tool.icon" size="15" />
      </button>
    </div>
    <form
      v-if="linking !== null"
      class="linking"
      @submit.prevent="keepLink"
      @keydown.esc.stop="linking = null"
      @keydown.stop>
      <input
        ref="linkField"
        v-model="linking"
        placeholder="Address; empty takes the link off"
        aria-label="Address of the link" /><button class="icon-button" aria-label="Keep the link">
        <Icon name="lucide:check" size="15" />
      </button>
    </form>
    <input
      ref="pictureField"
      type="file"
      class="visually-hidden"
      accept="image/png,image/jpeg,image/gif,image/webp,image/avif,image/tiff"
      aria-label="Picture for the note"
      tabindex="-1"
      @change="choosePicture" />
    <EditorFrame
      :late="late"
      label="Note"
      text="note-text"
      :editable="desk.session.canEdit"
      :lang="language ?? undefined" />
    <button v-if="words && desk.session.canComment" class="plain" @mousedown.prevent @click="commentOn">
      Comment on these words
    </button>
  </div>
</template>

<style scoped src="./NoteEditor.css"></style>
