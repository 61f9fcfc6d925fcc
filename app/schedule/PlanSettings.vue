<script setup lang="ts">
import type { Change } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { wantedKind } from '~/handing/making'
import { usePage } from '~/page/page'
import { endPlan, letPlanSetDates } from './acting'

/** The working calendar of the tree, where its plan begins, and up to when it's known. */
const emit = defineEmits<{ left: [] }>()
const desk = useDesk()
const page = usePage()
const fields = computed(() => {
  void desk.tick.value
  return desk.tree.fields
})
const may = computed(() => desk.status.ready && desk.session.canEdit)
/** The bars as a picture: Hand out makes it, and knows that it's asked from here. */
function handOut(): void {
  emit('left')
  wantedKind.value = 'sheet'
  page.open('handout')
}
function put(change: Change): void {
  if (desk.guard()) desk.run({ changes: [change] })
}
// A Monday: its week names the days in the person's language.
const WEEK = Array.from({ length: 7 }, (_, i) => ({
  day: i + 1,
  name: new Intl.DateTimeFormat(ownLocale(), { weekday: 'short', timeZone: 'UTC' }).format(Date.UTC(2027, 0, 4 + i)),
}))
function toggle(day: number): void {
  const { weekdays } = fields.value
  const value = weekdays.includes(day) ? weekdays.filter(one => one !== day) : [...weekdays, day].sort()
  put({ op: 'tree', field: 'weekdays', value })
}
function setHours(text: string): void {
  const hours = Number(text.replace(',', '.'))
  if (!(hours >= 0.25 && hours <= 24)) desk.say('A working day has from a quarter of an hour to 24 hours.')
  else put({ op: 'tree', field: 'dayHours', value: hours })
}
const exceptions = computed(() => [...fields.value.exceptions].sort((a, b) => (a.id < b.id ? -1 : 1)))
const kind = ref<'closed' | 'extra'>('closed')
const added = ref<string | null>(null)
function add(day: string | null): void {
  if (day === null) return
  put({ op: 'tree-put', set: 'exceptions', member: { id: day, kind: kind.value, name: '' } })
  added.value = day
  void nextTick(() => {
    added.value = null
  })
}
/** Closed days from a calendar file: read by the server, put in here as one edit. Days that are known already stay as they are. */
async function takeFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file || !desk.guard()) return
  if (file.size > 500_000) {
    desk.say('This calendar file is larger than half a megabyte. Nothing was changed.')
    return
  }
  try {
    const found = await callApi<{ day: string; name: string }[]>(`/api/trees/${desk.session.treeId}/closed-days`, {
      method: 'POST',
      body: { text: await file.text() },
    })
    const known = new Set(fields.value.exceptions.map(({ id }) => id))
    const come = found.filter(({ day }) => !known.has(day))
    if (come.length === 0) desk.say('All of these days are known already.')
    else if (
      desk.run({
        changes: come.map(({ day, name }): Change => ({
          op: 'tree-put',
          set: 'exceptions',
          member: { id: day, kind: 'closed', name },
        })),
      })
    )
      desk.say(`${come.length === 1 ? 'One day is' : `${come.length} days are`} closed.`, true)
  } catch (error) {
    desk.say((error as Error).message)
  }
}
</script>

<template>
  <div class="settings">
    <label>The plan begins</label>
    <DayField
      :model-value="fields.planFrom"
      label="The plan begins"
      :disabled="!may"
      required
      @update:model-value="$event && put({ op: 'tree', field: 'planFrom', value: $event })" />
    <label>Known up to</label>
    <DayField
      :model-value="fields.statusDay"
      label="Known up to"
      placeholder="today"
      :disabled="!may"
      @update:model-value="put({ op: 'tree', field: 'statusDay', value: $event })" />
    <span>Weekdays</span>
    <div class="week" role="group" aria-label="Weekdays that are worked on">
      <button
        v-for="one in WEEK"
        :key="one.day"
        :aria-pressed="fields.weekdays.includes(one.day)"
        :disabled="!may"
        @click="toggle(one.day)">
        {{ one.name }}
      </button>
    </div>
    <label for="plan-hours">Hours a day</label>
    <InputText
      id="plan-hours"
      v-kept="fields.dayHours"
      inputmode="decimal"
      :disabled="!may"
      @change="setHours(($event.target as HTMLInputElement).value)" />
    <label for="plan-zone">Time zone</label>
    <ZoneField input-id="plan-zone" />
    <span>On planks</span>
    <label
      ><input
        type="checkbox"
        :checked="fields.planPrint"
        :disabled="!may"
        @change="put({ op: 'tree', field: 'planPrint', value: !fields.planPrint })" />
      How tasks stand in the plan</label
    >
    <span>Other days</span>
    <div>
      <ul v-if="exceptions.length" class="days" aria-label="Closed and extra days">
        <li v-for="one in exceptions" :key="one.id">
          {{ dayInWords(one.id) }} <em>{{ one.kind === 'closed' ? 'closed' : 'worked on' }}</em>
          <input
            v-kept="one.name"
            placeholder="why"
            maxlength="200"
            :aria-label="`Why ${dayInWords(one.id)}`"
            :disabled="!may"
            @change="
              put({
                op: 'tree-put',
                set: 'exceptions',
                member: { ...one, name: ($event.target as HTMLInputElement).value.toWellFormed() },
              })
            " />
          <button
            v-if="may"
            class="icon-button"
            :aria-label="`Take ${dayInWords(one.id)} away`"
            @click="put({ op: 'tree-take', set: 'exceptions', member: one.id })">
            <Icon name="lucide:x" size="13" />
          </button>
        </li>
      </ul>
      <div v-if="may" class="more">
        <select v-model="kind" aria-label="What the day is">
          <option value="closed">closed</option>
          <option value="extra">worked on</option>
        </select>
        <DayField :model-value="added" label="Another day" placeholder="24 Dec …" @update:model-value="add" />
      </div>
      <label v-if="may" class="file"
        ><span class="plain">Closed days from a calendar file …</span
        ><input
          type="file"
          accept=".ics,text/calendar"
          class="visually-hidden"
          aria-label="Closed days from a calendar file"
          @change="takeFile"
      /></label>
    </div>
    <div v-if="fields.planFrom" class="acts">
      <a class="plain" :href="`/api/trees/${desk.session.treeId}/plan-calendar?status=${desk.treeDay}`" download
        >As a calendar file</a
      >
      <button class="plain" @click="handOut">As a picture or on paper …</button>
    </div>
    <div v-if="may && fields.planFrom" class="acts">
      <button class="plain" @click="letPlanSetDates(desk)">Let the plan set the dates</button>
      <button class="plain" @click="endPlan(desk)">Do without a plan</button>
    </div>
  </div>
</template>

<style scoped>
.file {
  display: block;
  margin-top: 8px;
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--sun);
}
.settings {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr);
  gap: 9px 10px;
  align-items: center;
  width: min(420px, 84vw);
  font-size: 13px;
}
.settings > label,
.settings > span {
  color: var(--quiet);
}
.settings > span {
  align-self: start;
  padding-top: 5px;
}
.week {
  display: flex;
}
.week button {
  flex: 1;
  border: 1px solid var(--line);
  border-right-width: 0;
  background: none;
  padding: 5px 2px;
  min-height: 30px;
  color: var(--quiet);
  cursor: pointer;
}
.week button:last-child {
  border-right-width: 1px;
}
.week button[aria-pressed='true'] {
  background: var(--ceiling);
  color: var(--ink);
  font-weight: 650;
  box-shadow: inset 0 -3px 0 var(--porch);
}
.days {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
  max-height: 160px;
  overflow: auto;
}
.days li {
  display: flex;
  align-items: center;
  gap: 6px;
}
.days em {
  color: var(--quiet);
  font-style: normal;
}
.days input {
  flex: 1;
  min-width: 0;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  font: inherit;
}
.more {
  display: flex;
  gap: 6px;
}
.more select {
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.acts {
  grid-column: 1 / -1;
  display: flex;
  gap: 14px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
.plain {
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 600;
  cursor: pointer;
  padding: 0;
  min-height: 28px;
}
</style>
