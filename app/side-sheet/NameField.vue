<script setup lang="ts">
import { fold } from '#core/find/text'

/**
 * Presses what stands in a panel by a few letters of its name: the panel by keyboard, without a walk through its
 * buttons.
 */
defineProps<{ placeholder: string }>()
const field = ref<HTMLInputElement>()
const said = ref('')
const hit = ref('')
let marked: HTMLElement | null = null

const nameOf = (button: HTMLElement): string =>
  (button.getAttribute('aria-label') ?? button.textContent ?? '').replace(/\s+/g, ' ').trim()

/** The button that is meant: the very name first, then one that begins so, then one that has all the words. */
function find(): HTMLElement | null {
  const words = fold(said.value.trim())
  const panel = field.value?.closest<HTMLElement>('[data-named-panel]')
  if (!words || !panel) return null
  const rank = (name: string): number =>
    name === words
      ? 0
      : name.startsWith(words)
        ? 1
        : words.split(/\s+/).every(word => name.split(/\s+/).some(part => part.startsWith(word)))
          ? 2
          : name.includes(words)
            ? 3
            : 4
  const found = [...panel.querySelectorAll<HTMLElement>('button:not(:disabled, [data-close])')].map(button => ({
    button,
    rank: rank(fold(nameOf(button))),
  }))
  return found.filter(one => one.rank < 4).sort((a, b) => a.rank - b.rank)[0]?.button ?? null
}
function show(): void {
  marked?.removeAttribute('data-named')
  marked = find()
  marked?.setAttribute('data-named', '')
  marked?.scrollIntoView({ block: 'nearest' })
  hit.value = said.value.trim() === '' ? '' : marked ? nameOf(marked) : 'nothing has these letters'
}
function press(): void {
  show()
  if (!marked) return
  const at = marked
  said.value = ''
  show()
  at.click()
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Escape') return
  event.stopPropagation()
  if (event.key !== 'Enter' || event.isComposing) return
  event.preventDefault()
  press()
}
onBeforeUnmount(() => marked?.removeAttribute('data-named'))
</script>

<template>
  <div class="name-field">
    <input
      ref="field"
      v-model="said"
      :placeholder="placeholder"
      :aria-label="placeholder"
      autocomplete="off"
      spellcheck="false"
      @input="show"
      @keydown="key" />
    <span v-if="hit" class="quiet" role="status">{{ hit }}</span>
  </div>
</template>

<style scoped>
.name-field {
  display: flex;
  align-items: center;
  gap: 8px;
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 0 8px;
  margin-bottom: 12px;
}
.name-field:focus-within {
  border-color: var(--porch);
  box-shadow: 0 0 0 1px var(--porch);
}
input {
  border: 0;
  outline: 0;
  background: none;
  font: inherit;
  color: inherit;
  padding: 6px 0;
  min-width: 0;
  flex: 1;
}
.quiet {
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 45%;
}
</style>
