<script setup lang="ts">
import { fold } from '#core/find/text'
import { COMMANDS } from './commands'
import { changeKey, chordInWords, chordOf, keys, resetKeys } from './keys'
import { SECTIONS } from './keymap'

const visible = defineModel<boolean>('visible', { required: true })
const groups = [...new Set(COMMANDS.map(command => command.group))]
const waiting = ref<string | null>(null)
/** The key that was pressed while another may follow. */
const first = ref('')
const SECOND_KEY_MS = 700
let timer = 0
const query = ref('')
const words = computed(() => fold(query.value.trim()).split(/\s+/).filter(Boolean))
/** Whether a line is shown: all its words are in it, or one of its keys is what was typed. */
const shows = (name: string, chords: readonly string[] = []): boolean =>
  words.value.every(word => fold(name).includes(word)) ||
  chords.some(chord => fold(chordInWords(chord)) === fold(query.value.trim()))
const commandsOf = (group: string) => COMMANDS.filter(one => one.group === group && shows(one.name, keys.value[one.id]))
const sections = computed(() =>
  SECTIONS.map(({ title, names }) => ({
    title,
    actions: Object.entries(names)
      .filter(([id, name]) => shows(name, keys.value[id]))
      .map(([id, name]) => ({ id, name })),
  })).filter(({ actions }) => actions.length > 0),
)

function taken(event: KeyboardEvent): void {
  if (!waiting.value) return
  const chord = chordOf(event)
  if (chord === 'Escape' && first.value) {
    // Who leaves at once is content with the one key; Esc does what it does.
    keep(first.value)
    return
  }
  event.preventDefault()
  event.stopPropagation()
  if (!chord) return
  clearTimeout(timer)
  if (chord === 'Escape') waiting.value = null
  else if (first.value) keep(`${first.value} ${chord}`)
  else {
    // A second key that follows at once makes it a key of two steps.
    first.value = chord
    timer = window.setTimeout(() => keep(first.value), SECOND_KEY_MS)
  }
}
function keep(chord: string): void {
  clearTimeout(timer)
  if (waiting.value) changeKey(waiting.value, chord)
  first.value = ''
  waiting.value = null
}
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    header="Keys"
    position="top"
    :style="{ width: 'min(880px, 95vw)' }">
    <InputText
      v-model="query"
      fluid
      class="which"
      placeholder="Which command or key?"
      aria-label="Which command or key" />
    <div class="keys" @keydown.capture="taken">
      <section v-for="group in groups.filter(one => commandsOf(one).length > 0)" :key="group">
        <h3>{{ group }}</h3>
        <div v-for="command in commandsOf(group)" :key="command.id" class="key">
          <span>{{ command.name }}</span>
          <button
            :aria-label="`Change the key for ${command.name}`"
            @click="waiting = waiting === command.id ? null : command.id">
            <template v-if="waiting === command.id">{{
              first ? `${chordInWords(first)} …` : 'press a key, or two'
            }}</template>
            <kbd v-for="chord in keys[command.id] ?? []" v-else :key="chord">{{ chordInWords(chord) }}</kbd>
            <span v-if="waiting !== command.id && !keys[command.id]?.length" class="quiet">none</span>
          </button>
        </div>
      </section>
      <section v-for="section in sections" :key="section.title">
        <h3>{{ section.title }}</h3>
        <div v-for="{ id, name } in section.actions" :key="id" class="key">
          <span>{{ name }}</span>
          <button :aria-label="`Change the key for ${name}`" @click="waiting = waiting === id ? null : id">
            <template v-if="waiting === id">{{ first ? `${chordInWords(first)} …` : 'press a key, or two' }}</template>
            <kbd v-for="chord in keys[id] ?? []" v-else :key="chord">{{ chordInWords(chord) }}</kbd>
          </button>
        </div>
      </section>
      <section v-if="words.length === 0">
        <h3>And everywhere</h3>
        <div class="key">
          <span>In a title: people, dates, “3 days”, “40%”, markers, in plain words</span><kbd>//</kbd>
        </div>
        <div class="key"><span>A file or link of the item that runs</span><kbd>1 – 9</kbd></div>
        <div class="key"><span>Brief, meeting, minutes, series</span><kbd>Alt + 1 – 4</kbd></div>
        <h3>Mouse and touch</h3>
        <div class="key"><span>Drag a topic</span><span class="quiet">shows where it will land</span></div>
        <div class="key"><span>Shift or Ctrl + click</span><span class="quiet">selects more</span></div>
        <div class="key"><span>Double click on nothing</span><span class="quiet">a loose topic</span></div>
        <div class="key"><span>Ctrl + wheel, pinch</span><span class="quiet">zoom</span></div>
      </section>
    </div>
    <template #footer>
      <span class="quiet hint">Click a key to change it.</span>
      <Button text label="Back to the first keys" @click="resetKeys" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.which {
  margin-bottom: 14px;
}
.keys {
  columns: 2;
  column-gap: 36px;
}
section {
  break-inside: avoid-column;
  margin-bottom: 12px;
}
h3 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 0 0 4px;
}
.key {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 2px 0;
  font-size: 13px;
  align-items: center;
}
.key button {
  border: 0;
  background: none;
  cursor: pointer;
  display: flex;
  gap: 4px;
  border-radius: 6px;
  padding: 1px 3px;
  white-space: nowrap;
  min-height: 24px;
  min-width: 24px;
  align-items: center;
}
.key button:hover {
  background: var(--hover);
}
.hint {
  flex: 1;
  align-self: center;
}
:deep(.p-dialog-footer) {
  align-items: center;
}
@media (max-width: 700px) {
  .keys {
    columns: 1;
  }
}
</style>
