<script setup lang="ts">
import { topicOf } from '#core/tree'
import { type Drawn, useDesk } from '~/tree/desk'

export interface ShownPlank {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly left: boolean
  readonly rank: 'centre' | 'main' | 'plain'
  readonly drawn: Drawn
  readonly hue: string
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
const topic = computed(() => props.shown.drawn.topic)
const plank = computed(() => props.shown.drawn.plank)
const others = computed(() => props.shown.others ? JSON.parse(props.shown.others) as { name: string, hue: string, typing: boolean }[] : [])
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
  const parts = [topic.value.title || 'untitled', ...drawn.smallPrint.map(piece => piece.text)]
  if (topic.value.note) parts.push('has a note')
  if (props.shown.folded) parts.push(`${props.shown.hidden} folded away`)
  return parts.join(', ')
})
const isCentre = computed(() => topicOf(desk.tree, desk.tree.centre).id === props.shown.id)
</script>

<template>
  <div
    :id="`topic-${shown.id}`" role="treeitem" class="plank" :class="[shown.rank, { left: shown.left, selected: shown.selected, focused: shown.focused, done: topic.done === 100, editing: shown.editing }]"
    :aria-level="shown.level" :aria-posinset="shown.position" :aria-setsize="shown.siblings" :aria-selected="shown.selected" :aria-expanded="shown.children > 0 ? !shown.folded : undefined" :aria-label="label"
    :data-topic="shown.id"
    :style="{ 'transform': `translate(${shown.x}px, ${shown.y}px)`, 'width': `${shown.width}px`, 'height': `${shown.height}px`, '--hue': shown.hue }"
  >
    <div class="title" :style="{ fontSize: `${plank.face.size}px`, fontWeight: plank.face.weight, fontStyle: plank.face.slanted ? 'italic' : undefined, lineHeight: `${plank.lineHeight}px` }">
      <TreeMarkerSign v-for="marker in topic.markers" :id="marker" :key="marker" />
      <TreeTitleField v-if="shown.editing" @closed="emit('closed')" />
      <span v-else class="words"><span v-for="(line, i) in plank.lines" :key="i" class="line" dir="auto">{{ line || '\u00A0' }}</span></span>
      <Icon v-if="topic.note" name="lucide:sticky-note" size="13" class="sign" data-sign="note" />
      <Icon v-if="topic.links.length" name="lucide:link" size="13" class="sign" data-sign="link" />
    </div>
    <div v-if="shown.drawn.smallPrint.length" class="small">
      <span v-for="piece in shown.drawn.smallPrint" :key="piece.text" :class="piece.tone">{{ piece.text }}</span>
      <Icon v-if="topic.done === 100" name="lucide:check" size="12" class="ok" />
    </div>
    <div v-if="topic.done !== null && !isCentre" class="bar" data-quiet @click.stop="setDone"><u :style="{ width: `${topic.done}%` }" /></div>
    <button
      v-if="shown.children > 0 && !isCentre" class="tab" :class="{ open: !shown.folded }" tabindex="-1" data-quiet
      :aria-label="shown.folded ? `Unfold ${shown.hidden} topics` : 'Fold'" @click.stop="desk.toggleFold([shown.id])"
    >{{ shown.folded ? shown.hidden : '–' }}</button>
    <span v-for="(other, i) in others" :key="i" class="other" :style="{ '--person': other.hue, 'top': `${-15 - i * 16}px` }">{{ other.name }}<template v-if="other.typing"> is typing</template></span>
    <span v-if="others.length" class="ring" :style="{ '--person': others[0]!.hue }" />
  </div>
</template>

<style scoped>
.plank { position: absolute; left: 0; top: 0; background: var(--surface); border-left: 3px solid var(--hue); padding: 4px 9px 6px; box-shadow: 0 1px 0 var(--line), 0 0 0 0.5px var(--line); cursor: default; user-select: none; -webkit-user-select: none; contain: layout style; }
.plank.left { border-left: 0; border-right: 3px solid var(--hue); }
.plank.left .title, .plank.left .small { flex-direction: row-reverse; }
.plank.left .words { text-align: right; }
.plank.done { --hue: var(--fern) !important; }
.plank.done .words { color: var(--quiet); }
.plank.centre { background: var(--porch); color: var(--on-porch); border: 0; padding: 13px 18px; font-family: var(--display); box-shadow: none; }
.plank.selected { background: color-mix(in srgb, var(--porch) 7%, var(--surface)); outline: 1.5px solid color-mix(in srgb, var(--porch) 55%, transparent); outline-offset: 2px; }
.plank.centre.selected { background: var(--porch); }
.plank.focused { outline: 2px solid var(--porch); outline-offset: 2px; }
.plank.editing { z-index: 3; outline-color: var(--sun); }
.title { display: flex; gap: 5px; align-items: flex-start; }
.title .marker { margin-top: 1px; }
.words { display: block; flex: none; }
.line { display: block; white-space: pre; }
.sign { color: var(--quiet); flex: none; align-self: center; }
.centre .sign { color: inherit; opacity: 0.8; }
.small { display: flex; gap: 7px; align-items: center; font: 550 11.5px/16px var(--text); color: var(--quiet); white-space: nowrap; }
.small .people { font-weight: 750; color: var(--ink); }
.small .late { color: var(--clay); font-weight: 650; }
.small .ok { color: var(--fern); font-weight: 650; }
.centre .small, .centre .small * { color: inherit; }
.bar { position: absolute; left: 0; right: 0; bottom: 0; height: 3px; background: var(--line); cursor: pointer; }
.bar::before { content: ''; position: absolute; inset: -4px 0 -3px; }
.bar u { position: absolute; inset: 0 auto 0 0; background: var(--hue); pointer-events: none; }
.left .bar u { inset: 0 0 0 auto; }
.tab { position: absolute; top: 50%; left: calc(100% + 7px); transform: translateY(-50%); min-width: 18px; height: 16px; padding: 0 5px; border-radius: 8px; border: 1.5px solid var(--hue); background: var(--page); color: var(--hue); font: 700 10.5px/12px var(--text); cursor: pointer; }
.left .tab { left: auto; right: calc(100% + 7px); }
.tab.open { opacity: 0; }
.plank:hover .tab.open, .plank.focused .tab.open, .tab.open:focus-visible { opacity: 1; }
.other { position: absolute; left: -2px; font: 650 10.5px/14px var(--text); background: var(--person); color: #fff; padding: 0 5px; white-space: nowrap; border-radius: 2px 2px 2px 0; }
.ring { position: absolute; inset: -3px; border: 2px dashed var(--person); pointer-events: none; }
</style>
