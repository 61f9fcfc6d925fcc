<script setup lang="ts">
import { readMoment } from '#core/schedule/clock-words'
import { readDay, weekStart } from '#core/schedule/day-words'
import { addDays } from '#core/schedule/days'
import { type Moment, momentInWords } from '#core/schedule/times'

/**
 * A calendar day that is typed in words (“fri”, “in 2 weeks”, “15.12.”) or chosen from a calendar. What is understood
 * is shown while it's typed, and what isn't is said; the arrows go a day on or back. Where a time is given, the day may have one:
 * “fri 14:30”; what is typed comes as `moment` then.
 */
const props = defineProps<{
  modelValue: string | null
  /** The time of the day; null: it has none. Without it, the field is one of days alone. */
  time?: string | null
  label?: string
  inputId?: string
  disabled?: boolean
  placeholder?: string
  required?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [day: string | null]; moment: [moment: Moment | null] }>()
const timed = computed(() => props.time !== undefined)
const inWords = ({ day, time }: Moment): string => momentInWords(day, time, ownLocale())
const there = computed<Moment | null>(() =>
  props.modelValue === null ? null : { day: props.modelValue, time: props.time ?? null },
)
const shown = computed(() => (there.value === null ? '' : inWords(there.value)))
const said = ref<string | null>(null)
const wrong = ref(false)
const calendar = ref<{ toggle(event: Event): void; hide(): void }>()

const read = computed((): Moment | null => {
  const text = said.value?.trim() ?? ''
  if (text === '') return null
  if (text === shown.value) return there.value
  if (timed.value) return readMoment(text, daySense(), props.modelValue)
  const day = readDay(text, daySense())
  return day === null ? null : { day, time: null }
})
const hint = computed(() => {
  if (said.value === null || said.value.trim() === '' || said.value.trim() === shown.value) return ''
  return read.value
    ? inWords(read.value)
    : wrong.value
      ? `“${said.value.trim()}” isn’t a day. “fri”, “12 May” and “in 2 weeks” are${timed.value ? ', “fri 14:30” too' : ''}.`
      : ''
})

function keep(): boolean {
  if (said.value === null) return true
  const empty = said.value.trim() === ''
  if (empty ? props.required : read.value === null) {
    wrong.value = !empty
    if (empty) said.value = null
    return empty
  }
  const moment = empty ? null : read.value
  said.value = null
  wrong.value = false
  if (timed.value && moment?.time !== there.value?.time) emit('moment', moment)
  else if (moment?.day !== there.value?.day) emit('update:modelValue', moment?.day ?? null)
  return true
}
function step(by: number): void {
  const from = read.value?.day ?? props.modelValue ?? today()
  said.value = null
  emit('update:modelValue', addDays(from, by))
}
function key(event: KeyboardEvent): void {
  if (event.isComposing) return
  if (event.key === 'Enter') {
    event.preventDefault()
    keep()
  } else if (event.key === 'Escape') said.value = null
  else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && !event.altKey) {
    event.preventDefault()
    step(event.key === 'ArrowUp' ? 1 : -1)
  }
}
function choose(date: unknown): void {
  calendar.value?.hide()
  said.value = null
  if (date instanceof Date) emit('update:modelValue', isoDay(date))
}
/** PrimeVue's calendar takes the first day of the week from its language. */
const pt = computed(() => ({ firstDayOfWeek: weekStart(ownLocale()) }))
const primevue = usePrimeVue()
watch(
  pt,
  ({ firstDayOfWeek }) => {
    if (primevue.config.locale) primevue.config.locale.firstDayOfWeek = firstDayOfWeek
  },
  { immediate: true },
)
</script>

<template>
  <span class="day-field">
    <span class="line">
      <InputText
        :id="inputId"
        :value="said ?? shown"
        :aria-label="label"
        size="small"
        :disabled="disabled"
        :placeholder="placeholder"
        :invalid="wrong && !!hint"
        autocomplete="off"
        @input="
          event => {
            said = (event.target as HTMLInputElement).value
            wrong = false
          }
        "
        @keydown="key"
        @blur="keep" />
      <button
        v-if="!disabled"
        type="button"
        class="icon-button"
        aria-label="Open the calendar"
        tabindex="-1"
        @click="calendar?.toggle($event)">
        <Icon name="lucide:calendar" size="15" />
      </button>
    </span>
    <span v-if="hint" class="hint" :class="{ wrong }" role="status">{{ hint }}</span>
    <PorchPopover ref="calendar"
      ><DatePicker inline :model-value="modelValue ? dayDate(modelValue) : null" @update:model-value="choose"
    /></PorchPopover>
  </span>
</template>

<style scoped>
.day-field {
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-width: 0;
}
.line {
  display: flex;
  align-items: center;
  min-width: 0;
}
.line :deep(input) {
  min-width: 0;
  flex: 1;
  width: 100%;
}
.icon-button {
  min-width: 28px;
  height: 28px;
  margin-left: 2px;
}
.hint {
  font-size: 12px;
  color: var(--quiet);
}
.hint.wrong {
  color: var(--clay);
}
</style>
