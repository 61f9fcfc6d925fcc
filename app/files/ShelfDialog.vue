<script setup lang="ts">
import type { ShelfPicture } from '#core/contract'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { hangPicture } from './free-picture'
import { putPicture } from './pictures'
import { markFromShelf } from './shelf'

/** Pictures that ship with the app, found by words: into topics, or on them as a marker. */
const {
  topics,
  first = 'picture',
  beside = false,
} = defineProps<{
  topics: readonly TopicId[]
  /** What becomes of a picture, until somebody says otherwise. */
  first?: 'picture' | 'marker'
  /** A picture hangs beside its topic, on a thread, instead of in it. */
  beside?: boolean
}>()
const emit = defineEmits<{ closed: [] }>()
const desk = useDesk()
const visible = ref(true)
const words = ref('')
const found = shallowRef<readonly ShelfPicture[]>([])
const asked = ref('')
const as = ref(first)
const { busy, wrong, attempt } = useAttempt()
const language = computed(() => (desk.tree.fields.language ?? navigator.language).slice(0, 2))
const shown = computed(() => (as.value === 'marker' ? found.value.filter(({ emoji }) => emoji !== null) : found.value))

let waiting = 0
/** One question at a time, however fast somebody types; while one is under way only the newest words wait. */
let under: Promise<void> | null = null
watch(words, () => {
  clearTimeout(waiting)
  waiting = window.setTimeout(look, 180)
})
onBeforeUnmount(() => clearTimeout(waiting))
function look(): Promise<void> {
  clearTimeout(waiting)
  under ??= askAll().finally(() => (under = null))
  return under
}
async function askAll(): Promise<void> {
  for (;;) {
    const wanted = words.value.trim()
    await attempt(async () => {
      const query = { words: wanted, language: language.value }
      found.value = wanted === '' ? [] : await callApi<ShelfPicture[]>('/api/shelf', { query })
      asked.value = wanted
    })
    if (wrong.value !== '' || wanted === words.value.trim()) return
  }
}
/** Enter takes the first of what the words that stand there now find. */
async function enter(): Promise<void> {
  if (asked.value !== words.value.trim()) await look()
  const [first] = shown.value
  if (first) await take(first)
}
/** A second Enter while the first is under way is the same one. */
let taken = false
async function take(picture: ShelfPicture): Promise<void> {
  if (taken || !desk.guard()) return
  if (as.value === 'marker') {
    if (markFromShelf(desk, picture, topics)) close()
    return
  }
  taken = true
  await attempt(async () => {
    const bring = beside ? hangPicture : putPicture
    for (const topic of topics) await bring(desk, { shelf: picture.id }, topic)
  })
  taken = wrong.value === ''
  if (taken) close()
}
function close(): void {
  visible.value = false
}
const grid = ref<HTMLElement>()
const field = ref<HTMLElement>()
/** The arrow keys go over the pictures; up from the first row is the field again. */
function move(event: KeyboardEvent): void {
  const all = [...(grid.value?.querySelectorAll('button') ?? [])]
  const at = all.indexOf(document.activeElement as HTMLButtonElement)
  const [a, b] = [all[0]?.offsetTop, all.findIndex(one => one.offsetTop !== all[0]?.offsetTop)]
  const row = a === undefined || b < 0 ? all.length : b
  const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: at < 0 ? 1 : row, ArrowUp: -row }[event.key]
  if (step === undefined) return
  event.preventDefault()
  if (at + step < 0 && event.key === 'ArrowUp') field.value?.querySelector('input')?.focus()
  else all[Math.max(0, Math.min(all.length - 1, at + step))]?.focus()
}
const onField = (event: KeyboardEvent): void => {
  if (event.key === 'ArrowDown') move(event)
}
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    header="Shelf of pictures"
    :style="{ width: 'min(560px, 94vw)' }"
    @closed="emit('closed')">
    <div class="shelf">
      <div ref="field" class="ask">
        <InputText
          v-model="words"
          fluid
          autofocus
          maxlength="100"
          placeholder="What do you look for? Lift, Bücher, fête …"
          aria-label="Words for a picture"
          @keydown.enter.prevent="enter"
          @keydown="onField" />
        <span class="segments" role="group" aria-label="What becomes of it">
          <button :aria-pressed="as === 'picture'" @click="as = 'picture'">Picture</button>
          <button :aria-pressed="as === 'marker'" @click="as = 'marker'">Marker</button>
        </span>
      </div>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <div ref="grid" class="grid" role="group" aria-label="Pictures" @keydown="move">
        <button
          v-for="picture in shown"
          :key="picture.id"
          :disabled="busy"
          :aria-label="picture.label"
          :data-tip="picture.label"
          @click="take(picture)">
          <img :src="`data:image/svg+xml;utf8,${encodeURIComponent(picture.drawing)}`" alt="" />
        </button>
      </div>
      <p v-if="asked && shown.length === 0 && !busy" class="quiet" role="status">
        Nothing on the shelf is called “{{ asked }}”. Another word may do, or an English one.
      </p>
      <p v-else-if="!asked" class="quiet">
        Everyday things, signs and symbols, by words in English and in the language of the tree.
      </p>
      <p class="quiet from">Pictures: OpenMoji, CC BY-SA 4.0. Symbols: Lucide, ISC.</p>
    </div>
  </PorchDialog>
</template>

<style scoped>
.shelf {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.ask {
  display: flex;
  gap: 8px;
  align-items: center;
}
.segments {
  flex: none;
}
.segments button {
  min-width: max-content;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(52px, 1fr));
  gap: 6px;
  max-height: min(46vh, 380px);
  overflow: auto;
  padding: 3px;
}
.grid button {
  border: 1px solid transparent;
  border-radius: 8px;
  /* As on paper, by dusk too: drawings have dark lines. */
  background: #f6f8f7;
  min-height: 52px;
  padding: 5px;
  cursor: pointer;
  display: grid;
  place-items: center;
}
.grid button:hover,
.grid button:focus-visible {
  border-color: var(--porch);
}
.grid img {
  width: 40px;
  height: 40px;
}
.from {
  font-size: 12px;
  margin: 0;
}
p {
  margin: 0;
}
</style>
