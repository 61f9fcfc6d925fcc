<script setup lang="ts">
import { type Condition, conditionInWords, type Group, isGroup, type Names, type Query } from '#core/find/conditions'
import { markersOf } from '#core/tree'
import { firstField } from '~/focus/opened'
import { useDesk } from '~/desk/desk'
import { groupsOf } from '~/share/own-groups'

/**
 * Conditions that all, or any, of hold; with groups inside. Each reads as a part of a sentence, and opens to be
 * changed.
 */
const props = defineProps<{ group: Group; names: Names; inner?: boolean }>()
const emit = defineEmits<{ change: [group: Group]; remove: [] }>()
const desk = useDesk()
const open = ref(-1)
const root = ref<HTMLElement>()

const FRESH: readonly { readonly name: string; readonly make: () => Query }[] = [
  { name: 'Words', make: () => ({ about: 'text', words: '', where: 'anywhere' }) },
  { name: 'Marker', make: () => ({ about: 'marker', marker: markersOf(desk.tree.fields)[0]!.id }) },
  { name: 'Person', make: () => ({ about: 'person', person: 'me' }) },
  { name: 'Group of people', make: () => ({ about: 'group', group: groupsOf(desk)[0]?.id ?? 'none' }) },
  { name: 'Due', make: () => ({ about: 'due', is: 'within', days: 7 }) },
  { name: 'State', make: () => ({ about: 'state', is: 'open' }) },
  { name: 'Done %', make: () => ({ about: 'done', least: 1, most: 99 }) },
  { name: 'Priority', make: () => ({ about: 'priority', most: 2 }) },
  { name: 'Depth', make: () => ({ about: 'depth', least: 0, most: 3 }) },
  ...(desk.tree.fields.measures.length > 0
    ? [
        {
          name: 'Figure',
          make: (): Condition => ({ about: 'figure', measure: desk.tree.fields.measures[0]!.id, is: 'some' }),
        },
      ]
    : []),
  { name: 'Plan', make: () => ({ about: 'plan', is: 'critical' }) },
  { name: 'Kind', make: () => ({ about: 'kind', is: 'task' }) },
  { name: 'Changed', make: () => ({ about: 'changed', days: 7 }) },
  { name: 'Has', make: () => ({ about: 'has', what: 'note' }) },
  { name: 'Comments', make: () => ({ about: 'talk', is: 'open' }) },
  { name: 'A group', make: () => ({ join: props.group.join === 'all' ? 'any' : 'all', of: [] }) },
]
function set(of: readonly Query[]): void {
  emit('change', { ...props.group, of })
}
function change(i: number, query: Query): void {
  set(props.group.of.toSpliced(i, 1, query))
}
function add(event: Event): void {
  const field = event.target as HTMLSelectElement
  const fresh = FRESH[Number(field.value)]
  field.value = ''
  if (!fresh) return
  set([...props.group.of, fresh.make()])
  open.value = props.group.of.length
  nextTick(() => {
    const made = root.value?.querySelector<HTMLElement>('[data-open]')
    if (made) (firstField(made) ?? made).focus()
  })
}
function remove(i: number): void {
  open.value = -1
  set(props.group.of.toSpliced(i, 1))
}
const turn = (one: Query): Query => ({ ...one, not: !one.not }) as Query
const condition = (one: Query): Condition => one as Condition
</script>

<template>
  <div
    ref="root"
    class="group"
    :class="{ inner, not: inner && group.not }"
    role="group"
    :aria-label="inner ? 'A group of conditions' : 'Conditions'">
    <div v-if="inner || group.of.length > 1" class="joined">
      <span class="segments" role="group" aria-label="How the conditions join">
        <button :aria-pressed="group.join === 'all'" @click="emit('change', { ...group, join: 'all' })">all of</button>
        <button :aria-pressed="group.join === 'any'" @click="emit('change', { ...group, join: 'any' })">any of</button>
      </span>
      <template v-if="inner">
        <button class="small" :aria-pressed="Boolean(group.not)" @click="emit('change', { ...group, not: !group.not })">
          not
        </button>
        <button class="icon-button" aria-label="Remove the group" @click="emit('remove')">
          <Icon name="lucide:x" size="14" />
        </button>
      </template>
    </div>
    <template v-for="(one, i) in group.of" :key="i">
      <span v-if="i" class="and quiet" aria-hidden="true">{{ group.join === 'all' ? 'and' : 'or' }}</span>
      <QueryGroup
        v-if="isGroup(one)"
        :group="one"
        :names="names"
        inner
        @change="change(i, $event)"
        @remove="remove(i)" />
      <div v-else class="one">
        <div class="head">
          <button class="chip" :aria-expanded="open === i" @click="open = open === i ? -1 : i">
            {{ conditionInWords(condition(one), names) }}
          </button>
          <button
            class="small"
            :aria-pressed="Boolean(one.not)"
            :aria-label="`Not ${conditionInWords({ ...condition(one), not: false }, names)}`"
            @click="change(i, turn(one))">
            not
          </button>
          <button
            class="icon-button"
            :aria-label="`Remove the condition ${conditionInWords(condition(one), names)}`"
            @click="remove(i)">
            <Icon name="lucide:x" size="14" />
          </button>
        </div>
        <ConditionEditor
          v-if="open === i"
          data-open
          :model-value="condition(one)"
          @update:model-value="change(i, $event)" />
      </div>
    </template>
    <select class="add" value="" :aria-label="inner ? 'Add a condition to the group' : 'Add a condition'" @change="add">
      <option value="">Add a condition …</option>
      <option v-for="(fresh, i) in FRESH" :key="fresh.name" :value="i">{{ fresh.name }}</option>
    </select>
  </div>
</template>

<style scoped>
.group {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.inner {
  border-left: 3px solid var(--porch);
  padding: 4px 0 4px 9px;
}
.inner.not {
  border-left-color: var(--clay);
}
.joined,
.head {
  display: flex;
  gap: 5px;
  align-items: center;
}
.joined .segments {
  flex: 1;
  max-width: 180px;
}
.one {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.chip {
  flex: 1;
  text-align: left;
  border: 1px solid var(--line);
  background: var(--page);
  border-radius: 6px;
  padding: 4px 9px;
  font-size: 13px;
  cursor: pointer;
  min-height: 28px;
  overflow-wrap: anywhere;
}
.chip[aria-expanded='true'] {
  border-color: var(--porch);
}
.small {
  border: 1px solid transparent;
  background: none;
  color: var(--quiet);
  border-radius: 6px;
  font-size: 12px;
  padding: 2px 6px;
  cursor: pointer;
  min-height: 26px;
}
.small[aria-pressed='true'] {
  background: var(--clay);
  color: var(--surface);
  font-weight: 650;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.and {
  font-size: 12px;
  padding-left: 8px;
  line-height: 1;
}
.add {
  font: inherit;
  font-size: 13px;
  color: var(--porch);
  font-weight: 600;
  background: none;
  border: 1px dashed var(--line);
  border-radius: 6px;
  padding: 5px 8px;
  cursor: pointer;
}
</style>
