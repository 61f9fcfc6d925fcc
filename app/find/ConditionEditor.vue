<script setup lang="ts">
import { fixedOf } from '#core/figures/fixed'
import { readFigure, typedFigure } from '#core/figures/numbers'
import {
  type Condition,
  DUE,
  FIGURED,
  KIND_WORDS,
  KINDS,
  PLANNED,
  STATES,
  SUBSTANCE,
  TALK_STATES,
} from '#core/find/conditions'
import { markerSetsOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { groupsOf, loadOwnGroups } from '~/share/own-groups'

/** The parts of one condition, as plain fields. */
const condition = defineModel<Condition>({ required: true })
const desk = useDesk()
const sets = computed(() => markerSetsOf(desk.tree.fields))
const groups = computed(() => {
  void desk.lateTick.value
  return groupsOf(desk)
})
const groupIsHere = computed(() => {
  const { value: asked } = condition
  return asked.about === 'group' && groups.value.some(({ id }) => id === asked.group)
})
// Without a line the tree's own are there all the same.
if (condition.value.about === 'group') void loadOwnGroups().catch(() => {})
const DUE_NAMES: Record<(typeof DUE)[number], string> = {
  late: 'is late',
  today: 'is today',
  within: 'is within days',
  before: 'is before',
  after: 'is after',
  on: 'is on',
  some: 'is set',
  none: 'is not set',
}
const STATE_NAMES: Record<(typeof STATES)[number], string> = {
  open: 'open',
  'not-begun': 'not begun',
  'under-way': 'under way',
  done: 'done',
}
const PLAN_NAMES: Record<(typeof PLANNED)[number], string> = {
  critical: 'must not slip',
  tight: 'has float under days',
  late: 'ends late',
  slipped: 'ends later than agreed',
  agreed: 'is in the newest baseline',
  waits: 'can’t begin yet',
  ready: 'can begin now',
  overloaded: 'somebody has too much',
}
const FIGURE_NAMES: Record<(typeof FIGURED)[number], string> = {
  over: 'is over',
  under: 'is under',
  off: 'is off its target',
  some: 'is there',
  none: 'is missing',
  wrong: 'can’t be worked out',
}
const measureOf = (id: string) => desk.tree.fields.measures.find(one => one.id === id) ?? { unit: '' }
/** In the person's own signs; what is kept has none. */
const figure = (said: string | undefined): string => {
  const number = said === undefined ? null : fixedOf(said)
  return number === null || condition.value.about !== 'figure'
    ? ''
    : typedFigure(number, measureOf(condition.value.measure), ownLocale())
}
function putFigure(said: string): void {
  if (condition.value.about !== 'figure') return
  const number = readFigure(said, measureOf(condition.value.measure), ownLocale())
  if (number === null) desk.say(`“${said}” is no number.`)
  else put({ value: number })
}
function put(part: object): void {
  condition.value = { ...condition.value, ...part } as Condition
}
const value = (event: Event): string => (event.target as HTMLInputElement | HTMLSelectElement).value
const TALK_NAMES: Record<(typeof TALK_STATES)[number], string> = {
  some: 'some',
  open: 'some not settled',
  settled: 'all settled',
  'names-me': 'that name me',
}
</script>

<template>
  <div class="parts">
    <template v-if="condition.about === 'text'">
      <input
        type="text"
        :value="condition.words"
        placeholder="words"
        aria-label="Words"
        @input="put({ words: value($event).slice(0, 200) })" />
      <select :value="condition.where" aria-label="Where the words are" @change="put({ where: value($event) })">
        <option value="anywhere">anywhere</option>
        <option value="title">in the title</option>
        <option value="note">in the note</option>
      </select>
    </template>
    <select
      v-else-if="condition.about === 'marker'"
      :value="condition.marker"
      aria-label="Marker"
      @change="put({ marker: value($event) })">
      <optgroup v-for="set in sets" :key="set.id" :label="set.name">
        <option v-for="marker in set.markers" :key="marker.id" :value="marker.id">{{ marker.name }}</option>
      </optgroup>
    </select>
    <select
      v-else-if="condition.about === 'person'"
      :value="condition.person"
      aria-label="Person"
      @change="put({ person: value($event) })">
      <option value="me">me</option>
      <option value="nobody">nobody</option>
      <option value="somebody">anybody</option>
      <option v-for="person in desk.status.people" :key="person.id" :value="person.id">{{ person.name }}</option>
    </select>
    <select
      v-else-if="condition.about === 'group'"
      :value="condition.group"
      aria-label="Group of people"
      @change="put({ group: value($event) })">
      <option v-if="!groupIsHere" :value="condition.group" disabled>
        {{ groups.length === 0 ? 'no group yet: make one under Share' : 'choose …' }}
      </option>
      <option v-for="group in groups" :key="group.id" :value="group.id">
        {{ group.name }}{{ group.own ? ' (yours)' : '' }}
      </option>
    </select>
    <template v-else-if="condition.about === 'due'">
      <select
        :value="condition.is"
        aria-label="Due"
        @change="
          put({
            is: value($event),
            ...(value($event) === 'within' ? { days: condition.days ?? 7 } : {}),
            ...(['before', 'after', 'on'].includes(value($event)) ? { day: condition.day ?? today() } : {}),
          })
        ">
        <option v-for="is in DUE" :key="is" :value="is">{{ DUE_NAMES[is] }}</option>
      </select>
      <NumberField
        v-if="condition.is === 'within'"
        :model-value="condition.days ?? 7"
        :min="0"
        :max="3650"
        aria-label="Days"
        @update:model-value="put({ days: $event })" />
      <DayField
        v-if="['before', 'after', 'on'].includes(condition.is)"
        :model-value="condition.day ?? null"
        label="Day"
        required
        @update:model-value="$event && put({ day: $event })" />
    </template>
    <select
      v-else-if="condition.about === 'state'"
      :value="condition.is"
      aria-label="State"
      @change="put({ is: value($event) })">
      <option v-for="is in STATES" :key="is" :value="is">{{ STATE_NAMES[is] }}</option>
    </select>
    <template v-else-if="condition.about === 'done'">
      <NumberField
        :model-value="condition.least"
        :min="0"
        :max="100"
        aria-label="Done at least, %"
        @update:model-value="put({ least: $event })" />
      to
      <NumberField
        :model-value="condition.most"
        :min="0"
        :max="100"
        aria-label="Done at most, %"
        @update:model-value="put({ most: $event })" />
      %
    </template>
    <template v-else-if="condition.about === 'priority'"
      >1 to
      <NumberField
        :model-value="condition.most"
        :min="1"
        :max="5"
        aria-label="Priority at most"
        @update:model-value="put({ most: $event })"
    /></template>
    <template v-else-if="condition.about === 'depth'">
      <NumberField
        :model-value="condition.least"
        :min="0"
        :max="400"
        aria-label="Depth from"
        @update:model-value="put({ least: $event })" />
      to
      <NumberField
        :model-value="condition.most"
        :min="0"
        :max="400"
        aria-label="Depth to"
        @update:model-value="put({ most: $event })" />
    </template>
    <template v-else-if="condition.about === 'figure'">
      <select :value="condition.measure" aria-label="Measure" @change="put({ measure: value($event) })">
        <option v-for="measure in desk.tree.fields.measures" :key="measure.id" :value="measure.id">
          {{ measure.name }}
        </option>
      </select>
      <select :value="condition.is" aria-label="Its figure" @change="put({ is: value($event) })">
        <option v-for="is in FIGURED" :key="is" :value="is">{{ FIGURE_NAMES[is] }}</option>
      </select>
      <input
        v-if="condition.is === 'over' || condition.is === 'under'"
        type="text"
        inputmode="decimal"
        :value="figure(condition.value)"
        placeholder="how much"
        aria-label="How much"
        @change="putFigure(value($event))" />
    </template>
    <template v-else-if="condition.about === 'plan'">
      <select
        :value="condition.is"
        aria-label="In the plan"
        @change="put({ is: value($event), days: value($event) === 'tight' ? (condition.days ?? 5) : undefined })">
        <option v-for="is in PLANNED" :key="is" :value="is">{{ PLAN_NAMES[is] }}</option>
      </select>
      <NumberField
        v-if="condition.is === 'tight'"
        :model-value="condition.days ?? 5"
        :min="0"
        :max="3650"
        aria-label="Working days of float"
        @update:model-value="put({ days: $event })" />
    </template>
    <select
      v-else-if="condition.about === 'kind'"
      :value="condition.is"
      aria-label="Kind"
      @change="put({ is: value($event) })">
      <option v-for="is in KINDS" :key="is" :value="is">{{ KIND_WORDS[is] }}</option>
    </select>
    <template v-else-if="condition.about === 'changed'">
      <select
        :value="condition.since ? 'since' : condition.days === undefined ? 'ever' : 'days'"
        aria-label="Changed when"
        @change="
          put(
            value($event) === 'since'
              ? { since: today(), days: undefined }
              : value($event) === 'days'
                ? { days: 7, since: undefined }
                : { days: undefined, since: undefined },
          )
        ">
        <option value="ever">at any time</option>
        <option value="days">in the last days</option>
        <option value="since">since</option>
      </select>
      <NumberField
        v-if="condition.days !== undefined && !condition.since"
        :model-value="condition.days"
        :min="0"
        :max="3650"
        aria-label="Days"
        @update:model-value="put({ days: $event })" />
      <DayField
        v-if="condition.since"
        :model-value="condition.since"
        label="Since"
        required
        @update:model-value="$event && put({ since: $event })" />
      <select :value="condition.by ?? ''" aria-label="Changed by" @change="put({ by: value($event) || undefined })">
        <option value="">by anybody</option>
        <option value="me">by me</option>
        <option v-for="person in desk.status.people" :key="person.id" :value="person.id">by {{ person.name }}</option>
      </select>
    </template>
    <template v-else-if="condition.about === 'talk'">
      <select :value="condition.is" aria-label="Comments" @change="put({ is: value($event) })">
        <option v-for="is in TALK_STATES" :key="is" :value="is">{{ TALK_NAMES[is] }}</option>
      </select>
      <select :value="condition.by ?? ''" aria-label="Said by" @change="put({ by: value($event) || undefined })">
        <option value="">by anybody</option>
        <option value="me">by me</option>
        <option v-for="person in desk.status.people" :key="person.id" :value="person.id">by {{ person.name }}</option>
      </select>
    </template>
    <select v-else :value="condition.what" aria-label="What it has" @change="put({ what: value($event) })">
      <option v-for="what in SUBSTANCE" :key="what" :value="what">{{ what }}</option>
    </select>
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  font-size: 13px;
}
input,
select {
  font: inherit;
  color: inherit;
  background: var(--page);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 7px;
  min-height: 28px;
  max-width: 100%;
}
input[type='number'] {
  width: 66px;
}
input[type='text'] {
  flex: 1;
  min-width: 100px;
}
</style>
