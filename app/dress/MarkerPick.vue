<script setup lang="ts">
import { type Change, markerOf, markerSetsOf, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pressedMarker } from './marker-pick'

/** The set of a marker that was pressed on its plank: another of it, or none, for the topic, or for all that are selected with it. */
const desk = useDesk()
const pressed = pressedMarker.value!
const set = computed(() => {
  void desk.lateTick.value
  return markerSetsOf(desk.tree.fields).find(({ markers }) => markers.some(({ id }) => id === pressed.marker))
})
const there = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(pressed.topic)?.markers ?? []
})
/** The name of the sign that is pointed at. */
const named = ref('')
const ids = computed(() => (desk.selection.value.has(pressed.topic) ? desk.selected() : [pressed.topic]))
function close(): void {
  pressedMarker.value = null
}
/** Another of the set in place of the pressed one, or of all where a topic has one of them at a time. */
function give(marker: string | null): void {
  const own = set.value?.exclusive ? set.value.markers.map(({ id }) => id) : [pressed.marker]
  const changes = ids.value.flatMap((topic): Change[] => [
    ...topicOf(desk.tree, topic)
      .markers.filter(id => own.includes(id) && id !== marker)
      .map((member): Change => ({ op: 'take', topic, set: 'markers', member })),
    ...(marker !== null && !topicOf(desk.tree, topic).markers.includes(marker)
      ? [{ op: 'put', topic, set: 'markers', member: marker } as Change]
      : []),
  ])
  close()
  if (desk.guard() && changes.length > 0) desk.run({ changes })
}
const without = computed(() =>
  set.value?.exclusive
    ? 'None of them'
    : `Without “${markerOf(pressed.marker, desk.tree.fields.markerSets)?.name ?? ''}”`,
)
/** Arrows go through the signs. */
function go(event: KeyboardEvent, by: number): void {
  const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button')]
  event.preventDefault()
  event.stopPropagation()
  all[(all.indexOf(document.activeElement as HTMLElement) + by + all.length) % all.length]?.focus()
}
watch(
  () => desk.tree.topics.has(pressed.topic) && set.value !== undefined,
  there => {
    if (!there) close()
  },
)
const style = {
  left: `${Math.max(8, Math.min(pressed.at.left - 6, window.innerWidth - 268))}px`,
  top: `${pressed.at.bottom + 6 + 150 > window.innerHeight ? Math.max(8, pressed.at.top - 150) : pressed.at.bottom + 6}px`,
}
</script>

<template>
  <div class="veil" @pointerdown="close" />
  <div
    v-if="set"
    v-opened="{ manner: 'layer', close }"
    class="pick"
    role="dialog"
    :aria-label="`${set.name}: another marker, or none`"
    :style="style"
    @keydown.right="go($event, 1)"
    @keydown.down="go($event, 1)"
    @keydown.left="go($event, -1)"
    @keydown.up="go($event, -1)">
    <p class="quiet">
      {{ set.name
      }}<template v-if="named"
        >: <b>{{ named }}</b></template
      ><template v-if="ids.length > 1">, on {{ ids.length }} topics</template>
    </p>
    <div class="signs">
      <button
        v-for="marker in set.markers"
        :key="marker.id"
        :class="{ on: there.includes(marker.id) }"
        :data-first="marker.id === pressed.marker ? '' : undefined"
        :aria-label="marker.name"
        :aria-pressed="there.includes(marker.id)"
        @focus="named = marker.name"
        @pointerenter="named = marker.name"
        @click="give(marker.id === pressed.marker ? null : marker.id)">
        <MarkerSign :id="marker.id" :size="20" aria-hidden="true" />
      </button>
    </div>
    <button class="none" @click="give(null)">{{ without }}</button>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 40;
}
.pick {
  position: fixed;
  z-index: 41;
  width: 260px;
  box-sizing: border-box;
  padding: 8px 10px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-top: 3px solid var(--sun);
  border-radius: 8px;
  box-shadow: var(--shadow);
}
p {
  margin: 0 0 4px;
  font-size: 12.5px;
}
b {
  color: var(--ink);
}
.signs {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
}
.signs button {
  width: 36px;
  height: 36px;
  display: grid;
  place-items: center;
  border: 0;
  border-radius: 8px;
  background: none;
  cursor: pointer;
}
.signs button:hover,
.signs .on {
  background: var(--ceiling);
}
.none {
  margin-top: 4px;
  border: 0;
  background: none;
  color: var(--porch);
  font: inherit;
  font-weight: 600;
  font-size: 13px;
  min-height: 30px;
  padding: 0 4px;
  cursor: pointer;
}
@media (pointer: coarse) {
  .signs button {
    width: 44px;
    height: 44px;
  }
  .none {
    min-height: 44px;
  }
}
</style>
