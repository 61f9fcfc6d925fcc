<script setup lang="ts">
import type { BriefPerson } from '#core/meeting/brief'
import { personName } from '#core/meeting/minutes'
import { useMeeting } from '~/meeting/useMeeting'

/** Who is there: one press says so, another that they aren't. Whoever has the tree open shows by a dot. */
const meeting = useMeeting()
const { desk, brief, may } = meeting
const here = computed(() => new Set([desk.userId, ...desk.status.present.map(({ id }) => id)]))
function turn(person: BriefPerson): void {
  meeting.say({ id: `c-${person.id}`.slice(0, 40), kind: 'attendance', of: person.id, came: person.came !== true })
}
function allHere(): void {
  const id = meeting.id.value
  if (id !== null)
    meeting.run(
      brief.value.people
        .filter(person => person.came === null && person.user !== null && here.value.has(person.user))
        .map(person => ({
          op: 'put',
          topic: id,
          set: 'meeting',
          member: { id: `c-${person.id}`.slice(0, 40), kind: 'attendance', of: person.id, came: true },
        })),
    )
}
const there = computed(() => brief.value.people.filter(({ came }) => came).length)
const words = (came: boolean | null): string => (came === null ? 'not noted' : came ? 'there' : 'not there')
</script>

<template>
  <section class="attendance" aria-label="Attendance">
    <h2>
      There <span>{{ there }} of {{ brief.people.length }}</span>
    </h2>
    <button
      v-for="person in brief.people"
      :key="person.id"
      class="person"
      :class="{ came: person.came, away: person.came === false }"
      :disabled="!may"
      :aria-pressed="person.came === true"
      :aria-label="`${personName(person, desk.nameOf)}: ${words(person.came)}`"
      @click="turn(person)">
      <Icon
        :name="person.came ? 'lucide:check' : person.came === false ? 'lucide:x' : 'lucide:circle-dashed'"
        size="14" />
      <span class="who">{{ personName(person, desk.nameOf) }}</span>
      <i v-if="person.user !== null && here.has(person.user)" title="has the tree open" />
    </button>
    <button
      v-if="may && brief.people.some(person => person.came === null && person.user !== null && here.has(person.user))"
      class="all"
      @click="allHere">
      Everybody with the tree open is there
    </button>
  </section>
</template>

<style scoped>
.attendance {
  padding: 14px 12px;
  border-top: 1px solid var(--line);
  margin-top: 10px;
}
h2 {
  font-size: 14px;
  margin-bottom: 5px;
}
h2 span {
  color: var(--quiet);
  font-weight: 450;
}
.person {
  width: 100%;
  display: flex;
  gap: 8px;
  align-items: center;
  border: 0;
  background: none;
  padding: 3px 4px;
  min-height: 28px;
  cursor: pointer;
  text-align: left;
  color: var(--quiet);
}
.person:hover {
  background: var(--hover);
}
.who {
  flex: 1;
}
.came {
  color: var(--ink);
  font-weight: 550;
}
.came :deep(.iconify) {
  color: var(--fern);
}
.away {
  text-decoration: line-through;
}
.person i {
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--fern);
}
.all {
  border: 1px dashed var(--line);
  background: none;
  border-radius: 6px;
  padding: 4px 9px;
  margin-top: 6px;
  font-size: 12.5px;
  cursor: pointer;
}
</style>
