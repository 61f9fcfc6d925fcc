<script setup lang="ts">
import { rhythmInWords, usualRules, weekdayInWords } from '#core/schedule/turn-words'
import { daysOffOf, turnAfter } from '#core/schedule/turns'
import { type Again, type DayOfWeek, DAYS_OF_WEEK, readRhythm, type Turn, writeRhythm } from '#core/tree/again'
import type { Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** How a task comes again, until when, and what was done of it already. */
const props = defineProps<{ topic: Topic; may: boolean }>()
const desk = useDesk()
const again = computed(() => props.topic.again)
const due = computed(() => props.topic.due ?? desk.treeDay)
const rules = computed(() => {
  const own = again.value && withEnd(again.value.rule, null)
  const texts = new Set([...usualRules(due.value), ...(own ? [own] : [])])
  return [{ id: '', name: 'doesn’t come again' }, ...[...texts].map(id => ({ id, name: rhythmInWords(id) }))]
})
const chosen = computed(() => (again.value ? withEnd(again.value.rule, null) : ''))
const endOf = (again: Again | null): string | null => (again && readRhythm(again.rule)?.until) ?? null
const until = computed(() => endOf(again.value))
function withEnd(rule: string, end: string | null): string {
  const rhythm = readRhythm(rule)
  return rhythm ? writeRhythm({ ...rhythm, until: end }) : rule
}
const next = computed(() => {
  void desk.lateTick.value
  if (!again.value || props.topic.due === null || props.topic.done === 100) return null
  return turnAfter(again.value, props.topic.due, daysOffOf(desk.tree.fields))
})
const last = computed(() => props.topic.turns.reduce<Turn | null>((a, b) => (a && a.id > b.id ? a : b), null))

/** The topic as the tree has it now: what is shown follows a frame later, and a change is made to what is there. */
const now = (): Topic => desk.tree.topics.get(props.topic.id) ?? props.topic
const dueNow = (): string => now().due ?? desk.treeDay
/** A task that comes again has a day on which it's due: today's where nobody said one. */
function keep(value: Again | null): void {
  const { id, due } = now()
  if (!desk.guard()) return
  desk.run({
    changes: [
      ...(value && due === null ? [{ op: 'set' as const, topic: id, field: 'due' as const, value: value.from }] : []),
      { op: 'set', topic: id, field: 'again', value },
    ],
  })
}
const setRule = (rule: string): void =>
  keep(rule === '' ? null : { rule: withEnd(rule, endOf(now().again)), from: dueNow() })
/** The rhythm of a task that comes again on days of the week. */
function weeklyOf(again: Again | null) {
  const rhythm = again && readRhythm(again.rule)
  return rhythm?.every === 'week' ? rhythm : null
}
const weekly = computed(() => weeklyOf(again.value))
/** One more day of the week, or one less; the last one stays. */
function turnDay(day: DayOfWeek): void {
  const before = weeklyOf(now().again)
  if (!before) return
  const on = DAYS_OF_WEEK.filter(one => before.on.includes(one) !== (one === day))
  if (on.length === 0) desk.say('It comes again on one day of the week at least.')
  else keep({ rule: writeRhythm({ ...before, on }), from: dueNow() })
}
function setEnd(end: string | null): void {
  const before = now().again
  if (before) keep({ ...before, rule: withEnd(before.rule, end) })
}
</script>

<template>
  <label for="sheet-again">Comes again</label>
  <div class="again">
    <Select
      input-id="sheet-again"
      :model-value="chosen"
      :options="rules"
      option-label="name"
      option-value="id"
      placeholder="doesn’t"
      :disabled="!may"
      aria-label="Comes again"
      @update:model-value="setRule" />
    <template v-if="again">
      <span v-if="weekly" class="weekdays" role="group" aria-label="On these days of the week">
        <button
          v-for="day in DAYS_OF_WEEK"
          :key="day"
          :aria-pressed="weekly.on.includes(day)"
          :aria-label="weekdayInWords(day)"
          :disabled="!may"
          @click="turnDay(day)">
          {{ weekdayInWords(day).slice(0, 2) }}
        </button>
      </span>
      <span class="until"
        ><label for="sheet-again-until">until</label>
        <DayField
          :key="topic.id"
          :model-value="until"
          input-id="sheet-again-until"
          label="Comes again until"
          :disabled="!may"
          placeholder="goes on"
          @update:model-value="setEnd"
      /></span>
      <p class="said">
        <template v-if="next">Then on {{ dayInWords(next) }}. </template>
        <template v-else-if="topic.done !== 100">This is the last time. </template>
        <template v-if="last"
          >Done {{ topic.turns.length === 1 ? 'once' : `${topic.turns.length} times` }}, last on {{ dayInWords(last.on)
          }}{{ last.by ? ` by ${desk.nameOf(last.by)}` : '' }}.</template
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
label {
  color: var(--quiet);
}
label[for='sheet-again'] {
  align-self: start;
  padding-top: 8px;
}
.again {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
}
.weekdays {
  display: flex;
  gap: 3px;
}
.weekdays button {
  flex: 1;
  min-width: 0;
  height: 30px;
  padding: 0;
  font: inherit;
  font-size: 12px;
  color: var(--quiet);
  background: none;
  border: 1px solid var(--line);
  border-radius: 4px;
  cursor: pointer;
}
.weekdays [aria-pressed='true'] {
  color: var(--ink);
  font-weight: 650;
  background: var(--ceiling);
  border-bottom: 3px solid var(--porch);
}
@media (pointer: coarse) {
  .weekdays button {
    height: 44px;
  }
}
.until {
  display: flex;
  align-items: center;
  gap: 8px;
}
.until > :last-child {
  flex: 1;
}
.said {
  margin: 0;
  color: var(--quiet);
}
</style>
