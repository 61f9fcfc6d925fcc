<script setup lang="ts">
import { type Marker, MARKER_HUES, MARKER_SETS, MARKER_SHAPES, MARKER_SIGNS, type MarkerSet } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/**
 * Makes or changes a set of markers for this tree: its name, whether a topic has one of it at most, and each marker's
 * shape, sign, colour and name.
 */
const props = defineProps<{ set: MarkerSet | 'new' }>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
const visible = ref(true)
const draft = reactive<{ id: string; name: string; exclusive: boolean; markers: Marker[] }>(
  props.set === 'new'
    ? { id: newId(), name: '', exclusive: false, markers: [fresh()] }
    : {
        id: props.set.id,
        name: props.set.name,
        exclusive: props.set.exclusive,
        markers: props.set.markers.map(marker => ({ ...marker })),
      },
)
const wrong = ref('')
const ships = computed(() => MARKER_SETS.some(set => set.id === draft.id))
const kept = computed(() => desk.tree.fields.markerSets.some(set => set.id === draft.id))

function fresh(): Marker {
  return { id: newId(), name: '', shape: 'circle', sign: 'mark', hue: 'porch' }
}
function change(i: number, part: Partial<Marker>): void {
  draft.markers[i] = { ...draft.markers[i]!, ...part }
}
function setEmoji(i: number, text: string): void {
  const [first] = new Intl.Segmenter('en', { granularity: 'grapheme' }).segment(text.trim())
  const { emoji: _, ...plain } = draft.markers[i]!
  draft.markers[i] = first ? { ...plain, emoji: first.segment.slice(0, 16) } : plain
}
function save(): void {
  const name = draft.name.trim()
  if (!name || draft.markers.length === 0 || draft.markers.some(marker => !marker.name.trim())) {
    wrong.value = 'The set and each of its markers needs a name.'
    return
  }
  if (!desk.guard()) return
  desk.run({
    changes: [
      {
        op: 'tree-put',
        set: 'markerSets',
        member: { ...draft, name, markers: draft.markers.map(marker => ({ ...marker, name: marker.name.trim() })) },
      },
    ],
  })
  visible.value = false
}
function drop(): void {
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree-take', set: 'markerSets', member: draft.id }] })
  visible.value = false
}
watch(visible, now => {
  if (!now) emit('closed')
})
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    :header="set === 'new' ? 'A set of our own' : `Set “${draft.name}”`"
    :style="{ width: 'min(720px, 95vw)' }">
    <div class="head">
      <InputText v-model="draft.name" maxlength="60" placeholder="Name of the set" aria-label="Name of the set" />
      <label><input v-model="draft.exclusive" type="checkbox" /> one of these at a time</label>
    </div>
    <ul>
      <li v-for="(marker, i) in draft.markers" :key="marker.id">
        <MarkerSign :id="marker.id" :marker="marker" :size="22" />
        <InputText
          :model-value="marker.name"
          size="small"
          maxlength="60"
          :aria-label="`Name of marker ${i + 1}`"
          placeholder="What it means"
          @update:model-value="change(i, { name: $event ?? '' })" />
        <select
          :value="marker.shape"
          aria-label="Shape"
          @change="change(i, { shape: ($event.target as HTMLSelectElement).value as Marker['shape'] })">
          <option v-for="shape in MARKER_SHAPES" :key="shape">{{ shape }}</option>
        </select>
        <select
          :value="marker.sign"
          aria-label="Sign"
          @change="change(i, { sign: ($event.target as HTMLSelectElement).value as Marker['sign'] })">
          <option v-for="sign in MARKER_SIGNS" :key="sign">{{ sign }}</option>
        </select>
        <select
          :value="marker.hue"
          aria-label="Colour"
          @change="change(i, { hue: ($event.target as HTMLSelectElement).value as Marker['hue'] })">
          <option v-for="hue in MARKER_HUES" :key="hue">{{ hue }}</option>
        </select>
        <input
          class="emoji"
          :value="marker.emoji ?? ''"
          placeholder="emoji"
          aria-label="Emoji instead of a sign"
          @change="setEmoji(i, ($event.target as HTMLInputElement).value)" />
        <button
          class="icon-button"
          :aria-label="`Remove ${marker.name || 'this marker'}`"
          @click="draft.markers.splice(i, 1)">
          <Icon name="lucide:x" size="15" />
        </button>
      </li>
    </ul>
    <Button
      text
      size="small"
      label="One more marker"
      :disabled="draft.markers.length >= 60"
      @click="draft.markers.push(fresh())" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button
        v-if="kept"
        text
        severity="secondary"
        :label="ships ? 'Back to how it came' : 'Remove the set'"
        @click="drop" />
      <Button label="Keep" @click="save" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.head {
  display: flex;
  gap: 16px;
  align-items: center;
  margin-bottom: 10px;
  flex-wrap: wrap;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 46vh;
  overflow: auto;
}
li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
  flex-wrap: wrap;
}
li :deep(.p-inputtext) {
  flex: 1;
  min-width: 120px;
}
select,
.emoji {
  font: inherit;
  font-size: 13px;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 5px;
  height: 32px;
}
.emoji {
  width: 62px;
}
.wrong {
  color: var(--clay);
}
</style>
