<script setup lang="ts">
import { columnName, type ReadTable } from '#core/figures/table'

/** The sheets of a workbook, or a file of rows, as tables with a tab each. */
const { sheets } = defineProps<{ sheets: readonly ReadTable[] }>()
const at = ref(0)
/** Rows that are shown at first, and more with each press. */
const STEP = 500
const shown = ref(STEP)
const sheet = computed(() => sheets[Math.min(at.value, sheets.length - 1)]!)
const rows = computed(() => sheet.value.rows.slice(0, shown.value))
const columns = computed(() => rows.value.reduce((most, row) => Math.max(most, row.length), 0))
const headings = computed(() => Array.from({ length: columns.value }, (_, i) => columnName(i)))
const tabs = useTemplateRef<HTMLElement[]>('tabs')
const id = useId()

function choose(index: number): void {
  at.value = (index + sheets.length) % sheets.length
  shown.value = STEP
}
function key(event: KeyboardEvent): void {
  const to =
    event.key === 'ArrowRight'
      ? at.value + 1
      : event.key === 'ArrowLeft'
        ? at.value - 1
        : event.key === 'Home'
          ? 0
          : event.key === 'End'
            ? sheets.length - 1
            : null
  if (to === null || event.altKey || event.ctrlKey || event.metaKey) return
  event.preventDefault()
  // The arrows would go to the next file.
  event.stopPropagation()
  choose(to)
  void nextTick(() => tabs.value?.[at.value]?.focus())
}
/** Within the table the arrows scroll. */
function inTable(event: KeyboardEvent): void {
  if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') event.stopPropagation()
}
</script>

<template>
  <div class="sheets">
    <div v-if="sheets.length > 1" class="tabs" role="tablist" aria-label="Sheets" @keydown="key">
      <button
        v-for="(one, i) in sheets"
        :id="`${id}-${i}`"
        :key="i"
        ref="tabs"
        role="tab"
        :aria-selected="i === at"
        :aria-controls="`${id}-table`"
        :tabindex="i === at ? 0 : -1"
        @click="choose(i)">
        {{ one.name }}
      </button>
    </div>
    <p v-for="said in sheet.left" :key="said" class="quiet left" role="note">{{ said }}</p>
    <p v-if="rows.length === 0" class="quiet left">Nothing stands in this sheet.</p>
    <div
      v-else
      :id="`${id}-table`"
      class="table"
      tabindex="0"
      :role="sheets.length > 1 ? 'tabpanel' : 'region'"
      :aria-label="sheet.name"
      @keydown="inTable">
      <table>
        <thead>
          <tr>
            <th scope="col" class="corner"><span class="unseen">Row</span></th>
            <th v-for="name in headings" :key="name" scope="col">{{ name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in rows" :key="r">
            <th scope="row">{{ r + 1 }}</th>
            <td v-for="(_, c) in columns" :key="c" :class="{ number: row[c]?.number != null }">{{ row[c]?.text }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <Button
      v-if="sheet.rows.length > shown"
      size="small"
      severity="secondary"
      :label="`Show more rows (${(sheet.rows.length - shown).toLocaleString()} are left)`"
      @click="shown += STEP" />
  </div>
</template>

<style scoped>
.sheets {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 10px;
  width: 100%;
  min-height: 0;
  flex: 1;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  flex: none;
}
.tabs button {
  font: inherit;
  font-size: 13px;
  min-height: 30px;
  padding: 4px 14px;
  border: 1px solid var(--line);
  border-bottom-width: 3px;
  background: var(--surface);
  color: inherit;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  border-bottom-color: var(--accent);
  font-weight: 650;
}
.left {
  margin: 0;
}
.table {
  max-width: 100%;
  overflow: auto;
  min-height: 0;
  border: 1px solid var(--line);
  background: var(--surface);
}
table {
  border-collapse: separate;
  border-spacing: 0;
  font-size: 13.5px;
}
th,
td {
  border-right: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  padding: 4px 9px;
  max-width: 420px;
  vertical-align: top;
}
td {
  white-space: pre-line;
  overflow-wrap: anywhere;
  min-width: 40px;
}
td.number {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
th {
  background: var(--page);
  color: var(--quiet);
  font-weight: 500;
  position: sticky;
}
thead th {
  top: 0;
  z-index: 1;
}
tbody th,
.corner {
  left: 0;
  text-align: right;
}
.corner {
  z-index: 2;
}
.unseen {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
</style>
