<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useResizeObserver, useScroll } from '@vueuse/core'
import { outlineRows, type Row } from '#core/find/rows'
import { type Baseline, slipBetween } from '#core/schedule/baseline'
import type { Plan } from '#core/schedule/plan'
import { closedBetween } from '#core/scene/bars'
import { Scale, ZOOMS } from '#core/scene/day-scale'
import { isOnBar } from '#core/talk/saying'
import { addDays } from '#core/schedule/days'
import { becauseInWords, daysInWords, floatInWords } from '#core/schedule/plan-words'
import { childrenOf, placeOf, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { commentsInWords } from '~/talk/count'
import BarWords from './BarWords.vue'
import { planningOf } from './planning'
import { useBarDrag } from './useBarDrag'
import { useBars } from './useBars'

/** The tree as rows beside the bars of its plan. Only what is in sight is drawn. */
const { plan, against = null } = defineProps<{ plan: Plan; against?: Baseline | null }>()
const emit = defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
const planning = planningOf(desk)
const box = ref<HTMLDivElement>()
const ROW = 32
const HEAD = 46
const narrow = useNarrow()
const titles = computed(() => (narrow.value ? 132 : 290))

type TopicRow = Extract<Row, { kind: 'topic' }>
const rows = computed<readonly TopicRow[]>(() => {
  void desk.tick.value
  const { finding } = desk
  return outlineRows(desk.tree, {
    sort: null,
    group: null,
    only: desk.only.value,
    today: desk.today,
    locale: ownLocale(),
    folded: id => desk.isFolded(id),
    hidden: id => finding.isHidden(id),
    wanted: () => true,
    personName: desk.nameOf,
    markerName: id => id,
  }) as TopicRow[]
})
const indexOf = computed(() => new Map(rows.value.map((row, i) => [row.id, i])))
const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => box.value ?? null,
    estimateSize: () => ROW,
    overscan: 10,
    getItemKey: (index: number) => rows.value[index]?.id ?? index,
    // The rows lie below the head, which stays: what is last in sight ends that much further down.
    scrollPaddingEnd: HEAD,
  })),
)
const items = computed(() =>
  virtual.value.getVirtualItems().flatMap(({ index, start }) => {
    const row = rows.value[index]
    return row ? [{ ...row, index, start }] : []
  }),
)

// — The days

const zoom = ref(4)
const span = computed(() => {
  let [first, last] = [plan.status, plan.status]
  const take = (from: string, to: string): void => {
    if (from < first) first = from
    if (to > last) last = to
  }
  for (const [id, { start, finish, lateFinish }] of plan.tasks) {
    take(start, finish > lateFinish ? finish : lateFinish)
    const { due } = topicOf(desk.tree, id)
    if (due) take(due, due)
  }
  return { first: addDays(first, -8), last: addDays(last, 24) }
})
const scale = computed(() => new Scale(span.value.first, ZOOMS[zoom.value]!))
const width = computed(() => scale.value.x(span.value.last))
const { x: scrolled } = useScroll(box)
const seen = ref(900)
useResizeObserver(box, () => {
  seen.value = Math.max(100, box.value!.clientWidth - titles.value)
  reveal(desk.focus.value)
})
const window_ = computed(() => [scrolled.value - 200, scrolled.value + seen.value + 200] as const)
const marks = computed(() => scale.value.marks(window_.value[0], Math.min(width.value, window_.value[1]), ownLocale()))
/** Days that aren't worked on, in sight, one stretch after the other. */
const closed = computed(() => {
  const { perDay, day } = scale.value
  if (perDay < 5) return []
  const [from, to] = [Math.max(0, window_.value[0]), Math.min(width.value, window_.value[1])]
  return closedBetween(plan, scale.value, day(from), day(to))
})

function zoomBy(by: number | 'whole'): void {
  const middle = scale.value.day(scrolled.value + seen.value / 2)
  zoom.value = by === 'whole' ? 4 : Math.max(0, Math.min(ZOOMS.length - 1, zoom.value + (by > 1 ? 1 : -1)))
  void nextTick(() => box.value?.scrollTo({ left: scale.value.x(middle) - seen.value / 2 }))
}
/** The whole plan in sight, as far as days can be told apart. */
function fit(): void {
  const days = width.value / scale.value.perDay
  zoom.value = Math.max(
    0,
    ZOOMS.findLastIndex(perDay => perDay * days <= seen.value),
  )
  void nextTick(() => box.value?.scrollTo({ left: 0 }))
}

// — Bars

const { barOf, bars, brackets } = useBars(desk, {
  plan: () => plan,
  against: () => against,
  scale: () => scale.value,
  items: () => items.value,
  indexOf: id => indexOf.value.get(id),
  row: ROW,
})
const shown = computed(() => {
  void desk.talking.tick.value
  return items.value.map(row => ({
    ...row,
    bar: bars.value.get(row.id) ?? null,
    /** What was said about its bar. */
    talked: desk.talking.signAt(row.id, isOnBar),
  }))
})

const saysOf = (id: TopicId): string => {
  const made = planning.of(id)
  if (!made) return ''
  const days = `${dayInWords(made.start)} to ${dayInWords(made.finish)}`
  const task = plan.tasks.get(id)
  if (!task) return `, ${days}`
  const agreed = against?.tasks[id]
  const slip = agreed ? slipBetween(plan.calendar, agreed.finish, task.finish) : 0
  const slipped = slip === 0 ? '' : `, ${daysInWords(Math.abs(slip))} ${slip > 0 ? 'later' : 'sooner'} than agreed`
  const late = task.late ? `, ${daysInWords(task.late)} late` : ''
  return `, ${task.milestone ? dayInWords(task.finish) : days}, ${floatInWords(task)}${late}${slipped}`
}
const tipOf = (id: TopicId): string => {
  const task = plan.tasks.get(id)
  if (!task) return ''
  const why = becauseInWords(task.because, task, {
    titleOf: other => shorten(desk.tree.topics.get(other)?.title ?? 'gone', 40),
    day: dayInWords,
  })
  return `${saysOf(id).slice(2)}. ${why[0]!.toUpperCase()}${why.slice(1)}.${task.assumed ? ' A day is assumed: nobody said how long it takes.' : ''}`
}
function talkAbout(id: TopicId): void {
  desk.select(id, { quiet: true })
  desk.talking.show(id)
}
const initials = (id: TopicId): string =>
  topicOf(desk.tree, id)
    .people.map(person =>
      desk
        .nameOf(person)
        .split(/\s+/)
        .map(part => part[0])
        .join(''),
    )
    .join(' ')

// — Going about

function reveal(id: TopicId): void {
  const index = indexOf.value.get(id)
  if (index === undefined || !box.value) return
  virtual.value.scrollToIndex(index, { align: 'auto' })
  const bar = barOf(id)
  if (!bar) return
  // Its beginning is in sight, or it is itself.
  if (bar.x < scrolled.value || bar.x > scrolled.value + seen.value - 40)
    box.value.scrollTo({ left: Math.max(0, bar.x - 60) })
}
function neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  const index = indexOf.value.get(id)
  if (index === undefined) return null
  if (direction === 'up' || direction === 'down') return rows.value[index + (direction === 'up' ? -1 : 1)]?.id ?? null
  const kids = childrenOf(desk.tree, id)
  if (direction === 'left') {
    if (kids.length > 0 && !desk.isFolded(id) && id !== desk.tree.centre) {
      desk.toggleFold([id])
      return null
    }
    return topicOf(desk.tree, id).parent
  }
  if (desk.isFolded(id)) {
    desk.toggleFold([id])
    return null
  }
  return kids[0] ?? null
}
function focusBox(): void {
  box.value?.focus({ preventScroll: true })
}
function down(event: PointerEvent, id: TopicId): void {
  if (event.button !== 0 || (event.target as HTMLElement).closest('button, textarea, input')) return
  const add = event.ctrlKey || event.metaKey
  if (event.shiftKey || add) desk.select(id, { range: event.shiftKey, add, quiet: true })
  else desk.select(id, { quiet: true })
  focusBox()
}
function contextMenu(event: MouseEvent, id: TopicId): void {
  event.preventDefault()
  if (!desk.selection.value.has(id)) desk.select(id, { quiet: true })
  emit('menu', event)
}
const rowAt = (y: number): TopicId | null =>
  rows.value[Math.floor((y - box.value!.getBoundingClientRect().top + box.value!.scrollTop - HEAD) / ROW)]?.id ?? null
const drag = useBarDrag(desk, { box, rowAt, dayWide: () => scale.value.perDay, focus: focusBox })

let hide = (): void => {}
onMounted(() => {
  hide = desk.show({ reveal, neighbour, fit })
  desk.talking.pointsAt = () => ({ on: 'bar' })
  // A title that is open already has the keys.
  if (!desk.editing.value) focusBox()
  void nextTick(() => {
    box.value?.scrollTo({ left: Math.max(0, scale.value.x(plan.status) - 120) })
    const index = indexOf.value.get(desk.focus.value)
    if (index !== undefined) virtual.value.scrollToIndex(index, { align: 'auto' })
  })
})
onBeforeUnmount(() => {
  hide()
  desk.talking.pointsAt = null
})
watch(desk.editing, (now, before) => {
  if (!now && before) void nextTick(focusBox)
})
defineExpose({ zoomBy, fit, focus: focusBox, escape: () => drag.stop() })
</script>

<template>
  <div
    ref="box"
    class="bars"
    role="tree"
    tabindex="0"
    aria-label="Schedule"
    aria-multiselectable="true"
    :aria-activedescendant="`bar-${desk.focus.value}`"
    :style="{ '--titles': `${titles}px`, '--row': `${ROW}px` }"
    @pointermove="drag.moved"
    @pointerup="drag.up"
    @pointercancel="drag.stop">
    <div class="head" :style="{ width: `${titles + width}px` }" role="presentation">
      <div class="corner" />
      <div class="days">
        <span v-for="mark in marks.above" :key="`a${mark.day}`" class="above" :style="{ left: `${mark.x}px` }">{{
          mark.text
        }}</span>
        <span v-for="mark in marks.below" :key="`b${mark.day}`" class="below" :style="{ left: `${mark.x}px` }">{{
          mark.text
        }}</span>
        <b class="today-word" :style="{ left: `${scale.x(plan.status)}px` }">{{
          plan.status === desk.treeDay ? 'today' : plan.status === desk.then.value ? 'then' : 'status'
        }}</b>
      </div>
    </div>
    <div
      class="ground"
      role="presentation"
      :style="{ width: `${titles + width}px`, height: `${rows.length * ROW + 60}px` }">
      <div class="field" role="presentation">
        <i v-for="one in closed" :key="one.x" class="closed" :style="{ left: `${one.x}px`, width: `${one.width}px` }" />
        <i class="now" :style="{ left: `${scale.x(plan.status)}px` }" />
        <svg class="brackets" :width="width" :height="rows.length * ROW + 60" aria-hidden="true">
          <path
            v-for="one in brackets"
            :key="one.key"
            :d="one.path"
            :class="{ broken: one.broken, drives: one.drives }" />
        </svg>
      </div>
      <div
        v-for="row in shown"
        :id="`bar-${row.id}`"
        :key="row.id"
        role="treeitem"
        class="row"
        :class="{
          selected: desk.selection.value.has(row.id),
          focused: desk.focus.value === row.id,
          dim: desk.finding.isDim(row.id),
          centre: row.level === 1,
          branch: row.bar?.branch,
          aim: drag.aim.value === row.id,
        }"
        :aria-label="`${desk.drawnOf(row.id).guise.topic.title || 'untitled'}${saysOf(row.id)}${row.talked ? `, ${commentsInWords(row.talked.comments)}` : ''}`"
        :aria-level="row.level"
        :aria-posinset="row.level === 1 ? 1 : placeOf(desk.tree, row.id) + 1"
        :aria-setsize="row.level === 1 ? 1 : childrenOf(desk.tree, topicOf(desk.tree, row.id).parent).length"
        :aria-selected="desk.selection.value.has(row.id)"
        :aria-expanded="childrenOf(desk.tree, row.id).length ? !desk.isFolded(row.id) : undefined"
        :data-topic="row.id"
        :style="{ transform: `translateY(${row.start}px)`, '--hue': desk.dressing.hueOf(row.id) }"
        @pointerdown="down($event, row.id)"
        @dblclick="desk.edit(row.id)"
        @contextmenu="contextMenu($event, row.id)">
        <div class="title" :style="{ paddingLeft: `${(row.level - 1) * (narrow ? 8 : 16) + 6}px` }">
          <button
            v-if="childrenOf(desk.tree, row.id).length && row.level > 1"
            class="twist"
            tabindex="-1"
            :aria-label="desk.isFolded(row.id) ? 'Unfold' : 'Fold'"
            @click.stop="desk.toggleFold([row.id])">
            <Icon :name="desk.isFolded(row.id) ? 'lucide:chevron-right' : 'lucide:chevron-down'" size="14" />
          </button>
          <span v-else class="twist" />
          <TitleField v-if="desk.editing.value?.id === row.id" class="words" @closed="focusBox" />
          <span v-else class="words" dir="auto">{{ desk.drawnOf(row.id).guise.topic.title || '\u00A0' }}</span>
        </div>
        <div v-if="row.bar" class="lane" aria-hidden="true">
          <i
            v-if="row.bar.branch"
            class="span"
            :class="{ critical: row.bar.branch.critical }"
            :style="{ left: `${row.bar.x}px`, width: `${row.bar.width}px` }" />
          <template v-else-if="row.bar.planned">
            <i
              v-if="row.bar.agreed"
              class="agreed"
              :style="{ left: `${row.bar.agreed.x}px`, width: `${row.bar.agreed.width}px` }" />
            <i
              v-if="row.bar.float > 0"
              class="float"
              :style="{ left: `${row.bar.x + row.bar.width}px`, width: `${row.bar.float}px` }" />
            <span
              v-if="row.bar.planned.milestone"
              class="gable"
              :class="{ critical: row.bar.planned.critical, done: row.bar.planned.state === 'done' }"
              :data-tip="tipOf(row.id)"
              :style="{ left: `${row.bar.x + (row.bar.planned.because.kind === 'waits' ? scale.perDay : 0)}px` }"
              @pointerdown="drag.down($event, row.id, 'move')" />
            <span
              v-else
              class="bar"
              :class="{
                critical: row.bar.planned.critical,
                done: row.bar.planned.state === 'done',
                ready: row.bar.planned.state === 'ready',
                assumed: row.bar.planned.assumed,
                dragged: drag.what.value?.id === row.id,
              }"
              :data-tip="tipOf(row.id)"
              :style="{
                left: `${row.bar.x + drag.shiftOf(row.id)}px`,
                width: `${Math.max(3, row.bar.width + drag.growOf(row.id))}px`,
              }"
              @pointerdown="drag.down($event, row.id, 'move')">
              <i class="part" :style="{ width: `${topicOf(desk.tree, row.id).done ?? 0}%` }" />
              <template v-if="desk.session.canEdit && row.bar.planned.state !== 'done'">
                <i class="end" @pointerdown.stop="drag.down($event, row.id, 'end')" />
                <i
                  class="knob"
                  data-tip="Pull onto what waits for it"
                  @pointerdown.stop="drag.down($event, row.id, 'tie')" />
              </template>
            </span>
            <i
              v-if="row.bar.due !== null"
              class="due"
              :class="{ late: row.bar.planned.late }"
              :style="{ left: `${row.bar.due}px` }" />
          </template>
          <BarWords
            v-if="row.bar.planned || row.talked"
            :people="initials(row.id)"
            :planned="row.bar.planned"
            :slip="row.bar.agreed?.slip ?? 0"
            :talked="row.talked"
            :style="{
              left: `${Math.max(row.bar.x + row.bar.width, row.bar.due ?? 0) + 14 + (row.bar.planned?.milestone ? 8 : 0)}px`,
            }"
            @talk="talkAbout(row.id)" />
        </div>
      </div>
    </div>
    <div v-if="drag.words.value" class="hint" role="status">{{ drag.words.value }}</div>
  </div>
</template>

<style scoped src="./BarsFace.css"></style>
