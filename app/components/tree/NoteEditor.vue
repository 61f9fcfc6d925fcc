<script setup lang="ts">
import Collaboration from '@tiptap/extension-collaboration'
import StarterKit from '@tiptap/starter-kit'
import { EditorContent, useEditor } from '@tiptap/vue-3'
import * as Y from 'yjs'
import { fromBase64, isSafeAddress, NOTE_FRAGMENT, openNote, toBase64, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/tree/desk'

/** The note of one topic: a Yjs document, so that two people may type in it at once. */
const props = defineProps<{ topic: TopicId }>()
const desk = useDesk()
const doc = openNote(topicOf(desk.tree, props.topic).note)
let taken = topicOf(desk.tree, props.topic).note
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

const stop = desk.onChange((touched) => {
  if (touched !== 'all' && !touched.has(props.topic)) return
  const note = desk.tree.topics.get(props.topic)?.note ?? null
  if (note === null || note === taken) return
  taken = note
  Y.applyUpdate(doc, fromBase64(note), 'news')
})

const editor = useEditor({
  editable: desk.session.canEdit,
  extensions: [
    StarterKit.configure({ undoRedo: false, heading: { levels: [1, 2, 3] }, link: { openOnClick: false, autolink: true, isAllowedUri: isSafeAddress } }),
    Collaboration.configure({ document: doc, field: NOTE_FRAGMENT }),
  ],
  editorProps: {
    attributes: { 'role': 'textbox', 'aria-multiline': 'true', 'aria-label': 'Note', 'class': 'note-text', 'spellcheck': 'true' },
    handleKeyDown: (_, event) => {
      event.stopPropagation()
      if (event.key === 'Escape') {
        (document.querySelector('[role="tree"]') as HTMLElement | null)?.focus()
        return true
      }
      return false
    },
  },
  onBlur: send,
})
watch(() => desk.status.role, () => editor.value?.setEditable(desk.session.canEdit))

const tools = computed(() => {
  const at = editor.value
  if (!at) return []
  return [
    { name: 'Bold', icon: 'lucide:bold', on: at.isActive('bold'), run: () => at.chain().focus().toggleBold().run() },
    { name: 'Slanted', icon: 'lucide:italic', on: at.isActive('italic'), run: () => at.chain().focus().toggleItalic().run() },
    { name: 'Heading', icon: 'lucide:heading', on: at.isActive('heading'), run: () => at.chain().focus().toggleHeading({ level: 2 }).run() },
    { name: 'List', icon: 'lucide:list', on: at.isActive('bulletList'), run: () => at.chain().focus().toggleBulletList().run() },
    { name: 'Numbered list', icon: 'lucide:list-ordered', on: at.isActive('orderedList'), run: () => at.chain().focus().toggleOrderedList().run() },
    { name: 'Quote', icon: 'lucide:text-quote', on: at.isActive('blockquote'), run: () => at.chain().focus().toggleBlockquote().run() },
  ]
})

onBeforeUnmount(() => {
  send()
  stop()
  doc.destroy()
})
defineExpose({ focus: () => editor.value?.commands.focus('end') })
</script>

<template>
  <div class="note" :class="{ empty: editor?.isEmpty }" @copy.stop @cut.stop @paste.stop>
    <div v-if="desk.session.canEdit" class="tools" role="toolbar" aria-label="Text form">
      <button v-for="tool in tools" :key="tool.name" :title="tool.name" class="icon-button" :class="{ on: tool.on }" :aria-label="tool.name" :aria-pressed="tool.on" @mousedown.prevent @click="tool.run()"><Icon :name="tool.icon" size="15" /></button>
    </div>
    <EditorContent :editor="editor" />
  </div>
</template>

<style scoped>
.note { border: 1px solid var(--line); border-radius: 7px; background: var(--page); }
.note:focus-within { border-color: var(--porch); }
.tools { display: flex; border-bottom: 1px solid var(--line); padding: 1px 3px; }
.tools .icon-button { min-width: 28px; height: 26px; }
.tools .on { color: var(--porch); background: var(--ceiling); }
.note :deep(.note-text) { min-height: 76px; padding: 8px 11px; outline: none; font-size: 13.5px; line-height: 1.5; overflow-wrap: anywhere; }
.note.empty :deep(.note-text p:first-child::before) { content: 'Write what the title has no room for'; color: var(--quiet); float: left; height: 0; pointer-events: none; }
.note :deep(p) { margin: 0 0 8px; }
.note :deep(h1), .note :deep(h2), .note :deep(h3) { font: 600 15px/1.3 var(--display); margin: 8px 0 4px; }
.note :deep(ul), .note :deep(ol) { margin: 0 0 8px; padding-left: 20px; }
.note :deep(li p) { margin: 0; }
.note :deep(blockquote) { margin: 0 0 8px; padding-left: 10px; border-left: 3px solid var(--line); color: var(--quiet); }
</style>
