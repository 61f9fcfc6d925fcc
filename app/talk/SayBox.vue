<script setup lang="ts">
import type { JSONContent } from '@tiptap/core'
import StarterKit from '@tiptap/starter-kit'
import { type Body, bodySchema, isEmpty, MOST_SAID, textOf } from '#core/talk/body'
import { isSafeAddress } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pictureIn, storePicture, treePicture } from '~/files/tree-picture'
import { enterSoon } from '~/focus/opened'
import EditorFrame from '~/side-sheet/EditorFrame.vue'
import { formatTools } from '~/side-sheet/format-tools'
import { useLateEditor } from '~/side-sheet/late-editor'
import { keepDraft, readDraft } from './drafts'
import { askToInvite } from './inviting'
import { Mentions } from './mentioning'

/** A field to say something in: formatted, with mentions and pictures. Enter says it, Shift+Enter begins a line. */
const {
  label,
  placeholder,
  draft,
  initial = null,
  verb = 'Say it',
  first = false,
} = defineProps<{
  label: string
  placeholder: string
  /** The name under which what isn't said yet is kept. */
  draft: string
  /** What is reworded. */
  initial?: Body | null
  verb?: string
  /** Whether it's where the keys go when what it stands in opens. */
  first?: boolean
}>()
const emit = defineEmits<{ said: [body: Body]; left: [] }>()
const desk = useDesk()
const mentions = new Mentions(desk)
const { shown: naming, chosen } = mentions
const wrong = ref('')
const key = `${desk.session.treeId} ${draft}`

async function addPicture(file: File): Promise<void> {
  const at = late.make()
  try {
    const picture = await storePicture(desk, file, 'talk/pictures')
    if (at.isDestroyed) desk.say('The comment was left before its picture was here: it isn’t in it.')
    else at.chain().focus().insertContent(picture).run()
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
function takePicture(data: DataTransfer | null): boolean {
  const picture = pictureIn(data)
  if (picture) void addPicture(picture)
  return picture !== undefined
}

/** As it would be said: without empty lines at its end. */
function body(): Body {
  const { content = [] } = (editor.value?.getJSON() ?? {}) as { content?: Body['content'] }
  let end = content.length
  while (end > 1 && content[end - 1]!.type === 'paragraph' && !('content' in content[end - 1]!)) end--
  // Attributes of the editor's own, like where a list begins, aren't kept.
  return JSON.parse(JSON.stringify({ type: 'doc', content: content.slice(0, end) }), (name, value: unknown) =>
    name === 'attrs' && typeof value === 'object' && value !== null ? plainAttrs(value) : value,
  ) as Body
}
function plainAttrs(attrs: object): object | undefined {
  const kept = Object.entries(attrs).filter(([name]) => ['id', 'label', 'people', 'href', 'src', 'alt'].includes(name))
  return kept.length > 0 ? Object.fromEntries(kept) : undefined
}

function say(): void {
  const said = body()
  if (isEmpty(said)) return
  const parsed = bodySchema.safeParse(said)
  if (!parsed.success) {
    wrong.value =
      textOf(said).length > MOST_SAID
        ? `A comment has ${MOST_SAID.toLocaleString('en')} characters at most; this has ${textOf(said).length.toLocaleString('en')}. More fits in a note.`
        : 'This can’t be said as it is: something in it is of a kind that comments don’t have.'
    return
  }
  wrong.value = ''
  keepDraft(key, null)
  editor.value?.commands.clearContent()
  emit('said', parsed.data)
  askToInvite(desk, textOf(parsed.data))
}

const begun = (readDraft(key) ?? initial) as JSONContent | null
const late = useLateEditor(
  () => ({
    content: begun,
    extensions: [
      StarterKit.configure({
        heading: false,
        horizontalRule: false,
        link: { openOnClick: false, autolink: true, isAllowedUri: isSafeAddress },
      }),
      treePicture(desk),
      ...mentions.extensions,
    ],
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': label,
        class: 'say-text',
        spellcheck: 'true',
      },
      handlePaste: (_, event) => takePicture(event.clipboardData),
      handleDrop: (_, event) => takePicture(event.dataTransfer),
      handleKeyDown: (_, event) => {
        event.stopPropagation()
        if (editor.value && mentions.key(event, editor.value)) return true
        if (event.key === 'Escape') {
          emit('left')
          focusTree()
          return true
        }
        // In a list or a piece of code Enter is theirs; with Ctrl it always says.
        const inside = editor.value?.isActive('listItem') || editor.value?.isActive('codeBlock')
        if (
          event.key !== 'Enter' ||
          event.shiftKey ||
          event.isComposing ||
          (inside && !event.ctrlKey && !event.metaKey)
        )
          return false
        say()
        return true
      },
    },
    onFocus: mentions.refresh,
    onUpdate: () => {
      const now = body()
      keepDraft(key, isEmpty(now) ? null : now)
    },
  }),
  begun !== null,
)
const { editor } = late
const tools = computed(() => {
  const at = editor.value
  if (!at) return []
  return [
    ...formatTools(at, late.make, ['bold', 'italic', 'bulletList', 'orderedList']),
    {
      name: 'Name somebody',
      icon: 'lucide:at-sign',
      on: false,
      run: () => at.chain().focus().insertContent('@').run(),
    },
    { name: 'Name a topic', icon: 'lucide:hash', on: false, run: () => at.chain().focus().insertContent('#').run() },
    { name: 'Picture', icon: 'lucide:image', on: false, run: () => pictureField.value?.click() },
  ]
})
const pictureField = ref<HTMLInputElement>()
function choosePicture(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void addPicture(file)
}
/** Whether somebody has been in it. What came with that stays: a click beside it would miss what moves up. */
const met = ref(false)
const empty = computed(() => editor.value?.isEmpty ?? true)
const root = ref<HTMLElement>()
/** The keys are here from now on, with what was pressed while this wasn't yet: its text is there a moment after it. */
function focus(): void {
  if (root.value)
    enterSoon(root.value, () => {
      const at = editor.value
      at?.commands.setTextSelection(at.state.doc.content.size)
    })
}
defineExpose({ focus })
</script>

<template>
  <div
    ref="root"
    class="say"
    :data-first="first ? '' : undefined"
    :class="{ empty }"
    :data-placeholder="placeholder"
    @focusin="met = true"
    @copy.stop
    @cut.stop
    @paste.stop>
    <EditorFrame :late="late" :label="label" text="say-text" editable />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <div v-if="!empty || met" class="foot">
      <button
        v-for="tool in tools"
        :key="tool.name"
        class="icon-button"
        :class="{ on: tool.on }"
        :title="tool.name"
        :aria-label="tool.name"
        tabindex="-1"
        @mousedown.prevent
        @click="tool.run()">
        <Icon :name="tool.icon" size="14" />
      </button>
      <button class="go" :disabled="empty" @mousedown.prevent @click="say">{{ verb }}</button>
    </div>
    <input
      ref="pictureField"
      type="file"
      class="visually-hidden"
      accept="image/png,image/jpeg,image/gif,image/webp,image/avif,image/tiff"
      aria-label="Picture for what is said"
      tabindex="-1"
      @change="choosePicture" />
    <Teleport to="body">
      <ul
        v-if="naming && naming.items.length"
        class="naming"
        role="listbox"
        :aria-label="naming.what === 'person' ? 'People' : 'Topics'"
        :style="{
          left: `${Math.max(8, naming.left - 60)}px`,
          '--top': `${naming.bottom + 4}px`,
          '--bottom': `${naming.top}px`,
        }">
        <li
          v-for="(item, i) in naming.items"
          :key="item.id"
          role="option"
          :aria-selected="i === chosen"
          @mousedown.prevent="naming.choose(item)">
          <span dir="auto">{{ item.label }}</span><small v-if="item.more" dir="auto">{{ item.more }}</small>
        </li>
      </ul>
    </Teleport>
  </div>
</template>

<style scoped src="./SayBox.css"></style>
