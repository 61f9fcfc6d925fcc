<script setup lang="ts">
import { rhythmInWords, usualRules } from '#core/schedule/turn-words'
import { daysOffOf, turnAfter } from '#core/schedule/turns'
import { type Again, readRhythm, type Turn, writeRhythm } from '#core/tree/again'
import type { Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** How a task comes again, until when, and what was done of it already. */
const props = defineProps<{ topic: Topic; may: boolean }>()
const desk = useDesk()
const again = computed(() => props.topic.again)
const due = computed(() => props.topic.due ?? desk.today)
const rules = computed(() => {
  const own = again.value && withEnd(again.value.rule, null)
  const texts = new Set([...usualRules(due.value), ...(own ? [own] : [])])
  return [{ id: '', name: 'doesn’t come again' }, ...[...texts].map(id => ({ id, name: rhythmInWords(id) }))]
})
const chosen = computed(() => (again.value ? withEnd(again.value.rule, null) : ''))
const until = computed(() => (again.value ? (readRhythm(again.value.rule)?.until ?? null) : null))
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

/** A task that comes again has a day on which it's due: today's where nobody said one. */
function keep(value: Again | null): void {
  const { id } = props.topic
  if (!desk.guard()) return
  desk.run({
    changes: [
      ...(value && props.topic.due === null
        ? [{ op: 'set' as const, topic: id, field: 'due' as const, value: value.from }]
        : []),
      { op: 'set', topic: id, field: 'again', value },
    ],
  })
}
const setRule = (rule: string): void => keep(rule === '' ? null : { rule: withEnd(rule, until.value), from: due.value })
function setEnd(end: string | null): void {
  if (again.value) keep({ ...again.value, rule: withEnd(again.value.rule, end) })
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
