<script setup lang="ts">
import { useEventListener, useNow, useSwipe } from '@vueuse/core'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { closeTop, isDialogOpen } from '~/focus/opened'
import { commandOf } from '~/keys/commands'
import { actionFor, endSteps, firstStep, keyOf } from '~/keys/keys'
import { inField } from '~/page/page-keys'
import { usePage } from '~/page/page'
import { moveOf } from './cues'
import { usePresenting } from './usePresenting'

/** The strip under a tree that is presented: where one is, how it goes on, and the keys for it. */
const desk = useDesk()
const page = usePage()
const presented = page.presenting.value!
const { with: leader } = presented
const { steps, at, aside, led, began, full, to, move, show, follow, speaker, fill, end } = usePresenting(
  desk,
  page,
  presented,
)
/** More boards than these can't be told apart. */
const MOST_BOARDS = 120
const strip = ref<HTMLElement>()
const now = useNow({ interval: 1000 })
const spent = computed(() => clockInWords(now.value.getTime() - began))
const titleOf = (i: number): string => {
  const step = steps.value[i]
  return step ? topicOf(desk.tree, step.topic).title.replaceAll('\n', ' ') || 'untitled' : ''
}
const next = computed(() => titleOf(at.value + 1))

function key(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || inField(event.target) || desk.editing.value || isDialogOpen())
    return
  if (firstStep.value !== null) return
  // A button that was gone to keeps its own keys.
  const onButton = event.target instanceof HTMLElement && event.target.closest('button, a') !== null
  if (onButton && (event.key === ' ' || event.key === 'Enter')) return
  if (event.key === 'Escape') {
    event.preventDefault()
    event.stopImmediatePropagation()
    if (endSteps() || page.canvas.value?.escape() || closeTop()) return
    if (desk.viewing.value || desk.previewed.value) desk.viewing.value = desk.previewed.value = null
    else end()
    return
  }
  const action = actionFor('present', event)
  if (!action?.startsWith('present-')) return
  event.preventDefault()
  event.stopImmediatePropagation()
  if (event.repeat) return
  const acts: Record<string, () => void> = {
    'present-again': show,
    'present-open': () => page.run(commandOf('preview')!),
    'present-speaker': speaker,
    'present-screen': () => void fill(),
  }
  if (moveOf[action]) move(moveOf[action])
  else acts[action]?.()
}
useEventListener(window, 'keydown', key, { capture: true })
useSwipe(strip, {
  onSwipeEnd: (_, direction) => {
    if (direction === 'left') move('next')
    if (direction === 'right') move('back')
  },
})
</script>

<template>
  <footer ref="strip" class="presenting-strip" role="region" aria-label="Presenting">
    <button
      class="icon-button"
      aria-label="Back to the step before"
      :data-tip="`Back (${keyOf('present-back')})`"
      :disabled="at === 0"
      @click="move('back')">
      <Icon name="lucide:chevron-left" size="20" />
    </button>
    <button
      class="icon-button"
      aria-label="Next step"
      :data-tip="`On (${keyOf('present-next')})`"
      :disabled="at === steps.length - 1"
      @click="move('next')">
      <Icon name="lucide:chevron-right" size="20" />
    </button>
    <p class="where" role="status">
      <b>{{ at + 1 }} of {{ steps.length }}</b> <span dir="auto">{{ titleOf(at) }}</span>
      <small v-if="next" dir="auto">{{ ` · then ${next}` }}</small>
    </p>
    <progress v-if="steps.length > MOST_BOARDS" class="far" :value="at + 1" :max="steps.length" aria-label="Steps" />
    <ol v-else class="boards" aria-label="Steps">
      <li v-for="(step, i) in steps" :key="step.topic">
        <button
          tabindex="-1"
          :aria-label="`${i + 1}. ${titleOf(i)}`"
          :aria-current="i === at ? 'step' : undefined"
          :data-tip="titleOf(i)"
          :class="{ done: i < at }"
          :style="{ '--hue': desk.dressing.hueOf(step.topic) }"
          @click="
            () => {
              aside = leader !== null
              to(i)
            }
          " />
      </li>
    </ol>
    <p v-if="leader" class="along">
      With {{ led?.name ?? 'nobody' }}
      <button v-if="aside" class="plain" @click="follow">Back to {{ led?.name.split(' ')[0] }}</button>
    </p>
    <template v-else>
      <time class="clock" aria-label="Since it began">{{ spent }}</time>
      <button
        class="icon-button"
        aria-label="Speaker’s window"
        :data-tip="`Your notes (${keyOf('present-speaker')})`"
        @click="speaker">
        <Icon name="lucide:notebook-text" size="18" />
      </button>
    </template>
    <button
      class="icon-button"
      :aria-label="full ? 'Leave full screen' : 'Fill the screen'"
      :data-tip="`Full screen (${keyOf('present-screen')})`"
      :aria-pressed="full"
      @click="fill">
      <Icon :name="full ? 'lucide:minimize' : 'lucide:maximize'" size="18" />
    </button>
    <button class="plain" @click="end">End <kbd>Esc</kbd></button>
  </footer>
</template>

<style scoped>
/* At the foot of the screen tips stand above. */
[data-tip]::after {
  top: auto !important;
  bottom: calc(100% + 6px);
}
.presenting-strip {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 44px;
  padding: 2px 10px;
  background: var(--surface);
  border-top: 1px solid var(--line);
  touch-action: pan-y;
}
p {
  margin: 0;
}
.where {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-width: 0;
  flex: 1 1 320px;
  white-space: nowrap;
}
.where b {
  font-variant-numeric: tabular-nums;
}
.where span,
.where small {
  overflow: hidden;
  text-overflow: ellipsis;
}
.where small {
  color: var(--quiet);
}
.far {
  flex: 1 1 240px;
  max-width: 420px;
  accent-color: var(--porch);
}
.boards {
  display: flex;
  flex: 1 1 240px;
  max-width: 420px;
  min-width: 0;
  margin: 0;
  padding: 0;
  list-style: none;
}
/* A board for each step, in its branch's colour: laid as far as one has come. */
.boards li {
  flex: 1 1 0;
  min-width: 2px;
}
.boards button {
  display: block;
  width: 100%;
  height: 26px;
  padding: 0;
  border: 0;
  border-right: 1px solid var(--surface);
  background: linear-gradient(var(--hue), var(--hue)) no-repeat 0 50% / 100% 4px;
  opacity: 0.45;
  cursor: pointer;
}
.boards button.done {
  opacity: 1;
}
.boards button[aria-current] {
  opacity: 1;
  background-size: 100% 14px;
}
.boards button:hover {
  background-size: 100% 10px;
}
.along,
.clock {
  white-space: nowrap;
  font-size: 13px;
  color: var(--quiet);
  font-variant-numeric: tabular-nums;
  margin: 0 6px;
}
@media (max-width: 700px) {
  .boards,
  .far,
  .where small,
  kbd,
  .clock {
    display: none;
  }
}
</style>
