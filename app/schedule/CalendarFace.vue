<script setup lang="ts">
import { addDays } from '#core/schedule/days'
import { startOfWeek } from '#core/schedule/day-words'
import type { Plan } from '#core/schedule/plan'
import {
  byTime,
  calendarOf,
  type CalendarEntry,
  type CalendarPiece,
  listOfMonth,
  monthAfter,
  turnsOf,
  weekOf,
  weeksOfMonth,
} from '#core/calendar/calendar'
import { bornOn } from '#core/calendar/move'
import { dayWithTimes, runSheetOf } from '#core/calendar/run-sheet'
import { isZone } from '#core/meeting/zones'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { useEntryCarry } from './useEntryCarry'

/** What is when: tasks, milestones and meetings by month, by week, or one after the other. */
const { plan } = defineProps<{ plan: Plan | null }>()
const emit = defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
const narrow = useNarrow()
const box = ref<HTMLElement>()

const WAYS = [
  { id: 'month', name: 'Month' },
  { id: 'week', name: 'Week' },
  { id: 'list', name: 'List' },
  { id: 'sheet', name: 'Run-sheet' },
] as const
const way = ref<(typeof WAYS)[number]['id']>(narrow.value ? 'list' : 'month')
/** A day of what is shown. */
const at = ref(desk.then.value ?? desk.treeDay)
/** Lines of a week, and entries of a list, that are drawn; the rest is counted. */
const MOST_LINES = 60
const MOST_LISTED = 400

/** On whose walls times are told: those of the tree's zone, or of whoever looks. */
const zone = computed(() => {
  void desk.tick.value
  const own = desk.tree.fields.zone
  return own !== null && isZone(own) ? own : ownZone()
})
const asked = computed(() => {
  void desk.tick.value
  return {
    plan,
    today: desk.treeDay,
    zone: zone.value,
    only: desk.only.value,
    hidden: (id: TopicId) => desk.finding.isHidden(id),
  }
})
const entries = computed(() => calendarOf(desk.tree, asked.value))
/** What comes again, as far as it's shown. */
const shown = computed(() => {
  const [from, to] =
    way.value === 'list'
      ? [`${at.value.slice(0, 7)}-01`, addDays(monthAfter(`${at.value.slice(0, 7)}-01`, 1), -1)]
      : way.value === 'week'
        ? [startOfWeek(at.value, ownLocale()), addDays(startOfWeek(at.value, ownLocale()), 6)]
        : [weeksOfMonth(at.value, ownLocale())[0]!, addDays(weeksOfMonth(at.value, ownLocale()).at(-1)!, 6)]
  const turns = turnsOf(desk.tree, asked.value, from, to)
  return turns.length === 0 ? entries.value : [...entries.value, ...turns].sort(byTime)
})
const indexOf = computed(() => new Map(entries.value.map(({ id }, i) => [id, i])))
const onCalendar = computed(() => indexOf.value.has(desk.focus.value))
const weeks = computed(() =>
  (way.value === 'week' ? [startOfWeek(at.value, ownLocale())] : weeksOfMonth(at.value, ownLocale())).map(
    (first, i) => {
      const week = weekOf(shown.value, first)
      const seen = week.pieces
        .filter(({ line, entry }) => line < MOST_LINES || entry.id === desk.focus.value)
        // Of an entry that goes over several weeks the first piece in sight is the one with the title that is typed.
        .map(piece => ({ ...piece, first: piece.entry.kind !== 'turn' && (!piece.before || i === 0) }))
      return {
        ...week,
        pieces: seen,
        more: week.pieces.length - seen.length,
        lines: Math.min(week.lines, MOST_LINES),
        days: Array.from({ length: 7 }, (_, i) => addDays(first, i)),
      }
    },
  ),
)
const dayNames = computed(() =>
  weeks.value[0]!.days.map(day => format(day, { weekday: narrow.value ? 'narrow' : 'short' })),
)
const sheet = computed(() => runSheetOf(desk.tree, asked.value, at.value))
/** The first day with times, for whoever comes to a day without any. */
function findDay(): void {
  const found = sheet.value.lines.length > 0 ? null : dayWithTimes(desk.tree, asked.value, at.value)
  if (found !== null) at.value = found
}
function choose(one: (typeof WAYS)[number]['id']): void {
  way.value = one
  if (one === 'sheet') findDay()
}
const list = computed(() => listOfMonth(shown.value, at.value, MOST_LISTED))

/** What has a place of its own in what is shown just now. */
const drawn = computed(() => {
  const entries =
    way.value === 'sheet'
      ? [...sheet.value.untimed, ...sheet.value.lines.map(({ entry }) => entry)]
      : way.value === 'list'
        ? list.value.days.flatMap(day => day.entries)
        : weeks.value.flatMap(({ pieces }) => pieces.filter(({ first }) => first).map(({ entry }) => entry))
  return new Set(entries.filter(({ kind }) => kind !== 'turn').map(({ id }) => id))
})

function format(day: string, options: Intl.DateTimeFormatOptions): string {
  return new Intl.DateTimeFormat(ownLocale(), { ...options, timeZone: 'UTC' }).format(new Date(`${day}T00:00Z`))
}
const head = computed(() =>
  way.value === 'week'
    ? `${format(weeks.value[0]!.first, { day: 'numeric', month: 'long' })} to ${format(weeks.value[0]!.days[6]!, { day: 'numeric', month: 'long', year: 'numeric' })}`
    : way.value === 'sheet'
      ? format(at.value, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
      : format(at.value, { month: 'long', year: 'numeric' }),
)
function go(by: number): void {
  at.value =
    way.value === 'sheet'
      ? addDays(at.value, by)
      : way.value === 'week'
        ? addDays(at.value, by * 7)
        : monthAfter(at.value, by)
}
const isWorking = (day: string): boolean => plan?.calendar.isWorking(day) ?? true
const title = (id: TopicId): string => desk.drawnOf(id).guise.topic.title || 'untitled'
const KINDS = {
  task: '',
  milestone: 'milestone',
  due: 'due',
  start: 'begins',
  meeting: 'meeting',
  turn: 'comes again',
} as const
const hoursOf = ({ time, ends }: CalendarEntry): string =>
  time !== null && ends !== null ? `${time} to ${ends}` : (time ?? (ends === null ? '' : `until ${ends}`))
const saysOf = (entry: CalendarEntry): string => {
  const days = entry.from === entry.to ? dayInWords(entry.from) : `${dayInWords(entry.from)} to ${dayInWords(entry.to)}`
  return [
    title(entry.id),
    KINDS[entry.kind],
    [days, hoursOf(entry)].filter(Boolean).join(', '),
    entry.done ? 'done' : entry.late ? 'late' : '',
  ]
    .filter(Boolean)
    .join(', ')
}

// — Going about

function reveal(id: TopicId): void {
  const entry = entries.value[indexOf.value.get(id) ?? -1]
  if (!entry) return
  const [first, last] = [weeks.value[0]!.first, weeks.value.at(-1)!.days[6]!]
  if (way.value === 'sheet') {
    if (entry.from > at.value || entry.to < at.value) at.value = entry.from
  } else if (
    way.value === 'list' ? entry.from.slice(0, 7) !== at.value.slice(0, 7) : entry.to < first || entry.from > last
  )
    at.value = entry.from
  void nextTick(() =>
    box.value?.querySelector(`[data-topic="${CSS.escape(id)}"]`)?.scrollIntoView({ block: 'nearest' }),
  )
}
function neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null {
  if (way.value === 'sheet') {
    const on = [...sheet.value.untimed, ...sheet.value.lines.map(line => line.entry)].filter(
      ({ kind }) => kind !== 'turn',
    )
    const i = on.findIndex(entry => entry.id === id)
    // From elsewhere to the first of the day.
    return (i < 0 ? on[0] : on[i + (direction === 'up' || direction === 'left' ? -1 : 1)])?.id ?? null
  }
  const i = indexOf.value.get(id)
  const by = direction === 'up' || direction === 'left' ? -1 : 1
  // From nowhere in the calendar: to the first that isn't over on the day that is shown.
  if (i === undefined) return (entries.value.find(({ to }) => to >= at.value) ?? entries.value.at(-1))?.id ?? null
  return entries.value[i + by]?.id ?? null
}
function focusBox(): void {
  box.value?.focus({ preventScroll: true })
}

const { carried, aim, down, moved, up, stop } = useEntryCarry(desk, () => plan, { box, focus: focusBox, title })

function contextMenu(event: MouseEvent, entry: CalendarEntry): void {
  event.preventDefault()
  if (!desk.selection.value.has(entry.id)) desk.select(entry.id, { quiet: true })
  emit('menu', event)
}
const edge = (piece: CalendarPiece): Record<string, string> => ({
  left: `calc(${(piece.from / 7) * 100}% + ${piece.before ? 0 : 3}px)`,
  width: `calc(${((piece.to - piece.from + 1) / 7) * 100}% - ${(piece.before ? 0 : 3) + (piece.after ? 0 : 3)}px)`,
  top: `${26 + piece.line * 25}px`,
  '--hue': desk.dressing.hueOf(piece.entry.id),
})

let hide = (): void => {}
onMounted(() => {
  hide = desk.show({
    reveal,
    neighbour,
    born: () => bornOn(entries.value[indexOf.value.get(desk.focus.value) ?? -1]?.from ?? at.value),
  })
  if (!desk.editing.value) focusBox()
  reveal(desk.focus.value)
})
onBeforeUnmount(() => hide())
watch(desk.editing, (now, before) => {
  if (!now && before) void nextTick(focusBox)
})
defineExpose({ escape: stop, focus: focusBox })
</script>

<template>
  <div class="calendar">
    <header class="turn">
      <button class="icon-button" aria-label="Before" data-tip="Before" @click="go(-1)">
        <Icon name="lucide:chevron-left" size="16" />
      </button>
      <button class="plain" @click="at = desk.treeDay">Today</button>
      <button class="icon-button" aria-label="After" data-tip="After" @click="go(1)">
        <Icon name="lucide:chevron-right" size="16" />
      </button>
      <h2 aria-live="polite">{{ head }}</h2>
      <span v-if="!onCalendar" id="off-calendar" class="off" role="status"
        >Selected, but on no day:
        <TitleField
          v-if="desk.editing.value && desk.editing.value.id === desk.focus.value"
          class="title-off"
          @closed="focusBox" />
        <template v-else>“{{ shorten(title(desk.focus.value), 40) }}”</template></span
      >
      <div class="ways" role="group" aria-label="How it is told">
        <button
          v-for="one in WAYS"
          :key="one.id"
          :aria-pressed="way === one.id"
          :class="{ on: way === one.id }"
          @click="choose(one.id)">
          {{ one.name }}
        </button>
      </div>
    </header>
    <RunSheetHead
      v-if="way === 'sheet'"
      :sheet="sheet"
      :zone="zone"
      :head="head"
      :other="sheet.lines.length > 0 ? null : dayWithTimes(desk.tree, asked, at)"
      @go="at = $event" />
    <div v-if="way === 'month' || way === 'week'" class="names" aria-hidden="true">
      <span v-for="(name, i) in dayNames" :key="i">{{ name }}</span>
    </div>
    <div
      ref="box"
      class="pane"
      role="tree"
      tabindex="0"
      aria-label="Calendar"
      aria-multiselectable="true"
      :class="way"
      :aria-activedescendant="drawn.has(desk.focus.value) ? `day-${desk.focus.value}` : undefined"
      :aria-describedby="onCalendar ? undefined : 'off-calendar'"
      @pointermove="moved"
      @pointerup="up"
      @pointercancel="stop">
      <template v-if="way === 'month' || way === 'week'">
        <div
          v-for="week in weeks"
          :key="week.first"
          class="week"
          role="presentation"
          :style="{ minHeight: `${34 + week.lines * 25 + (week.more ? 18 : 0)}px` }">
          <div
            v-for="day in week.days"
            :key="day"
            class="day"
            role="presentation"
            :data-day="day"
            :class="{
              other: way === 'month' && day.slice(0, 7) !== at.slice(0, 7),
              closed: !isWorking(day),
              today: day === desk.treeDay,
              aim: aim === day,
            }">
            <time :datetime="day">{{ Number(day.slice(8)) }}</time>
          </div>
          <div
            v-for="piece in week.pieces"
            :id="piece.first ? `day-${piece.entry.id}` : undefined"
            :key="`${piece.entry.id} ${piece.entry.from}`"
            role="treeitem"
            class="entry"
            :class="[
              piece.entry.kind,
              {
                selected: desk.selection.value.has(piece.entry.id),
                focused: desk.focus.value === piece.entry.id,
                done: piece.entry.done,
                late: piece.entry.late,
                before: piece.before,
                after: piece.after,
                computed: piece.entry.computed,
                dim: desk.finding.isDim(piece.entry.id),
                carried: carried?.entry.id === piece.entry.id,
              },
            ]"
            aria-level="1"
            :aria-label="saysOf(piece.entry)"
            :aria-selected="desk.selection.value.has(piece.entry.id)"
            :data-topic="piece.entry.id"
            :data-tip="saysOf(piece.entry)"
            :style="edge(piece)"
            @pointerdown="down($event, piece.entry)"
            @dblclick="desk.edit(piece.entry.id)"
            @contextmenu="contextMenu($event, piece.entry)">
            <i v-if="piece.entry.kind === 'milestone'" class="gable" />
            <Icon v-else-if="piece.entry.kind === 'turn'" name="lucide:repeat" size="12" />
            <Icon v-else-if="piece.entry.kind === 'due'" name="lucide:flag" size="12" />
            <b v-if="piece.entry.time && !piece.before">{{ piece.entry.time }}</b>
            <TitleField
              v-if="piece.first && desk.editing.value?.id === piece.entry.id"
              class="words"
              @closed="focusBox" />
            <span v-else class="words" dir="auto">{{ title(piece.entry.id) }}</span>
          </div>
          <p v-if="week.more" class="more">and {{ week.more }} more; the list has them</p>
        </div>
      </template>
      <RunSheet v-else-if="way === 'sheet'" :sheet="sheet" @down="down" @menu="contextMenu" @closed="focusBox" />
      <template v-else>
        <p v-if="list.days.length === 0" class="none">Nothing stands in this month.</p>
        <section v-for="day in list.days" :key="day.day" role="group" :aria-label="dayInWords(day.day)">
          <h3 :class="{ now: day.day === desk.treeDay }" role="presentation" :data-day="day.day">
            {{ format(day.day, { weekday: 'long', day: 'numeric', month: 'long' }) }}
          </h3>
          <div
            v-for="entry in day.entries"
            :id="entry.kind === 'turn' ? undefined : `day-${entry.id}`"
            :key="`${entry.id} ${entry.from}`"
            role="treeitem"
            class="line"
            :class="{
              selected: desk.selection.value.has(entry.id),
              focused: desk.focus.value === entry.id,
              done: entry.done,
              dim: desk.finding.isDim(entry.id),
            }"
            aria-level="1"
            :aria-label="saysOf(entry)"
            :aria-selected="desk.selection.value.has(entry.id)"
            :data-topic="entry.id"
            :style="{ '--hue': desk.dressing.hueOf(entry.id) }"
            @pointerdown="down($event, entry)"
            @dblclick="desk.edit(entry.id)"
            @contextmenu="contextMenu($event, entry)">
            <b class="when">{{
              hoursOf(entry) || (entry.from === entry.to ? KINDS[entry.kind] : `to ${dayInWords(entry.to)}`)
            }}</b>
            <TitleField
              v-if="desk.editing.value?.id === entry.id && entry.kind !== 'turn'"
              class="words"
              @closed="focusBox" />
            <span v-else class="words" dir="auto">{{ title(entry.id) }}</span>
            <em v-if="entry.late" class="late">late</em>
          </div>
        </section>
        <p v-if="list.more" class="none">and {{ list.more }} more. Filter the tree, or show one branch.</p>
      </template>
    </div>
  </div>
</template>

<style scoped src="./CalendarFace.css"></style>
