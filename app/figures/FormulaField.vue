<script setup lang="ts">
import { colouredParts } from '#core/figures/colours'
import { completionsOf } from '#core/figures/complete'
import type { Measure, TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { arrive } from '~/focus/typeahead'
import { entryOf, figuresOf, formulaNames, openedText, shownResult } from './figuring'

/**
 * A field for one figure: a number, or a formula, with what it comes to before it's kept, the words that may go on, and an error under
 * the very word.
 */
const props = defineProps<{
  topic: TopicId
  measure: Measure
  whatIf?: string | null
  /** What is typed at once, in place of what stands there. */
  first?: string | null
  label: string
  /** Whether it takes the keys when it comes. */
  open?: boolean
  disabled?: boolean
}>()
/** `kept` with null: it's as it was. */
const emit = defineEmits<{
  kept: [text: string | null, then: 'down' | 'up' | 'right' | 'left' | 'stay']
  dropped: []
}>()
const desk = useDesk()
const field = ref<HTMLInputElement>()
const said = ref(props.first ?? openedText(desk, props.topic, props.measure, props.whatIf))
const caret = ref(said.value.length)
const chosen = ref(0)
/** Whether the keys are in it: only then it's told what it comes to. */
const here = ref(false)
let ended = false
/** Where it stays open all the time, it follows what others do, unless one types in it. */
watch(
  () => {
    void desk.tick.value
    return openedText(desk, props.topic, props.measure, props.whatIf)
  },
  now => {
    if (!props.open && !here.value) said.value = now
  },
)

const entry = computed(() => entryOf(desk, said.value, props.measure))
const error = computed(() => ('message' in entry.value && said.value.trim() !== '=' ? entry.value : null))
/** The words of a formula in their colours, and the very one that is wrong. */
const parts = computed(() =>
  isFormula.value || error.value
    ? colouredParts(said.value, isFormula.value ? formulaNames(desk) : null, error.value?.span ?? null)
    : [],
)
/** They go along when a long one is scrolled in its field. */
const scrolled = ref(0)
const isFormula = computed(() => said.value.trimStart().startsWith('='))
const result = computed(() => {
  void desk.tick.value
  if (!('text' in entry.value) || !entry.value.read) return null
  const cell = { topic: props.topic, measure: props.measure.id }
  return shownResult(
    desk,
    figuresOf(desk, props.whatIf ?? null).tried(props.topic, props.measure.id, entry.value.read),
    props.measure,
    cell,
  )
})
const offers = computed(() =>
  isFormula.value ? completionsOf(said.value, caret.value, formulaNames(desk)).slice(0, 7) : [],
)
watch(offers, () => {
  chosen.value = 0
})

function moved(): void {
  scrolled.value = field.value?.scrollLeft ?? 0
  caret.value = field.value?.selectionStart ?? said.value.length
}
function take(index: number): void {
  const offer = offers.value[index]
  if (!offer) return
  said.value = said.value.slice(0, offer.from) + offer.text + said.value.slice(offer.to)
  const at = offer.from + offer.text.length
  caret.value = at
  nextTick(() => {
    field.value?.focus()
    field.value?.setSelectionRange(at, at)
  })
}
function keep(then: 'down' | 'up' | 'right' | 'left' | 'stay'): void {
  if (ended) return
  // What was opened and not changed is as it was, whether or not it could be read back.
  if (said.value === openedText(desk, props.topic, props.measure, props.whatIf)) {
    ended = props.open === true
    emit('kept', null, then)
    return
  }
  if (!('text' in entry.value)) {
    desk.say(entry.value.message)
    return
  }
  ended = props.open === true
  emit('kept', entry.value.text, then)
}
function drop(): void {
  ended = props.open === true
  said.value = openedText(desk, props.topic, props.measure, props.whatIf)
  emit('dropped')
}
function key(event: KeyboardEvent): void {
  event.stopPropagation()
  if (event.isComposing) return
  const isOffered = offers.value.length > 0
  if (event.key === 'Escape') {
    event.preventDefault()
    drop()
  } else if (isOffered && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
    event.preventDefault()
    const by = event.key === 'ArrowDown' ? 1 : -1
    chosen.value = (chosen.value + by + offers.value.length) % offers.value.length
  } else if (isOffered && event.key === 'Tab' && !event.shiftKey) {
    event.preventDefault()
    take(chosen.value)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    keep(event.shiftKey ? 'up' : 'down')
  } else if (event.key === 'Tab' && props.open) {
    event.preventDefault()
    keep(event.shiftKey ? 'left' : 'right')
  }
}
/** Left by a click elsewhere, what can be understood is kept; what can't is said, and dropped. */
function left(): void {
  here.value = false
  if (ended || said.value === openedText(desk, props.topic, props.measure, props.whatIf)) {
    if (!ended && props.open) drop()
    return
  }
  if ('text' in entry.value) keep('stay')
  else {
    desk.say(`${entry.value.message} Nothing was changed.`)
    drop()
  }
}
/** The row went, by another's hand or out of sight: what was typed counts as left. A field that is behind has nothing to say. */
onBeforeUnmount(() => {
  if (here.value) left()
})
onMounted(() => {
  if (!props.open) return
  if (props.first === null || props.first === undefined) field.value?.select()
  else field.value?.setSelectionRange(said.value.length, said.value.length)
  if (field.value) arrive(field.value)
})
</script>

<template>
  <span class="formula" :class="{ wide: open && isFormula }" :style="{ '--letters': said.length }">
    <span v-if="here && parts.length" class="under" :class="{ open }" aria-hidden="true"
      ><span :style="{ transform: `translateX(${-scrolled}px)` }"
        ><component :is="part.wrong ? 'mark' : 'span'" v-for="(part, i) in parts" :key="i" :class="part.kind">{{
          part.text
        }}</component></span
      ></span
    >
    <input
      ref="field"
      v-model="said"
      type="text"
      autocomplete="off"
      spellcheck="false"
      maxlength="6000"
      :class="{ open, coloured: here && isFormula }"
      :disabled="disabled"
      :aria-label="label"
      :aria-invalid="error !== null"
      @keydown="key"
      @keyup="moved"
      @click="moved"
      @input="moved"
      @scroll="moved"
      @focus="here = true"
      @blur="left"
      @pointerdown.stop
      @dblclick.stop />
    <span v-if="here && (error || result || offers.length)" class="told" role="status">
      <span v-if="error" class="wrong">{{ error.message }}</span>
      <span v-else-if="result?.fault" class="wrong">{{ result.fault }}</span>
      <span v-else-if="result" class="comes">= {{ result.text || 'nothing' }}</span>
      <ul v-if="offers.length" aria-label="What may stand here">
        <li v-for="(offer, i) in offers" :key="offer.text">
          <button tabindex="-1" :class="{ on: i === chosen }" @pointerdown.prevent @click="take(i)">
            <b>{{ offer.name }}</b> <span class="quiet">{{ offer.about }}</span>
          </button>
        </li>
      </ul>
    </span>
  </span>
</template>

<style scoped>
.formula {
  position: relative;
  display: block;
}
/* A formula has more words than a cell has room: its field grows over the cells beside it. */
.formula.wide {
  width: max(100%, min(calc(var(--letters) * 1ch + 3em), 460px, 60vw));
}
.formula input,
.under {
  width: 100%;
  font: inherit;
  font-size: 13px;
  font-variant-numeric: tabular-nums;
  padding: 3px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  box-sizing: border-box;
}
.formula input {
  background: var(--surface);
  color: var(--ink);
}
.formula input.open {
  border: 2px solid var(--sun);
  border-radius: 4px;
  padding: 2px 5px;
  outline: none;
}
.under {
  position: absolute;
  inset: 0;
  z-index: 1;
  pointer-events: none;
  color: transparent;
  border-color: transparent;
  white-space: pre;
  text-align: left;
  overflow: hidden;
}
.under.open {
  border-width: 2px;
  padding: 2px 5px;
}
.under > span {
  display: inline-block;
}
/* The field's own letters give way to the coloured ones over them. */
.formula input.coloured {
  color: transparent;
  caret-color: var(--ink);
}
.coloured::selection {
  color: transparent;
  background: color-mix(in srgb, var(--sun) 45%, transparent);
}
.formula:has(.coloured) .under {
  color: var(--ink);
}
.under .measure,
.under .value {
  color: var(--sky);
}
.under .topic,
.under .person,
.under .marker {
  color: var(--fern);
}
.under .function,
.under .word {
  color: var(--plum);
}
.under mark {
  color: inherit;
  background: none;
  text-decoration: underline wavy var(--clay) 1.5px;
  text-underline-offset: 3px;
}
.told {
  position: absolute;
  top: calc(100% + 2px);
  right: 0;
  z-index: 30;
  min-width: 200px;
  width: max-content;
  max-width: min(340px, 80vw);
  padding: 6px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
  box-shadow: 0 6px 20px rgb(22 41 45 / 18%);
  text-align: left;
  white-space: normal;
  font-size: 13px;
}
.wrong {
  color: var(--clay);
  font-weight: 600;
}
.comes {
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}
.told ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.told button {
  display: block;
  width: 100%;
  border: 0;
  background: none;
  padding: 4px 5px;
  border-radius: 4px;
  text-align: left;
  color: inherit;
  cursor: pointer;
}
.told button.on {
  background: var(--hover);
}
</style>
