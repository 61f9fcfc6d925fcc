<script setup lang="ts">
import { childLandingAt, type Landing } from '#core/arrange/landing'
import type { Layout } from '#core/arrange/layout'
import type { Point } from '#core/arrange/thread'
import { addAt, childrenOf, type TopicId } from '#core/tree'
import { addChild } from '~/capture/building'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import type { ShownPlank } from './sight'
import { tieTo } from './ties'

/**
 * The peg at the outer end of the selected plank. Pulled to empty ground a child is born there, pulled onto another plank the two are
 * tied; pressed alone it begins a child, as Tab does.
 */
const { plank, layout, zoom, toWorld, topicAt } = defineProps<{
  plank: ShownPlank
  layout: Layout
  zoom: number
  toWorld: (event: { clientX: number; clientY: number }) => Point
  topicAt: (point: Point) => TopicId | null
}>()
const emit = defineEmits<{ landing: [landing: Landing | null] }>()
const desk = useDesk()
/** Room for a title that isn't typed yet. */
const ROOM = { width: 160, height: 28 } as const
/** How far a pointer goes before a press is a pull, px. */
const SLACK = 8

const pulled = shallowRef<{ readonly from: Point; readonly to: Point; readonly over: TopicId | null } | null>(null)
let start: { readonly x: number; readonly y: number } | null = null
let landing: Landing | null = null

const hasTab = computed(() => plank.children > 0 && plank.rank !== 'centre')
/** Beside the tab that folds, which has the middle of the end. */
const at = computed<Point>(() => {
  const { x, y, width, height, direction } = plank
  if (direction === 'down') return { x: x + width / 2 + (hasTab.value ? 22 : 0), y: y + height + 9 }
  const out = 11 + plank.spine / 2
  return { x: direction === 'left' ? x - out : x + width + out, y: y + (hasTab.value ? height - 3 : height / 2) }
})
function down(event: PointerEvent): void {
  if (event.button !== 0) return
  // The keys stay where they are.
  event.preventDefault()
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  start = { x: event.clientX, y: event.clientY }
  window.addEventListener('keydown', escape, { capture: true })
}
function move(event: PointerEvent): void {
  if (!start) return
  if (!pulled.value && Math.hypot(event.clientX - start.x, event.clientY - start.y) <= SLACK) return
  const to = toWorld(event)
  const over = topicAt(to)
  const isOther = over !== null && over !== plank.id
  landing = isOther || over ? null : childLandingAt(desk.tree, layout, plank.id, to, ROOM)
  pulled.value = { from: at.value, to, over: isOther ? over : null }
  emit('landing', landing)
}
function up(): void {
  const had = pulled.value
  const [over, land, wasPressed] = [had?.over ?? null, landing, start !== null]
  end()
  if (!wasPressed) return
  if (!had) addChild(desk)
  else if (over) tieTo(desk, [plank.id], over)
  else if (land)
    desk.beginTyping(
      addAt(desk.tree, land.slot, newId, land.place ?? {}),
      childrenOf(desk.tree, plank.id).length > 0 ? plank.id : undefined,
    )
}
function end(): void {
  window.removeEventListener('keydown', escape, { capture: true })
  start = null
  landing = null
  pulled.value = null
  emit('landing', null)
}
function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape') return
  event.preventDefault()
  event.stopImmediatePropagation()
  end()
}
onBeforeUnmount(end)
const tied = computed(() => {
  const over = pulled.value?.over
  return over ? layout.find(over) : null
})
</script>

<template>
  <svg v-if="pulled" class="rope" width="1" height="1" aria-hidden="true">
    <line :x1="pulled.from.x" :y1="pulled.from.y" :x2="pulled.to.x" :y2="pulled.to.y" :class="{ tie: tied }" />
    <rect
      v-if="tied"
      :x="tied.x - 4"
      :y="tied.y - 4"
      :width="tied.width + 8"
      :height="tied.height + 8"
      rx="8"
      :stroke-width="2.5 / zoom" />
  </svg>
  <span
    v-if="tied && pulled"
    class="words"
    :style="{ transform: `translate(${pulled.to.x + 12}px, ${pulled.to.y + 10}px) scale(${1 / zoom})` }"
    >ties them</span
  >
  <button
    class="knob"
    :class="[plank.direction, { tabbed: hasTab }]"
    data-quiet
    tabindex="-1"
    aria-label="Pull a child out of this topic, or tie it to another"
    :style="{ transform: `translate(${at.x}px, ${at.y}px) scale(${1 / zoom})`, '--hue': plank.hue }"
    @pointerdown.stop="down"
    @pointermove.stop="move"
    @pointerup.stop="up"
    @pointercancel.stop="end"
    @dblclick.stop
    @click.stop />
</template>

<style scoped>
/* A peg: what one hangs things on. */
.knob {
  position: absolute;
  left: -7px;
  top: -7px;
  width: 14px;
  height: 14px;
  padding: 0;
  border: 2px solid var(--hue);
  border-radius: 50%;
  background: radial-gradient(circle, var(--hue) 0 2.5px, var(--page) 3px);
  cursor: crosshair;
  touch-action: none;
  z-index: 3;
}
.knob::after {
  content: '';
  position: absolute;
  inset: -5px;
}
.knob:hover {
  background: var(--hue);
}
@media (pointer: coarse) {
  /* A finger has room, all of it outward: seen from afar the plank is small, and a press on it is meant for it, as one on its tab. */
  .knob::after {
    inset: -15px -30px -15px 0;
  }
  .knob.left::after {
    inset: -15px 0 -15px -30px;
  }
  .knob.down::after {
    inset: 0 -15px -30px;
  }
  .knob.tabbed::after {
    inset: 0 -30px -30px 0;
  }
  .knob.tabbed.left::after {
    inset: 0 0 -30px -30px;
  }
}
.rope {
  position: absolute;
  left: 0;
  top: 0;
  overflow: visible;
  pointer-events: none;
}
.rope line {
  stroke: var(--quiet);
  stroke-width: 1.5;
  stroke-dasharray: 2 4;
}
.rope line.tie,
.rope rect {
  stroke: var(--porch);
  fill: none;
}
.words {
  position: absolute;
  left: 0;
  top: 0;
  transform-origin: 0 0;
  padding: 1px 8px;
  border-radius: 6px;
  background: var(--porch);
  color: var(--on-porch);
  font: 600 12px/1.6 var(--text);
  white-space: nowrap;
  pointer-events: none;
}
</style>
