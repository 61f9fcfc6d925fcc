<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize, useResizeObserver } from '@vueuse/core'
import { sayFigure } from '#core/figures/numbers'
import { type Grouping, GROUPINGS } from '#core/tree/view'
import { childrenOf, type Measure, numberOf, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { expectField } from '~/focus/typeahead'
import { commentsInWords } from '~/talk/count'
import FormulaField from './FormulaField.vue'
import { figuresOf } from './figuring'
import type { Aside } from './asides'
import { cellOf } from './sheet-cell'
import type { FiguresThen } from './useFiguresThen'
import { useSheetBlocks } from './useSheetBlocks'
import { GROUP_NAMES } from '~/outline/group-names'
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
const shown = computed(() => {
  void desk.tick.value
  void desk.talking.tick.value
  const figures = figuresOf(desk, whatIf)
  return virtual.value.getVirtualItems().flatMap(item => {
    const row = topicAt(item.index)
    if (!row) return []
    return [
      {
        ...row,
        index: item.index,
        top: item.start,
        title: desk.drawnOf(row.id).guise.topic.title,
        number: desk.numbers.any ? desk.numbers.of(row.id) : numberOf(desk.tree, row.id),
        parent: childrenOf(desk.tree, row.id).length > 0,
        cells: measures.map(measure => cellOf(desk, figures, { topic: row.id, measure, asides, then })),
      },
    ]
  })
})

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
        cells: line.sums.map(({ value, fault }, i) => {
          const measure = measures[i]
          return fault || !measure ? '⚠' : value === null ? '' : sayFigure(value, measure, ownLocale(), true)
        }),
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
          ><span class="value">{{ sum }}</span
          ><span v-for="aside in asides" :key="aside" class="aside"
        /></span>
      </div>
      <div
        v-for="row in shown"
        :id="`sheet-${row.id}`"
        :key="row.id"
        class="row"
        role="row"
        :class="{
          parent: row.parent,
          here: desk.focus.value === row.id,
          opened: opened?.id === row.id,
          selected: desk.selection.value.has(row.id),
          dim: desk.finding.isDim(row.id),
        }"
        :aria-level="row.level"
        :aria-rowindex="row.index + 2"
        :aria-selected="desk.selection.value.has(row.id)"
        :aria-expanded="row.parent ? !desk.isFolded(row.id) : undefined"
        :style="{ transform: `translateY(${row.top}px)`, '--hue': desk.dressing.hueOf(row.id) }"
        @contextmenu="contextMenu($event, row.id)">
        <span
          class="corner"
          role="rowheader"
          :class="{ on: desk.focus.value === row.id && column < 0 }"
          :style="{ paddingLeft: `${(row.level - 1) * 16 + 8}px` }"
          @pointerdown="pressed($event, row.index, -1)"
          @dblclick="desk.edit(row.id)">
          <button
            v-if="row.parent && row.level > 1"
            class="twist"
            tabindex="-1"
            :aria-label="desk.isFolded(row.id) ? 'Unfold' : 'Fold'"
            @pointerdown.stop
            @click.stop="desk.toggleFold([row.id])">
            <Icon :name="desk.isFolded(row.id) ? 'lucide:chevron-right' : 'lucide:chevron-down'" size="15" />
          </button>
          <span v-else class="twist" />
          <span v-if="row.number" class="number">{{ row.number }}</span>
          <TitleField v-if="desk.editing.value?.id === row.id" class="words" @closed="focusBox" />
          <span v-else class="words" dir="auto">{{ row.title || '\u00A0' }}</span>
        </span>
        <span
          v-for="(cell, i) in row.cells"
          :id="`cell-${row.id}-${i}`"
          :key="measures[i]!.id"
          class="column"
          role="gridcell"
          :class="{
            on: desk.focus.value === row.id && column === i,
            ranged: here.column >= 0 && isIn(row.index, i),
            rolled: !cell.own,
            open: opened?.id === row.id && opened.column === i,
          }"
          :aria-selected="here.column >= 0 && isIn(row.index, i)"
          @pointerdown="pressed($event, row.index, i)"
          @dblclick="open({ row: row.index, column: i }, null)">
          <FormulaField
            v-if="opened?.id === row.id && opened.column === i"
            :key="`${row.id} ${i}`"
            open
            :topic="row.id"
            :measure="measures[i]!"
            :what-if="whatIf"
            :first="opened.first"
            :label="`${measures[i]!.name} of ${shorten(row.title, 60)}`"
            @kept="kept"
            @dropped="dropped" />
          <template v-else>
            <span class="value">
              <span
                v-if="cell.talked"
                class="talked"
                :class="{ unsettled: cell.talked.open }"
                role="img"
                :aria-label="`${commentsInWords(cell.talked.comments)}. `"
                :data-tip="commentsInWords(cell.talked.comments)"
                ><Icon name="lucide:message-square" size="12" />{{ cell.talked.comments }}</span
              >
              <span v-if="cell.beside && cell.own" class="beside quiet" data-tip="What is below comes to this"
                >Σ {{ cell.beside }}</span
              >
              <span v-if="cell.fault" class="wrong" :data-tip="cell.fault" :aria-label="cell.fault"
                ><Icon name="lucide:triangle-alert" size="13" /> {{ cell.text }}</span
              >
              <span v-else-if="cell.over" class="wrong" :data-tip="cell.over" :aria-label="`${cell.text}, ${cell.over}`"
                >{{ measures[i]!.limit === 'most' ? '↑' : '↓' }} {{ cell.text }}</span
              >
              <template v-else
                ><span v-if="cell.formula" class="quiet formula-sign" aria-label="formula">ƒ</span
                >{{ cell.text }}</template
              >
            </span>
            <span v-for="(aside, n) in cell.asides" :key="n" class="aside" :class="{ bad: aside.bad }">{{
              aside.text
            }}</span>
          </template>
        </span>
      </div>
    </div>
  </div>
</template>

<style scoped src="./SheetFace.css"></style>
