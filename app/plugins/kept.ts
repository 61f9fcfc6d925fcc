import type { ObjectDirective } from 'vue'

/** How long after a field was left its text may differ from the truth, while an edit is on its way to the screen. */
const SETTLE_MS = 250

interface Kept extends HTMLInputElement {
  kept?: string
}

const fieldIn = (el: HTMLElement): Kept =>
  (el instanceof HTMLInputElement || el instanceof HTMLTextAreaElement
    ? el
    : el.querySelector('input, textarea')!) as Kept

/**
 * `v-kept="text"`: shows a text in a field, and leaves it alone while somebody types there. Vue's own `:value` writes
 * the field anew at every drawing of its component, and somebody else's edit draws it. Once left, the field shows the
 * truth again, whatever became of what was typed.
 */
const kept: ObjectDirective<HTMLElement, string | number> = {
  mounted(el, { value }) {
    const field = fieldIn(el)
    field.value = field.kept = String(value)
    field.addEventListener('blur', () =>
      setTimeout(() => {
        if (document.activeElement !== field && field.kept !== undefined && field.value !== field.kept)
          field.value = field.kept
      }, SETTLE_MS),
    )
  },
  updated(el, { value }) {
    const field = fieldIn(el)
    field.kept = String(value)
    if (document.activeElement !== field && field.value !== field.kept) field.value = field.kept
  },
}

export default defineNuxtPlugin(nuxtApp => {
  nuxtApp.vueApp.directive('kept', kept)
})
