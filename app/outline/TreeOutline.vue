<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { outlineRows, type Row } from '#core/find/rows'
import { type Column, COLUMNS, type OutlineShape } from '#core/tree/view'
import { childrenOf, markersOf, numberOf, pathTo, placeOf, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { signsOf } from '~/desk/face'
import { openSign } from '~/files/opening'
import { COLUMN_NAMES, TYPED } from './cells'
import { useCells } from './useCells'
import { useRowDrag } from './useRowDrag'

const desk = useDesk()
const emit = defineEmits<{ menu: [event: MouseEvent]; files: [files: File[], topic: TopicId | null] }>()
const box = ref<HTMLDivElement>()

const shape = desk.outline
const narrow = useNarrow()
/** On a narrow screen the small print says what the cells would. */
const columns = computed<readonly Column[]>(() =>
  narrow.value ? shape.value.columns.filter(column => column === 'number') : shape.value.columns,
)
const at = (column: Column): boolean => columns.value.includes(column)
/** The columns with cells after the title, in their one order. */
const cells = computed(() => COLUMNS.filter(column => column !== 'number' && at(column)))

const rows = computed<readonly Row[]>(() => {
  void desk.tick.value
  const { finding } = desk
  const names = new Map(markersOf(desk.tree.fields).map(marker => [marker.id, marker.name]))
  return outlineRows(desk.tree, {
    sort: shape.value.sort,
    group: shape.value.group,
    only: desk.only.value,
    today: today(),
    locale: ownLocale(),
    folded: id => desk.isFolded(id),
    hidden: id => finding.isHidden(id),
    wanted: id => !finding.active || finding.isHit(id),
    personName: desk.nameOf,
    markerName: id => names.get(id) ?? id,
  })
})
/** Rows aren't where the tree has them: then nothing is dragged. */
const reordered = computed(() => shape.value.sort !== null || shape.value.group !== null)
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
  typed: () => TYPED.filter(at),
  neighbour,
  focus: focusBox,
})

const KEPT = `sun-porch-outline/${desk.session.treeId}`
onMounted(() => {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as OutlineShape | null
    if (kept?.columns) shape.value = kept
  } catch {
    /* what can't be read is as if nothing had been chosen */
  }
})
watch(shape, now => {
  try {
    localStorage.setItem(KEPT, JSON.stringify(now))
  } catch {
    /* without room it lasts as long as the page */
  }
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

onMounted(() => {
  hide = desk.show({ reveal, neighbour })
  focusBox()
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
          <MarkerSign v-for="marker in seen(row.id).markers" :id="marker" :key="marker" />
          <TitleField v-if="desk.editing.value?.id === row.id && isHere(row)" class="words" @closed="focusBox" />
          <span v-else class="words" dir="auto"
            >{{ seen(row.id).title || '\u00A0'
            }}<span v-if="shape.group && pathOf(row.id)" class="path quiet"> {{ pathOf(row.id) }}</span></span
          >
          <span v-if="others.get(row.id)" class="other" :style="{ background: others.get(row.id)!.hue }">{{
            others.get(row.id)!.name
          }}</span>
          <span v-if="narrow" class="tail">
            <button
              v-for="sign in signsOf(seen(row.id))"
              :key="sign.kind"
              class="sign"
              tabindex="-1"
              :aria-label="`${sign.name}: open`"
              @click.stop="openSign(desk, row.id, sign.kind)">
              <Icon :name="sign.icon" size="14" />
            </button>
            <span class="small"
              ><span v-for="piece in desk.drawnOf(row.id).smallPrint" :key="piece.text" :class="piece.tone">{{
                piece.text
              }}</span></span
            >
          </span>
          <template v-else>
            <span v-for="column in cells" :key="column" class="cell" :class="column">
              <input
                v-if="cell?.id === row.id && cell.column === column && isHere(row)"
                v-model="cellDraft"
                :aria-label="`${COLUMN_NAMES[column]} of ${topic(row.id).title}`"
                @keydown="cellKey"
                @blur="leaveCell(row.id, column)"
                @pointerdown.stop
                @dblclick.stop />
              <template v-else-if="column === 'signs'"
                ><button
                  v-for="sign in signsOf(seen(row.id))"
                  :key="sign.kind"
                  class="sign"
                  tabindex="-1"
                  :aria-label="`${sign.name}: open`"
                  @click.stop="openSign(desk, row.id, sign.kind)">
                  <Icon :name="sign.icon" size="14" /></button
              ></template>
              <CellText v-else :id="row.id" :column="column" @open="openCell(row.id, column)" />
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

<style scoped>
.table {
  position: absolute;
  inset: 0;
  display: flex;
  flex-direction: column;
  background: var(--surface);
}
.cell input {
  width: 100%;
  font: inherit;
  color: var(--ink);
  background: var(--page);
  border: 1px solid var(--porch);
  border-radius: 4px;
  padding: 0 4px;
  outline: none;
}
.row.dim {
  opacity: 0.35;
}
.row.hit .edge {
  box-shadow: 0 0 0 2px var(--sun);
}
.row.group {
  font: 650 14px/22px var(--display);
  padding-left: 16px;
  border-bottom: 1px solid var(--line);
  background: var(--surface);
}
.path {
  margin-left: 9px;
  font-size: 12px;
  font-weight: 450;
}
.outline {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: auto;
  background: var(--surface);
  outline: none;
  touch-action: pan-y;
}
.rows {
  position: relative;
  max-width: 1100px;
}
.row {
  position: absolute;
  left: 0;
  right: 0;
  top: 0;
  min-height: 34px;
  padding: 6px 16px 6px 12px;
  display: flex;
  gap: 7px;
  align-items: flex-start;
  line-height: 22px;
  cursor: default;
  user-select: none;
  -webkit-user-select: none;
}
.row > .marker {
  margin-top: 2px;
}
.row:hover {
  background: var(--hover);
}
.row.selected {
  background: color-mix(in srgb, var(--porch) 10%, var(--surface));
}
.row.focused {
  box-shadow: inset 0 0 0 2px var(--porch);
  border-radius: 4px;
}
.row.centre {
  font: 650 18px/26px var(--display);
}
.row.main {
  font-weight: 600;
}
.row.done .words {
  color: var(--quiet);
}
.twist {
  width: 24px;
  height: 24px;
  flex: none;
  border: 0;
  background: none;
  padding: 0;
  color: var(--quiet);
  cursor: pointer;
  display: grid;
  place-items: center;
}
.number {
  color: var(--quiet);
  font-size: 12px;
  min-width: 26px;
  flex: none;
}
.centre .number {
  display: none;
}
.edge {
  width: 3px;
  align-self: stretch;
  background: var(--hue);
  flex: none;
}
.words {
  flex: 1;
  min-width: 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.sign {
  color: var(--quiet);
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  flex: none;
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
}
.cell .sign {
  width: 20px;
  height: 24px;
}
.sign:hover {
  color: var(--porch);
}
.small {
  display: flex;
  gap: 9px;
  font-size: 12px;
  color: var(--quiet);
  flex: none;
}
.small .people {
  font-weight: 750;
  color: var(--ink);
}
.small .late {
  color: var(--clay);
  font-weight: 650;
}
.small .ok {
  color: var(--fern);
  font-weight: 650;
}
.other {
  color: #fff;
  font: 650 10.5px/16px var(--text);
  padding: 0 6px;
  border-radius: 3px;
  margin-top: 3px;
}
.slot {
  position: absolute;
  top: 0;
  right: 16px;
  height: 0;
  border-top: 3px solid var(--sun);
  pointer-events: none;
  z-index: 2;
}
.slot.inside {
  height: 34px;
  border: 2px solid var(--sun);
  background: color-mix(in srgb, var(--sun) 18%, transparent);
}
.slot span {
  position: absolute;
  right: 0;
  top: 2px;
  background: var(--sun);
  color: #352400;
  font: 650 11.5px/17px var(--text);
  padding: 0 7px;
  white-space: nowrap;
}
@media (max-width: 700px) {
  .number {
    display: none;
  }
  .row {
    flex-wrap: wrap;
    row-gap: 0;
  }
  .words {
    min-width: 50%;
  }
  .tail {
    display: flex;
    flex-wrap: wrap;
    justify-content: flex-end;
    align-items: center;
    column-gap: 6px;
    margin-left: auto;
  }
  .small {
    flex-wrap: wrap;
  }
}
</style>
