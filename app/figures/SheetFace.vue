<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize, useResizeObserver } from '@vueuse/core'
import { sayFigure } from '#core/figures/numbers'
import { type Grouping, GROUPINGS } from '#core/tree/view'
import { childrenOf, type Measure, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { expectField } from '~/focus/typeahead'
import { figuresOf } from './figuring'
import type { Aside } from './asides'
import SheetLine from './SheetLine.vue'
import type { FiguresThen } from './useFiguresThen'
import { useSheetBlocks } from './useSheetBlocks'
import { GROUP_NAMES } from '~/outline/group-names'
import { useSheetLines } from './useSheetLines'
import { useSheetRows } from './useSheetRows'
import { type At, useSheetKeys } from './useSheetKeys'

/** The tree as rows, measures as columns: what each topic has, and what it comes to further up. Only what is in sight is drawn. */
const {
  measures,
  asides,
  whatIf = null,
  then = null,
} = defineProps<{
  measures: readonly Measure[]
  asides: readonly Aside[]
  whatIf?: string | null
  /** What figures came to at a moment. */
  then?: FiguresThen | null
}>()
const emit = defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
const box = ref<HTMLDivElement>()
/** A finger needs more room than a pointer. */
const narrow = useNarrow()
const tall = computed(() => (narrow.value ? 44 : 32))

const { sort, group, rows, topicAt, indexOf, order } = useSheetRows(desk, {
  measures: () => measures,
  figures: () => figuresOf(desk, whatIf),
})

const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => tall.value,
    overscan: 12,
    // The rows lie below the head, which stays: what is last in sight ends that much further down.
    scrollPaddingEnd: 38,
    getItemKey: (index: number) => topicAt(index)?.id ?? index,
  })),
)
const lineOf = useSheetLines(desk, {
  measures: () => measures,
  asides: () => asides,
  then: () => then,
  figures: () => figuresOf(desk, whatIf),
})
const shown = computed(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const row = topicAt(item.index)
    return row ? [{ line: lineOf(row), index: item.index, top: item.start }] : []
  }),
)

/** The heads of groups in sight, with what each comes to. */
const groups = computed(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const line = rows.value[item.index]
    if (!line || line.id !== null) return []
    return [
      {
        ...line,
        index: item.index,
        top: item.start,
        cells: line.sums.map(({ value, faults }, i) => ({
          text: value === null ? '' : sayFigure(value, measures[i]!, ownLocale(), true),
          fault: faults === 0 ? null : `${faults} of these can’t be worked out: see the rows below`,
        })),
      },
    ]
  }),
)

// — The cell that is typed in

const opened = shallowRef<(At & { readonly id: TopicId; readonly first: string | null }) | null>(null)
const keys = useSheetKeys(desk, {
  rowOf: id => indexOf.value.get(id) ?? -1,
  idAt: row => topicAt(row)?.id ?? null,
  rows: () => rows.value.length,
  columns: () => measures.length,
  open,
  clear: cells => blocks.clear(cells),
  fill: cells => blocks.fill(cells),
})
const { column, here, block, isIn } = keys

function open(at: At, first: string | null): void {
  const row = topicAt(at.row)
  if (!row || at.column < 0 || !desk.guard()) return
  if (topicOf(desk.tree, row.id).reference) {
    desk.say('This topic shows another one, whose figures would count twice. Change them at the original.')
    return
  }
  if (desk.editing.value) desk.keep()
  expectField()
  opened.value = { ...at, id: row.id, first }
}
function kept(text: string | null, then: 'down' | 'up' | 'right' | 'left' | 'stay'): void {
  const at = opened.value
  opened.value = null
  if (!at) return
  if (text !== null) blocks.give([{ topic: at.id, measure: measures[at.column]!.id, text }])
  if (then === 'stay') {
    // Where the keys went elsewhere they stay; where their field went from under them they come back here.
    nextTick(() => document.activeElement === document.body && focusBox())
    return
  }
  const row = indexOf.value.get(at.id) ?? at.row
  keys.go({
    row: row + (then === 'down' ? 1 : then === 'up' ? -1 : 0),
    column: at.column + (then === 'right' ? 1 : then === 'left' ? -1 : 0),
  })
  focusBox()
}
function dropped(): void {
  opened.value = null
  focusBox()
}

const blocks = useSheetBlocks(desk, {
  rows: () => rows.value,
  measures: () => measures,
  block: () => (column.value < 0 ? null : block.value),
  figures: () => figuresOf(desk, whatIf),
  whatIf: () => whatIf,
})

// — Where one is

function focusBox(): void {
  box.value?.focus({ preventScroll: true })
}
function key(event: KeyboardEvent): void {
  if (event.target !== box.value || opened.value || event.isComposing) return
  if (!keys.key(event)) return
  event.preventDefault()
  event.stopPropagation()
}
function pressed(event: PointerEvent, index: number, at: number): void {
  if (event.button !== 0) return
  if (opened.value && opened.value.id === topicAt(index)?.id && opened.value.column === at) return
  // A finger has no double click: what is chosen already opens.
  const again = event.pointerType === 'touch' && here.value.row === index && here.value.column === at && at >= 0
  keys.go({ row: index, column: at }, event.shiftKey && at >= 0)
  event.preventDefault()
  focusBox()
  if (again) open({ row: index, column: at }, null)
}
function reveal(id: TopicId): void {
  const index = indexOf.value.get(id)
  if (index !== undefined) virtual.value.scrollToIndex(index, { align: 'auto' })
  const cell = box.value?.querySelector<HTMLElement>(`[data-column="${column.value}"]`)
  if (!cell || !box.value || column.value < 0) return
  const [left, frozen] = [cell.offsetLeft, box.value.querySelector<HTMLElement>('.corner')?.offsetWidth ?? 0]
  if (left < box.value.scrollLeft + frozen) box.value.scrollLeft = left - frozen
  else if (left + cell.offsetWidth > box.value.scrollLeft + box.value.clientWidth)
    box.value.scrollLeft = left + cell.offsetWidth - box.value.clientWidth
}
watch(column, () => reveal(desk.focus.value))
function neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  const index = indexOf.value.get(id)
  if (direction === 'up' || direction === 'down' || index === undefined)
    return keys.topicFrom(index ?? -1, direction === 'up' ? -1 : 1)
  if (direction === 'left') {
    if (childrenOf(desk.tree, id).length > 0 && !desk.isFolded(id) && id !== desk.tree.centre) {
      desk.toggleFold([id])
      return null
    }
    return topicOf(desk.tree, id).parent
  }
  return null
}
const openAt = (row: number, at: number): void => open({ row, column: at }, null)
const rename = (id: TopicId): void => desk.edit(id)
const fold = (id: TopicId): void => desk.toggleFold([id])
function contextMenu(event: MouseEvent, id: TopicId): void {
  event.preventDefault()
  if (!desk.selection.value.has(id)) desk.select(id, { quiet: true })
  emit('menu', event)
}
let hide = (): void => {}
useResizeObserver(box, () => reveal(desk.focus.value))
onMounted(() => {
  hide = desk.show({ reveal, neighbour })
  desk.talking.pointsAt = () => {
    const measure = measures[column.value]
    return measure ? { on: 'figure', measure: measure.id } : null
  }
  if (!desk.editing.value) focusBox()
  nextTick(() => reveal(desk.focus.value))
})
onBeforeUnmount(() => {
  hide()
  desk.talking.pointsAt = null
})
watch(desk.editing, (now, before) => {
  if (now) column.value = -1
  if (!now && before) nextTick(focusBox)
})
const name = (measure: Measure): string => (measure.unit.trim() ? `${measure.name}, ${measure.unit}` : measure.name)
/** The column of topics has one width in every row, however wide the rest is. */
const { width } = useElementSize(box)
const frozen = computed(() => Math.round(Math.max(140, Math.min(420, width.value * (width.value < 520 ? 0.46 : 0.38)))))
const wide = computed(() => 124 + asides.length * 92)
defineExpose({
  escape(): boolean {
    if (!opened.value) return false
    dropped()
    return true
  },
})
</script>

<template>
  <div
    ref="box"
    class="sheet-box"
    role="treegrid"
    tabindex="0"
    data-home
    aria-label="Sheet of figures"
    aria-multiselectable="true"
    :aria-rowcount="rows.length + 1"
    :aria-activedescendant="column < 0 ? `sheet-${desk.focus.value}` : `cell-${desk.focus.value}-${column}`"
    :style="{ '--wide': `${wide}px`, '--frozen': `${frozen}px`, '--tall': `${tall}px` }"
    @keydown="key"
    @copy="blocks.copy"
    @cut="blocks.copy"
    @paste="blocks.paste">
    <div class="head" role="row">
      <span class="corner" role="columnheader"
        >Topic
        <select
          class="group-by"
          :value="group ?? ''"
          aria-label="Group the rows"
          @change="group = (($event.target as HTMLSelectElement).value || null) as Grouping | null">
          <option value="">as the tree</option>
          <option v-for="one in GROUPINGS" :key="one" :value="one">{{ GROUP_NAMES[one] }}</option>
        </select></span
      >
      <span
        v-for="(measure, i) in measures"
        :key="measure.id"
        class="column"
        role="columnheader"
        :data-column="i"
        :aria-sort="sort?.measure === measure.id ? (sort.down ? 'descending' : 'ascending') : 'none'">
        <button tabindex="-1" :data-tip="`${name(measure)}: in order of what there is`" @click="order(measure)">
          <b>{{ measure.name }}</b> <span class="quiet">{{ measure.unit }}</span>
          <Icon
            v-if="sort?.measure === measure.id"
            :name="sort.down ? 'lucide:arrow-down-wide-narrow' : 'lucide:arrow-up-narrow-wide'"
            size="14" />
        </button>
        <span v-for="aside in asides" :key="aside" class="aside quiet">{{
          aside === 'share' ? 'of parent' : aside === 'target' ? 'left of target' : 'since then'
        }}</span>
      </span>
    </div>
    <div class="rows" :style="{ height: `${virtual.getTotalSize()}px` }" role="rowgroup">
      <div
        v-for="head in groups"
        :key="`group ${head.key}`"
        class="row group"
        role="row"
        :aria-level="1"
        :aria-rowindex="head.index + 2"
        :style="{ transform: `translateY(${head.top}px)` }">
        <span class="corner" role="rowheader"
          >{{ head.name }} <span class="quiet">{{ head.count }}</span></span
        >
        <span v-for="(sum, i) in head.cells" :key="measures[i]?.id ?? i" class="column" role="gridcell"
          ><span class="value"
            ><span v-if="sum.fault" class="wrong" :data-tip="sum.fault" role="img" :aria-label="sum.fault"
              ><Icon name="lucide:triangle-alert" size="13"
            /></span>
            <template v-else>{{ sum.text }}</template></span
          ><span v-for="aside in asides" :key="aside" class="aside"
        /></span>
      </div>
      <SheetLine
        v-for="{ line, index, top } in shown"
        :key="line.id"
        :line="line"
        :index="index"
        :measures="measures"
        :what-if="whatIf"
        :selected="desk.selection.value.has(line.id)"
        :dim="desk.finding.isDim(line.id)"
        :folded="desk.isFolded(line.id)"
        :on="desk.focus.value === line.id ? column : null"
        :from="here.column >= 0 && isIn(index, block.left) ? block.left : -1"
        :to="here.column >= 0 && isIn(index, block.left) ? block.right : -2"
        :opened="opened?.id === line.id ? opened.column : null"
        :first="opened?.id === line.id ? opened.first : null"
        :titled="desk.editing.value?.id === line.id"
        :style="{ transform: `translateY(${top}px)` }"
        @press="pressed"
        @open="openAt"
        @rename="rename"
        @fold="fold"
        @kept="kept"
        @dropped="dropped"
        @closed="focusBox"
        @menu="contextMenu" />
    </div>
  </div>
</template>

<style scoped src="./SheetCells.css"></style>
<style scoped src="./SheetFace.css"></style>
