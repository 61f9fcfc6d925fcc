<script setup lang="ts">
import { PLANK } from '#core/arrange/plank'
import { TEXT_WIDTH } from '#core/tree/style-fields'
import { useDesk } from '~/desk/desk'
import type { ShownPlank } from './sight'

/** The grip at the outer edge of a title that is open: pulled, the plank's text runs wider or narrower. Its title stays open. */
const { shown } = defineProps<{ shown: ShownPlank }>()
const desk = useDesk()
const left = computed(() => shown.direction === 'left')
let start: { readonly x: number; readonly width: number; readonly scale: number } | null = null
/** What it's pulled to, canvas units. */
const pulled = ref<number | null>(null)

function down(event: PointerEvent): void {
  if (event.button !== 0) return
  // The keys stay in the title.
  event.preventDefault()
  const grip = event.currentTarget as HTMLElement
  grip.setPointerCapture(event.pointerId)
  start = {
    x: event.clientX,
    width: Math.min(
      shown.drawn.style.width ?? (shown.rank === 'centre' ? PLANK.centreWidest : PLANK.widest),
      shown.width - (shown.rank === 'centre' ? PLANK.centreSides : PLANK.sides),
    ),
    scale: grip.closest('.plank')!.getBoundingClientRect().width / shown.width,
  }
  window.addEventListener('keydown', escape, { capture: true })
}
function move(event: PointerEvent): void {
  if (!start) return
  const by = ((event.clientX - start.x) / start.scale) * (left.value ? -1 : 1)
  const wanted = Math.round((start.width + by) / 10) * 10
  pulled.value = Math.max(TEXT_WIDTH.least, Math.min(TEXT_WIDTH.most, wanted))
  desk.planks.setDraft(shown.id, desk.draft.value || ' ', pulled.value)
  desk.tell(new Set([shown.id]))
}
function up(): void {
  if (!start) return
  const width = pulled.value
  stop()
  const open = desk.editing.value
  if (width !== null && open?.id === shown.id) {
    // A new topic is made with its width, once its title is kept.
    if (open.fresh) desk.session.holdMore([{ op: 'set', topic: shown.id, field: 'width', value: width }])
    else desk.set('width', width, [shown.id])
  }
  desk.redraft()
}
function stop(): void {
  window.removeEventListener('keydown', escape, { capture: true })
  start = pulled.value = null
}
function letGo(): void {
  if (!start) return
  stop()
  desk.redraft()
}
/** Esc lets go of the grip, not of the title. */
function escape(event: KeyboardEvent): void {
  if (event.key !== 'Escape') return
  event.preventDefault()
  event.stopPropagation()
  letGo()
}
onBeforeUnmount(stop)
</script>

<template>
  <span
    class="width-grip"
    :class="{ left }"
    data-quiet
    data-tip="Pull: how wide its text runs"
    @pointerdown.stop="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="letGo"
    ><b v-if="pulled !== null">{{ pulled }}</b></span
  >
</template>

<style scoped>
/* Two boards that can be pushed apart, along the whole outer edge: the tab that folds stands beside it. */
.width-grip {
  position: absolute;
  top: -2px;
  bottom: -2px;
  right: -6px;
  width: 10px;
  cursor: ew-resize;
  background: linear-gradient(
      90deg,
      transparent 2px,
      var(--ink) 2px 4px,
      transparent 4px 6px,
      var(--ink) 6px 8px,
      transparent 8px
    )
    center / 10px calc(100% - 12px) no-repeat;
  touch-action: none;
  z-index: 2;
}
.width-grip.left {
  right: auto;
  left: -6px;
}
.width-grip b {
  position: absolute;
  left: 50%;
  bottom: 100%;
  transform: translateX(-50%);
  padding: 1px 6px;
  background: var(--ink);
  color: var(--surface);
  font: 600 11.5px/16px var(--text);
  border-radius: 4px;
}
@media (pointer: coarse) {
  .width-grip {
    width: 28px;
    right: -10px;
  }
  .width-grip.left {
    left: -10px;
  }
}
</style>
