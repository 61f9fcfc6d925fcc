<script setup lang="ts">
import { headAt, type Point } from '#core/arrange/bow'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { DrawnTie } from './ties'

/** The cross-links over the planks. One is chosen by a click; its middle can be pulled. */
const props = defineProps<{ ties: readonly DrawnTie[]; zoom: number; toWorld: (event: PointerEvent) => Point }>()
const desk = useDesk()
const emit = defineEmits<{ pulled: [from: string, id: string, bend: Point | null] }>()
/** Below this zoom a label would be a speck. */
const LEGIBLE = 0.5
const path = ({ bow: { from, control, to } }: DrawnTie): string =>
  `M${from.x} ${from.y} Q${control.x} ${control.y} ${to.x} ${to.y}`
const head = (one: DrawnTie, end: 'from' | 'to'): string =>
  headAt(one.bow, end, 9)
    .map(({ x, y }) => `${x},${y}`)
    .join(' ')
const chosen = (one: DrawnTie): boolean => desk.tie.value?.id === one.tie.id && desk.tie.value.topic === one.from
const name = ({ from, tie }: DrawnTie): string =>
  `Cross-link from ${topicOf(desk.tree, from).title} to ${topicOf(desk.tree, tie.to).title}${tie.label ? `: ${tie.label}` : ''}`
const sorted = computed(() => [...props.ties].sort((a, b) => Number(chosen(a)) - Number(chosen(b))))

function choose(one: DrawnTie): void {
  desk.tie.value = { topic: one.from, id: one.tie.id }
}

/** The middle follows the pointer; the edit is made when it's let go. */
function pull(event: PointerEvent, one: DrawnTie): void {
  choose(one)
  if (!desk.session.canEdit) return
  const handle = event.currentTarget as SVGElement
  handle.setPointerCapture(event.pointerId)
  const start = props.toWorld(event)
  let last: Point | null = null
  const { middle, halfway } = one.bow
  const move = (moved: PointerEvent): void => {
    const at = props.toWorld(moved)
    if (!last && Math.hypot(at.x - start.x, at.y - start.y) * props.zoom < 4) return
    last = {
      x: Math.round(middle.x + at.x - start.x - halfway.x),
      y: Math.round(middle.y + at.y - start.y - halfway.y),
    }
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
      <path class="wide" :d="path(one)" :stroke-width="14 / zoom" @pointerdown.stop="choose(one)" />
      <path class="line" :d="path(one)" />
      <polygon v-if="one.tie.ends === 'to' || one.tie.ends === 'both'" :points="head(one, 'to')" />
      <polygon v-if="one.tie.ends === 'from' || one.tie.ends === 'both'" :points="head(one, 'from')" />
      <text
        v-if="one.tie.label && zoom >= LEGIBLE"
        :x="one.bow.middle.x"
        :y="one.bow.middle.y"
        dy="0.35em"
        @pointerdown.stop="pull($event, one)">
        {{ one.tie.label }}
      </text>
      <circle
        v-if="chosen(one) || !one.tie.label"
        class="grip"
        :cx="one.bow.middle.x"
        :cy="one.bow.middle.y + (one.tie.label ? 14 : 0)"
        :r="5"
        @pointerdown.stop="pull($event, one)" />
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
.line {
  fill: none;
  stroke: var(--tie);
  stroke-width: 1.8;
  stroke-dasharray: 7 4;
}
.faint .line {
  stroke-dasharray: 2 5;
}
.dim {
  opacity: 0.25;
}
.chosen .line {
  stroke: var(--porch);
  stroke-width: 2.6;
}
.wide {
  fill: none;
  stroke: transparent;
  pointer-events: stroke;
  cursor: pointer;
}
polygon {
  fill: var(--tie);
}
.chosen polygon {
  fill: var(--porch);
}
text {
  font: 600 12px var(--text);
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
.grip {
  fill: var(--surface);
  stroke: var(--tie);
  stroke-width: 1.6;
  pointer-events: all;
  cursor: grab;
  opacity: 0;
}
g:hover .grip,
.chosen .grip {
  opacity: 1;
}
.chosen .grip {
  stroke: var(--porch);
}
</style>
