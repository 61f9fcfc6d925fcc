<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useResizeObserver } from '@vueuse/core'
import { outlineRows, type Row } from '#core/find/rows'
import { type AnyColumn, COLUMNS, figureColumnOf, isFigureColumn } from '#core/tree/view'
import {
  childrenOf,
  inOrder,
  languageOf,
  markersOf,
  numberOf,
  pathTo,
  placeOf,
  shorten,
  topicOf,
  type TopicId,
} from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pressMarker } from '~/dress/marker-pick'
import { signsOf } from '#core/scene/face'
import { openSign } from '~/files/opening'
import { columnName, isPlanned, isTyped } from './cells'
import { useFigured } from './useFigured'
import { usePlanned } from './usePlanned'
import { useCells } from './useCells'
import { useRowDrag } from './useRowDrag'

const desk = useDesk()
const emit = defineEmits<{ menu: [event: MouseEvent]; files: [files: File[], topic: TopicId | null] }>()
const box = ref<HTMLDivElement>()

const shape = desk.outline
const narrow = useNarrow()
/** On a narrow screen the small print says what the cells would. */
const columns = computed<readonly AnyColumn[]>(() =>
  narrow.value ? shape.value.columns.filter(column => column === 'number') : shape.value.columns,
)
const at = (column: AnyColumn): boolean => columns.value.includes(column)
const measured = computed(() => {
  void desk.lateTick.value
  return inOrder(desk.tree.fields.measures).map(figureColumnOf)
})
/** The columns with cells after the title, in their one order. A measure that is gone has none. */
const cells = computed((): AnyColumn[] => {
  const shown: AnyColumn[] = COLUMNS.filter(column => column !== 'number' && column !== 'signs' && at(column))
  return [...shown, ...measured.value.filter(at), ...(at('signs') ? (['signs'] as const) : [])]
})

/** How rows are sorted; by a measure that is gone, not at all. */
const sort = computed(() => {
  const { sort } = shape.value
  return sort && isFigureColumn(sort.by) && !measured.value.includes(sort.by) ? null : sort
})
const needed = computed((): AnyColumn[] => [...cells.value, ...(sort.value ? [sort.value.by as AnyColumn] : [])])
const planned = usePlanned(desk, () => needed.value.some(isPlanned))
const figured = useFigured(desk, () => needed.value.some(isFigureColumn))
const rows = computed<readonly Row[]>(() => {
  void desk.tick.value
  const { finding } = desk
  const names = new Map(markersOf(desk.tree.fields).map(marker => [marker.id, marker.name]))
  return outlineRows(desk.tree, {
    sort: sort.value,
    group: shape.value.group,
    only: desk.only.value,
    today: today(),
    locale: ownLocale(),
    folded: id => desk.isFolded(id),
    hidden: id => finding.isHidden(id),
    wanted: id => !finding.active || finding.isHit(id),
    personName: desk.nameOf,
    markerName: id => names.get(id) ?? id,
    planned: planned.value,
    ...(figured.value ? { figure: figured.value.value } : {}),
  })
})
/** Rows aren't where the tree has them: then nothing is dragged. */
const reordered = computed(() => sort.value !== null || shape.value.group !== null)
/** The first row of each topic; where one stands in several groups, `here` tells which of them has the focus. */
const indexOf = computed(
  () => new Map(rows.value.map((row, i): [string, number] => [row.kind === 'topic' ? row.id : row.key, i]).reverse()),
)
const here = ref('')
function rowIndex(id: TopicId): number | undefined {
  const chosen = rows.value.findIndex(row => row.key === here.value)
  const row = rows.value[chosen]
  return row?.kind === 'topic' && row.id === id ? chosen : indexOf.value.get(id)
}

const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => 34,
    overscan: 12,
    getItemKey: (index: number) => rows.value[index]?.key ?? index,
  })),
)

/** Numbers are worked out for what is in sight only. */
type TopicRow = Extract<Row, { kind: 'topic' }>
interface Shown extends TopicRow {
  readonly start: number
  readonly index: number
  readonly number: string
}
const shown = computed<Shown[]>(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const row = rows.value[item.index]
    return row?.kind === 'topic'
      ? [
          {
            ...row,
            start: item.start,
            index: item.index,
            number: desk.numbers.any ? desk.numbers.of(row.id) : numberOf(desk.tree, row.id),
          },
        ]
      : []
  }),
)
const shownGroups = computed(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const row = rows.value[item.index]
    return row?.kind === 'group' ? [{ ...row, start: item.start, index: item.index }] : []
  }),
)
const measure = (element: unknown): void => {
  if (element) virtual.value.measureElement(element as HTMLElement)
}

const topic = (id: TopicId) => topicOf(desk.tree, id)
/** A topic as it's shown: its own words, or those of the one it refers to. */
const seen = (id: TopicId) => desk.drawnOf(id).guise.topic
const pathOf = (id: TopicId): string =>
  pathTo(desk.tree, id)
    .slice(1, -1)
    .map(above => shorten(above.title, 24))
    .join(' › ')
const isHere = (row: Shown): boolean => rowIndex(row.id) === row.index
const hue = (row: TopicRow): string => desk.dressing.hueOf(row.id)
const others = computed(() => {
  const at = new Map<TopicId, { name: string; hue: string }>()
  for (const person of desk.status.present) {
    const id = person.typing ?? person.selected[0]
    if (id) at.set(id, { name: person.name.split(' ')[0]!, hue: hueOf(person.id) })
  }
  return at
})

function reveal(id: TopicId): void {
  const index = rowIndex(id)
  if (index !== undefined) virtual.value.scrollToIndex(index, { align: 'auto' })
}

function neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  const index = rowIndex(id)
  if (index === undefined) return null
  if (direction === 'up' || direction === 'down') {
    const by = direction === 'up' ? -1 : 1
    let to = index + by
    while (rows.value[to]?.kind === 'group') to += by
    const row = rows.value[to]
    if (row?.kind !== 'topic') return null
    here.value = row.key
    return row.id
  }
  const kids = childrenOf(desk.tree, id)
  if (direction === 'left') {
    if (kids.length > 0 && !desk.isFolded(id) && id !== desk.tree.centre) {
      desk.toggleFold([id])
      return null
    }
    return topic(id).parent
  }
  if (desk.isFolded(id)) {
    desk.toggleFold([id])
    return null
  }
  return kids[0] ?? null
}

const { landing, down, moved, up, stopDrag, isDragging } = useRowDrag(desk, {
  box,
  rowAt: y => {
    const items = virtual.value.getVirtualItems()
    const item = items.find(one => y >= one.start && y < one.start + one.size) ?? items.at(-1)
    const row = item && rows.value[item.index]
    return item && row?.kind === 'topic' ? { row, start: item.start, size: item.size } : null
  },
  canDrag: () => !reordered.value,
  taken: row => {
    here.value = row.key
  },
  focus: focusBox,
})

// — Files from outside

const rowAt = (event: DragEvent): TopicId | null =>
  (event.target as HTMLElement).closest<HTMLElement>('[data-topic]')?.dataset.topic ?? null
function dragOver(event: DragEvent): void {
  if (event.dataTransfer?.types.includes('Files')) event.preventDefault()
}
function dropIn(event: DragEvent): void {
  const files = [...(event.dataTransfer?.files ?? [])]
  if (files.length === 0) return
  event.preventDefault()
  emit('files', files, rowAt(event))
}

const { cell, cellDraft, openCell, cellKey, leaveCell, enterCells } = useCells(desk, {
  box,
  typed: () => cells.value.filter(isTyped),
  figured: () => figured.value,
  neighbour,
  focus: focusBox,
})

function escape(): boolean {
  if (!isDragging()) return false
  stopDrag()
  return true
}

function contextMenu(event: MouseEvent, row: TopicRow): void {
  event.preventDefault()
  if (!desk.selection.value.has(row.id)) desk.select(row.id, { quiet: true })
  emit('menu', event)
}

let hide = (): void => {}
onBeforeUnmount(() => hide())
function focusBox(): void {
  box.value?.focus({ preventScroll: true })
}

// Made lower, by a keyboard on the glass or a sheet, it still shows the row that has the focus.
useResizeObserver(box, () => reveal(desk.focus.value))
onMounted(() => {
  hide = desk.show({ reveal, neighbour })
  // A title that is open already has the keys.
  if (!desk.editing.value) focusBox()
  nextTick(() => reveal(desk.focus.value))
})
watch(desk.editing, (now, before) => {
  if (!now && before) nextTick(focusBox)
})
defineExpose({ focus: focusBox, escape, cells: enterCells })
</script>

<template>
  <div class="table">
    <OutlineHead v-if="!narrow" v-model="shape" :cells="cells" />
    <div
      ref="box"
      class="outline"
      role="tree"
      tabindex="0"
      aria-multiselectable="true"
      aria-label="Outline"
      :aria-activedescendant="`row-${desk.focus.value}`"
      @pointermove="moved"
      @pointerup="up"
      @pointercancel="stopDrag"
      @dragover="dragOver"
      @drop="dropIn">
      <div class="rows" :style="{ height: `${virtual.getTotalSize() + 16}px` }">
        <div
          v-for="group in shownGroups"
          :key="group.key"
          :ref="measure"
          :data-index="group.index"
          role="presentation"
          class="row group"
          :style="{ transform: `translateY(${group.start + 8}px)` }">
          {{ group.name }} <span class="quiet">{{ group.count }}</span>
        </div>
        <div
          v-for="row in shown"
          :id="isHere(row) ? `row-${row.id}` : undefined"
          :key="row.key"
          :ref="measure"
          :data-index="row.index"
          role="treeitem"
          class="row"
          :class="{
            selected: desk.selection.value.has(row.id),
            focused: desk.focus.value === row.id && isHere(row),
            dim: desk.finding.isDim(row.id),
            hit: desk.finding.isHit(row.id),
            centre: row.level === 1,
            main: row.level === 2 && !shape.group,
            done: topic(row.id).done === 100,
          }"
          :aria-level="row.level"
          :aria-posinset="row.level === 1 ? 1 : placeOf(desk.tree, row.id) + 1"
          :aria-setsize="row.level === 1 ? 1 : childrenOf(desk.tree, topic(row.id).parent).length"
          :aria-selected="desk.selection.value.has(row.id)"
          :aria-expanded="childrenOf(desk.tree, row.id).length ? !desk.isFolded(row.id) : undefined"
          :data-topic="row.id"
          :style="{
            transform: `translateY(${row.start + 8}px)`,
            paddingLeft: `${(shape.group ? 0 : row.level - 1) * 22 + 12}px`,
            '--hue': hue(row),
          }"
          @pointerdown="down($event, row)"
          @dblclick="desk.edit(row.id)"
          @contextmenu="contextMenu($event, row)">
          <button
            v-if="!shape.group && childrenOf(desk.tree, row.id).length && row.level > 1"
            class="twist"
            tabindex="-1"
            :aria-label="desk.isFolded(row.id) ? 'Unfold' : 'Fold'"
            @click.stop="desk.toggleFold([row.id])">
            <Icon :name="desk.isFolded(row.id) ? 'lucide:chevron-right' : 'lucide:chevron-down'" size="15" />
          </button>
          <span v-else class="twist" />
          <span v-if="at('number')" class="number">{{ row.number }}</span>
          <span class="edge" />
          <MarkerSign
            v-for="marker in seen(row.id).markers"
            :id="marker"
            :key="marker"
            @click.stop="pressMarker(desk, row.id, marker, $event)" />
          <TitleField v-if="desk.editing.value?.id === row.id && isHere(row)" class="words" @closed="focusBox" />
          <span v-else class="words" dir="auto" :lang="languageOf(desk.tree, seen(row.id)) ?? undefined"
            >{{ seen(row.id).title || '\u00A0'
            }}<span v-if="shape.group && pathOf(row.id)" class="path quiet"> {{ pathOf(row.id) }}</span></span
          >
          <span v-if="others.get(row.id)" class="other" :style="{ background: others.get(row.id)!.hue }">{{
            others.get(row.id)!.name
          }}</span>
          <span v-if="narrow" class="tail">
            <button
              v-for="sign in signsOf(seen(row.id), desk.drawnOf(row.id).talk)"
              :key="sign.kind"
              class="sign"
              tabindex="-1"
              :aria-label="`${sign.name}: open`"
              @click.stop="openSign(desk, row.id, sign.kind)">
              <b v-if="sign.count" class="said" :class="{ open: sign.open }">{{ sign.count }}</b>
              <Icon v-else :name="sign.icon" size="14" />
            </button>
            <span class="small"
              ><span v-for="piece in desk.drawnOf(row.id).smallPrint" :key="piece.text" :class="piece.tone">{{
                piece.text
              }}</span></span
            >
          </span>
          <template v-else>
            <span
              v-for="column in cells"
              :key="column"
              class="cell"
              :class="isFigureColumn(column) ? 'figures' : column">
              <input
                v-if="cell?.id === row.id && cell.column === column && isHere(row)"
                v-model="cellDraft"
                :aria-label="`${columnName(desk, column)} of ${topic(row.id).title}`"
                @keydown="cellKey"
                @blur="leaveCell(row.id, column)"
                @pointerdown.stop
                @dblclick.stop />
              <template v-else-if="column === 'signs'"
                ><button
                  v-for="sign in signsOf(seen(row.id), desk.drawnOf(row.id).talk)"
                  :key="sign.kind"
                  class="sign"
                  tabindex="-1"
                  :aria-label="`${sign.name}: open`"
                  @click.stop="openSign(desk, row.id, sign.kind)">
                  <b v-if="sign.count" class="said" :class="{ open: sign.open }">{{ sign.count }}</b>
                  <Icon v-else :name="sign.icon" size="14" /></button
              ></template>
              <CellText
                v-else
                :id="row.id"
                :column="column"
                :planned="isPlanned(column) ? planned(row.id) : null"
                :figured="isFigureColumn(column) ? figured : null"
                @open="isTyped(column) ? openCell(row.id, column) : desk.select(row.id, { quiet: true })" />
            </span>
          </template>
        </div>
        <div
          v-if="landing"
          class="slot"
          :class="{ inside: landing.inside }"
          :style="{ transform: `translateY(${landing.top + 8}px)`, left: `${landing.left}px` }">
          <span>{{ landing.words }}</span>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped src="./columns.css"></style>

<style scoped src="./TreeOutline.css"></style>
