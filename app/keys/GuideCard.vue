<script setup lang="ts">
import { FIRST_STEPS, isDone, seenIn } from '#core/guide/first-steps'
import { useMediaQuery } from '@vueuse/core'
import { THUMB } from '~/composables/useNarrow'
import { useDesk } from '~/desk/desk'
import { keepSteps, keptSteps, shownCard } from './guide'
import { keyOf } from './keys'

/**
 * Stands beside the tree and takes no keys: the first steps, each done by a real act and ticked off by what the tree shows, or the ten
 * keys that matter.
 */
const desk = useDesk()
const account = useAccount()

const TEN: readonly (readonly [actions: readonly string[], words: string])[] = [
  [['child'], 'a topic under this one'],
  [['sibling-after'], 'a topic after it'],
  [['edit'], 'type its title; // and words set who and when'],
  [['up', 'down', 'left', 'right'], 'go about'],
  [['move-up', 'move-down', 'move-in'], 'move it'],
  [['mark'], 'markers'],
  [['task'], 'who, when, how far'],
  [['note'], 'a note'],
  [['undo'], 'take back'],
  [['everything'], 'everything else, by a few letters'],
]

const kept = keptSteps()
const done = ref(kept?.tree === desk.session.treeId ? kept.done : 0)
const step = computed(() => FIRST_STEPS[done.value] ?? null)
let from = seenIn(desk.tree)
let before = desk.status.canRedo
function on(): void {
  done.value++
  from = seenIn(desk.tree)
  before = desk.status.canRedo
}
watch(done, now => keepSteps({ tree: desk.session.treeId, done: now }), { immediate: shownCard.value === 'steps' })
// A title that is typed isn't an act yet.
watch([desk.lateTick, desk.editing, () => desk.status.canRedo], () => {
  if (shownCard.value !== 'steps' || !step.value || desk.editing.value) return
  const undone = desk.status.canRedo && !before
  if (isDone(step.value.id, from, seenIn(desk.tree), undone)) on()
  else before = desk.status.canRedo
})

/** Where there is no keyboard, buttons at the foot do what keys do. */
const thumb = useMediaQuery(THUMB)
/** Words, and keys in them as they are on this person's machine, or words on buttons as they stand there. */
function pieces(words: string): { readonly text: string; readonly isKey: boolean }[] {
  const me = (account.me?.name ?? '').split(' ')[0]!.toLocaleLowerCase()
  return words
    .replace('{me}', me)
    .split(/\{([\w-]+)\}/)
    .map((text, i) => ({ text: i % 2 && !thumb.value ? keyOf(text) : text, isKey: i % 2 === 1 }))
}
</script>

<template>
  <aside data-over-tree class="guide" :aria-label="shownCard === 'ten' ? 'Ten keys that matter' : 'First steps'">
    <header>
      <h2>{{ shownCard === 'ten' ? 'Ten keys' : 'First steps' }}</h2>
      <button
        class="icon-button"
        tabindex="-1"
        :aria-label="shownCard === 'ten' ? 'Hide the ten keys' : 'Leave the first steps for now'"
        @click="shownCard = null">
        <Icon name="lucide:x" size="15" />
      </button>
    </header>
    <dl v-if="shownCard === 'ten'">
      <template v-for="[actions, words] in TEN" :key="words">
        <dt>
          <kbd v-for="action in actions" :key="action">{{ keyOf(action) }}</kbd>
        </dt>
        <dd>{{ words }}</dd>
      </template>
    </dl>
    <template v-else>
      <ol :aria-label="`${done} of ${FIRST_STEPS.length} done`">
        <li
          v-for="(one, i) in FIRST_STEPS"
          :key="one.id"
          :class="{ done: i < done, now: i === done }"
          :aria-current="i === done ? 'step' : undefined">
          <Icon v-if="i < done" name="lucide:check" size="13" /><template v-else>{{ i + 1 }}</template>
          <span class="visually-hidden">{{ one.title }}</span>
        </li>
      </ol>
      <div role="status">
        <template v-if="step">
          <h3>{{ step.title }}</h3>
          <p class="words">
            <template v-for="(piece, i) in pieces(thumb ? step.thumb : step.words)" :key="i"
              ><kbd v-if="piece.isKey">{{ piece.text }}</kbd
              ><template v-else>{{ piece.text }}</template></template
            >
          </p>
        </template>
        <template v-else>
          <h3>That’s how it goes</h3>
          <p v-if="thumb">The dots at the foot’s end have everything else for a topic. The tree is yours.</p>
          <p v-else>
            <kbd>{{ keyOf('ten-keys') }}</kbd> shows the ten keys that matter, <kbd>{{ keyOf('keys') }}</kbd> all of
            them, <kbd>{{ keyOf('help') }}</kbd> tells more. The tree is yours.
          </p>
        </template>
      </div>
      <p class="ways">
        <button v-if="step" class="plain" tabindex="-1" @click="on">Skip this one</button>
        <button v-else class="plain" tabindex="-1" @click="done = 0">Once more</button>
        <span v-if="step" class="quiet">Leave it any time; “First steps” takes it up again.</span>
      </p>
    </template>
  </aside>
</template>

<style scoped>
.guide {
  position: absolute;
  left: 16px;
  bottom: 16px;
  z-index: 5;
  width: 300px;
  max-width: calc(100% - 32px);
  box-sizing: border-box;
  padding: 8px 14px 12px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-top: 3px solid var(--sun);
  border-radius: 8px;
  box-shadow: var(--shadow);
  font-size: 13.5px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
h2 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 0;
}
h3 {
  font: 650 16px var(--display);
  margin: 8px 0 2px;
}
p {
  margin: 0;
  line-height: 1.65;
}
ol {
  list-style: none;
  display: flex;
  gap: 5px;
  margin: 2px 0 0;
  padding: 0;
}
/* Steps up to the porch, one by one. */
li {
  flex: 1;
  height: 20px;
  display: grid;
  place-items: center;
  border-bottom: 3px solid var(--line);
  font-size: 11.5px;
  color: var(--quiet);
}
li.done {
  border-color: var(--fern);
  color: var(--fern);
}
li.now {
  border-color: var(--sun);
  color: var(--ink);
  font-weight: 700;
}
.ways {
  margin-top: 8px;
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 12px;
  line-height: 1.4;
}
.plain {
  min-height: 26px;
  font: inherit;
  font-weight: 600;
  white-space: nowrap;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 5px 10px;
  align-items: baseline;
  margin: 4px 0 0;
}
dt {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  max-width: 120px;
}
dd {
  margin: 0;
}
@media (max-width: 700px) {
  /* Under the first rows, which are those that it speaks of. */
  .guide {
    left: 8px;
    right: 8px;
    bottom: 8px;
    width: auto;
    max-width: none;
  }
}
</style>
