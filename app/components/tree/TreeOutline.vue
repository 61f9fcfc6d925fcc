<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { childrenOf, movable, numberOf, placeOf, roots, type Slot, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/tree/desk'
import { slotInWords } from '#core/arrange/landing'

const desk = useDesk()
const emit = defineEmits<{ menu: [event: MouseEvent] }>()
const box = ref<HTMLDivElement>()

interface Row { readonly id: TopicId, readonly level: number }

const rows = computed<readonly Row[]>(() => {
  void desk.tick.value
  const list: Row[] = []
  const stack: [TopicId, number][] = roots(desk.tree).map((id): [TopicId, number] => [id, 1]).reverse()
  while (stack.length > 0) {
    const [id, level] = stack.pop()!
    list.push({ id, level })
    if (desk.isFolded(id)) continue
    const kids = childrenOf(desk.tree, id)
    for (let i = kids.length - 1; i >= 0; i--) stack.push([kids[i]!, level + 1])
  }
  return list
})
const indexOf = computed(() => new Map(rows.value.map((row, i) => [row.id, i])))

const virtual = useVirtualizer(computed(() => ({
  count: rows.value.length,
  getScrollElement: () => box.value ?? null,
  estimateSize: () => 34,
  overscan: 12,
  getItemKey: (index: number) => rows.value[index]?.id ?? index,
})))

/** Numbers are worked out for what is in sight only. */
interface Shown extends Row { readonly start: number, readonly index: number, readonly number: string }
const shown = computed<Shown[]>(() => virtual.value.getVirtualItems().flatMap((item) => {
  const row = rows.value[item.index]
  return row ? [{ ...row, start: item.start, index: item.index, number: numberOf(desk.tree, row.id) }] : []
}))
const measure = (element: unknown): void => { if (element) virtual.value.measureElement(element as HTMLElement) }

const topic = (id: TopicId) => topicOf(desk.tree, id)
const hue = (row: Row): string => desk.dressing.hueOf(row.id)
const others = computed(() => {
  const at = new Map<TopicId, { name: string, hue: string }>()
  for (const person of desk.status.present) {
    const id = person.typing ?? person.selected[0]
    if (id) at.set(id, { name: person.name.split(' ')[0]!, hue: hueOf(person.id) })
  }
  return at
})

function reveal(id: TopicId): void {
  const index = indexOf.value.get(id)
  if (index !== undefined) virtual.value.scrollToIndex(index, { align: 'auto' })
}

function neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  const index = indexOf.value.get(id)
  if (index === undefined) return null
  if (direction === 'up') return rows.value[index - 1]?.id ?? null
  if (direction === 'down') return rows.value[index + 1]?.id ?? null
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

// — Dragging rows
const landing = shallowRef<{ slot: Slot, top: number, left: number, inside: boolean, words: string } | null>(null)
let press: { id: TopicId, x: number, y: number } | null = null
let dragging: ReadonlySet<TopicId> = new Set()

function down(event: PointerEvent, row: Row): void {
  if (event.button !== 0 || (event.target as HTMLElement).closest('button, textarea')) return
  const add = event.ctrlKey || event.metaKey
  if (event.shiftKey || add) desk.select(row.id, { range: event.shiftKey, add, quiet: true })
  else if (!desk.selection.value.has(row.id)) desk.select(row.id, { quiet: true })
  if (event.pointerType === 'mouse' && row.id !== desk.tree.centre && desk.session.canEdit) {
    press = { id: row.id, x: event.clientX, y: event.clientY }
    box.value!.setPointerCapture(event.pointerId)
  }
  focusBox()
}

function moved(event: PointerEvent): void {
  if (!press) return
  if (dragging.size === 0) {
    if (Math.hypot(event.clientX - press.x, event.clientY - press.y) < 5) return
    dragging = new Set(movable(desk.tree, desk.selection.value.has(press.id) ? desk.selection.value : [press.id]))
  }
  const bounds = box.value!.getBoundingClientRect()
  const y = event.clientY - bounds.top + box.value!.scrollTop - 8
  const item = virtual.value.getVirtualItems().find(one => y >= one.start && y < one.start + one.size) ?? virtual.value.getVirtualItems().at(-1)
  const row = item && rows.value[item.index]
  if (!item || !row) return
  const part = (y - item.start) / item.size
  const root = topic(row.id).parent === null
  const inside = root || (part > 0.3 && part < 0.7)
  const { parent } = topic(row.id)
  const slot: Slot = inside ? { parent: row.id, index: childrenOf(desk.tree, row.id).length } : { parent, index: placeOf(desk.tree, row.id) + (part >= 0.7 ? 1 : 0), side: topic(row.id).side }
  landing.value = { slot, inside, top: inside ? item.start : part >= 0.7 ? item.start + item.size : item.start, left: (row.level - (inside ? 0 : 1)) * 22 + 40, words: slotInWords(desk.tree, slot, dragging) }
  if (event.clientY < bounds.top + 30) box.value!.scrollTop -= 12
  if (event.clientY > bounds.bottom - 30) box.value!.scrollTop += 12
}

function up(event: PointerEvent): void {
  if (press && dragging.size === 0 && !event.shiftKey && !event.ctrlKey && !event.metaKey) desk.select(press.id, { quiet: true })
  if (landing.value) desk.land(dragging, landing.value.slot)
  stopDrag()
}

function stopDrag(): void {
  press = null
  dragging = new Set()
  landing.value = null
}

function escape(): boolean {
  if (dragging.size === 0) return false
  stopDrag()
  return true
}

function contextMenu(event: MouseEvent, row: Row): void {
  event.preventDefault()
  if (!desk.selection.value.has(row.id)) desk.select(row.id, { quiet: true })
  emit('menu', event)
}

function focusBox(): void {
  box.value?.focus({ preventScroll: true })
}

onMounted(() => {
  desk.reveal = reveal
  desk.neighbour = neighbour
  focusBox()
  nextTick(() => reveal(desk.focus.value))
})
watch(desk.editing, (now, before) => { if (!now && before) nextTick(focusBox) })
defineExpose({ focus: focusBox, escape })
</script>

<template>
  <div
    ref="box" class="outline" role="tree" tabindex="0" aria-multiselectable="true" aria-label="Outline" :aria-activedescendant="`row-${desk.focus.value}`"
    @pointermove="moved" @pointerup="up" @pointercancel="stopDrag"
  >
    <div class="rows" :style="{ height: `${virtual.getTotalSize() + 16}px` }">
      <div
        v-for="row in shown" :id="`row-${row.id}`" :key="row.id" :ref="measure" :data-index="row.index" role="treeitem" class="row"
        :class="{ selected: desk.selection.value.has(row.id), focused: desk.focus.value === row.id, centre: row.level === 1, main: row.level === 2, done: topic(row.id).done === 100 }"
        :aria-level="row.level" :aria-posinset="row.level === 1 ? 1 : placeOf(desk.tree, row.id) + 1" :aria-setsize="row.level === 1 ? 1 : childrenOf(desk.tree, topic(row.id).parent).length"
        :aria-selected="desk.selection.value.has(row.id)" :aria-expanded="childrenOf(desk.tree, row.id).length ? !desk.isFolded(row.id) : undefined" :data-topic="row.id"
        :style="{ 'transform': `translateY(${row.start + 8}px)`, 'paddingLeft': `${(row.level - 1) * 22 + 12}px`, '--hue': hue(row) }"
        @pointerdown="down($event, row)" @dblclick="desk.edit(row.id)" @contextmenu="contextMenu($event, row)"
      >
        <button v-if="childrenOf(desk.tree, row.id).length && row.level > 1" class="twist" tabindex="-1" :aria-label="desk.isFolded(row.id) ? 'Unfold' : 'Fold'" @click.stop="desk.toggleFold([row.id])">
          <Icon :name="desk.isFolded(row.id) ? 'lucide:chevron-right' : 'lucide:chevron-down'" size="15" />
        </button>
        <span v-else class="twist" />
        <span class="number">{{ row.number }}</span>
        <span class="edge" />
        <TreeMarkerSign v-for="marker in topic(row.id).markers" :id="marker" :key="marker" />
        <TreeTitleField v-if="desk.editing.value?.id === row.id" class="words" @closed="focusBox" />
        <span v-else class="words" dir="auto">{{ topic(row.id).title || '\u00A0' }}</span>
        <Icon v-if="topic(row.id).note" name="lucide:sticky-note" size="13" class="sign" />
        <Icon v-if="topic(row.id).links.length" name="lucide:link" size="13" class="sign" />
        <span v-if="others.get(row.id)" class="other" :style="{ background: others.get(row.id)!.hue }">{{ others.get(row.id)!.name }}</span>
        <span class="small"><span v-for="piece in desk.drawnOf(row.id).smallPrint" :key="piece.text" :class="piece.tone">{{ piece.text }}</span></span>
      </div>
      <div v-if="landing" class="slot" :class="{ inside: landing.inside }" :style="{ transform: `translateY(${landing.top + 8}px)`, left: `${landing.left}px` }"><span>{{ landing.words }}</span></div>
    </div>
  </div>
</template>

<style scoped>
.outline { position: absolute; inset: 0; overflow: auto; background: var(--surface); outline: none; touch-action: pan-y; }
.rows { position: relative; max-width: 1100px; }
.row { position: absolute; left: 0; right: 0; top: 0; min-height: 34px; padding: 6px 16px 6px 12px; display: flex; gap: 7px; align-items: flex-start; line-height: 22px; cursor: default; user-select: none; -webkit-user-select: none; }
.row > .marker { margin-top: 2px; }
.row:hover { background: var(--hover); }
.row.selected { background: color-mix(in srgb, var(--porch) 10%, var(--surface)); }
.row.focused { box-shadow: inset 0 0 0 2px var(--porch); border-radius: 4px; }
.row.centre { font: 650 18px/26px var(--display); }
.row.main { font-weight: 600; }
.row.done .words { color: var(--quiet); }
.twist { width: 24px; height: 24px; flex: none; border: 0; background: none; padding: 0; color: var(--quiet); cursor: pointer; display: grid; place-items: center; }
.number { color: var(--quiet); font-size: 12px; min-width: 26px; flex: none; }
.centre .number { display: none; }
.edge { width: 3px; align-self: stretch; background: var(--hue); flex: none; }
.words { flex: 1; min-width: 0; white-space: pre-wrap; overflow-wrap: anywhere; }
.sign { color: var(--quiet); margin-top: 4px; flex: none; }
.small { display: flex; gap: 9px; font-size: 12px; color: var(--quiet); flex: none; }
.small .people { font-weight: 750; color: var(--ink); }
.small .late { color: var(--clay); font-weight: 650; }
.small .ok { color: var(--fern); font-weight: 650; }
.other { color: #fff; font: 650 10.5px/16px var(--text); padding: 0 6px; border-radius: 3px; margin-top: 3px; }
.slot { position: absolute; top: 0; right: 16px; height: 0; border-top: 3px solid var(--sun); pointer-events: none; z-index: 2; }
.slot.inside { height: 34px; border: 2px solid var(--sun); background: color-mix(in srgb, var(--sun) 18%, transparent); }
.slot span { position: absolute; right: 0; top: 2px; background: var(--sun); color: #352400; font: 650 11.5px/17px var(--text); padding: 0 7px; white-space: nowrap; }
@media (max-width: 700px) { .number { display: none; } }
</style>
