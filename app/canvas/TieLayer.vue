<script setup lang="ts">
import type { Point } from '#core/arrange/thread'
import { notch } from '#core/arrange/tie-way'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { type DrawnTie, labelScale } from './ties'

/** The cross-links over the planks. One is chosen by a click; any stretch of it can be pulled. */
const props = defineProps<{ ties: readonly DrawnTie[]; zoom: number; toWorld: (event: PointerEvent) => Point }>()
const desk = useDesk()
const emit = defineEmits<{ pulled: [from: string, id: string, bend: Point | null] }>()
const path = ({ thread: { points } }: DrawnTie): string =>
  points.map(({ x, y }, i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('')
const pointed = ({ tie: { ends } }: DrawnTie, end: 'from' | 'to'): boolean => ends === end || ends === 'both'
const chosen = (one: DrawnTie): boolean => desk.tie.value?.id === one.tie.id && desk.tie.value.topic === one.from
const name = ({ from, tie }: DrawnTie): string =>
  `Cross-link from ${topicOf(desk.tree, from).title} to ${topicOf(desk.tree, tie.to).title}${tie.label ? `: ${tie.label}` : ''}`
const sorted = computed(() => [...props.ties].sort((a, b) => Number(chosen(a)) - Number(chosen(b))))

function choose(one: DrawnTie): void {
  desk.tie.value = { topic: one.from, id: one.tie.id }
}

/** The stretch that was taken follows the pointer; the edit is made when it's let go. */
function pull(event: PointerEvent, one: DrawnTie): void {
  choose(one)
  if (!desk.session.canEdit) return
  const handle = event.currentTarget as SVGElement
  handle.setPointerCapture(event.pointerId)
  const start = props.toWorld(event)
  let last: Point | null = null
  const { halfway } = one.thread
  const move = (moved: PointerEvent): void => {
    const at = props.toWorld(moved)
    if (!last && Math.hypot(at.x - start.x, at.y - start.y) * props.zoom < 4) return
    last = { x: Math.round(at.x - halfway.x), y: Math.round(at.y - halfway.y) }
    emit('pulled', one.from, one.tie.id, last)
  }
  const done = (): void => {
    handle.removeEventListener('pointermove', move)
    handle.removeEventListener('pointerup', done)
    handle.removeEventListener('pointercancel', done)
    emit('pulled', one.from, one.tie.id, null)
    const now = desk.tree.topics.get(one.from)?.ties.find(tie => tie.id === one.tie.id)
    if (last && now) desk.put(one.from, { op: 'put', topic: one.from, set: 'ties', member: { ...now, bend: last } })
  }
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', done)
  handle.addEventListener('pointercancel', done)
}
</script>

<template>
  <svg class="ties" width="1" height="1">
    <g
      v-for="one in sorted"
      :key="`${one.from}/${one.tie.id}`"
      :class="{ faint: one.faint, dim: one.dim, chosen: chosen(one) }"
      :style="{ '--tie': one.hue }"
      role="button"
      :aria-label="name(one)"
      data-quiet>
      <path class="wide" :d="path(one)" :stroke-width="14 / zoom" @pointerdown.stop="pull($event, one)" />
      <path class="line" :d="path(one)" />
      <path class="core" :d="path(one)" />
      <polygon v-for="end in ['from', 'to'] as const" :key="end" :points="notch(one.thread, end, pointed(one, end))" />
      <text
        v-if="one.tie.label"
        :x="one.label.x"
        :y="one.label.y"
        :font-size="12 * labelScale(zoom)"
        dy="0.35em"
        @pointerdown.stop="pull($event, one)">
        {{ one.tie.label }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.ties {
  position: absolute;
  left: 0;
  top: 0;
  overflow: visible;
  pointer-events: none;
}
/* A twisted thread: its colour on both sides of a thin core. */
.line {
  fill: none;
  stroke: var(--tie);
  stroke-width: 3.6;
  stroke-linejoin: round;
}
.core {
  fill: none;
  stroke: var(--page);
  stroke-width: 1.2;
  stroke-linejoin: round;
}
.faint .line {
  stroke-dasharray: 3 4;
}
.dim {
  opacity: 0.25;
}
.chosen .line {
  stroke: var(--porch);
  stroke-width: 4.6;
}
.wide {
  fill: none;
  stroke: transparent;
  pointer-events: stroke;
  cursor: grab;
}
polygon {
  fill: var(--tie);
}
.chosen polygon {
  fill: var(--porch);
}
text {
  font-family: var(--text);
  font-weight: 600;
  text-anchor: middle;
  fill: var(--ink);
  stroke: var(--page);
  stroke-width: 5px;
  paint-order: stroke;
  pointer-events: all;
  cursor: grab;
  user-select: none;
  -webkit-user-select: none;
}
</style>
