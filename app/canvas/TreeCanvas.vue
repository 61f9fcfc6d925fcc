<script setup lang="ts">
import { Layout, type Placed, type Rect } from '#core/arrange/layout'
import { neighbourOf } from '#core/arrange/neighbour'
import { meets } from '#core/arrange/place'
import { childrenOf, depthOf, movable, placeOf, topicOf, type TopicId } from '#core/tree'
import { addLoose, land, shift } from '~/capture/building'
import { useDesk } from '~/desk/desk'
import { handLandingAt, type Landing, landingAt } from '#core/arrange/landing'
import { rankOf } from '~/desk/face'
import { useDropIn } from '~/capture/useDropIn'
import { useDragColour } from './useDragColour'
import { useNearStrip } from './useNearStrip'
import { Paper } from './paper'
import { Passage } from '~/files/passage'
import { onLateFonts } from '~/desk/ruler'
import { Viewport } from './viewport'
import { colourIn } from '#core/dress/wear'
import type { Point } from '#core/arrange/thread'
import { type DrawnTie, labelScale, TieDrawer } from './ties'
import type { ShownPlank } from './TreePlank.vue'

/** `most`: how large it's fitted at most; a branch on a projector may be larger than life. */
const { most = 1 } = defineProps<{ most?: number }>()
const desk = useDesk()
const emit = defineEmits<{ menu: [event: MouseEvent | PointerEvent]; files: [files: File[], topic: TopicId | null] }>()

/** Below this zoom planks are bars drawn on the canvas, and the document holds only what is selected. */
const FAR_OUT = 0.38
const LONG_PRESS_MS = 550

const box = ref<HTMLDivElement>()
const planks = ref<HTMLDivElement>()
const world = ref<HTMLDivElement>()
const over = ref<HTMLDivElement>()
const paper = ref<HTMLCanvasElement>()
const zoom = ref(1)
/** Counts up with each painting, for what goes along with the view. */
const painted = ref(0)
const shown = shallowRef<readonly ShownPlank[]>([])
const tieDrawer = new TieDrawer()
const drawnTies = shallowRef<readonly DrawnTie[]>([])
/** A cross-link whose middle is being pulled. */
let pulledTie: { from: TopicId; id: string; bend: Point } | null = null
const landing = shallowRef<Landing | null>(null)
const colour = useDragColour(() => landing.value !== null)
const landingWords = computed(() => {
  const at = landing.value
  if (!at || at.by || at.slot.parent === null) return at?.words ?? ''
  return `${at.words} · ${colour.words.value}`
})
const slotStyle = computed(() => {
  const at = landing.value
  return at
    ? {
        transform: `translate(${at.rect.x}px, ${at.rect.y}px)`,
        width: `${at.rect.width}px`,
        height: `${at.rect.height}px`,
      }
    : {}
})

const view = new Viewport(request)
let frame = 0
let known = new Map<TopicId, ShownPlank>()
let colours = { quiet: '', sun: '', accent: '' }
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
  },
  { only: desk.only.value, today: today() },
)

/** The look's colours, for this canvas alone. */
function wearLook(): void {
  const style = getComputedStyle(document.documentElement)
  const of = (name: string): string => style.getPropertyValue(name).trim()
  colours = { quiet: of('--quiet'), sun: of('--sun'), accent: of('--porch') }
  const { wear } = dressing
  const at = box.value!.style
  for (const [name, value] of Object.entries({
    page: wear.page,
    surface: wear.plank,
    ink: wear.ink,
    centre: wear.centre,
    'on-centre': wear.onCentre,
    edge: `${Math.max(2, wear.line * 1.9)}px`,
  }))
    at.setProperty(`--${name}`, value)
  known.clear()
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

function othersAt(): Map<TopicId, { name: string; hue: string; typing: boolean }[]> {
  const at = new Map<TopicId, { name: string; hue: string; typing: boolean }[]>()
  for (const person of desk.status.present) {
    const id = person.typing ?? person.selected[0]
    if (id)
      at.set(id, [
        ...(at.get(id) ?? []),
        { name: person.name.split(' ')[0]!, hue: hueOf(person.id), typing: person.typing !== null },
      ])
  }
  return at
}

function paint(): void {
  const context = paper.value?.getContext('2d')
  if (!context || view.width === 0) return
  const far = view.zoom < FAR_OUT
  world.value!.style.transform = over.value!.style.transform = `translate(${view.x}px, ${view.y}px) scale(${view.zoom})`

  const part = passage.part()
  const others = othersAt()
  const next = new Map<TopicId, ShownPlank>()
  const titles: { placed: Placed; title: string; centre: boolean; hue: string; focused: boolean }[] = []
  const selection = desk.selection.value
  const focus = desk.focus.value
  const editing = desk.editing.value?.id
  const sheet = new Paper(context, view)
  const add = (standing: Placed): void => {
    const { id } = standing
    const placed = passage.at(standing, part)
    const topic = topicOf(desk.tree, id)
    const isCentre = id === desk.tree.centre
    const drawn = desk.drawnOf(id)
    const folded = id !== layout.root && desk.isFolded(id)
    const children = childrenOf(desk.tree, id).length
    const made: ShownPlank = {
      id,
      x: placed.x,
      y: placed.y,
      width: placed.width,
      height: placed.height,
      direction: placed.direction,
      spine: layout.spineBehind(id, placed.direction),
      drawn,
      rank: rankOf(desk.tree, topic),
      hue: dressing.hueOf(id),
      z: topic.z,
      wear: dressing.wear,
      level: depthOf(desk.tree, id) + 1,
      position: isCentre ? 1 : placeOf(desk.tree, id) + 1,
      siblings: isCentre ? 1 : childrenOf(desk.tree, topic.parent).length,
      children,
      folded,
      hidden: folded ? layout.hidden(id) : 0,
      selected: selection.has(id),
      focused: focus === id,
      editing: editing === id,
      dim: finding.isDim(id),
      hit: finding.isHit(id),
      others: others.has(id) ? JSON.stringify(others.get(id)) : '',
    }
    const before = known.get(id)
    next.set(id, before && same(before, made) ? before : made)
  }
  layout.scan(passage.running ? wider(view.seen()) : view.seen(), far ? 3 / view.zoom : 0, {
    plank(placed) {
      if (!far) {
        add(placed)
        return
      }
      const topic = topicOf(desk.tree, placed.id)
      const rank = rankOf(desk.tree, topic)
      const hue = finding.isDim(placed.id) ? colours.quiet : dressing.hueOf(placed.id)
      const at = passage.at(placed, part)
      if (rank !== 'plain' || placed.id === focus)
        titles.push({ placed: at, title: topic.title, centre: rank === 'centre', hue, focused: placed.id === focus })
      sheet.bar(finding.isHit(placed.id) ? colours.sun : hue, at)
    },
    line: (owner, points) =>
      sheet.line(owner === layout.root ? colours.quiet : dressing.hueOf(owner), points, finding.isDim(owner)),
    block: (rect, id) => sheet.bar(dressing.hueOf(id), rect),
    axis: (y, from, to, ticks) => sheet.axis(y, from, to, ticks),
  })
  sheet.draw(dressing.wear, colours.quiet, colours.sun, part)
  if (far) sheet.titles(titles, dressing.wear, colours.accent)
  paintTies(part)
  // What has the focus stays in the document wherever it is, so that the keyboard and the screen reader never lose it.
  for (const id of [focus, editing]) {
    const placed = id && !next.has(id) ? layout.find(id) : null
    if (placed) add(placed)
  }
  // The one whose title is typed is the last in the document from the first letter to the last: moved while it has the
  // focus, it would lose it.
  const typed = editing && next.get(editing)
  if (typed) {
    next.delete(typed.id)
    next.set(typed.id, typed)
  }
  const list = [...next.values()]
  if (list.length !== shown.value.length || list.some((item, i) => item !== shown.value[i])) shown.value = list
  known = next
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
    filter: finding,
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

/** A sight with a margin: what glides in from outside is there in time. */
function wider(rect: Rect): Rect {
  return { x: rect.x - rect.width / 2, y: rect.y - rect.height / 2, width: rect.width * 2, height: rect.height * 2 }
}

function same(a: ShownPlank, b: ShownPlank): boolean {
  for (const key in b) if (a[key as keyof ShownPlank] !== b[key as keyof ShownPlank]) return false
  return true
}

// — The view

const fit = (): void => view.fit(layout.bounds(), most)

function reveal(id: TopicId): void {
  const placed = layout.find(id)
  if (placed) view.reveal(placed)
}

// — Pointers

interface Press {
  id: number
  x: number
  y: number
  startX: number
  startY: number
  topic: TopicId | null
  touch: boolean
}
const presses = new Map<number, Press>()
let mode: 'none' | 'pan' | 'drag' | 'pinch' = 'none'
let dragging: ReadonlySet<TopicId> = new Set()
let longPress = 0

const local = (event: { clientX: number; clientY: number }): { x: number; y: number } => {
  const { left, top } = box.value!.getBoundingClientRect()
  return { x: event.clientX - left, y: event.clientY - top }
}
function topicAt(event: Event): TopicId | null {
  const element = event.target as HTMLElement
  const onPlank = element.closest<HTMLElement>('[data-topic]')?.dataset.topic
  if (onPlank) return onPlank
  if (view.zoom >= FAR_OUT) return null
  return topicAtPoint(view.toWorld(local(event as PointerEvent)))
}

function topicAtPoint(point: { x: number; y: number }): TopicId | null {
  let hit: TopicId | null = null
  layout.scan(
    { x: point.x - 1 / view.zoom, y: point.y - 1 / view.zoom, width: 2 / view.zoom, height: 2 / view.zoom },
    0,
    {
      plank: placed => {
        hit = placed.id
      },
      line() {},
      block() {},
    },
  )
  return hit
}

function down(event: PointerEvent): void {
  if ((event.target as HTMLElement).closest('[data-quiet], textarea')) return
  if (mode === 'drag' && event.pointerType === 'touch') {
    colour.toggle()
    return
  }
  if (event.button === 1 || event.button === 0) {
    const { x, y } = local(event)
    const topic = event.button === 0 ? topicAt(event) : null
    presses.set(event.pointerId, {
      id: event.pointerId,
      x,
      y,
      startX: x,
      startY: y,
      topic,
      touch: event.pointerType === 'touch',
    })
    try {
      box.value!.setPointerCapture(event.pointerId)
    } catch {
      /* the finger has left the glass already */
    }
    if (presses.size === 2) {
      mode = 'pinch'
      landing.value = null
      clearTimeout(longPress)
      return
    }
    if (topic) {
      const extending = event.shiftKey || event.ctrlKey || event.metaKey
      if (extending) desk.select(topic, { range: event.shiftKey, add: event.ctrlKey || event.metaKey, quiet: true })
      else if (!desk.selection.value.has(topic) && event.pointerType !== 'touch') desk.select(topic, { quiet: true })
    }
    if (event.pointerType === 'touch') {
      longPress = window.setTimeout(() => {
        if (mode !== 'none') return
        if (topic) desk.select(topic, { quiet: true })
        presses.clear()
        emit('menu', event)
      }, LONG_PRESS_MS)
    }
    focusBox()
  }
}

function moved(event: PointerEvent): void {
  const press = presses.get(event.pointerId)
  if (!press) {
    approach(view.toWorld(local(event)))
    return
  }
  const at = local(event)
  if (mode === 'pinch') {
    pinch(press, at)
    return
  }
  if (mode === 'none' && Math.hypot(at.x - press.startX, at.y - press.startY) > (press.touch ? 10 : 5)) {
    clearTimeout(longPress)
    const able = press.topic && press.topic !== desk.tree.centre && desk.session.canEdit
    // By touch, a finger on a topic pans unless that topic is selected; so the tree can be pushed about by its planks.
    if (able && (!press.touch || desk.selection.value.has(press.topic!))) {
      mode = 'drag'
      dragging = new Set(
        movable(desk.tree, desk.selection.value.has(press.topic!) ? desk.selection.value : [press.topic!]),
      )
    } else mode = 'pan'
  }
  if (mode === 'pan') {
    view.pan(at.x - press.x, at.y - press.y)
  }
  if (mode === 'drag') {
    const point = view.toWorld(at)
    const lead = layout.find(dragging.has(press.topic!) ? press.topic! : [...dragging][0]!)
    const from = view.toWorld({ x: press.startX, y: press.startY })
    const over = topicAtPoint(point)
    const byHand =
      lead && (over === null || dragging.has(over))
        ? handLandingAt(desk.tree, layout, lead, { x: point.x - from.x, y: point.y - from.y }, dragging)
        : null
    landing.value =
      byHand ?? landingAt(desk.tree, layout, point.x, point.y, dragging, lead ?? { width: 100, height: 28 })
    edgePan(at)
  }
  press.x = at.x
  press.y = at.y
}

/** Near the edge a drag pulls the view along. */
function edgePan(at: { x: number; y: number }): void {
  const edge = 36
  const push = (value: number, end: number): number =>
    value < edge ? (edge - value) / 3 : value > end - edge ? (end - edge - value) / 3 : 0
  const dx = push(at.x, view.width)
  const dy = push(at.y, view.height)
  if (dx || dy) view.pan(dx, dy)
}

function pinch(press: Press, at: { x: number; y: number }): void {
  const other = [...presses.values()].find(item => item.id !== press.id)
  if (!other) return
  const before = Math.hypot(press.x - other.x, press.y - other.y)
  const after = Math.hypot(at.x - other.x, at.y - other.y)
  view.pan((at.x - press.x) / 2, (at.y - press.y) / 2)
  if (before > 0) view.zoomAt(view.zoom * (after / before), (at.x + other.x) / 2, (at.y + other.y) / 2)
  press.x = at.x
  press.y = at.y
}

function up(event: PointerEvent): void {
  clearTimeout(longPress)
  const press = presses.get(event.pointerId)
  presses.delete(event.pointerId)
  if (!press) return
  if (mode === 'drag' && landing.value?.by)
    shift(desk, new Map([...dragging].map(id => [id, landing.value!.by!])), id => layout.find(id))
  else if (mode === 'drag' && landing.value)
    land(desk, dragging, landing.value.slot, landing.value.place, colour.keeps.value)
  else if (mode === 'none' && press.topic && !event.shiftKey && !event.ctrlKey && !event.metaKey)
    desk.select(press.topic, { quiet: true })
  if (presses.size === 0) endDrag()
}

function endDrag(): void {
  mode = 'none'
  dragging = new Set()
  landing.value = null
}

function wheel(event: WheelEvent): void {
  const { x, y } = local(event)
  if (event.ctrlKey || event.metaKey)
    view.zoomAt(view.zoom * Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.05 : 0.0022)), x, y)
  else {
    const unit = event.deltaMode === 1 ? 18 : 1
    const sideways = event.shiftKey && !event.deltaX
    view.pan(-(sideways ? event.deltaY : event.deltaX) * unit, -(sideways ? 0 : event.deltaY) * unit)
  }
}

function twice(event: MouseEvent): void {
  if ((event.target as HTMLElement).closest('[data-quiet]')) return
  const topic = topicAt(event)
  if (topic) desk.edit(topic)
  else {
    const { x, y } = view.toWorld(local(event))
    addLoose(desk, x - 30, y - 14)
  }
}

function contextMenu(event: MouseEvent): void {
  event.preventDefault()
  const topic = topicAt(event)
  if (topic && !desk.selection.value.has(topic)) desk.select(topic, { quiet: true })
  emit('menu', event)
}

function focusBox(): void {
  planks.value?.focus({ preventScroll: true })
}

function escape(): boolean {
  if (mode !== 'drag') return false
  presses.clear()
  endDrag()
  return true
}

const { dragOver, dragLeave, dropIn, hoverStyle } = useDropIn({
  desk,
  layout,
  landing,
  topicAt: topicAtPoint,
  worldAt: event => view.toWorld(local(event)),
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
  const { arrangement, along, across, look, looks, levels } = desk.tree.fields
  return [arrangement, along, across, look, looks, levels, desk.only.value, today()]
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
          known.get(id)?.drawn.topic.arrangement !== desk.tree.topics.get(id)?.arrangement &&
          known.has(id),
      )
      if (turned) passage.begin(shown.value)
      layout.touch(touched)
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
  if (after) view.reveal(after)
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

watch([desk.selection, desk.focus, desk.editing, desk.tie, () => desk.status.present], request)
watch(desk.editing, (now, before) => {
  if (!now && before) nextTick(focusBox)
})

const { approach, shows: near } = useNearStrip(
  () => shown.value.find(item => item.focused),
  () => view.zoom,
)

/**
 * Where the small strip of most-done things stands: under the focus while the pointer is there and nothing is typed or
 * dragged.
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
  const at = shown.value.find(item => item.focused)
  return at
    ? {
        transform: `translate(${at.x + (at.direction === 'left' ? at.width - 118 / zoom.value : 0)}px, ${at.y + at.height + 7}px) scale(${1 / zoom.value})`,
        transformOrigin: '0 0',
      }
    : null
})

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
        <TreePlank v-for="item in shown" :key="item.id" :shown="item" @closed="focusBox" />
      </div>
    </div>
    <div ref="over" class="world">
      <TieLayer
        v-if="drawnTies.length"
        :ties="drawnTies"
        :zoom="zoom"
        :to-world="event => view.toWorld(local(event))"
        @pulled="pullTie" />
      <template v-if="landing">
        <svg v-if="landing.guides?.length" class="new-bracket guides" width="1" height="1" aria-hidden="true">
          <line v-for="(guide, i) in landing.guides" :key="i" v-bind="guide" />
        </svg>
        <svg class="new-bracket" width="1" height="1" aria-hidden="true">
          <polyline :points="landing.bracket.map(point => `${point.x},${point.y}`).join(' ')" />
        </svg>
        <div class="slot" :style="slotStyle">
          <span>{{ landingWords }}</span>
        </div>
      </template>
      <div v-if="hoverStyle" class="slot" :style="hoverStyle" />
      <div v-if="strip" class="strip" :style="strip" data-quiet @pointerdown.stop>
        <slot name="strip" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.canvas {
  position: absolute;
  inset: 0;
  overflow: clip;
  background: var(--page);
  touch-action: none;
}
/* Figures as wide as the ruler measures them. */
.planks {
  position: absolute;
  inset: 0;
  outline: none;
  font-feature-settings: normal;
}
/* Far out the paper draws the planks; those in the document are there for the keyboard and the screen reader. */
.far :deep(.plank:not(.editing)) {
  opacity: 0;
}
.canvas[data-dragging] {
  cursor: grabbing;
}
.paper {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.world {
  position: absolute;
  left: 0;
  top: 0;
  width: 0;
  height: 0;
  transform-origin: 0 0;
}
.slot {
  position: absolute;
  left: 0;
  top: 0;
  border: 2px solid var(--sun);
  background: color-mix(in srgb, var(--sun) 22%, transparent);
  pointer-events: none;
  z-index: 4;
}
.slot span {
  position: absolute;
  left: -2px;
  top: calc(100% + 2px);
  background: var(--sun);
  color: #352400;
  font: 650 11.5px/17px var(--text);
  padding: 0 7px;
  white-space: nowrap;
}
.new-bracket {
  position: absolute;
  left: 0;
  top: 0;
  overflow: visible;
  pointer-events: none;
}
.new-bracket polyline {
  fill: none;
  stroke: var(--sun);
  stroke-width: 2;
}
.guides line {
  stroke: var(--clay);
  stroke-width: 1;
  stroke-dasharray: 3 3;
}
.strip {
  position: absolute;
  left: 0;
  top: 0;
  z-index: 2;
}
</style>
