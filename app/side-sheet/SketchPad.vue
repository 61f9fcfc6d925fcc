<script setup lang="ts">
import { getStroke } from 'perfect-freehand'
import { MOST_SKETCH, outlinePath, readSketch, type Stroke, type Topic, writeSketch } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** A small pad to draw on by hand: mouse, finger or pen. Kept as an SVG of filled paths. */
const props = defineProps<{ topic: Topic }>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
const WIDTH = 640
const HEIGHT = 400
const INKS = [
  ['#16292d', 'Ink'],
  ['#17616b', 'Porch blue'],
  ['#a93f27', 'Clay'],
  ['#3e7b4f', 'Fern'],
  ['#c98a12', 'Sun'],
] as const
const WIDTHS = [
  ['thin', 3.5],
  ['medium', 7],
  ['broad', 16],
] as const
const strokes = ref<Stroke[]>([...(readSketch(props.topic.sketch ?? '')?.strokes ?? [])])
const undone = ref<Stroke[]>([])
const ink = ref<string>(INKS[0][0])
const width = ref<number>(WIDTHS[1][1])
const points = ref<[number, number, number][]>([])
const pad = ref<SVGSVGElement>()

const outline = (raw: readonly [number, number, number][]): string =>
  outlinePath(
    getStroke(raw as [number, number, number][], {
      size: width.value,
      thinning: 0.5,
      smoothing: 0.6,
      streamline: 0.4,
      simulatePressure: raw.every(([, , pressure]) => pressure === 0.5),
    }) as [number, number][],
  )
const current = computed(() => (points.value.length > 0 ? outline(points.value) : ''))

function place(event: PointerEvent): [number, number, number] {
  const box = pad.value!.getBoundingClientRect()
  const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value))
  return [
    clamp(((event.clientX - box.left) / box.width) * WIDTH, WIDTH),
    clamp(((event.clientY - box.top) / box.height) * HEIGHT, HEIGHT),
    event.pressure || 0.5,
  ]
}
function down(event: PointerEvent): void {
  if (event.button !== 0) return
  pad.value!.setPointerCapture(event.pointerId)
  points.value = [place(event)]
}
function move(event: PointerEvent): void {
  if (points.value.length === 0) return
  const more = event.getCoalescedEvents?.() ?? []
  points.value = [...points.value, ...(more.length > 0 ? more : [event]).map(place)]
}
function up(): void {
  if (points.value.length === 0) return
  const d = current.value
  points.value = []
  if (!d) return
  const next = [...strokes.value, { hue: ink.value, d }]
  if (writeSketch({ width: WIDTH, height: HEIGHT, strokes: next }).length > MOST_SKETCH) {
    desk.say('This sketch is as full as it can be. Keep it, or take something out first.')
    return
  }
  strokes.value = next
  undone.value = []
}
function undo(): void {
  const last = strokes.value.at(-1)
  if (!last) return
  strokes.value = strokes.value.slice(0, -1)
  undone.value = [...undone.value, last]
}
function redo(): void {
  const last = undone.value.at(-1)
  if (!last) return
  undone.value = undone.value.slice(0, -1)
  strokes.value = [...strokes.value, last]
}
function keep(): void {
  const svg = strokes.value.length > 0 ? writeSketch({ width: WIDTH, height: HEIGHT, strokes: strokes.value }) : null
  if (svg !== props.topic.sketch) desk.set('sketch', svg, [props.topic.id])
  emit('closed')
}
function key(event: KeyboardEvent): void {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
    event.preventDefault()
    if (event.shiftKey) redo()
    else undo()
  } else if ((event.ctrlKey || event.metaKey) && event.key === 'Enter') keep()
}
</script>

<template>
  <PorchDialog
    :header="`Sketch for “${topic.title.slice(0, 40) || 'untitled'}”`"
    :style="{ width: 'min(700px, 96vw)' }"
    @closed="emit('closed')"
    @keydown="key">
    <div class="tools" role="toolbar" aria-label="Pens">
      <button
        v-for="[hue, name] in INKS"
        :key="hue"
        class="ink"
        :aria-label="name"
        :aria-pressed="ink === hue"
        :style="{ '--ink-of': hue }"
        @click="ink = hue">
        <i />
      </button>
      <span class="segments" role="group" aria-label="How broad"
        ><button v-for="[name, size] in WIDTHS" :key="name" :aria-pressed="width === size" @click="width = size">
          {{ name }}
        </button></span
      >
      <span class="grow" />
      <button class="icon-button" aria-label="Undo the last stroke" :disabled="!strokes.length" @click="undo">
        <Icon name="lucide:undo-2" size="16" />
      </button>
      <button class="icon-button" aria-label="Draw it again" :disabled="!undone.length" @click="redo">
        <Icon name="lucide:redo-2" size="16" />
      </button>
      <button
        class="icon-button"
        aria-label="Wipe the pad"
        :disabled="!strokes.length"
        @click="
          () => {
            undone = [...strokes].reverse()
            strokes = []
          }
        ">
        <Icon name="lucide:eraser" size="16" />
      </button>
    </div>
    <svg
      ref="pad"
      class="pad"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="img"
      :aria-label="`Pad with ${strokes.length} strokes`"
      @pointerdown.prevent="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up">
      <path v-for="(stroke, i) in strokes" :key="i" :fill="stroke.hue" :d="stroke.d" />
      <path v-if="current" :fill="ink" :d="current" />
    </svg>
    <template #footer>
      <Button label="Drop" text @click="emit('closed')" />
      <Button label="Keep the sketch" @click="keep" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-bottom: 8px;
  flex-wrap: wrap;
}
.ink {
  width: 30px;
  height: 30px;
  border-radius: 8px;
  border: 2px solid transparent;
  background: none;
  padding: 4px;
  cursor: pointer;
}
.ink i {
  display: block;
  width: 100%;
  height: 100%;
  border-radius: 4px;
  background: var(--ink-of);
  box-shadow: 0 0 0 1px var(--line);
}
.ink[aria-pressed='true'] {
  border-color: var(--porch);
}
.grow {
  flex: 1;
}
.tools .segments button {
  min-width: 68px;
}
/* Paper is paper, by day and at dusk: what was drawn keeps its colours. */
.pad {
  display: block;
  width: 100%;
  background: #fdfdfb;
  border: 1px solid var(--line);
  border-radius: 7px;
  touch-action: none;
  cursor: crosshair;
}
</style>
