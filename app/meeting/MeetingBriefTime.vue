<script setup lang="ts">
import { readDay } from '#core/schedule/day-words'
import { rhythmInWords } from '#core/schedule/turn-words'
import { startOf } from '#core/meeting/brief'
import { dayOfNext } from '#core/meeting/next'
import { nthWeekday, type Rule, weekdayOf, writeRule } from '#core/meeting/recurrence'
import { isZone, wallTime } from '#core/meeting/zones'
import { useMeeting } from '~/meeting/useMeeting'

/** When and where, and how the series goes on. A day can be words: "fri", "in 2 weeks". */
const meeting = useMeeting()
const { desk, brief, needed, may } = meeting
const own = ownZone()
const ZONES = Intl.supportedValuesOf('timeZone')
const zones = computed(() =>
  [...new Set([brief.value.begins?.zone ?? own, own, 'UTC', ...ZONES])].map(id => ({
    id,
    name: id.replaceAll('_', ' '),
  })),
)

const day = computed(() => (brief.value.begins ? dayInWords(brief.value.begins.day) : ''))
const time = computed(() => brief.value.begins?.time ?? '')
const zone = computed(() => brief.value.begins?.zone ?? own)
const start = computed(() => startOf(brief.value))
const wrong = ref('')

function put(next: { day?: string; time?: string; zone?: string }): void {
  const before = meeting.briefNow().begins
  const made = {
    day: next.day ?? before?.day ?? today(),
    time: next.time ?? before?.time ?? '10:00',
    zone: next.zone ?? zone.value,
  }
  if (before && before.day === made.day && before.time === made.time && before.zone === made.zone) return
  meeting.say({ id: 'begins', kind: 'begins', ...made })
}
function keepDay(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  wrong.value = ''
  if (text === day.value) return
  if (text === '') {
    if (brief.value.begins) meeting.unsay('begins')
    return
  }
  const read = readDay(text, daySense())
  if (read) put({ day: read })
  else wrong.value = `“${text}” isn’t a day. Write it like “fri”, “in 2 weeks” or “12 May”.`
  field.value = read ? dayInWords(read) : day.value
}
function keepTime(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  wrong.value = ''
  if (text === time.value) return
  const match = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(text)
  const [hours, minutes] = [Number(match?.[1] ?? 99), Number(match?.[2] ?? 0)]
  if (match && hours < 24 && minutes < 60) {
    const said = `${String(hours).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`
    put({ time: said })
    field.value = said
  } else {
    wrong.value = `“${text}” isn’t a time. Write it like 14:00.`
    field.value = time.value
  }
}
function keepSlot(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  const minutes = Number(text)
  wrong.value = ''
  if (text === '') {
    if (brief.value.slot !== null) meeting.unsay('slot')
  } else if (!Number.isInteger(minutes) || minutes < 1 || minutes > 1440) {
    wrong.value = 'Minutes are a whole number from 1 to 1440.'
    field.value = String(brief.value.slot ?? '')
  } else if (minutes !== brief.value.slot) meeting.say({ id: 'slot', kind: 'slot', minutes })
}
function keepWhere(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim().toWellFormed().slice(0, 1000)
  if (text === brief.value.where) return
  if (text === '') meeting.unsay('where')
  else meeting.say({ id: 'where', kind: 'where', text })
}
function setZone(wanted: string): void {
  if (isZone(wanted)) put({ zone: wanted })
}

// — How the series goes on
const rules = computed(() => {
  const at = brief.value.begins?.day ?? today()
  const on = weekdayOf(at)
  const nth = Math.ceil(Number(at.slice(8)) / 7) as 1 | 2 | 3 | 4 | 5
  const kinds: Rule[] = [
    { every: 'week', interval: 1, on },
    { every: 'week', interval: 2, on },
    { every: 'month', interval: 1, nth, on },
  ]
  for (const end of [-1, -2] as const)
    if (nthWeekday(at, end, on) === at) kinds.push({ every: 'month', interval: 1, nth: end, on })
  const texts = new Set([...kinds.map(writeRule), ...(brief.value.rule ? [writeRule(brief.value.rule)] : [])])
  return [{ id: '', name: 'doesn’t repeat' }, ...[...texts].map(id => ({ id, name: rhythmInWords(id) }))]
})
function setRule(rule: string): void {
  if (rule === '') meeting.unsay('rule')
  else meeting.say({ id: 'rule', kind: 'rule', rule, closed: [...meeting.briefNow().closed] })
}
function addClosed(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  const read = text === '' ? null : readDay(text, daySense())
  if (text !== '' && !read) wrong.value = `“${text}” isn’t a day.`
  if (!read || !brief.value.rule) return
  field.value = ''
  meeting.say({
    id: 'rule',
    kind: 'rule',
    rule: writeRule(brief.value.rule),
    closed: [...new Set([...meeting.briefNow().closed, read])].sort(),
  })
}
function dropClosed(gone: string): void {
  if (brief.value.rule)
    meeting.say({
      id: 'rule',
      kind: 'rule',
      rule: writeRule(brief.value.rule),
      closed: meeting.briefNow().closed.filter(one => one !== gone),
    })
}
const following = computed(() => {
  void desk.lateTick.value
  return meeting.id.value === null ? null : dayOfNext(desk.tree, meeting.id.value)
})
const here = computed(() => {
  const at = start.value
  if (!at || zone.value === own || at.kind === 'gap') return ''
  const { day: localDay, time: localTime } = wallTime(at.instant, own)
  return `${dayInWords(localDay)}, ${localTime} where you are`
})
</script>

<template>
  <section class="when">
    <h3>When and where</h3>
    <div class="grid">
      <label for="meeting-day">Day</label>
      <span class="row">
        <input
          id="meeting-day"
          v-kept="day"
          :readonly="!may"
          placeholder="fri, in 2 weeks, 12 May"
          @blur="keepDay"
          @keydown.enter.prevent="($event.target as HTMLElement).blur()" />
        <label for="meeting-time">at</label>
        <input
          id="meeting-time"
          class="short"
          v-kept="time"
          :readonly="!may"
          placeholder="14:00"
          @blur="keepTime"
          @keydown.enter.prevent="($event.target as HTMLElement).blur()" />
        <Select
          :model-value="zone"
          :options="zones"
          option-label="name"
          option-value="id"
          size="small"
          filter
          :disabled="!may"
          aria-label="Time zone"
          class="zone"
          :virtual-scroller-options="{ itemSize: 34 }"
          @update:model-value="setZone" />
      </span>
      <label for="meeting-slot">Minutes</label>
      <span class="row"
        ><input
          id="meeting-slot"
          class="short"
          v-kept="brief.slot ?? ''"
          inputmode="numeric"
          :readonly="!may"
          :placeholder="String(needed || '')"
          @blur="keepSlot"
          @keydown.enter.prevent="($event.target as HTMLElement).blur()" /><span class="quiet">{{
          brief.slot === null ? `as long as its items take: ${needed} min` : ''
        }}</span></span
      >
      <label for="meeting-where">Where</label>
      <input
        id="meeting-where"
        v-kept="brief.where"
        :readonly="!may"
        dir="auto"
        placeholder="A room, or the address of a call"
        @blur="keepWhere"
        @keydown.enter.prevent="($event.target as HTMLElement).blur()" />
      <label for="meeting-rule">Repeats</label>
      <span class="row">
        <Select
          :model-value="brief.rule ? writeRule(brief.rule) : ''"
          input-id="meeting-rule"
          :options="rules"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="doesn’t repeat"
          :disabled="!may"
          aria-label="Repeats"
          @update:model-value="setRule" />
        <template v-if="brief.rule">
          <span class="quiet">not on</span>
          <button
            v-for="one in brief.closed"
            :key="one"
            class="closed"
            :disabled="!may"
            :aria-label="`${dayInWords(one)} is no closed day after all`"
            @click="dropClosed(one)">
            {{ dayInWords(one) }} <Icon name="lucide:x" size="12" />
          </button>
          <input
            v-if="may"
            class="short closed-in"
            placeholder="a day"
            aria-label="Another day without a meeting"
            @blur="addClosed"
            @keydown.enter.prevent="addClosed" />
          <span v-if="following" class="quiet">then {{ dayInWords(following) }}</span>
        </template>
      </span>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p v-if="start?.kind === 'gap'" class="wrong" role="alert">
      That time is left out: clocks go forward then. {{ wallTime(start.after, zone).time }} is the next that exists.
    </p>
    <p v-else-if="start?.kind === 'twice'" class="quiet">
      That hour comes twice that night; the first of the two is meant.
    </p>
    <p v-if="here" class="quiet">{{ here }}</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 14px var(--text);
  color: var(--quiet);
}
.grid {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr);
  gap: 6px 12px;
  align-items: center;
}
.grid > label {
  color: var(--quiet);
  font-size: 13px;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
input {
  border: 1px solid var(--line);
  background: var(--surface);
  color: inherit;
  font: 500 14px var(--text);
  border-radius: 6px;
  padding: 6px 9px;
  min-width: 0;
}
#meeting-day {
  width: 180px;
}
.short {
  width: 74px;
}
.zone {
  max-width: 220px;
}
.closed {
  border: 1px solid var(--line);
  background: none;
  border-radius: 6px;
  font-size: 12.5px;
  padding: 3px 8px;
  cursor: pointer;
  display: inline-flex;
  gap: 4px;
  align-items: center;
  min-height: 26px;
}
.wrong {
  color: var(--clay);
  margin: 6px 0 0;
  font-weight: 550;
}
p.quiet {
  margin: 6px 0 0;
  font-size: 13px;
}
</style>
