<script setup lang="ts">
import { readLength } from '#core/schedule/day-words'
import type { Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { groupsOf, inGroup, loadOwnGroups } from '~/share/own-groups'
import { rollUpInWords } from './roll-up-words'
import { useMeant } from './useMeant'

/** Who, when, how long and how far: of all that are selected, with what differs said; and what the tasks below come to. */
const props = defineProps<{ topics: readonly Topic[] }>()
const desk = useDesk()
const one = computed(() => (props.topics.length === 1 ? props.topics[0]! : null))
const ids = computed(() => props.topics.map(topic => topic.id))
const { meant, hold, letGo } = useMeant(ids)
const may = computed(() => desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer')

/** The value that all selected topics share; undefined when they differ. */
function shared<K extends keyof Topic>(key: K): Topic[K] | undefined {
  const [first, ...rest] = props.topics
  return first && rest.every(topic => topic[key] === first[key]) ? first[key] : undefined
}
const differs = (key: keyof Topic): boolean => shared(key) === undefined
const people = computed(() => {
  const all = new Map<string, number>()
  for (const topic of props.topics) for (const id of topic.people) all.set(id, (all.get(id) ?? 0) + 1)
  return [...all].map(([id, count]) => ({ id, name: desk.nameOf(id), everywhere: count === props.topics.length }))
})
const below = computed(() => {
  void desk.lateTick.value
  const rollUp = one.value && desk.rollUps.of(one.value.id)
  return rollUp ? rollUpInWords(rollUp, ownLocale()) : ''
})
const faces = useFaces()
const personMenu = ref()
const groups = computed(() => {
  void desk.lateTick.value
  return groupsOf(desk).filter(({ id }) => inGroup(desk, id).length > 0)
})
function pickPeople(event: Event): void {
  personMenu.value.toggle(event)
  // Without a line the tree's own groups are there all the same.
  void loadOwnGroups().catch(() => {})
}
function giveGroup(group: string): void {
  desk.giveAll(inGroup(desk, group), ids.value)
  personMenu.value.hide()
}

function setNumber(field: 'duration' | 'done', text: string): void {
  const value =
    text.trim() === ''
      ? null
      : field === 'duration'
        ? (readLength(text, ownLocale(), desk.tree.fields.dayHours) ?? Number(text.replace(',', '.')))
        : Number(text.replace(',', '.').replace(/\s*%$/, ''))
  if (value !== null && (!Number.isFinite(value) || value < 0 || value > (field === 'done' ? 100 : 10_000))) {
    desk.say(
      field === 'done'
        ? 'Done is a number from 0 to 100.'
        : 'A length is a number of working days, 10,000 at most; “2 weeks” and “6 h” are lengths, too.',
    )
    return
  }
  desk.set(field, value === null ? null : field === 'done' ? Math.round(value) : value, meant())
}
</script>

<template>
  <div class="task" @focusin="hold" @focusout="letGo">
    <span>People</span>
    <div class="chips">
      <button
        v-for="person in people"
        :key="person.id"
        class="chip"
        :disabled="!may"
        :aria-label="`${person.name}: take off`"
        @click="desk.toggle('people', person.id, ids)">
        <PersonFace v-if="faces.pictured.has(person.id)" :id="person.id" :name="person.name" :size="18" />
        {{ person.name }}<span v-if="!person.everywhere" class="quiet"> some</span>
      </button>
      <button v-if="may" class="chip" aria-label="Add a person" @click="pickPeople">
        <Icon name="lucide:plus" size="14" />
      </button>
      <PorchPopover ref="personMenu">
        <div class="pick" role="group" aria-label="People">
          <button
            v-for="group in groups"
            :key="group.id"
            class="group"
            :aria-label="`Everybody in ${group.name}`"
            @click="giveGroup(group.id)">
            <Icon name="lucide:users" size="18" />{{ group.name }}
          </button>
          <button
            v-for="person in desk.status.people"
            :key="person.id"
            :aria-pressed="people.some(other => other.id === person.id && other.everywhere)"
            @click="desk.toggle('people', person.id, ids)">
            <PersonFace :id="person.id" :name="person.name" :size="26" />{{ person.name
            }}<Icon v-if="people.some(other => other.id === person.id)" name="lucide:check" size="15" />
          </button>
        </div>
      </PorchPopover>
    </div>
    <label for="sheet-start">Start</label>
    <DayField
      :key="`start ${ids.join()}`"
      :model-value="shared('start') ?? null"
      :time="shared('startTime') ?? null"
      input-id="sheet-start"
      label="Start"
      :disabled="!may"
      :placeholder="differs('start') ? 'differs' : 'fri, 12 May …'"
      @update:model-value="desk.set('start', $event, meant())"
      @moment="desk.setMoment('start', $event, meant())" />
    <label for="sheet-due">Due</label>
    <div class="due">
      <DayField
        :key="`due ${ids.join()}`"
        :model-value="shared('due') ?? null"
        :time="shared('dueTime') ?? null"
        input-id="sheet-due"
        label="Due"
        :disabled="!may"
        :placeholder="differs('due') ? 'differs' : 'fri, 12 May …'"
        @update:model-value="desk.set('due', $event, meant())"
        @moment="desk.setMoment('due', $event, meant())" />
      <span v-if="one?.due && one.done !== 100 && dueInWords(one.due).late" class="late">{{
        dueInWords(one.due).text
      }}</span>
    </div>
    <LazyAgainPart v-if="one && (may || one.again)" :topic="one" :may="may" />
    <label for="sheet-length">Length</label>
    <div class="with-unit">
      <InputText
        id="sheet-length"
        v-kept="shared('duration') ?? ''"
        inputmode="decimal"
        :disabled="!may"
        :placeholder="differs('duration') ? 'differs' : ''"
        @change="setNumber('duration', ($event.target as HTMLInputElement).value)" />
      working days
    </div>
    <label for="sheet-done">Done</label>
    <div class="with-unit">
      <div class="stops" role="group" aria-label="Done in five stops" :style="{ '--done': `${shared('done') ?? 0}%` }">
        <button
          v-for="stop in [0, 25, 50, 75, 100]"
          :key="stop"
          :disabled="!may"
          :style="{ '--at': `${stop}%` }"
          :aria-label="`${stop} % done`"
          @click="desk.set('done', stop, ids)" />
      </div>
      <InputText
        id="sheet-done"
        class="percent"
        v-kept="shared('done') ?? ''"
        inputmode="numeric"
        :disabled="!may"
        :placeholder="differs('done') ? 'differs' : ''"
        @change="setNumber('done', ($event.target as HTMLInputElement).value)" />
      %
    </div>
    <template v-if="below">
      <span>Below</span>
      <p class="below">{{ below }}</p>
    </template>
    <label for="sheet-priority">Priority</label>
    <Select
      input-id="sheet-priority"
      :model-value="shared('priority') ?? null"
      :options="[
        { label: '1, most urgent', value: 1 },
        { label: '2', value: 2 },
        { label: '3', value: 3 },
        { label: '4', value: 4 },
        { label: '5', value: 5 },
      ]"
      option-label="label"
      option-value="value"
      show-clear
      :disabled="!may"
      :placeholder="differs('priority') ? 'differs' : 'none'"
      aria-label="Priority"
      @update:model-value="desk.set('priority', $event ?? null, ids)" />
  </div>
</template>

<style scoped src="./chips.css"></style>

<style scoped>
.task {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  font-size: 13px;
}
.task > span,
.task > label {
  color: var(--quiet);
}
.task :deep(.p-select-label) {
  font-size: 13px;
  padding-block: 0.42rem;
}
.task :deep(input) {
  font-size: 13px;
  width: 100%;
}
.due {
  display: flex;
  align-items: center;
  gap: 8px;
}
.due > :first-child {
  flex: 1;
}
.late {
  color: var(--clay);
  font-weight: 650;
  white-space: nowrap;
}
.with-unit {
  display: flex;
  align-items: center;
  gap: 7px;
  color: var(--quiet);
}
.with-unit :deep(input) {
  width: 64px;
}
.with-unit .percent {
  width: 54px;
}
/* One bar that fills as far as the task is, with a stop to press at each quarter. */
.stops {
  position: relative;
  flex: 1;
  height: 24px;
  margin: 0 10px;
  background:
    linear-gradient(var(--porch), var(--porch)) left / var(--done) 8px no-repeat,
    linear-gradient(var(--line), var(--line)) center / 100% 8px no-repeat;
}
.stops button {
  position: absolute;
  left: var(--at);
  width: 24px;
  height: 24px;
  margin-left: -12px;
  border: 0;
  padding: 0;
  background: radial-gradient(circle, var(--quiet) 0 2px, transparent 2.5px);
  cursor: pointer;
}
.stops button:not(:disabled):hover {
  background: radial-gradient(circle, var(--porch) 0 5px, transparent 5.5px);
}
.pick {
  display: flex;
  flex-direction: column;
  min-width: 200px;
}
.pick button {
  display: flex;
  gap: 9px;
  align-items: center;
  border: 0;
  background: none;
  padding: 5px 6px;
  border-radius: 6px;
  cursor: pointer;
  text-align: left;
}
.pick button:hover {
  background: var(--hover);
}
.below {
  margin: 0;
  color: var(--quiet);
  font-variant-numeric: tabular-nums;
}
</style>
