<script setup lang="ts">
import { movedTo, unpicked } from '#core/presenting/pick'
import { AT_A_GLANCE, pickedSteps, stepsOf } from '#core/presenting/steps'
import { shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { keyOf } from '~/keys/keys'
import { usePage } from '~/page/page'
import { pickSteps } from './picking'

/** In which order the tree is presented: as it's read, or as somebody picked. */
const desk = useDesk()
const page = usePage()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const picked = computed(() => {
  void desk.lateTick.value
  return pickedSteps(desk.tree)
})
const read = computed(() => {
  void desk.lateTick.value
  return stepsOf(desk.tree).map(({ topic }) => topic)
})
const steps = computed(() => (picked.value.length > 0 ? picked.value : read.value))
const titleOf = (id: TopicId): string => shorten(topicOf(desk.tree, id).title.replaceAll('\n', ' ') || 'untitled', 60)
const isPicked = computed(() => desk.selected().every(id => picked.value.includes(id)))
const list = ref<HTMLElement>()
/** What was moved by key: the focus goes along with it. */
let carried: TopicId | null = null
watch(
  picked,
  () => {
    if (carried) list.value?.querySelector<HTMLElement>(`[data-step="${CSS.escape(carried)}"]`)?.focus()
    carried = null
  },
  { flush: 'post' },
)

function put(id: TopicId, by: -1 | 1): void {
  // As the tree is now: the list follows a frame later.
  const now = pickedSteps(desk.tree)
  const to = now.indexOf(id) + by
  if (to < 0 || to >= now.length || !desk.guard()) return
  carried = id
  desk.run({ changes: movedTo(desk.tree, id, to) })
}
function take(id: TopicId): void {
  if (desk.guard() && desk.run({ changes: unpicked(desk.tree, [id]) })) desk.say('One step fewer.', true)
}
function asRead(): void {
  if (desk.guard() && desk.run({ changes: unpicked(desk.tree) })) desk.say('Presented as the tree is read.', true)
}
</script>

<template>
  <div class="steps">
    <p class="quiet">
      <template v-if="picked.length"
        >An order of your own, kept with the tree. <kbd>Alt</kbd> with <kbd>↑</kbd> <kbd>↓</kbd> moves a step.</template
      >
      <template v-else
        >As the tree is read: a branch of {{ AT_A_GLANCE }} topics or fewer is opened whole, a larger one in several
        steps. <kbd>{{ keyOf('step') }}</kbd> makes the selected topics the first steps of an order of your
        own.</template
      >
    </p>
    <ol ref="list">
      <li v-for="(id, i) in steps" :key="id" :class="{ here: desk.focus.value === id }">
        <button
          class="line"
          :data-step="id"
          @click="desk.visit(id)"
          @keydown.alt.up.prevent.stop="put(id, -1)"
          @keydown.alt.down.prevent.stop="put(id, 1)">
          <b>{{ i + 1 }}</b> <span dir="auto">{{ titleOf(id) }}</span>
        </button>
        <template v-if="picked.length && may">
          <button class="icon-button" :aria-label="`${titleOf(id)}, earlier`" :disabled="i === 0" @click="put(id, -1)">
            <Icon name="lucide:chevron-up" size="14" />
          </button>
          <button
            class="icon-button"
            :aria-label="`${titleOf(id)}, later`"
            :disabled="i === steps.length - 1"
            @click="put(id, 1)">
            <Icon name="lucide:chevron-down" size="14" />
          </button>
          <button class="icon-button" :aria-label="`${titleOf(id)}, no step any more`" @click="take(id)">
            <Icon name="lucide:x" size="14" />
          </button>
        </template>
      </li>
    </ol>
    <button v-if="may" class="plain" @click="pickSteps(desk, desk.selected())">
      {{
        isPicked
          ? 'Take the selection out'
          : picked.length
            ? 'Add the selection at the end'
            : 'Begin an order with the selection'
      }}
    </button>
    <button v-if="picked.length && may" class="plain" @click="asRead">As the tree is read again</button>
    <Button label="Present" size="small" @click="page.present()" />
  </div>
</template>

<style scoped>
.steps {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  font-size: 13px;
}
p {
  margin: 0;
}
kbd {
  white-space: nowrap;
}
ol {
  width: 100%;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  border-radius: 6px;
}
li.here {
  background: var(--hover);
}
.line {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 8px;
  padding: 4px 6px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.line b {
  min-width: 20px;
  color: var(--quiet);
  font-variant-numeric: tabular-nums;
}
.line span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
