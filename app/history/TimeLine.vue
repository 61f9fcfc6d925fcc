<script setup lang="ts">
import { keptInWords } from '#core/history/kept'
import type { Sitting } from '#core/history/sittings'
import type { History } from './useHistory'

/**
 * The boards of the floor: one a sitting, as wide as its work, in its people's colours; where one stands is a line across its
 * board. Pulled along, or gone through by keys, the tree above follows.
 */
const { history } = defineProps<{ history: History }>()
const floor = ref<HTMLDivElement>()

/** How wide a board is, px: a long sitting is wider, but not by as much as it has edits. */
const widthOf = (sitting: Sitting): number => Math.round(Math.min(220, 16 + Math.sqrt(sitting.edits) * 11))
const time = new Intl.DateTimeFormat(ownLocale(), { hour: '2-digit', minute: '2-digit' })
const dayOf = (ms: number): string => isoDay(new Date(ms))

/** Room that the words of a day take over the boards, px. */
const DAY_WIDTH = 92
/** Boards with a day over them: the first of each day, as far as there is room, the newest before all. */
const dated = computed(() => {
  const all = history.sittings.value
  const found = new Set<number>()
  let room = Infinity
  for (let i = all.length - 1; i >= 0; i--) {
    room += widthOf(all[i]!) + 3
    const first = i === 0 || dayOf(all[i - 1]!.began) !== dayOf(all[i]!.began)
    if (!first || room < DAY_WIDTH) continue
    found.add(all[i]!.from)
    room = 0
  }
  return found
})

const boards = computed(() =>
  history.sittings.value.map(sitting => {
    const day = dayOf(sitting.began)
    const isHere = sitting.from === history.here.value?.from
    return {
      sitting,
      isHere,
      width: widthOf(sitting),
      day: dated.value.has(sitting.from) ? dayInWords(day) : '',
      strips: sitting.people.map(({ by, edits }) => ({ hue: hueOf(by), part: edits })),
      words: `${dayInWords(day)}, ${time.format(sitting.began)}–${time.format(sitting.ended)}: ${sitting.people
        .map(({ by }) => history.names.value[by] ?? 'Somebody')
        .join(', ')}, ${sitting.edits === 1 ? '1 edit' : `${sitting.edits} edits`}`,
      flags: history.kept.value
        .filter(({ number }) => number >= sitting.from && number <= sitting.to)
        .map(one => ({
          number: one.number,
          named: one.why === 'named',
          words: keptInWords(one),
          left: (one.number - sitting.from + 1) / (sitting.to - sitting.from + 1),
        })),
      at: isHere ? (history.at.value - sitting.from + 1) / (sitting.to - sitting.from + 1) : null,
    }
  }),
)
const valueText = computed(() => {
  const board = boards.value.find(one => one.isHere)
  return history.isNow.value ? 'now' : (board?.words ?? (history.at.value === 0 ? 'as it was made' : ''))
})

/** The moment under a pointer. */
function momentAt(event: PointerEvent): number | null {
  const board = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-from]')
  if (!board) return null
  const { left, width } = board.getBoundingClientRect()
  const [from, to] = [Number(board.dataset.from), Number(board.dataset.to)]
  const part = Math.min(1, Math.max(0, (event.clientX - left) / width))
  return from + Math.round(part * (to - from))
}
function pull(event: PointerEvent): void {
  const moment = momentAt(event)
  if (moment === null) return
  history.rest()
  void history.goTo(moment)
  if (event.type === 'pointerdown') (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function key(event: KeyboardEvent): void {
  const acts: Record<string, () => Promise<void>> = {
    ArrowLeft: () => history.by(-1),
    ArrowRight: () => history.by(1),
    PageUp: () => history.bySitting(-1),
    PageDown: () => history.bySitting(1),
    Home: () => history.goTo((history.sittings.value[0]?.from ?? 1) - 1),
    End: () => history.goTo(history.version.value),
  }
  const act = acts[event.key]
  if (!act || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  history.rest()
  void act()
}
/** The board where one stands stays in sight. */
watch(
  () => [history.here.value?.from, history.loading.value],
  () => nextTick(() => floor.value?.querySelector('.here')?.scrollIntoView({ inline: 'nearest', block: 'nearest' })),
)
onMounted(() => floor.value?.focus())
defineExpose({ focus: () => floor.value?.focus() })
</script>

<template>
  <div class="time-line">
    <button v-if="history.next.value !== null" class="older" :disabled="history.loading.value" @click="history.older()">
      Older
    </button>
    <div
      ref="floor"
      class="floor"
      role="slider"
      tabindex="0"
      data-home
      aria-label="Moment"
      :aria-valuemin="0"
      :aria-valuemax="history.version.value"
      :aria-valuenow="history.at.value"
      :aria-valuetext="valueText"
      @keydown="key"
      @pointerdown="pull"
      @pointermove="$event.buttons === 1 && pull($event)">
      <div
        v-for="board in boards"
        :key="board.sitting.from"
        class="board"
        :class="{ here: board.isHere }"
        :data-from="board.sitting.from"
        :data-to="board.sitting.to"
        :style="{ width: `${board.width}px` }"
        :title="board.words">
        <span class="day">{{ board.day }}</span>
        <span class="wood">
          <i v-for="(strip, i) in board.strips" :key="i" :style="{ flexGrow: strip.part, background: strip.hue }" />
          <s
            v-for="flag in board.flags"
            :key="`${flag.number} ${flag.words}`"
            class="flag"
            :class="{ named: flag.named }"
            :title="flag.words"
            :style="{ left: `${flag.left * 100}%` }" />
          <b v-if="board.at !== null" :style="{ left: `${board.at * 100}%` }" />
        </span>
      </div>
      <p v-if="!history.loading.value && boards.length === 0" class="none">
        {{
          history.narrowed.value
            ? 'No sitting fits. Take a condition away.'
            : 'Nothing has been done here yet since the tree was made.'
        }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.time-line {
  display: flex;
  align-items: stretch;
  gap: 8px;
  min-width: 0;
  flex: 1;
}
.older {
  align-self: end;
  height: 40px;
  border: 1px dashed var(--line);
  background: none;
  color: var(--porch);
  cursor: pointer;
  padding: 0 10px;
  border-radius: 6px;
}
.floor {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: end;
  gap: 3px;
  overflow-x: auto;
  padding: 2px 84px 6px 3px;
  cursor: pointer;
  touch-action: pan-x;
  border-radius: 6px;
}
.board {
  flex: none;
  user-select: none;
  -webkit-user-select: none;
}
.board:first-child {
  margin-left: auto;
}
.day {
  display: block;
  height: 20px;
  font-size: 11.5px;
  line-height: 20px;
  color: var(--quiet);
  white-space: nowrap;
  width: 0;
  overflow: visible;
}
/* One floor board: a strip for each who worked on it, wider for whoever did more, a groove below. */
.wood {
  position: relative;
  display: flex;
  flex-direction: column;
  height: 40px;
  opacity: 0.62;
  border-bottom: 4px solid color-mix(in srgb, var(--ink) 30%, transparent);
}
.wood i {
  min-height: 3px;
  flex-basis: 0;
}
.board:hover .wood,
.board.here .wood {
  opacity: 1;
}
.board.here .wood {
  border-bottom-color: var(--sun);
}
.wood b {
  position: absolute;
  top: -4px;
  bottom: -6px;
  width: 4px;
  margin-left: -2px;
  background: var(--sun);
  outline: 1px solid #352400;
}
/* A kept moment: a peg in the floor; one with a name has a head. */
.flag {
  position: absolute;
  top: -3px;
  bottom: -4px;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
}
.flag.named::before {
  content: '';
  position: absolute;
  top: -5px;
  left: -3px;
  width: 8px;
  height: 8px;
  background: var(--sun);
  border: 1px solid var(--ink);
}
.none {
  color: var(--quiet);
  margin: 8px;
}
@media (pointer: coarse) {
  .wood {
    height: 48px;
  }
}
</style>
