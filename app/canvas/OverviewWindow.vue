<script setup lang="ts">
import type { Layout } from '#core/arrange/layout'
import type { Viewport } from './viewport'
import { useDesk } from '~/desk/desk'

/** The whole tree in small, with a frame around what is in sight. The frame is pushed, or a click goes there. */
const props = defineProps<{ layout: Layout; view: Viewport; painted: number }>()
const desk = useDesk()
const paper = ref<HTMLCanvasElement>()
const WIDTH = 208
const HEIGHT = 132
const PAD = 8
let scale = 1
let origin = { x: 0, y: 0 }
let drawnAt = -1
const frameStyle = ref({})

function drawTree(): void {
  const context = paper.value?.getContext('2d')
  if (!context) return
  const bounds = props.layout.bounds()
  scale = Math.min((WIDTH - PAD * 2) / bounds.width, (HEIGHT - PAD * 2) / bounds.height)
  origin = {
    x: (WIDTH - bounds.width * scale) / 2 - bounds.x * scale,
    y: (HEIGHT - bounds.height * scale) / 2 - bounds.y * scale,
  }
  const ratio = window.devicePixelRatio || 1
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, WIDTH, HEIGHT)
  context.setTransform(ratio * scale, 0, 0, ratio * scale, ratio * origin.x, ratio * origin.y)
  const least = 1.2 / scale
  const fill = (id: string, x: number, y: number, width: number, height: number): void => {
    context.globalAlpha = desk.finding.isDim(id) ? 0.2 : 1
    context.fillStyle = desk.dressing.hueOf(id)
    context.fillRect(x, y, Math.max(width, least), Math.max(height, least))
  }
  props.layout.scan(bounds, 2.2 / scale, {
    plank: placed => fill(placed.id, placed.x, placed.y, placed.width, placed.height),
    line() {},
    block: (rect, id) => fill(id, rect.x, rect.y, rect.width, rect.height),
  })
}

function frame(): void {
  const seen = props.view.seen()
  const clamp = (value: number, most: number): number => Math.min(most, Math.max(0, value))
  const x = clamp(seen.x * scale + origin.x, WIDTH)
  const y = clamp(seen.y * scale + origin.y, HEIGHT)
  frameStyle.value = {
    left: `${x}px`,
    top: `${y}px`,
    width: `${clamp((seen.x + seen.width) * scale + origin.x, WIDTH) - x}px`,
    height: `${clamp((seen.y + seen.height) * scale + origin.y, HEIGHT) - y}px`,
  }
}

/** The tree is drawn anew only when it changed; the frame goes along with the view. */
function follow(): void {
  if (drawnAt !== desk.lateTick.value) {
    drawnAt = desk.lateTick.value
    drawTree()
  }
  frame()
}
onMounted(() => {
  const ratio = window.devicePixelRatio || 1
  paper.value!.width = WIDTH * ratio
  paper.value!.height = HEIGHT * ratio
  follow()
})
watch([() => props.painted, desk.lateTick], follow)

const emit = defineEmits<{ closed: [] }>()
let pushing = false
function go(event: PointerEvent): void {
  const box = paper.value!.getBoundingClientRect()
  props.view.centreOn({
    x: (event.clientX - box.left - origin.x) / scale,
    y: (event.clientY - box.top - origin.y) / scale,
    width: 0,
    height: 0,
  })
}
function down(event: PointerEvent): void {
  pushing = true
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  go(event)
}
</script>

<template>
  <div
    v-opened="{ manner: 'pane', close: () => emit('closed') }"
    data-over-tree
    class="overview"
    role="img"
    aria-label="Overview of the tree"
    @pointerdown="down"
    @pointermove="pushing && go($event)"
    @pointerup="pushing = false"
    @pointercancel="pushing = false">
    <canvas ref="paper" :style="{ width: `${WIDTH}px`, height: `${HEIGHT}px` }" />
    <span class="frame" :style="frameStyle" />
  </div>
</template>

<style scoped>
.overview {
  position: absolute;
  left: 12px;
  bottom: 12px;
  z-index: 4;
  width: 208px;
  height: 132px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 8px;
  box-shadow: var(--shadow);
  overflow: hidden;
  cursor: move;
  touch-action: none;
}
canvas {
  display: block;
}
.frame {
  position: absolute;
  border: 2px solid var(--sun);
  background: color-mix(in srgb, var(--sun) 14%, transparent);
  pointer-events: none;
  min-width: 6px;
  min-height: 6px;
}
@media (max-width: 700px) {
  .overview {
    display: none;
  }
}
</style>
