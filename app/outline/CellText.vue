<script setup lang="ts">
import { hoursOn } from '#core/schedule/times'
import type { PlannedDays } from '#core/find/rows'
import { type AnyColumn, isFigureColumn } from '#core/tree/view'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { cellText, columnName, isPlanned, plannedText } from './cells'
import type { Figured } from './useFigured'

/** One cell of a row as it's read: what the topic says in a column, and what opens it for typing. */
const props = defineProps<{ id: TopicId; column: AnyColumn; planned: PlannedDays | null; figured: Figured | null }>()
const emit = defineEmits<{ open: [] }>()
const desk = useDesk()
/** The topic as it's shown: its own words, or those of the one it refers to. */
const guise = computed(() => {
  void desk.tick.value
  return desk.drawnOf(props.id).guise
})
const said = computed(() => guise.value.topic)
const figure = computed(() =>
  isFigureColumn(props.column) ? (props.figured?.shown(props.id, props.column) ?? null) : null,
)
const text = computed(() => {
  void desk.tick.value
  if (isFigureColumn(props.column)) return figure.value?.text ?? ''
  return isPlanned(props.column) ? plannedText(props.planned, props.column) : cellText(desk, props.id, props.column)
})
/** Too late already, or nothing may slip. */
const tight = computed(
  () => props.column === 'float' && props.planned?.totalFloat !== null && (props.planned?.totalFloat ?? 1) <= 0,
)
const names = computed(() => {
  void desk.tick.value
  return [...said.value.people.map(desk.nameOf), ...guise.value.names]
})
</script>

<template>
  <button
    class="said"
    tabindex="-1"
    :title="figure?.fault ?? undefined"
    :aria-label="`${columnName(desk, column)}: ${(figure?.fault ?? text) || 'empty'}`"
    @click.stop="emit('open')">
    <template v-if="column === 'people'"
      ><span v-for="name in names" :key="name" class="initials" :title="name">{{ initialsOf(name) }}</span></template
    >
    <template v-else-if="column === 'markers'">{{ text }}</template>
    <span v-else-if="figure" class="figure" :class="{ rolled: !figure.own, fault: figure.fault }">{{ text }}</span>
    <span v-else-if="isPlanned(column)" :class="{ tight }">{{ text }}</span>
    <span v-else-if="column === 'due' && said.due" :class="{ late: said.done !== 100 && dueInWords(said.due!).late }">{{
      dueInWords(said.due!, undefined, hoursOn(said, said.due!)).text
    }}</span>
    <template v-else-if="column === 'start' && said.start">{{ momentInWords(said.start!, said.startTime) }}</template>
    <template v-else-if="column === 'length' && said.duration !== null">{{ said.duration }} d</template>
    <template v-else-if="column === 'done' && said.done !== null">{{ said.done }} %</template>
    <template v-else-if="column === 'priority' && said.priority !== null">P{{ said.priority }}</template>
  </button>
</template>

<style scoped>
.said {
  display: flex;
  align-items: center;
  width: 100%;
  height: 24px;
  overflow: hidden;
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  color: inherit;
  cursor: text;
  font-variant-numeric: tabular-nums;
}
.said:hover {
  box-shadow: inset 0 -1px 0 var(--line);
}
.said .initials {
  width: 22px;
  height: 22px;
  font-size: 9.5px;
  background: var(--ceiling);
  color: var(--ink);
  border: 0;
  margin-right: 2px;
}
.tight {
  color: var(--ink);
  font-weight: 650;
  border-bottom: 3px double currentcolor;
}
.figure {
  flex: 1;
  text-align: right;
  color: var(--ink);
  font-weight: 600;
}
.figure.rolled {
  color: var(--quiet);
  font-weight: 450;
}
.figure.fault {
  color: var(--clay);
}
.late {
  color: var(--clay);
  font-weight: 650;
}
</style>
