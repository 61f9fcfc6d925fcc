<script setup lang="ts">
import { useResizeObserver, useScroll } from '@vueuse/core'
import { boardOf, cardBeside, laneName, placeOn } from '#core/board/board'
import { bornIn, cardMoved } from '#core/board/move'
import { type Change, isWithin, lastChild, markerSetsOf, moveTo, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { CARD, cardsBetween, cardTop, cellAt, laneBoxes } from './placing'
import { type Cell, useCardDrag } from './useCardDrag'

/** Tasks as cards in columns. Only what is in sight is drawn. */
const emit = defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
/** What scrolls, and the tree of cards in it. */
const box = ref<HTMLDivElement>()
const field = ref<HTMLDivElement>()
const narrow = useNarrow()
const HEAD = 38

const shape = desk.board
const ways = computed(() => {
  void desk.tick.value
  return [
    { by: 'state', name: 'State' },
    { by: 'person', name: 'Who does it' },
    { by: 'priority', name: 'Priority' },
    { by: 'marker', name: 'Markers in use' },
    ...markerSetsOf(desk.tree.fields).map(({ id, name }) => ({ by: `set-${id}`, name })),
  ]
})
const board = computed(() => {
  void desk.tick.value
  const { finding } = desk
  return boardOf(desk.tree, {
    shape: shape.value,
    only: desk.only.value,
    locale: ownLocale(),
    people: desk.status.people,
    personName: desk.nameOf,
    hidden: id => finding.isHidden(id),
    extra: desk.editing.value?.id ?? null,
  })
})
const kind = computed(() => board.value.columns[0]?.value.kind ?? 'state')
const none = computed(() => board.value.columns.every(({ count }) => count === 0))

// — Where it all stands

const { x: left, y: top } = useScroll(box)
const size = reactive({ width: 900, height: 600 })
useResizeObserver(box, ([entry]) => {
  size.width = Math.max(100, entry!.contentRect.width)
  size.height = Math.max(100, entry!.contentRect.height)
  reveal(desk.focus.value)
})
const wide = computed(() => {
  const least = narrow.value ? Math.min(250, size.width * 0.72) : 200
  return Math.max(least, Math.floor(size.width / Math.max(1, board.value.columns.length)))
})
const boxes = computed(() => laneBoxes(board.value, shape.value.rows))
const height = computed(() => {
  const last = boxes.value.at(-1)
  return last ? last.top + last.height : 0
})
interface Card extends Cell {
  readonly id: TopicId
  readonly key: string
  readonly index: number
  readonly of: number
}
const cards = computed<Card[]>(() => {
  const [from, to] = [top.value - 300, top.value + size.height + 300]
  const [first, last] = [Math.floor(left.value / wide.value), Math.ceil((left.value + size.width) / wide.value)]
  return boxes.value.flatMap((lane, at) => {
    if (lane.top > to || lane.top + lane.height < from) return []
    const [begin, end] = cardsBetween(lane, from, to)
    return board.value.lanes[at]!.cells.flatMap((ids, column): Card[] =>
      column < first || column > last
        ? []
        : ids
            .slice(begin, end)
            .map((id, i) => ({
              id,
              key: `${board.value.columns[column]!.id} ${id}`,
              lane: at,
              column,
              index: begin + i,
              of: ids.length,
            })),
    )
  })
})
/** The column in which the focus is seen, for a card that stands in several. */
const here = ref('')
const place = computed(() => placeOn(board.value, desk.focus.value, here.value))
const isHere = (card: Card): boolean =>
  desk.focus.value === card.id && place.value?.column === card.column && place.value.lane === card.lane

// — Going about

function reveal(id: TopicId): void {
  const at = placeOn(board.value, id, here.value)
  if (!at || !box.value) return
  const y = cardTop(boxes.value[at.lane]!, at.index)
  const x = at.column * wide.value
  const { scrollTop, scrollLeft } = box.value
  const room = size.height - HEAD
  const to: ScrollToOptions = {}
  if (y < scrollTop) to.top = Math.max(0, y - 34)
  else if (y + CARD > scrollTop + room) to.top = y + CARD + 12 - room
  if (x < scrollLeft) to.left = x
  else if (x + wide.value > scrollLeft + size.width) to.left = x + wide.value - size.width
  if (to.top !== undefined || to.left !== undefined) box.value.scrollTo(to)
}
function neighbour(_: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  const at = place.value
  if (!at) return board.value.lanes.flatMap(({ cells }) => cells.flat())[0] ?? null
  const found = cardBeside(board.value, at, direction)
  if (found === null) return null
  if (direction === 'up' || direction === 'down') here.value = board.value.columns[at.column]!.id
  else {
    const by = direction === 'left' ? -1 : 1
    for (let column = at.column + by; board.value.columns[column]; column += by)
      if (board.value.lanes.some(({ cells }) => cells[column]!.includes(found))) {
        here.value = board.value.columns[column]!.id
        break
      }
  }
  return found
}
function focusBox(): void {
  field.value?.focus({ preventScroll: true })
}

// — Moving

/** What of a selection stands on the board goes to a cell, each from the column it stands in. */
function drop(selected: readonly TopicId[], from: Cell, to: Cell): void {
  const { columns, lanes } = board.value
  const [before, after] = [columns[from.column]!, columns[to.column]!]
  const branch = lanes[to.lane]!.branch
  const cards = selected.flatMap(id => {
    const at = placeOn(board.value, id, before.id)
    return at ? [{ id, at }] : []
  })
  const changes: Change[] = cards.flatMap(({ id, at }) =>
    cardMoved(desk.tree, id, columns[at.column]!.value, after.value, desk.treeDay, desk.userId),
  )
  // Carried to another row, it hangs under that branch.
  if (shape.value.rows && to.lane !== from.lane && branch !== null) {
    const moving = cards
      .map(({ id }) => id)
      .filter(id => !isWithin(desk.tree, branch, id) && topicOf(desk.tree, id).parent !== branch)
    if (moving.length > 0) changes.push(...moveTo(desk.tree, moving, lastChild(desk.tree, branch)).changes)
  }
  if (changes.length === 0 || !desk.guard()) return
  here.value = after.id
  if (!desk.run({ changes })) return
  reveal(desk.focus.value)
  const what =
    cards.length === 1
      ? `“${shorten(topicOf(desk.tree, cards[0]!.id).title || 'untitled', 40)}”`
      : `${cards.length} cards`
  desk.say(`${what}: ${after.name}.`, true)
}
function carry(to: 'left' | 'right'): boolean {
  const at = place.value
  if (!at) return true
  const column = at.column + (to === 'left' ? -1 : 1)
  if (board.value.columns[column]) drop(desk.selected(), at, { lane: at.lane, column })
  return true
}
const drag = useCardDrag(desk, {
  box,
  drop,
  focus: focusBox,
  cellAt(event) {
    const bounds = box.value!.getBoundingClientRect()
    return cellAt(boxes.value, board.value.columns.length, wide.value, {
      x: event.clientX - bounds.left + box.value!.scrollLeft,
      y: event.clientY - bounds.top + box.value!.scrollTop - HEAD,
    })
  },
})
function down(event: PointerEvent, card: Card): void {
  here.value = board.value.columns[card.column]!.id
  drag.down(event, card.id, card)
}
function contextMenu(event: MouseEvent, card: Card): void {
  event.preventDefault()
  here.value = board.value.columns[card.column]!.id
  if (!desk.selection.value.has(card.id)) desk.select(card.id, { quiet: true })
  emit('menu', event)
}

let hide = (): void => {}
onMounted(() => {
  hide = desk.show({
    reveal,
    neighbour,
    carry,
    born: () => bornIn(board.value.columns[place.value?.column ?? 0]!.value, desk.treeDay),
  })
  if (!desk.editing.value) focusBox()
  void nextTick(() => reveal(desk.focus.value))
})
onBeforeUnmount(() => hide())
watch(desk.editing, (now, before) => {
  if (!now && before) void nextTick(focusBox)
})
defineExpose({ escape: () => drag.stop() })
</script>

<template>
  <section class="board" aria-label="Board of the tree">
    <header class="strip">
      <label
        >Columns by
        <select
          :value="shape.by"
          aria-label="Columns by"
          @change="shape = { ...shape, by: ($event.target as HTMLSelectElement).value }">
          <option v-for="one in ways" :key="one.by" :value="one.by">{{ one.name }}</option>
        </select></label
      >
      <label class="tick"
        ><input
          type="checkbox"
          :checked="shape.rows"
          @change="shape = { ...shape, rows: ($event.target as HTMLInputElement).checked }" />
        a row for each branch</label
      >
      <span v-if="!place && !none" id="off-board" class="quiet off" role="status"
        >Selected, but no card: “{{
          shorten(desk.drawnOf(desk.focus.value).guise.topic.title || 'untitled', 40)
        }}”</span
      >
    </header>
    <div ref="box" class="ground" @pointermove="drag.moved" @pointerup="drag.up" @pointercancel="drag.stop">
      <div class="heads" :style="{ width: `${wide * board.columns.length}px`, height: `${HEAD}px` }">
        <div
          v-for="column in board.columns"
          :key="column.id"
          class="head"
          :class="{ over: column.most !== null && column.count > column.most }"
          :style="{ width: `${wide}px` }">
          <ColumnHead :column="column" />
        </div>
      </div>
      <div
        ref="field"
        class="field"
        role="tree"
        tabindex="0"
        aria-label="Board"
        aria-multiselectable="true"
        :aria-activedescendant="place ? `card-${board.columns[place.column]!.id}-${desk.focus.value}` : undefined"
        :aria-describedby="place ? undefined : 'off-board'"
        :style="{ width: `${wide * board.columns.length}px`, height: `${height}px`, '--wide': `${wide}px` }">
        <template v-if="shape.rows">
          <div
            v-for="(lane, i) in board.lanes"
            :key="lane.branch ?? 'loose'"
            class="lane"
            role="presentation"
            :style="{
              top: `${boxes[i]!.top}px`,
              height: `${boxes[i]!.height}px`,
              '--hue': lane.branch ? desk.dressing.hueOf(lane.branch) : 'var(--line)',
            }">
            <span class="lane-name" dir="auto">{{ shorten(laneName(desk.tree, lane), 60) }}</span>
          </div>
        </template>
        <i
          v-if="drag.aim.value"
          class="aim"
          :style="{
            left: `${drag.aim.value.column * wide}px`,
            top: `${boxes[drag.aim.value.lane]!.top}px`,
            width: `${wide}px`,
            height: `${boxes[drag.aim.value.lane]!.height}px`,
          }" />
        <p v-if="none" class="none">
          {{
            desk.finding.active
              ? 'No task fits what you look for.'
              : 'No tasks yet. Give a topic a date, a length or somebody, and it stands here; Enter makes one.'
          }}
        </p>
        <div
          v-for="card in cards"
          :id="`card-${card.key.replace(' ', '-')}`"
          :key="card.key"
          role="treeitem"
          class="card"
          :class="{
            selected: desk.selection.value.has(card.id),
            focused: isHere(card),
            dim: desk.finding.isDim(card.id),
            done: topicOf(desk.tree, card.id).done === 100,
            carried: drag.carried.value?.ids.includes(card.id),
          }"
          :aria-label="`${topicOf(desk.tree, card.id).title || 'untitled'}, ${board.columns[card.column]!.name}${shape.rows ? `, ${laneName(desk.tree, board.lanes[card.lane]!)}` : ''}`"
          aria-level="1"
          :aria-posinset="card.index + 1"
          :aria-setsize="card.of"
          :aria-selected="desk.selection.value.has(card.id)"
          :data-topic="card.id"
          :style="{
            left: `${card.column * wide + 6}px`,
            width: `${wide - 12}px`,
            top: `${cardTop(boxes[card.lane]!, card.index)}px`,
            '--hue': desk.dressing.hueOf(card.id),
          }"
          @pointerdown="down($event, card)"
          @dblclick="desk.edit(card.id)"
          @contextmenu="contextMenu($event, card)">
          <TaskCard :id="card.id" :kind="kind" :lanes="shape.rows">
            <template v-if="desk.editing.value?.id === card.id && isHere(card)" #title>
              <TitleField class="words" @closed="focusBox" />
            </template>
          </TaskCard>
          <span v-if="isHere(card) && desk.session.canEdit && desk.editing.value?.id !== card.id" class="carry">
            <button
              v-if="card.column > 0"
              class="icon-button"
              tabindex="-1"
              :aria-label="`To ${board.columns[card.column - 1]!.name}`"
              :data-tip="board.columns[card.column - 1]!.name"
              @click.stop="carry('left')">
              <Icon name="lucide:chevron-left" size="15" />
            </button>
            <button
              v-if="card.column < board.columns.length - 1"
              class="icon-button"
              tabindex="-1"
              :aria-label="`To ${board.columns[card.column + 1]!.name}`"
              :data-tip="board.columns[card.column + 1]!.name"
              @click.stop="carry('right')">
              <Icon name="lucide:chevron-right" size="15" />
            </button>
          </span>
        </div>
      </div>
      <div
        v-if="drag.carried.value"
        class="hint"
        role="status"
        :style="{ left: `${drag.carried.value.x + 14}px`, top: `${drag.carried.value.y + 10}px` }">
        {{ drag.carried.value.ids.length === 1 ? '' : `${drag.carried.value.ids.length} cards: `
        }}{{ drag.aim.value ? board.columns[drag.aim.value.column]!.name : '' }}
      </div>
    </div>
  </section>
</template>

<style scoped src="./BoardView.css"></style>
