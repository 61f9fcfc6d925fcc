<script setup lang="ts">
import { type Arrangement, ARRANGEMENTS, shorten, topicOf } from '#core/tree'
import { arrange, ARRANGEMENT_NAMES, evenOut, frameFor, space, spaceOf } from './arranging'
import { useDesk } from '~/desk/desk'

/** How the tree, or one branch of it, is laid out, and the space in it. */
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const whole = ref(true)
const branchTopic = computed(() => {
  void desk.lateTick.value
  const id = desk.focus.value
  return id && id !== desk.tree.centre && desk.tree.topics.has(id) ? topicOf(desk.tree, id) : null
})
const target = computed(() => (whole.value || !branchTopic.value ? null : branchTopic.value))
const now = computed(() => {
  void desk.lateTick.value
  return target.value ? target.value.arrangement : desk.tree.fields.arrangement
})
const fields = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields
})
const room = computed(() => {
  void desk.lateTick.value
  return spaceOf(desk, target.value?.id ?? null)
})
/** A branch has space of its own where it can have a frame of its own and look the same. */
const maySpace = computed(() => {
  void desk.lateTick.value
  return may.value && (target.value === null || frameFor(desk, target.value.id) !== null)
})
/** One dial for both directions, until somebody opens it into two. */
const apart = ref(room.value.along !== room.value.across)
watch(target, () => {
  apart.value = room.value.along !== room.value.across
})
function dial(part: Partial<typeof room.value>): void {
  const id = target.value?.id ?? null
  // What is shown follows the tree a frame later; a change is made to what is there.
  space(desk, { ...spaceOf(desk, id), ...part }, id)
}
function readLeft(event: Event): void {
  const value = (event.target as HTMLInputElement).checked
  if (desk.guard()) desk.run({ changes: [{ op: 'tree', field: 'leftDown', value }] })
}
const said = (event: Event): number => Number((event.target as HTMLInputElement).value)
/** Small drawings: a centre and where its branches go. */
const DRAWINGS: Record<Arrangement, string> = {
  both: 'M17 10h10M20 6h-3v8h3M9 10H7M5 6h3v8H5M27 6h3M27 14h3',
  right: 'M9 12h4M13 5v14M13 5h6M13 12h6M13 19h6',
  left: 'M25 12h-4M21 5v14M21 5h-6M21 12h-6M21 19h-6',
  down: 'M17 7v4M7 11h20M7 11v6M17 11v6M27 11v6',
  around: 'M17 12m-8 0a8 8 0 0 1 16 0M17 12m-8 0a8 8 0 0 0 16 0M17 4V1M17 23v-3M9 12H5M29 12h-4',
  time: 'M4 6h26M8 6v6M15 6v11M24 6v8',
  hand: 'M9 7l8 3M9 7l1 9M17 10l8 7',
}
</script>

<template>
  <div class="arrange" data-named-panel>
    <NameField placeholder="Arrangement: a few letters, Enter" />
    <div class="segments" role="group" aria-label="What is arranged">
      <button :aria-pressed="target === null" @click="whole = true">The tree</button>
      <button :aria-pressed="target !== null" :disabled="!branchTopic" @click="whole = false">
        {{ branchTopic ? `“${shorten(branchTopic.title, 22)}”` : 'One branch' }}
      </button>
    </div>
    <div class="ways" role="group" aria-label="Arrangement">
      <button
        v-for="name in ARRANGEMENTS"
        :key="name"
        :disabled="!may"
        :aria-pressed="now === name"
        @click="arrange(desk, name, target?.id ?? null)">
        <svg width="34" height="24" viewBox="0 0 34 24" aria-hidden="true">
          <path :d="DRAWINGS[name]" fill="none" stroke="currentColor" stroke-width="1.6" /></svg
        >{{ ARRANGEMENT_NAMES[name] }}
      </button>
      <button v-if="target" :disabled="!may" :aria-pressed="now === null" @click="arrange(desk, null, target.id)">
        <span class="like">=</span>Like the tree
      </button>
    </div>
    <label v-if="!apart"
      >Space <span>{{ room.along }} %</span
      ><input
        type="range"
        aria-label="Space"
        min="40"
        max="300"
        step="5"
        :value="room.along"
        :disabled="!maySpace"
        @change="dial({ along: said($event), across: said($event) })"
    /></label>
    <template v-else>
      <label v-for="way in ['along', 'across'] as const" :key="way"
        >Space {{ way }} <span>{{ room[way] }} %</span
        ><input
          type="range"
          :aria-label="`Space ${way}`"
          min="40"
          max="400"
          step="5"
          :value="room[way]"
          :disabled="!maySpace"
          @change="dial({ [way]: said($event) })"
      /></label>
    </template>
    <p v-if="may && !maySpace" class="quiet">
      Give the branch an arrangement of its own first; then it has space of its own.
    </p>
    <button class="plain" :aria-expanded="apart" @click="apart = !apart">
      {{ apart ? 'One dial for both' : 'Along and across apart' }}
    </button>
    <template v-if="now === 'both' || now === 'around'">
      <label class="tick"
        ><input type="checkbox" :checked="fields.leftDown" :disabled="!may" @change="readLeft" /> Read the left side
        from the top down</label
      >
      <Button
        outlined
        size="small"
        label="Even out the sides"
        :disabled="!may"
        @click="evenOut(desk, target?.id ?? desk.tree.centre)" />
    </template>
  </div>
</template>

<style scoped>
.arrange {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 3px;
}
.ways button {
  display: flex;
  align-items: center;
  gap: 8px;
  border: 1px solid transparent;
  background: none;
  border-radius: 6px;
  padding: 4px 6px;
  cursor: pointer;
  font-size: 13px;
  text-align: left;
  min-height: 34px;
}
.ways button:hover:not(:disabled) {
  background: var(--hover);
}
.ways [aria-pressed='true'] {
  border-color: var(--porch);
  background: color-mix(in srgb, var(--porch) 10%, transparent);
  font-weight: 600;
}
.ways svg {
  color: var(--porch);
  flex: none;
}
.like {
  width: 34px;
  text-align: center;
  color: var(--porch);
  font-weight: 700;
}
label {
  display: grid;
  grid-template-columns: 1fr auto;
  font-size: 13px;
  color: var(--quiet);
  gap: 2px;
}
.tick {
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: center;
  min-height: 28px;
}
.plain {
  align-self: flex-start;
  padding: 3px 0;
  font-size: 13px;
  text-decoration: underline;
  text-underline-offset: 3px;
}
input[type='range'] {
  grid-column: 1 / -1;
  accent-color: var(--porch);
  width: 100%;
  margin: 0;
  height: 24px;
}
</style>
