<script setup lang="ts">
import type { LateEditor } from './late-editor'

/** The text of an editor; until that is made, what looks like it and has it made by whoever comes. */
defineProps<{
  late: LateEditor
  label: string
  /** The class of the text. */
  text: string
  editable?: boolean
  lang?: string
}>()
</script>

<template>
  <div :ref="late.place" />
  <div
    v-if="!late.editor.value"
    :class="text"
    role="textbox"
    aria-multiline="true"
    :aria-label="label"
    :lang="lang"
    :contenteditable="editable"
    v-on="editable ? { focus: late.come, dragenter: late.make } : {}"
    @mousedown="editable && ($event.preventDefault(), late.come())">
    <p><br /></p>
  </div>
</template>
