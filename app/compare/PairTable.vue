<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { shorten } from '#core/tree'
import type { Comparing } from './useComparison'

/** Both states in two columns, line by line: what one hasn't is empty there. Lines that are alike can be left out. */
const { comparing, there, here } = defineProps<{ comparing: Comparing; there: string; here: string }>()
const emit = defineEmits<{ show: [id: string] }>()
const box = ref<HTMLElement>()
const all = ref(true)
const kinds = computed(() => new Map(comparing.shown.value.map(({ id, kinds: of }) => [id, of])))
const rows = computed(() =>
  all.value && !comparing.isNarrowed.value
    ? comparing.pairs.value
    : comparing.pairs.value.filter(({ id }) => kinds.value.has(id)),
)
const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => 34,
    overscan: 16,
  })),
)
const shown = computed(() =>
  virtual.value.getVirtualItems().map(({ index, start }) => {
    const pair = rows.value[index]!
    const { here: mine, there: other } = comparing.trees.value!
    const changed = kinds.value.get(pair.id)?.includes('changed') ?? false
    return {
      ...pair,
      index,
      start,
      changed,
      right: pair.side === 'there' ? null : mine.topics.get(pair.id)!.title || 'untitled',
      left: pair.side === 'here' ? null : other.topics.get(pair.id)!.title || 'untitled',
    }
  }),
)
const said = (row: { side: string; moved: boolean; changed: boolean; trace: boolean }): string =>
  [
    row.trace ? 'was here, moved' : row.moved ? 'moved' : row.side === 'both' ? '' : `only ${row.side}`,
    row.changed && !row.trace ? 'changed' : '',
  ]
    .filter(Boolean)
    .join(', ')
/** To the next line, or the one before, that is different. */
function jump(step: 1 | -1): void {
  const at = Math.max(
    0,
    rows.value.findIndex(({ id, trace }) => id === last && !trace),
  )
  for (let i = at + step; i >= 0 && i < rows.value.length; i += step) {
    const row = rows.value[i]!
    if (!kinds.value.has(row.id)) continue
    last = row.id
    virtual.value.scrollToIndex(i, { align: 'center' })
    marked.value = row.id
    return
  }
}
/** The arrow keys go from difference to difference; Enter shows one on the canvas. */
function key(event: KeyboardEvent): void {
  const step = ({ ArrowDown: 1, ArrowUp: -1 } as const)[event.key]
  if (step) jump(step)
  else if (event.key === 'Enter' && marked.value) emit('show', marked.value)
  else return
  event.preventDefault()
}
let last = ''
const marked = ref('')
</script>

<template>
  <div class="pairs">
    <div class="bar">
      <label><input v-model="all" type="checkbox" :disabled="comparing.isNarrowed.value" /> also what is alike</label>
      <button class="plain" @click="jump(-1)">Difference before</button>
      <button class="plain" @click="jump(1)">Next difference</button>
    </div>
    <div class="heads" aria-hidden="true">
      <b>{{ there }}</b><b>{{ here }}</b>
    </div>
    <div ref="box" class="lines" role="table" aria-label="Side by side" tabindex="0" @keydown="key">
      <div :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="row in shown"
          :key="`${row.index}`"
          class="row"
          :class="[row.side, { moved: row.moved, changed: row.changed, trace: row.trace, marked: marked === row.id }]"
          role="row"
          :style="{ transform: `translateY(${row.start}px)` }"
          @click="emit('show', row.id)">
          <span role="cell" class="left" dir="auto" :style="{ paddingLeft: `${12 + Math.min(row.level, 14) * 18}px` }"
            ><template v-if="row.left !== null">{{ shorten(row.left, 200) }}</template></span
          >
          <span role="cell" class="right" dir="auto" :style="{ paddingLeft: `${12 + Math.min(row.level, 14) * 18}px` }"
            ><template v-if="row.right !== null">{{ shorten(row.right, 200) }}</template
            ><small v-if="said(row)">{{ said(row) }}</small></span
          >
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.pairs {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  height: 100%;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  padding: 8px 16px;
  font-size: 13px;
}
.heads,
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.heads b {
  padding: 6px 12px;
  font: 600 13px var(--text);
  border-bottom: 1px solid var(--line);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.heads b + b,
.right {
  border-left: 3px solid var(--ceiling);
}
.lines {
  overflow: auto;
  position: relative;
}
.lines > div {
  position: relative;
}
.row {
  position: absolute;
  inset: 0 0 auto;
  height: 34px;
  cursor: pointer;
}
.row > span {
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  padding-right: 10px;
}
.row:hover > span {
  background: var(--hover);
}
.marked > span {
  box-shadow: inset 0 0 0 2px var(--porch);
}
small {
  margin-left: auto;
  flex: none;
  font: 650 11px/17px var(--text);
  padding: 0 6px;
  outline: 1.5px solid var(--sun);
}
.here .right,
.changed .right {
  background: color-mix(in srgb, var(--sun) 16%, transparent);
}
.there .left {
  background: color-mix(in srgb, var(--clay) 14%, transparent);
}
.there small {
  outline: 1.5px dashed var(--clay);
  color: var(--clay);
}
.moved small {
  outline-style: dashed;
}
.trace .left {
  color: var(--quiet);
  text-decoration: line-through;
}
/* What one side hasn't is hatched, so that an empty title isn't taken for a missing topic. */
.here:not(.moved) .left,
.moved .left:empty,
.there .right {
  background-image: repeating-linear-gradient(-45deg, transparent 0 7px, var(--line) 7px 8px);
}
.there .right small {
  background: var(--surface);
}
</style>
