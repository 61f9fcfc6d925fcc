<script setup lang="ts">
import { decodeAs, ENCODINGS, type Encoding } from '#core/formats/encoding'

/** Asked before a file becomes a tree, where its bytes or its words can be meant in more than one way. */
export interface Doubt {
  readonly bytes: Uint8Array
  readonly name: string
  readonly encoding: string
  readonly unsure: boolean
  readonly parents: readonly {
    readonly parent: string
    readonly rows: readonly { readonly at: number; readonly path: string }[]
  }[]
}
const props = defineProps<{ doubt: Doubt }>()
const emit = defineEmits<{ go: [text: string, encoding: string, parents: Record<string, number>]; closed: [] }>()
const encoding = ref(props.doubt.encoding)
const NAMES: Record<Encoding, string> = {
  'utf-8': 'Unicode (UTF-8)',
  'utf-16le': 'Unicode (UTF-16 LE)',
  'utf-16be': 'Unicode (UTF-16 BE)',
  'windows-1252': 'Western (Windows-1252)',
  'iso-8859-2': 'Central European (ISO 8859-2)',
  'windows-1250': 'Central European (Windows-1250)',
  'windows-1251': 'Cyrillic (Windows-1251)',
  macintosh: 'Western (Macintosh)',
}
const text = computed(() => decodeAs(props.doubt.bytes, encoding.value))
/** The lines where the choice shows: those with letters beyond ASCII first. */
const preview = computed(() => {
  const lines = text.value
    .split(/\r?\n/)
    .map(line => line.trim())
    .filter(Boolean)
  // eslint-disable-next-line no-control-regex -- beyond ASCII is what differs between encodings
  const telling = lines.filter(line => /[^\u0000-\u007F]/.test(line))
  return (telling.length > 0 ? telling : lines).slice(0, 6).map(line => line.slice(0, 120))
})
const chosen = reactive<Record<string, number>>(
  Object.fromEntries(props.doubt.parents.map(({ parent, rows }) => [parent, rows[0]!.at])),
)
</script>

<template>
  <PorchDialog :header="`Import “${doubt.name}”`" :style="{ width: 'min(560px, 94vw)' }" @closed="emit('closed')">
    <form id="import-doubt" class="form" @submit.prevent="emit('go', text, encoding, chosen)">
      <template v-if="doubt.unsure">
        <p>The file doesn’t say how its letters are written. Do these lines read right?</p>
        <select v-model="encoding" data-first aria-label="Encoding of the file">
          <option v-for="one in ENCODINGS" :key="one" :value="one">{{ NAMES[one] }}</option>
        </select>
        <ul class="preview" aria-label="Preview">
          <li v-for="(line, i) in preview" :key="i" dir="auto">{{ line }}</li>
        </ul>
      </template>
      <template v-for="{ parent, rows } in doubt.parents" :key="parent">
        <label
          >Several rows are called “{{ parent.slice(0, 60) }}”. Which of them is meant as a parent?
          <select v-model="chosen[parent]" :aria-label="`Which “${parent.slice(0, 60)}”`">
            <option v-for="row in rows" :key="row.at" :value="row.at">
              row {{ row.at }}{{ row.path ? `, under ${row.path}` : '' }}
            </option>
          </select>
        </label>
      </template>
    </form>
    <template #footer>
      <Button text label="Cancel" @click="emit('closed')" />
      <Button type="submit" form="import-doubt" label="Import" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.form p {
  margin: 0;
}
.preview {
  list-style: none;
  margin: 0;
  padding: 10px 12px;
  background: var(--hover);
  border-radius: 8px;
  font-size: 13.5px;
  max-height: 180px;
  overflow: auto;
}
label {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
select {
  font: inherit;
  padding: 6px 8px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--surface);
  color: inherit;
}
</style>
