<script setup lang="ts">
import PlankPeople from './PlankPeople.vue'
import { languageOf, markerOf } from '#core/tree'
import { groundAndInk, colourIn } from '#core/dress/wear'
import { useDesk } from '~/desk/desk'
import { pictureOf, signsOf } from '#core/scene/face'
import { stateInWords } from '#core/derive/guises'
import { pressMarker } from '~/dress/marker-pick'
import { openSign } from '~/files/opening'
import type { ShownPlank } from './sight'

const props = defineProps<{ shown: ShownPlank }>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
/** What is shown: the topic's own words, or those of the one it refers to. */
const guise = computed(() => props.shown.drawn.guise)
const topic = computed(() => guise.value.topic)
const signs = computed(() => signsOf(topic.value, props.shown.drawn.talk))
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
    ...topic.value.markers.map(id => markerOf(id, desk.tree.fields.markerSets)?.name ?? ''),
    ...topic.value.people.map(desk.nameOf),
    ...guise.value.names,
    ...drawn.smallPrint.filter(piece => piece.tone !== 'people').map(piece => piece.text),
    ...signs.value.map(sign => sign.name),
    topic.value.annex ? 'has an annex' : '',
    stateInWords(reference),
  ].filter(Boolean)
  if (props.shown.mark) parts.unshift(props.shown.mark)
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
    '--spine': `${props.shown.spine}px`,
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
      behind: shown.behind,
      hit: shown.hit,
    },
  ]
})

/**
 * When the pointer has moved onto a sign or the small print and rests there, what hangs there is shown. A plank that comes
 * to lie under a pointer that stands still was not pointed at.
 */
const REST_MS = 320
const LEAVE_MS = 260
let resting = 0
/** Whoever presses wants to do something here, not to read: no card comes until the pointer has left and come again. */
let pressed = false
function press(): void {
  pressed = true
  clearTimeout(resting)
}
function rest(): void {
  clearTimeout(resting)
  if (pressed || desk.previewed.value?.pinned) return
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
const faces = useFaces()
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
    :lang="languageOf(desk.tree, topic) ?? undefined"
    @pointerdown="press"
    @pointerleave="pressed = false"
    :style="{
      transform: `translate(${shown.x}px, ${shown.y}px)`,
      width: `${shown.width}px`,
      height: `${shown.height}px`,
      zIndex: shown.z || undefined,
      ...dress,
    }">
    <span class="ground" aria-hidden="true" />
    <span v-if="shown.mark" class="mark" :class="shown.mark" aria-hidden="true">{{ shown.mark }}</span>
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
        fontFamily: `var(--${plank.face.family})`,
        fontSize: `${plank.face.size}px`,
        fontWeight: plank.face.weight,
        fontStyle: plank.face.slanted ? 'italic' : undefined,
        lineHeight: `${plank.lineHeight}px`,
        textDecoration: shown.drawn.style.underlined ? 'underline' : undefined,
      }">
      <MarkerSign
        v-for="marker in topic.markers"
        :id="marker"
        :key="marker"
        data-quiet
        @click.stop="pressMarker(desk, shown.id, marker, $event)" />
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
        @pointermove="rest"
        @pointerleave="unrest">
        <b v-if="sign.count" class="said" :class="{ open: sign.open }">{{ sign.count }}</b>
        <Icon v-else :name="sign.icon" size="13" />
      </button>
    </div>
    <LazyWidthGrip v-if="shown.editing && (!desk.editing.value?.fresh || desk.draft.value.trim())" :shown="shown" />
    <div v-if="shown.drawn.smallPrint.length" class="small" @pointermove="rest" @pointerleave="unrest">
      <template v-for="piece in shown.drawn.smallPrint" :key="piece.text">
        <PlankPeople
          v-if="piece.who?.some(id => faces.pictured.has(id))"
          class="people"
          :who="piece.who"
          :text="piece.text" />
        <span
          v-else
          :class="[piece.tone, piece.part !== undefined && (piece.part > 1 ? 'beyond' : 'reached')]"
          :style="piece.part === undefined ? undefined : { '--part': piece.part }"
          >{{ piece.text }}</span
        >
      </template>
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

<style scoped src="./TreePlank.css"></style>
