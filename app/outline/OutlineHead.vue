<script setup lang="ts">
import { GROUP_NAMES } from './group-names'
import {
  type AnyColumn,
  type Column,
  COLUMNS,
  figureColumnOf,
  type Grouping,
  GROUPINGS,
  isFigureColumn,
  MOST_FIGURES,
  type OutlineShape,
} from '#core/tree/view'
import { inOrder } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { COLUMN_NAMES, columnName, PLANNED } from './cells'

/** The head of the outline: which columns are shown, and how rows are sorted and grouped. */
const shape = defineModel<OutlineShape>({ required: true })
/** The columns with cells after the title, in their one order. */
defineProps<{ cells: readonly AnyColumn[] }>()
const desk = useDesk()
const measures = computed(() => {
  void desk.lateTick.value
  return inOrder(desk.tree.fields.measures)
})

const SORTED: readonly Column[] = ['start', 'due', 'length', 'done', 'priority', ...PLANNED]
const isSorted = (column: AnyColumn): boolean => isFigureColumn(column) || SORTED.includes(column)
const chooser = ref()
const at = (column: AnyColumn): boolean => shape.value.columns.includes(column)
const sortSign = (by: string): string => (shape.value.sort?.by === by ? (shape.value.sort.down ? '↓' : '↑') : '')
const sortSaid = (by: string): 'ascending' | 'descending' | 'none' =>
  shape.value.sort?.by === by ? (shape.value.sort.down ? 'descending' : 'ascending') : 'none'

function sortBy(by: NonNullable<OutlineShape['sort']>['by']): void {
  const { sort } = shape.value
  shape.value = { ...shape.value, sort: sort?.by !== by ? { by, down: false } : sort.down ? null : { by, down: true } }
}
function toggleColumn(column: AnyColumn): void {
  const all: readonly AnyColumn[] = [...COLUMNS, ...measures.value.map(figureColumnOf)]
  shape.value = { ...shape.value, columns: all.filter(one => at(one) !== (one === column)) }
}
</script>

<template>
  <div class="head" role="toolbar" aria-label="Columns of the outline">
    <span v-if="at('number')" class="head-number">No.</span>
    <span class="head-title">
      <button
        :data-sorted="sortSaid('title')"
        :aria-label="`Sort by title, now ${sortSaid('title')}`"
        @click="sortBy('title')">
        Title {{ sortSign('title') }}
      </button>
      <select
        class="group-by"
        :value="shape.group ?? ''"
        aria-label="Group the rows"
        @change="shape = { ...shape, group: (($event.target as HTMLSelectElement).value || null) as Grouping | null }">
        <option value="">as the tree</option>
        <option v-for="group in GROUPINGS" :key="group" :value="group">{{ GROUP_NAMES[group] }}</option>
      </select>
      <button class="icon-button" aria-label="Choose columns" @click="chooser.toggle($event)">
        <Icon name="lucide:columns-3" size="16" />
      </button>
    </span>
    <template v-for="column in cells" :key="column">
      <button
        v-if="isSorted(column)"
        class="cell"
        :class="isFigureColumn(column) ? 'figures' : column"
        :aria-label="`Sort by ${isFigureColumn(column) ? columnName(desk, column) : COLUMN_NAMES[column].toLowerCase()}, now ${sortSaid(column)}`"
        @click="sortBy(column as 'due')">
        {{ columnName(desk, column) }} {{ sortSign(column) }}
      </button>
      <span v-else class="cell" :class="column">{{ columnName(desk, column) }}</span>
    </template>
    <PorchPopover ref="chooser"
      ><div class="choose" role="group" aria-label="Columns">
        <label v-for="column in COLUMNS" :key="column"
          ><input type="checkbox" :checked="shape.columns.includes(column)" @change="toggleColumn(column)" />
          {{ COLUMN_NAMES[column] }}</label
        >
        <label v-for="one in measures" :key="one.id"
          ><input
            type="checkbox"
            :checked="at(figureColumnOf(one))"
            :disabled="!at(figureColumnOf(one)) && cells.filter(isFigureColumn).length >= MOST_FIGURES"
            @change="toggleColumn(figureColumnOf(one))" />
          {{ one.name }}</label
        >
      </div></PorchPopover
    >
  </div>
</template>

<style scoped src="./columns.css"></style>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 7px;
  height: 36px;
  padding: 0 16px 0 48px;
  border-bottom: 1px solid var(--line);
  flex: none;
  font-size: 12px;
  color: var(--quiet);
  max-width: 1132px;
  width: 100%;
}
.head button {
  border: 0;
  background: none;
  color: inherit;
  font-weight: 600;
  text-align: left;
  padding: 2px 0;
  cursor: pointer;
  min-height: 26px;
}
.head button:hover {
  color: var(--ink);
}
.head .icon-button {
  min-width: 28px;
  height: 28px;
}
.head-title {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 8px;
}
.head-title > button:first-child {
  margin-right: auto;
}
.head-number {
  width: 26px;
}
.group-by {
  font: inherit;
  color: inherit;
  border: 1px solid var(--line);
  background: none;
  border-radius: 6px;
  padding: 3px 4px;
  max-width: 110px;
}
.choose {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.choose label {
  display: flex;
  gap: 7px;
  align-items: center;
  min-height: 26px;
}
.cell {
  font-weight: 600;
  font-size: 12px;
}
</style>
