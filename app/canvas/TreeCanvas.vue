<script setup lang="ts">
import { Layout } from '#core/arrange/layout'
import { neighbourOf } from '#core/arrange/neighbour'
import { meets } from '#core/arrange/place'
import type { Point } from '#core/arrange/thread'
import { colourIn } from '#core/dress/wear'
import type { TopicId } from '#core/tree'
import { useDropIn } from '~/capture/useDropIn'
import { useDesk } from '~/desk/desk'
import { onLateFonts } from '~/desk/ruler'
import { Passage } from '~/files/passage'
import { plannedDays } from './planned-days'
import { FAR_OUT, type ShownPlank, Sight } from './sight'
import { type StandingPost, standing } from './standing'
import { type DrawnTie, labelScale, TieDrawer } from './ties'
import { useLanding } from './useLanding'
import { stripPlace, useNearStrip } from './useNearStrip'
import { useOverlays, whatLiesOver } from './overlays'
import { usePointers } from './usePointers'
import { Viewport } from './viewport'

/** `most`: how large it's fitted at most; a branch on a projector may be larger than life. */
const { most = 1 } = defineProps<{ most?: number }>()
const desk = useDesk()
const emit = defineEmits<{ menu: [event: MouseEvent | PointerEvent]; files: [files: File[], topic: TopicId | null] }>()

const box = ref<HTMLDivElement>()
const planks = ref<HTMLDivElement>()
const world = ref<HTMLDivElement>()
const over = ref<HTMLDivElement>()
const paper = ref<HTMLCanvasElement>()
const zoom = ref(1)
/** Counts up with each painting, for what goes along with the view. */
const painted = ref(0)
const shown = shallowRef<readonly ShownPlank[]>([])
const posts = shallowRef<readonly StandingPost[]>([])
const posted = computed(() => new Set(posts.value.map(({ id }) => id)))
const tieDrawer = new TieDrawer()
const drawnTies = shallowRef<readonly DrawnTie[]>([])
/** A cross-link whose middle is being pulled. */
let pulledTie: { from: TopicId; id: string; bend: Point } | null = null
const {
  landing,
  colour,
  words: landingWords,
  label: landingLabel,
  slot: slotStyle,
} = useLanding(
  () => layout,
  () => view,
  zoom,
)
const view = new Viewport(request)
let frame = 0
const { dressing, finding } = desk
const passage = new Passage()

const layout = new Layout(
  desk.tree,
  {
    size: id => desk.drawnOf(id).plank,
    folded: id => desk.isFolded(id),
    get hidden() {
      return desk.hiding ? (id: TopicId) => desk.finding.isHidden(id) : undefined
    },
    dayOf: plannedDays(desk, () => {
      layout.daysChanged()
      request()
    }),
  },
  { only: desk.only.value, today: today() },
)

const sight = new Sight(desk, layout, view, passage)
function wearLook(): void {
  sight.wear(box.value!.style)
  request()
}

function themeChanged(): void {
  desk.redress()
  wearLook()
}

function request(): void {
  frame ||= requestAnimationFrame(() => {
    frame = 0
    paint()
  })
}

function paint(): void {
  const context = paper.value?.getContext('2d')
  if (!context || view.width === 0) return
  world.value!.style.transform = over.value!.style.transform = `translate(${view.x}px, ${view.y}px) scale(${view.zoom})`
  const list = sight.draw(context)
  paintTies(passage.part())
  posts.value = standing(sight.posts, view, posts.value)
  if (list.length !== shown.value.length || list.some((item, i) => item !== shown.value[i])) shown.value = list
  zoom.value = view.zoom
  painted.value++
  if (passage.running) request()
}

/** Where the cross-links run, those in sight alone. */
function paintTies(part: number): void {
  const links = desk.crossLinks.all()
  if (links.length === 0) {
    if (drawnTies.value.length > 0) drawnTies.value = []
    return
  }
  drawnTies.value = tieDrawer.draw(desk.tree, links, layout, view.seen(), {
    filter: { isDim: desk.isDim, isHidden: id => finding.isHidden(id) },
    hueOf: id => dressing.hueOf(id),
    colour: hue => colourIn(dressing.wear, hue),
    at: part < 1 ? placed => passage.at(placed, part) : null,
    pulled: pulledTie,
    lettering: labelScale(view.zoom),
  })
  if (tieDrawer.behind) request()
}

function pullTie(from: TopicId, id: string, bend: Point | null): void {
  pulledTie = bend ? { from, id, bend } : null
  request()
}

// — The view

const fit = (): void => view.fit(layout.bounds(), most)

function reveal(id: TopicId): void {
  const placed = layout.find(id)
  if (placed) view.reveal(placed, whatLiesOver(box.value!))
}

function focusBox(): void {
  planks.value?.focus({ preventScroll: true })
}

const stripAt = computed(() => {
  const focused = shown.value.find(item => item.focused)
  return focused ? stripPlace(layout, focused, zoom.value) : null
})
const { approach, shows: near } = useNearStrip(
  () => shown.value.find(item => item.focused),
  () => view.zoom,
  () => stripAt.value,
)

const { down, moved, up, wheel, twice, contextMenu, escape, topicAtPoint, worldAt } = usePointers(desk, {
  box,
  view,
  layout,
  landing,
  colour,
  approach,
  menu: event => emit('menu', event),
  focus: focusBox,
})
const { dragOver, dragLeave, dropIn, hoverStyle, dropped } = useDropIn({
  desk,
  layout,
  landing,
  topicAt: topicAtPoint,
  worldAt,
  files: (files, topic) => emit('files', files, topic),
})

// — Life

let stopListening: () => void
let hide: () => void
let stopFonts: () => void
let watcher: ResizeObserver
let arranged = arrangedAs()

/** What the whole drawing depends on; compared by identity, since this is asked at each change. */
function arrangedAs(): readonly unknown[] {
  const { arrangement, along, across, leftDown, look, looks, levels } = desk.tree.fields
  return [arrangement, along, across, leftDown, look, looks, levels, desk.only.value, today()]
}

onMounted(() => {
  wearLook()
  stopListening = desk.onChange(touched => {
    const now = arrangedAs()
    if (now.some((value, i) => value !== arranged[i])) {
      arranged = now
      rearrange()
    } else if (touched === 'all') layout.rebase(desk.tree)
    else {
      const turned = [...touched].some(
        id =>
          id !== null &&
          sight.find(id) !== undefined &&
          sight.find(id)!.drawn.topic.arrangement !== desk.tree.topics.get(id)?.arrangement,
      )
      if (turned) passage.begin(shown.value)
      layout.touch(touched)
      // What the plan computes may be another far from what was edited.
      if (desk.tree.fields.planFrom !== null) layout.daysChanged()
    }
    request()
  })
  watcher = new ResizeObserver(([entry]) => {
    const first = view.width === 0
    const inSight = !first && isInSight(desk.focus.value)
    view.width = entry!.contentRect.width
    view.height = entry!.contentRect.height
    const ratio = window.devicePixelRatio || 1
    paper.value!.width = Math.round(view.width * ratio)
    paper.value!.height = Math.round(view.height * ratio)
    if (first) begin()
    else if (inSight) reveal(desk.focus.value)
    request()
  })
  watcher.observe(box.value!)
  window.addEventListener('theme-changed', themeChanged)
  stopFonts = onLateFonts(() => {
    desk.redress()
    layout.reset()
    request()
  })
  hide = desk.show({ reveal, fit, layout, neighbour: (id, direction) => neighbourOf(desk.tree, layout, id, direction) })
  focusBox()
})

/**
 * Another arrangement, look or branch: planks glide to their new places, and the focus stays where it is on the
 * screen.
 */
function rearrange(): void {
  const before = layout.find(desk.focus.value)
  passage.begin(shown.value)
  layout.rebase(desk.tree)
  layout.reset({ only: desk.only.value, today: today() })
  wearLook()
  const after = layout.find(desk.focus.value)
  if (before && after) view.pan((before.x - after.x) * view.zoom, (before.y - after.y) * view.zoom)
  if (after) view.reveal(after, whatLiesOver(box.value!))
}

function isInSight(id: TopicId): boolean {
  const placed = layout.find(id)
  return placed !== null && meets(view.seen(), placed)
}

/** The first look: everything when it can be read, else the centre at a readable size. */
function begin(): void {
  fit()
  if (view.zoom < 0.55) {
    const at = desk.focus.value !== desk.tree.centre ? layout.find(desk.focus.value) : null
    view.centreOn(at ?? { x: 0, y: 0, width: 0, height: 0 }, 0.9)
  }
}

onBeforeUnmount(() => {
  hide()
  stopListening()
  stopFonts()
  watcher.disconnect()
  window.removeEventListener('theme-changed', themeChanged)
  cancelAnimationFrame(frame)
  view.stop()
})

watch([desk.selection, desk.focus, desk.editing, desk.tie, desk.marks, () => desk.status.present], request)
// What comes over the tree, a notice or a bar, doesn't cover the focus.
useOverlays(() => {
  if (view.width > 0 && isInSight(desk.focus.value)) reveal(desk.focus.value)
})
watch(desk.editing, (now, before) => {
  if (!now && before) nextTick(focusBox)
})

/**
 * Where the small strip of most-done things stands: by the focus, over no other plank, while the pointer is there and
 * nothing is typed or dragged.
 */
const strip = computed(() => {
  if (!near.value || desk.previewed.value) return null
  if (
    desk.editing.value ||
    landing.value ||
    zoom.value < FAR_OUT ||
    desk.selection.value.size !== 1 ||
    !desk.session.canEdit
  )
    return null
  const at = stripAt.value
  return at ? { transform: `translate(${at.x}px, ${at.y}px) scale(${1 / zoom.value})`, transformOrigin: '0 0' } : null
})

/** The plank that has a peg to pull a child out by: the one that is selected alone. */
const knob = computed(() =>
  desk.editing.value || zoom.value < FAR_OUT || desk.selection.value.size !== 1 || !desk.session.canEdit
    ? null
    : (shown.value.find(item => item.focused && item.selected) ?? null),
)

function fitSelection(): void {
  const planks = desk.selected().flatMap(id => layout.find(id) ?? [])
  if (planks.length === 0) return
  const x = Math.min(...planks.map(placed => placed.x))
  const y = Math.min(...planks.map(placed => placed.y))
  view.fit({
    x,
    y,
    width: Math.max(...planks.map(placed => placed.x + placed.width)) - x,
    height: Math.max(...planks.map(placed => placed.y + placed.height)) - y,
  })
}

defineExpose({
  fit,
  fitSelection,
  view,
  layout,
  painted,
  focus: focusBox,
  escape,
  zoom,
  zoomBy: (by: number | 'whole') => view.zoomAt(by === 'whole' ? 1 : view.zoom * by),
})
</script>

<template>
  <div
    ref="box"
    class="canvas"
    :data-dragging="landing ? 'yes' : undefined"
    @pointerdown="down"
    @pointermove="moved"
    @pointerup="up"
    @pointercancel="up"
    @wheel.prevent="wheel"
    @dblclick="twice"
    @contextmenu="contextMenu"
    @dragover="dragOver"
    @dragleave="dragLeave"
    @drop="dropIn">
    <canvas ref="paper" class="paper" aria-hidden="true" />
    <div
      ref="planks"
      class="planks"
      :class="{ far: zoom < FAR_OUT }"
      role="tree"
      tabindex="0"
      aria-multiselectable="true"
      aria-label="Tree"
      :aria-activedescendant="desk.focus.value ? `topic-${desk.focus.value}` : undefined">
      <div ref="world" class="world">
        <TreePlank
          v-for="item in shown"
          :key="item.id"
          :class="{ posted: posted.has(item.id) }"
          :shown="item"
          @closed="focusBox" />
      </div>
    </div>
    <div ref="over" class="world">
      <TieLayer v-if="drawnTies.length" :ties="drawnTies" :zoom="zoom" :to-world="worldAt" @pulled="pullTie" />
      <PostLayer :posts="posts" />
      <template v-if="landing">
        <svg v-if="landing.guides?.length" class="new-bracket guides" width="1" height="1" aria-hidden="true">
          <line v-for="(guide, i) in landing.guides" :key="i" v-bind="guide" />
        </svg>
        <svg class="new-bracket" width="1" height="1" aria-hidden="true">
          <polyline :points="landing.bracket.map(point => `${point.x},${point.y}`).join(' ')" />
        </svg>
        <div class="slot" :style="slotStyle">
          <span :style="landingLabel">{{ landingWords }}</span>
        </div>
      </template>
      <div v-if="hoverStyle" class="slot" :style="hoverStyle" />
      <LazyDroppedLine v-if="dropped" :line="dropped" @closed="dropped = null" />
      <LazyPullKnob
        v-if="knob"
        :key="knob.id"
        :plank="knob"
        :layout="layout"
        :zoom="zoom"
        :to-world="worldAt"
        :topic-at="topicAtPoint"
        @landing="landing = $event" />
      <div v-if="strip" class="strip" :style="strip" data-quiet @pointerdown.stop>
        <slot name="strip" />
      </div>
    </div>
  </div>
</template>

<style scoped src="./TreeCanvas.css"></style>
