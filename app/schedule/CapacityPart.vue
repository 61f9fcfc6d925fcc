<script setup lang="ts">
import type { TreeMember } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** What somebody can do for the plan: hours of a working day, and days off. It counts for the load and for evening out. */
const { person } = defineProps<{ person: string }>()
const desk = useDesk()
type Capacity = TreeMember<'capacities'>
const known = computed<Capacity>(() => {
  void desk.tick.value
  return desk.tree.fields.capacities.find(({ id }) => id === person) ?? { id: person, hours: null, off: [] }
})
const may = computed(() => desk.status.ready && desk.session.canEdit)
const added = ref<string | null>(null)
/** What says nothing any more is taken away, so that the tree's own calendar counts. */
function put(next: Capacity): void {
  if (!desk.guard()) return
  if (next.hours !== null || next.off.length > 0)
    desk.run({ changes: [{ op: 'tree-put', set: 'capacities', member: next }] })
  else if (desk.tree.fields.capacities.some(({ id }) => id === person))
    desk.run({ changes: [{ op: 'tree-take', set: 'capacities', member: person }] })
}
function setHours(text: string): void {
  const said = text.trim().replace(',', '.')
  const hours = Number(said)
  if (said === '') put({ ...known.value, hours: null })
  else if (hours >= 0 && hours <= 24) put({ ...known.value, hours })
  else desk.say('A day has from 0 to 24 hours.')
}
function addDay(day: string | null): void {
  if (day === null) return
  if (!known.value.off.includes(day)) put({ ...known.value, off: [...known.value.off, day].sort() })
  added.value = day
  void nextTick(() => {
    added.value = null
  })
}
</script>

<template>
  <div class="capacity">
    <h3>{{ desk.nameOf(person) }}</h3>
    <label
      >Hours a day
      <InputText
        v-kept="known.hours === null ? '' : `${known.hours}`"
        data-first
        inputmode="decimal"
        :placeholder="`${desk.tree.fields.dayHours}, as the tree`"
        :disabled="!may"
        :aria-label="`Hours a day of ${desk.nameOf(person)}`"
        @change="setHours(($event.target as HTMLInputElement).value)"
    /></label>
    <ul v-if="known.off.length" :aria-label="`Days off of ${desk.nameOf(person)}`">
      <li v-for="day in known.off" :key="day">
        {{ dayInWords(day) }}
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`${dayInWords(day)} isn’t off`"
          @click="put({ ...known, off: known.off.filter(one => one !== day) })">
          <Icon name="lucide:x" size="13" />
        </button>
      </li>
    </ul>
    <p v-else class="quiet">No days off.</p>
    <DayField
      v-if="may"
      :model-value="added"
      label="Another day off"
      placeholder="24 Dec …"
      @update:model-value="addDay" />
  </div>
</template>

<style scoped>
.capacity {
  width: min(300px, 80vw);
  display: grid;
  gap: 8px;
  font-size: 13px;
}
h3 {
  margin: 0;
  font: 600 15px var(--display);
}
label {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
label :deep(input) {
  width: 150px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 160px;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
}
.quiet {
  color: var(--quiet);
  margin: 0;
}
</style>
