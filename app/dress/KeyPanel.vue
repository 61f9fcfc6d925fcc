<script setup lang="ts">
import { isGroup } from '#core/find/conditions'
import { allTopics, type Marker, markerSetsOf, replaceMarker } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** The key: which markers this tree uses, what they mean and how often they stand. One click shows only those. */
const desk = useDesk()
const used = computed(() => {
  void desk.lateTick.value
  const counts = new Map<string, number>()
  for (const topic of allTopics(desk.tree)) for (const id of topic.markers) counts.set(id, (counts.get(id) ?? 0) + 1)
  return markerSetsOf(desk.tree.fields).flatMap(set => {
    const markers = set.markers.flatMap((marker): { marker: Marker; count: number }[] =>
      counts.has(marker.id) ? [{ marker, count: counts.get(marker.id)! }] : [],
    )
    return markers.length > 0 ? [{ set, markers }] : []
  })
})
const only = desk.finding.marker
const may = computed(() => desk.status.ready && desk.session.canEdit)
const all = computed(() => {
  void desk.lateTick.value
  return markerSetsOf(desk.tree.fields)
})
/** Puts another marker wherever this one stands, or takes it off everywhere, as one step. */
function swap(old: string, event: Event): void {
  const at = event.target as HTMLSelectElement
  const to = at.value
  at.value = ''
  if (!to || !desk.guard()) return
  const ids = [...allTopics(desk.tree)].filter(topic => topic.markers.includes(old)).map(topic => topic.id)
  if (to === 'off')
    desk.run({ changes: ids.map(topic => ({ op: 'take' as const, topic, set: 'markers' as const, member: old })) })
  else desk.run(replaceMarker(desk.tree, ids, old, to))
  desk.say(`Changed ${ids.length.toLocaleString('en')} ${ids.length === 1 ? 'topic' : 'topics'}.`, true)
}
function toggle(id: string): void {
  only.value = only.value === id ? null : id
}

/** Who has how many topics; also who has none. */
const people = computed(() => {
  void desk.lateTick.value
  const counts = new Map<string, number>()
  for (const topic of allTopics(desk.tree)) for (const id of topic.people) counts.set(id, (counts.get(id) ?? 0) + 1)
  return desk.status.people
    .map(({ id, name }) => ({ id, name, count: counts.get(id) ?? 0 }))
    .sort((a, b) => b.count - a.count)
})
const asked = computed(() => {
  const { value: query } = desk.finding.query
  return query && !isGroup(query) && query.about === 'person' ? query.person : null
})
function ofPerson(id: string): void {
  desk.finding.query.value = asked.value === id ? null : { about: 'person', person: id }
}
</script>

<template>
  <div class="key">
    <p v-if="used.length === 0" class="quiet">No topic has a marker yet. <kbd>M</kbd> opens the markers.</p>
    <template v-for="{ set, markers } in used" :key="set.id">
      <h3>{{ set.name }}</h3>
      <div v-for="{ marker, count } in markers" :key="marker.id" class="used">
        <button :aria-pressed="only === marker.id" @click="toggle(marker.id)">
          <MarkerSign :id="marker.id" :size="18" aria-hidden="true" /><span class="name">{{ marker.name }}</span
          ><b>{{ count }}</b>
        </button>
        <select
          v-if="may"
          :aria-label="`Everywhere instead of ${marker.name}`"
          title="Everywhere instead"
          @change="swap(marker.id, $event)">
          <option value="">⋯</option>
          <option value="off">take off everywhere</option>
          <optgroup v-for="one in all" :key="one.id" :label="one.name">
            <option
              v-for="other in one.markers.filter(item => item.id !== marker.id)"
              :key="other.id"
              :value="other.id">
              {{ other.name }} instead
            </option>
          </optgroup>
        </select>
      </div>
    </template>
    <h3>People</h3>
    <div v-for="one in people" :key="one.id" class="used">
      <button v-if="one.count" :aria-pressed="asked === one.id" @click="ofPerson(one.id)">
        <span class="name">{{ one.name }}</span><b>{{ one.count }}</b>
      </button>
      <p v-else class="nothing">
        <span class="name">{{ one.name }}</span> has nothing yet
      </p>
    </div>
    <p v-if="only" class="quiet">The others step back. <button class="plain" @click="only = null">Show all</button></p>
  </div>
</template>

<style scoped>
.key {
  display: flex;
  flex-direction: column;
}
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 6px 4px 2px;
}
.used {
  display: flex;
  gap: 4px;
}
.used select {
  width: 34px;
  font: inherit;
  color: var(--quiet);
  border: 0;
  background: none;
  border-radius: 6px;
  cursor: pointer;
}
.used select:hover {
  background: var(--hover);
}
.used > button {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  border: 1px solid transparent;
  background: none;
  border-radius: 6px;
  padding: 4px 6px;
  cursor: pointer;
  font-size: 13px;
  text-align: left;
}
.used > button:hover {
  background: var(--hover);
}
.used > [aria-pressed='true'] {
  border-color: var(--porch);
  background: color-mix(in srgb, var(--porch) 10%, transparent);
}
.name {
  flex: 1;
}
.nothing {
  display: flex;
  gap: 8px;
  flex: 1;
  margin: 0;
  padding: 4px 7px;
  color: var(--quiet);
}
.plain {
  text-decoration: underline;
  padding: 2px;
}
p {
  margin: 8px 4px 2px;
  font-size: 13px;
}
</style>
