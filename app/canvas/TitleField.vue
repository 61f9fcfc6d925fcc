<script setup lang="ts">
import { readDetails } from '#core/capture/quick-details'
import { languageOf } from '#core/tree'
import { paste as pasteBranches } from '~/capture/copying'
import { addChild, addSibling } from '~/capture/building'
import { arrive } from '~/focus/typeahead'
import { useDesk } from '~/desk/desk'
import { actionFor } from '~/keys/keys'

/**
 * The title being typed, in a plank or a row. Enter and Tab keep it and go on, so that a list pours out without a
 * pause.
 */
const desk = useDesk()
const field = ref<HTMLTextAreaElement>()
const own = desk.editing.value?.id
const emit = defineEmits<{ closed: [] }>()

onMounted(begin)
// Left and opened again within one frame, the field is the same one.
watch(desk.editing, now => {
  if (now?.id === own) nextTick(begin)
})

function begin(): void {
  const at = field.value
  if (!at || desk.editing.value?.id !== own) return
  if (desk.editing.value?.fresh) at.setSelectionRange(at.value.length, at.value.length)
  else at.select()
  arrive(at)
}

/** This field is on its way out: what is pressed is for the tree, or for the field that comes. */
function passOn(event: KeyboardEvent): void {
  field.value?.closest('[role="tree"], [data-home]')?.dispatchEvent(new KeyboardEvent('keydown', event))
}

/** One of two that may be meant is put in the place of what was said. */
function mean(said: string, choice: string): void {
  const at = field.value!
  const from = at.value.lastIndexOf(said)
  if (from < 0) return
  at.setRangeText(choice, from, from + said.length, 'end')
  typed()
}

/** For the browser's spelling. */
const language = computed(() => {
  const topic = own === undefined ? undefined : desk.tree.topics.get(own)
  return (topic && languageOf(desk.tree, topic)) ?? undefined
})
const chips = computed(() => readDetails(desk.draft.value, desk.known()).chips)

function typed(): void {
  if (desk.editing.value?.id !== own) return
  desk.draft.value = field.value!.value
  desk.redraft()
}

function key(event: KeyboardEvent): void {
  event.stopPropagation()
  if (event.isComposing) return
  if (desk.editing.value?.id !== own) {
    event.preventDefault()
    passOn(event)
    return
  }
  const fresh = desk.editing.value?.fresh ?? false
  const empty = desk.draft.value.trim() === ''
  const action = actionFor('title', event)
  if (action !== null) event.preventDefault()
  if (action === 'title-break') {
    const at = field.value!
    at.setRangeText('\n', at.selectionStart, at.selectionEnd, 'end')
    typed()
  } else if (action === 'title-keep' || action === 'title-before') {
    if (fresh && empty) {
      desk.drop()
      emit('closed')
    } else if (action === 'title-before') addSibling(desk, 'before')
    else if (fresh) addSibling(desk, 'after')
    else {
      desk.keep()
      emit('closed')
    }
  } else if (action === 'title-out') desk.moveWhileTyping('out')
  else if (action === 'title-turn') desk.turnWhileTyping()
  else if (action === 'title-in') {
    if (fresh && empty) desk.moveWhileTyping('in')
    else addChild(desk)
  } else if (action === 'title-drop') {
    desk.drop()
    emit('closed')
  }
}

function paste(event: ClipboardEvent): void {
  event.stopPropagation()
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!text.trim().includes('\n')) return
  event.preventDefault()
  desk.keep()
  pasteBranches(desk, event.clipboardData!)
  emit('closed')
}

function left(): void {
  // The field is also left when the next one opens; what is open then isn't this one's to keep.
  if (own && desk.editing.value?.id === own) desk.keep()
}
</script>

<template>
  <span class="field">
    <textarea
      ref="field"
      :value="desk.draft.value"
      rows="1"
      dir="auto"
      spellcheck="true"
      :lang="language"
      aria-label="Title"
      @input="typed"
      @keydown="key"
      @paste="paste"
      @blur="left"
      @pointerdown.stop
      @dblclick.stop
      @copy.stop
      @cut.stop />
    <span v-if="chips.length" class="chips" role="status" @pointerdown.stop>
      <span v-for="chip in chips" :key="chip.kind + chip.text" :class="{ which: chip.choices }"
        >{{ chip.text
        }}<button
          v-for="choice in chip.choices ?? []"
          :key="choice"
          type="button"
          tabindex="-1"
          @mousedown.prevent
          @click.stop="mean(chip.said!, choice)">
          {{ choice }}
        </button></span
      >
    </span>
  </span>
</template>

<style scoped>
.field {
  position: relative;
  flex: 1;
  min-width: 0;
  display: flex;
}
textarea {
  flex: 1;
  width: 100%;
  resize: none;
  border: 0;
  padding: 0;
  margin: 0;
  background: none;
  color: inherit;
  font: inherit;
  line-height: inherit;
  letter-spacing: inherit;
  outline: none;
  overflow: hidden;
  field-sizing: content;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.chips {
  position: absolute;
  left: 0;
  top: calc(100% + 10px);
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  width: max-content;
  max-width: max(100%, 220px);
  z-index: 5;
  pointer-events: none;
}
.chips .which {
  pointer-events: auto;
  display: flex;
  gap: 4px;
  align-items: center;
}
.which button {
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--surface);
  color: var(--porch);
  font: inherit;
  padding: 0 6px;
  min-height: 22px;
  cursor: pointer;
}
.chips span {
  background: var(--ceiling);
  color: var(--ink);
  border-radius: 6px;
  padding: 1px 7px;
  font: 600 11.5px/1.5 var(--text);
  white-space: nowrap;
  box-shadow: var(--shadow);
}
</style>
