<script setup lang="ts">
import { isLive, type Topic, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { expectField } from '~/focus/typeahead'
import { hangPicture } from './free-picture'
import { type BroughtPicture, putPicture } from './pictures'
import { useDraft } from '~/side-sheet/useDraft'

/** The picture of a topic: brought from a file or a web address, placed, sized, taken out. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const field = ref<HTMLInputElement>()
const address = useDraft('picture', props.topic.id)
const busy = ref(false)
/** A picture that the page names whose address was given. */
const offered = ref<{ readonly picture: string; readonly title: string } | null>(null)
const PLACES = [
  ['before', 'Before'],
  ['above', 'Above'],
  ['below', 'Below'],
] as const

/** Where the next one goes: into the topic, or beside it on a thread. */
const beside = ref(false)
const shelf = ref(false)
function choose(aside: boolean): void {
  beside.value = aside
  field.value?.click()
}
function openShelf(aside: boolean): void {
  beside.value = aside
  expectField()
  shelf.value = true
}
async function bring(what: BroughtPicture): Promise<void> {
  busy.value = true
  offered.value = null
  try {
    await (beside.value ? hangPicture : putPicture)(desk, what, props.topic.id)
    address.value = ''
  } catch (error) {
    if (error instanceof ApiError && error.code === 'page' && error.details)
      offered.value = error.details as NonNullable<typeof offered.value>
    else desk.say((error as Error).message)
  } finally {
    busy.value = false
  }
}
function bringAddress(): void {
  beside.value = false
  if (address.value.trim()) void bring(address.value.trim())
}
function chosen(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void bring(file)
}
function change(part: Partial<NonNullable<Topic['picture']>>): void {
  // As it is in the tree: what is shown here may be a moment old, and two quick choices are both kept.
  const now = isLive(desk.tree, props.topic.id) ? topicOf(desk.tree, props.topic.id).picture : null
  if (now) desk.set('picture', { ...now, ...part }, [props.topic.id])
}
</script>

<template>
  <div class="picture">
    <LazyShelfDialog v-if="shelf" :topics="[topic.id]" :beside="beside" @closed="shelf = false" />
    <input
      ref="field"
      type="file"
      class="visually-hidden"
      accept="image/png,image/jpeg,image/gif,image/webp,image/avif,image/tiff"
      aria-label="Picture from a file"
      tabindex="-1"
      @change="chosen" />
    <template v-if="topic.picture">
      <span class="segments" role="group" aria-label="Where the picture stands">
        <button
          v-for="[place, name] in PLACES"
          :key="place"
          :disabled="!may"
          :aria-pressed="topic.picture.place === place"
          @click="change({ place })">
          {{ name }}
        </button>
      </span>
      <label
        >Width
        <input
          type="range"
          min="24"
          max="600"
          step="4"
          :value="topic.picture.width"
          :disabled="!may"
          aria-label="Width of the picture"
          @change="change({ width: Number(($event.target as HTMLInputElement).value) })"
      /></label>
      <div class="row">
        <button v-if="may" class="plain" @click="choose(false)">Another one</button>
        <button v-if="may" class="plain" @click="desk.set('picture', null, [topic.id])">Take it out</button>
      </div>
    </template>
    <template v-else-if="may">
      <div class="row">
        <button class="plain" :disabled="busy" @click="choose(false)">
          {{ busy ? 'Sending …' : 'From a file …' }}
        </button>
        <button class="plain" @click="openShelf(false)">From the shelf …</button>
      </div>
      <InputText
        v-model="address"
        size="small"
        fluid
        placeholder="or https://… of a picture"
        aria-label="Address of a picture"
        :disabled="busy"
        @keydown.enter="bringAddress" />
      <p v-if="offered" class="offered" role="status">
        That is a page{{ offered.title ? `, “${offered.title}”` : '' }}. It names a picture.
        <button class="plain" @click="bring(offered.picture)">Take that picture</button>
        <button class="plain" @click="offered = null">Leave it</button>
      </p>
    </template>
    <div v-if="may" class="row" role="group" aria-label="A picture beside it">
      <span class="quiet">Beside it, on a thread</span>
      <button class="plain" :disabled="busy" aria-label="Beside it: from a file" @click="choose(true)">a file …</button>
      <button class="plain" :disabled="busy" aria-label="Beside it: from the shelf" @click="openShelf(true)">
        the shelf …
      </button>
    </div>
  </div>
</template>

<style scoped>
.offered {
  margin: 0;
  font-size: 13px;
}
.picture {
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: stretch;
}
label {
  display: flex;
  gap: 10px;
  align-items: center;
  font-size: 13px;
  color: var(--quiet);
}
input[type='range'] {
  flex: 1;
  accent-color: var(--porch);
  height: 24px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  font-size: 13px;
}
.plain {
  padding: 3px 0;
  min-height: 24px;
}
</style>
