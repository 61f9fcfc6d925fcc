<script setup lang="ts">
import { markersOf } from '#core/tree'
import type { Direction } from '#core/arrange/place'
import { groundAndInk, colourIn, type Wear } from '#core/dress/wear'
import { type Drawn, useDesk } from '~/desk/desk'
import { pictureOf, signsOf } from '~/desk/face'
import { stateInWords } from '#core/derive/guises'
import { openSign } from '~/files/opening'

export interface ShownPlank {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly direction: Direction
  readonly rank: 'centre' | 'main' | 'plain'
  readonly drawn: Drawn
  readonly hue: string
  readonly wear: Wear
  readonly z: number
  readonly dim: boolean
  readonly hit: boolean
  readonly level: number
  readonly position: number
  readonly siblings: number
  readonly children: number
  readonly folded: boolean
  readonly hidden: number
  readonly selected: boolean
  readonly focused: boolean
  readonly editing: boolean
  readonly others: string
}

const props = defineProps<{ shown: ShownPlank }>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
/** What is shown: the topic's own words, or those of the one it refers to. */
const guise = computed(() => props.shown.drawn.guise)
const topic = computed(() => guise.value.topic)
const signs = computed(() => signsOf(topic.value))
const plank = computed(() => props.shown.drawn.plank)
const others = computed(() =>
  props.shown.others ? (JSON.parse(props.shown.others) as { name: string; hue: string; typing: boolean }[]) : [],
)
const STOPS = [0, 25, 50, 75, 100]

/** The bottom edge is clicked at one of five stops. */
function setDone(event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const fraction = (event.clientX - box.left) / box.width
  const stop = STOPS[Math.round(fraction * 4)]!
  desk.set('done', stop, [props.shown.id])
}

const label = computed(() => {
  const { drawn } = props.shown
  const { number, reference } = guise.value
  const parts = [
    `${number ? `${number} ` : ''}${topic.value.title || 'untitled'}`,
    // Whoever hears it hears names: of markers, and of people instead of their initials.
    ...topic.value.markers.map(id => markersOf(desk.tree.fields).find(marker => marker.id === id)?.name ?? ''),
    ...topic.value.people.map(desk.nameOf),
    ...guise.value.names,
    ...drawn.smallPrint.filter(piece => piece.tone !== 'people').map(piece => piece.text),
    ...signs.value.map(sign => sign.name),
    topic.value.annex ? 'has an annex' : '',
    stateInWords(reference),
  ].filter(Boolean)
  if (props.shown.folded) parts.push(`${props.shown.hidden} folded away`)
  return parts.join(', ')
})
const isCentre = computed(() => props.shown.rank === 'centre')
const picture = computed(() => pictureOf(topic.value))
const pictureAddress = computed(() =>
  topic.value.picture ? `/api/trees/${desk.session.treeId}/files/${topic.value.picture.file}` : '',
)

/** What dresses this plank, as style; the centre wears its own colours unless somebody gave it others. */
const dress = computed(() => {
  const {
    wear,
    hue,
    rank,
    drawn: { style },
  } = props.shown
  const { ground, ink } = groundAndInk(wear, style.fill ?? (rank === 'centre' ? wear.centre : null), style.ink)
  return {
    '--hue': hue,
    '--ground': ground,
    '--plank-ink': ink,
    '--rim': style.edge ? colourIn(wear, style.edge) : style.fill ? ground : hue,
  }
})
const classes = computed(() => {
  const { shown } = props
  const { style } = shown.drawn
  return [
    shown.rank,
    shown.direction,
    style.shape ? `shape-${style.shape}` : '',
    style.border ? `border-${style.border}` : '',
    picture.value ? `picture-${picture.value.place}` : '',
    {
      plainly: !style.shape && !style.border,
      filled: style.fill !== null,
      selected: shown.selected,
      focused: shown.focused,
      done: topic.value.done === 100,
      editing: shown.editing,
      dim: shown.dim,
      hit: shown.hit,
    },
  ]
})

/** When the pointer rests on a sign, what hangs there is shown. */
const REST_MS = 320
const LEAVE_MS = 260
let resting = 0
function rest(): void {
  clearTimeout(resting)
  if (desk.previewed.value?.pinned) return
  resting = window.setTimeout(() => {
    desk.previewed.value = { topic: props.shown.id, pinned: false }
  }, REST_MS)
}
function unrest(): void {
  clearTimeout(resting)
  resting = window.setTimeout(() => {
    const now = desk.previewed.value
    if (now && !now.pinned && now.topic === props.shown.id && !document.querySelector('.preview:hover'))
      desk.previewed.value = null
  }, LEAVE_MS)
}
onBeforeUnmount(() => clearTimeout(resting))

/** Pulling the corner of a picture makes it larger or smaller; the edit is made when it's let go. */
const pulled = ref<number | null>(null)
function pull(event: PointerEvent): void {
  const { picture: now } = topic.value
  if (!now) return
  const handle = event.currentTarget as HTMLElement
  handle.setPointerCapture(event.pointerId)
  const box = handle.parentElement!.getBoundingClientRect()
  const scale = box.width / now.width
  const move = (moved: PointerEvent): void => {
    pulled.value = Math.round(Math.min(800, Math.max(24, (moved.clientX - box.left) / scale)))
  }
  const done = (): void => {
    handle.removeEventListener('pointermove', move)
    if (pulled.value !== null) desk.set('picture', { ...now, width: pulled.value }, [props.shown.id])
    pulled.value = null
  }
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', done, { once: true })
  handle.addEventListener('pointercancel', done, { once: true })
}
</script>

<template>
  <div
    :id="`topic-${shown.id}`"
    role="treeitem"
    class="plank"
    :class="classes"
    :aria-level="shown.level"
    :aria-posinset="shown.position"
    :aria-setsize="shown.siblings"
    :aria-selected="shown.selected"
    :aria-expanded="shown.children > 0 ? !shown.folded : undefined"
    :aria-label="label"
    :data-topic="shown.id"
    :style="{
      transform: `translate(${shown.x}px, ${shown.y}px)`,
      width: `${shown.width}px`,
      height: `${shown.height}px`,
      zIndex: shown.z || undefined,
      ...dress,
    }">
    <span class="ground" aria-hidden="true" />
    <span
      v-if="picture"
      class="picture"
      :style="{
        width: `${pulled ?? picture.width}px`,
        height: `${(pulled ?? picture.width) * topic.picture!.ratio}px`,
      }">
      <img :src="pictureAddress" :alt="`Picture of ${topic.title || 'untitled'}`" draggable="false" />
      <span
        v-if="shown.focused && desk.session.canEdit"
        class="pull"
        data-quiet
        aria-hidden="true"
        @pointerdown.stop="pull" />
    </span>
    <div
      class="title"
      :style="{
        fontSize: `${plank.face.size}px`,
        fontWeight: plank.face.weight,
        fontStyle: plank.face.slanted ? 'italic' : undefined,
        lineHeight: `${plank.lineHeight}px`,
        textDecoration: shown.drawn.style.underlined ? 'underline' : undefined,
      }">
      <MarkerSign v-for="marker in topic.markers" :id="marker" :key="marker" />
      <TitleField v-if="shown.editing" @closed="emit('closed')" />
      <span v-else class="words"
        ><span v-for="(line, i) in plank.lines" :key="i" class="line" dir="auto">{{ line || '\u00A0' }}</span></span
      >
      <button
        v-for="sign in signs"
        :key="sign.kind"
        class="sign"
        :class="{ broken: sign.kind === 'reference' && guise.reference !== 'shown' }"
        :data-sign="sign.kind"
        data-quiet
        tabindex="-1"
        :aria-label="`${sign.name}: open`"
        @click.stop="openSign(desk, shown.id, sign.kind)"
        @pointerenter="rest"
        @pointerleave="unrest">
        <Icon :name="sign.icon" size="13" />
      </button>
    </div>
    <div v-if="shown.drawn.smallPrint.length" class="small" @pointerenter="rest" @pointerleave="unrest">
      <span v-for="piece in shown.drawn.smallPrint" :key="piece.text" :class="piece.tone">{{ piece.text }}</span>
      <Icon v-if="topic.done === 100" name="lucide:check" size="12" class="ok" />
    </div>
    <div v-if="topic.done !== null && !isCentre" class="bar" data-quiet @click.stop="setDone">
      <u :style="{ width: `${topic.done}%` }" />
    </div>
    <button
      v-if="topic.annex && !isCentre"
      class="doorway"
      :class="{ inside: !shown.folded }"
      tabindex="-1"
      data-quiet
      :aria-label="shown.folded ? 'Into its annex' : 'Out of its annex'"
      :data-tip="shown.folded ? `Into its annex: ${shown.hidden} topics` : 'Out of its annex'"
      @click.stop="desk.showOnly(shown.folded ? shown.id : desk.annexOf(shown.id))" />
    <button
      v-else-if="shown.children > 0 && !isCentre"
      class="tab"
      :class="{ open: !shown.folded }"
      tabindex="-1"
      data-quiet
      :aria-label="shown.folded ? `Unfold ${shown.hidden} topics` : 'Fold'"
      @click.stop="desk.toggleFold([shown.id])">
      {{ shown.folded ? shown.hidden : shown.children }}
    </button>
    <span
      v-for="(other, i) in others"
      :key="i"
      class="other"
      :style="{ '--person': other.hue, top: `${-15 - i * 16}px` }"
      >{{ other.name }}<template v-if="other.typing"> is typing</template></span
    >
    <span v-if="others.length" class="ring" :style="{ '--person': others[0]!.hue }" />
  </div>
</template>

<style scoped>
.plank {
  position: absolute;
  left: 0;
  top: 0;
  color: var(--plank-ink);
  padding: 4px 9px 6px 12px;
  cursor: default;
  user-select: none;
  -webkit-user-select: none;
  contain: layout style;
  isolation: isolate;
}
.plank.left {
  padding: 4px 12px 6px 9px;
}
.plank.down {
  padding-left: 11px;
  padding-right: 10px;
}
.ground {
  position: absolute;
  inset: 0;
  z-index: -1;
  background: var(--ground);
}
.plainly .ground {
  border-left: var(--edge) solid var(--rim);
  box-shadow:
    0 1px 0 var(--line),
    0 0 0 0.5px var(--line);
}
.plainly.left .ground {
  border-left: 0;
  border-right: var(--edge) solid var(--rim);
}
.plainly.down .ground {
  border-left: 0;
  border-top: var(--edge) solid var(--rim);
}
.border-thin .ground {
  border: 1px solid var(--rim);
}
.border-thick .ground {
  border: 3px solid var(--rim);
}
.border-dashed .ground {
  border: 1.5px dashed var(--rim);
}
.border-double .ground {
  border: 4px double var(--rim);
}
.shape-box:not([class*='border-']) .ground {
  border: 1.5px solid var(--rim);
}
.shape-round .ground {
  border-radius: 11px;
}
.shape-round:not([class*='border-']) .ground {
  border: 1.5px solid var(--rim);
}
.shape-slate .ground {
  border-left: 3px solid var(--rim);
}
.shape-slate:not(.filled) .ground {
  background: color-mix(in srgb, var(--hue) 16%, var(--ground));
}
.shape-tag .ground {
  clip-path: polygon(0 0, calc(100% - 12px) 0, 100% 50%, calc(100% - 12px) 100%, 0 100%);
}
.shape-tag.left .ground {
  clip-path: polygon(100% 0, 12px 0, 0 50%, 12px 100%, 100% 100%);
}
.shape-tag:not(.filled) .ground,
.shape-ticket:not(.filled) .ground {
  background: color-mix(in srgb, var(--hue) 16%, var(--ground));
}
.shape-tag {
  padding-right: 16px;
}
.shape-tag.left {
  padding-left: 16px;
}
.shape-ticket {
  padding-left: 16px;
  padding-right: 14px;
}
.shape-ticket .ground {
  -webkit-mask:
    radial-gradient(circle 6px at 0 50%, transparent 97%, #000) left / 51% 100% no-repeat,
    radial-gradient(circle 6px at 100% 50%, transparent 97%, #000) right / 51% 100% no-repeat;
  mask:
    radial-gradient(circle 6px at 0 50%, transparent 97%, #000) left / 51% 100% no-repeat,
    radial-gradient(circle 6px at 100% 50%, transparent 97%, #000) right / 51% 100% no-repeat;
}
.shape-awning {
  padding-bottom: 13px;
}
.shape-awning .ground {
  border-top: 4px solid var(--rim);
  -webkit-mask:
    linear-gradient(#000 0 0) top / 100% calc(100% - 6px) no-repeat,
    radial-gradient(ellipse 8px 6px at 50% 0, #000 97%, transparent) bottom left / 16px 6px repeat-x;
  mask:
    linear-gradient(#000 0 0) top / 100% calc(100% - 6px) no-repeat,
    radial-gradient(ellipse 8px 6px at 50% 0, #000 97%, transparent) bottom left / 16px 6px repeat-x;
}
.shape-awning:not(.filled) .ground {
  background: color-mix(in srgb, var(--hue) 12%, var(--ground));
}
.plank.left .title,
.plank.left .small {
  flex-direction: row-reverse;
}
.plank.left .words {
  text-align: right;
}
.plank.done {
  --rim: var(--fern) !important;
}
.plank.done .words {
  opacity: 0.75;
}
.plank.centre {
  padding: 13px 18px;
  font-family: var(--display);
}
.plank.centre.plainly .ground {
  border: 0;
  box-shadow: none;
}
.plank.dim {
  opacity: 0.28;
}
.plank.hit .ground {
  box-shadow: 0 0 0 2.5px var(--sun);
}
.plank.selected {
  outline: 1.5px solid color-mix(in srgb, var(--porch) 55%, transparent);
  outline-offset: 2px;
}
.plank.selected:not(.filled):not(.centre) .ground {
  background: color-mix(in srgb, var(--porch) 8%, var(--ground));
}
.plank.focused {
  outline: 2px solid var(--porch);
  outline-offset: 2px;
}
.plank.editing {
  z-index: 3 !important;
  outline-color: var(--sun);
}
.picture {
  position: relative;
  display: block;
  margin-bottom: 6px;
  flex: none;
}
.picture img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.picture-before {
  display: grid;
  grid-template-columns: auto 1fr;
  column-gap: 6px;
  align-content: start;
}
.picture-before .picture {
  grid-row: 1 / span 2;
  margin: 0;
}
.picture-below {
  display: flex;
  flex-direction: column;
}
.picture-below .picture {
  order: 5;
  margin: 6px 0 0;
}
.pull {
  position: absolute;
  right: -4px;
  bottom: -4px;
  width: 11px;
  height: 11px;
  background: var(--sun);
  border: 1.5px solid var(--ground);
  cursor: nwse-resize;
  touch-action: none;
}
.title {
  display: flex;
  gap: 5px;
  align-items: flex-start;
}
.title .marker {
  margin-top: 1px;
}
.words {
  display: block;
  flex: none;
}
.line {
  display: block;
  white-space: pre;
}
.sign {
  color: var(--quiet);
  flex: none;
  align-self: center;
  border: 0;
  background: none;
  padding: 0;
  width: 13px;
  height: 17px;
  display: grid;
  place-items: center;
  cursor: pointer;
  position: relative;
}
.sign::after {
  content: '';
  position: absolute;
  inset: -4px -2.5px;
}
.sign:hover {
  color: var(--porch);
}
.sign.broken {
  color: var(--clay);
}
.centre .sign {
  color: inherit;
  opacity: 0.8;
}
.small {
  display: flex;
  gap: 7px;
  align-items: center;
  font: 550 11.5px/16px var(--text);
  color: var(--quiet);
  white-space: nowrap;
}
.small .people {
  font-weight: 750;
  color: inherit;
}
.filled .small,
.filled .small * {
  color: inherit;
}
.small .late {
  color: var(--clay);
  font-weight: 650;
}
.small .ok {
  color: var(--fern);
  font-weight: 650;
}
.centre .small,
.centre .small * {
  color: inherit;
}
.bar {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  height: 3px;
  background: var(--line);
  cursor: pointer;
}
.bar::before {
  content: '';
  position: absolute;
  inset: -4px 0 -3px;
}
.bar u {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--hue);
  pointer-events: none;
}
.left .bar u {
  inset: 0 0 0 auto;
}
/* Stands on the spine of the bracket, where that is or would be: filled while it holds back what is below. */
.tab {
  position: absolute;
  top: 50%;
  left: calc(100% + var(--spine));
  transform: translate(-50%, -50%);
  min-width: 17px;
  height: 16px;
  padding: 0 4px;
  border-radius: 2px;
  border: 1.5px solid var(--hue);
  background: var(--hue);
  color: var(--page);
  font: 700 10.5px/12px var(--text);
  font-variant-numeric: tabular-nums;
  cursor: pointer;
}
.tab::after,
.doorway::before {
  content: '';
  position: absolute;
  inset: -5px;
}
.left .tab {
  left: auto;
  right: calc(100% + var(--spine));
  transform: translate(50%, -50%);
}
.down .tab {
  top: calc(100% + var(--spine-down));
  left: 50%;
}
.tab.open {
  opacity: 0;
  background: var(--page);
  color: var(--hue);
}
.plank:hover .tab.open,
.plank.focused .tab.open,
.tab.open:focus-visible {
  opacity: 1;
}
/* An arch in the outer edge, its door ajar; open wide for whoever is inside. */
.doorway {
  position: absolute;
  top: 50%;
  left: calc(100% - 2px);
  transform: translateY(-50%);
  width: 17px;
  height: 22px;
  padding: 0;
  border: 2px solid var(--hue);
  border-radius: 9px 9px 0 0;
  background: linear-gradient(100deg, var(--hue) 0 38%, var(--page) 39%);
  cursor: pointer;
}
.doorway.inside {
  background: var(--page);
}
.doorway:hover {
  box-shadow: 0 0 0 2px color-mix(in srgb, var(--hue) 35%, transparent);
}
.left .doorway {
  left: auto;
  right: calc(100% - 2px);
}
.down .doorway {
  top: calc(100% - 2px);
  left: 50%;
  transform: translateX(-50%);
}
.other {
  position: absolute;
  left: -2px;
  font: 650 10.5px/14px var(--text);
  background: var(--person);
  color: #fff;
  padding: 0 5px;
  white-space: nowrap;
  border-radius: 2px 2px 2px 0;
}
.ring {
  position: absolute;
  inset: -3px;
  border: 2px dashed var(--person);
  pointer-events: none;
}
</style>
