<script setup lang="ts">
import { readPosition, writeGeo } from '#core/formats/geo'
import type { Place, Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { useDraft } from './useDraft'

/** Where a topic is: a town from the list, a name of one's own, or coordinates; on a small map. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const said = useDraft('place', props.topic.id)
interface Found {
  readonly name: string
  readonly where: string
  readonly lat: number
  readonly lon: number
}
const found = ref<readonly Found[]>([])
const at = ref(-1)
let timer = 0
let asked = 0

function type(): void {
  clearTimeout(timer)
  at.value = -1
  const text = said.value.trim()
  if (text.length < 2 || readPosition(text)) {
    found.value = []
    return
  }
  const mine = ++asked
  timer = window.setTimeout(() => {
    callApi<Found[]>('/api/places', { query: { text } }).then(
      list => {
        if (mine === asked) found.value = list
      },
      () => {
        found.value = []
      },
    )
  }, 150)
}
function set(place: Place | null): void {
  desk.set('place', place, [props.topic.id])
  said.value = ''
  found.value = []
}
function choose(one: Found): void {
  set({
    name: props.topic.place?.name && !props.topic.place.lat ? props.topic.place.name : `${one.name}, ${one.where}`,
    lat: one.lat,
    lon: one.lon,
  })
}
function keep(): void {
  const text = said.value.trim().toWellFormed()
  if (!text) return
  if (found.value[at.value]) {
    choose(found.value[at.value]!)
    return
  }
  const position = readPosition(text)
  set(
    position
      ? { name: props.topic.place?.name ?? '', ...position }
      : { name: text.slice(0, 200), lat: props.topic.place?.lat ?? null, lon: props.topic.place?.lon ?? null },
  )
}
function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    at.value = Math.max(-1, Math.min(found.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)))
  } else if (event.key === 'Escape') {
    said.value = ''
    found.value = []
  }
}
const place = computed(() => props.topic.place)
const geo = computed(() =>
  place.value?.lat != null && place.value.lon !== null ? writeGeo({ lat: place.value.lat, lon: place.value.lon }) : '',
)
</script>

<template>
  <div class="place">
    <template v-if="place">
      <div class="line">
        <Icon name="lucide:map-pin" size="15" class="quiet" /><b>{{ place.name || 'Unnamed place' }}</b
        ><button v-if="may" class="icon-button" aria-label="Take the place off" @click="set(null)">
          <Icon name="lucide:x" size="14" />
        </button>
      </div>
      <template v-if="place.lat !== null && place.lon !== null">
        <LazyWorldMap
          :lat="place.lat"
          :lon="place.lon"
          :name="place.name"
          :may="may"
          @chosen="(lat, lon) => set({ name: place!.name, lat, lon })" />
        <a class="geo" :href="geo">{{ geo }}</a>
      </template>
    </template>
    <form v-if="may" @submit.prevent="keep">
      <InputText
        v-model="said"
        size="small"
        fluid
        :placeholder="
          place
            ? place.lat === null
              ? 'Town or 48.2, 16.37'
              : 'Another name, town or position'
            : 'Town, name or 48.2, 16.37'
        "
        aria-label="Place"
        role="combobox"
        :aria-expanded="found.length > 0"
        aria-controls="places"
        :aria-activedescendant="at >= 0 ? `place-${at}` : undefined"
        @input="type"
        @keydown="key" />
    </form>
    <ul v-if="found.length" id="places" role="listbox" aria-label="Towns">
      <li
        v-for="(one, i) in found"
        :id="`place-${i}`"
        :key="i"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @pointerdown.prevent="choose(one)">
        <b>{{ one.name }}</b> <span class="quiet">{{ one.where }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.place {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.line {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.line b {
  flex: 1;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.geo {
  font-size: 12px;
  color: var(--quiet);
}
.place :deep(input) {
  font-size: 13px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 4px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--surface);
  font-size: 13px;
}
li {
  padding: 4px 8px;
  border-radius: 5px;
  cursor: pointer;
}
li.on,
li:hover {
  background: var(--ceiling);
}
li b {
  font-weight: 600;
}
</style>
