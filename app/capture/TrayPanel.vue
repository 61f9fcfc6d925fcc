<script setup lang="ts">
import { readDetails } from '#core/capture/quick-details'
import { removeAll, topicOf, type TopicId, trayOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { actionFor, isKeyOf } from '~/keys/keys'
import { readLarge } from './copying'
import { isLarge } from './read-aside'
import { addItems, addLines, file } from './tray'

/**
 * Lines captured but not yet placed. Written one after the other; filed by a few letters of where they belong, or
 * dragged.
 */
const desk = useDesk()
const emit = defineEmits<{ closed: [] }>()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const draft = ref('')
const writing = ref<HTMLTextAreaElement>()
const list = ref<HTMLElement>()
const lines = computed(() => {
  void desk.tick.value
  return trayOf(desk.tree).map(id => topicOf(desk.tree, id))
})
/** What is understood of the line that is being written. */
const chips = computed(() => (draft.value.includes('//') ? readDetails(draft.value, desk.known()).chips : []))
const chosen = ref<readonly TopicId[]>([])
let anchor: TopicId | null = null
const filing = ref(false)
/** The first letters of the target, typed on the list already. */
const letters = ref('')

watch(lines, now => {
  chosen.value = chosen.value.filter(id => now.some(line => line.id === id))
})

function write(event: KeyboardEvent): void {
  if (event.key === 'Escape') return
  event.stopPropagation()
  if (event.key === 'Enter' && !event.shiftKey && !event.isComposing) {
    event.preventDefault()
    addLines(desk, draft.value)
    draft.value = ''
    nextTick(() => list.value?.lastElementChild?.scrollIntoView({ block: 'nearest' }))
  } else if (event.key === 'ArrowDown' && draft.value === '' && lines.value.length > 0) {
    event.preventDefault()
    choose(lines.value[0]!.id)
    list.value?.focus()
  }
}
async function paste(event: ClipboardEvent): Promise<void> {
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (!text.trim().includes('\n')) return
  event.preventDefault()
  event.stopPropagation()
  try {
    const pasted = { own: '', html: '', text, tree: desk.session.treeId }
    const large = isLarge(pasted) ? await readLarge(desk, pasted) : undefined
    if (large === null) return
    const count = large ? addItems(desk, large.items) : addLines(desk, text)
    desk.say(`Put ${count.toLocaleString('en')} lines in the tray.`, true)
  } catch (error) {
    desk.say((error as Error).message)
  }
}

function choose(id: TopicId, how: { add?: boolean; range?: boolean } = {}): void {
  const ids = lines.value.map(line => line.id)
  if (how.range && anchor) {
    const [a, b] = [ids.indexOf(anchor), ids.indexOf(id)].sort((x, y) => x - y)
    chosen.value = ids.slice(a, b! + 1)
    return
  }
  chosen.value = how.add
    ? chosen.value.includes(id)
      ? chosen.value.filter(other => other !== id)
      : [...chosen.value, id]
    : [id]
  anchor = id
}

function key(event: KeyboardEvent): void {
  if (event.key === 'Escape') return
  event.stopPropagation()
  const ids = lines.value.map(line => line.id)
  const last = chosen.value.at(-1)
  const here = last ? ids.indexOf(last) : -1
  const action = actionFor('tray', event)
  const by = action?.endsWith('-down') ? 1 : action?.endsWith('-up') ? -1 : 0
  if (by !== 0) {
    event.preventDefault()
    const next = ids[here + by]
    if (next) choose(next, { range: action!.startsWith('tray-extend') })
    else if (by < 0) writing.value?.focus()
  } else if (action === 'tray-file' && chosen.value.length > 0) begin(event)
  else if (action === 'tray-remove' && !event.repeat && chosen.value.length > 0 && desk.guard()) {
    const count = chosen.value.length
    desk.run(removeAll(desk.tree, chosen.value))
    desk.say(`Removed ${count === 1 ? 'a line' : `${count} lines`} from the tray.`, true)
  } else if (action === 'tray-all') {
    event.preventDefault()
    chosen.value = ids
  } else if (isKeyOf('undo', event) || isKeyOf('redo', event)) {
    event.preventDefault()
    if (isKeyOf('redo', event)) desk.redo()
    else desk.undo()
  } else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey && chosen.value.length > 0) {
    // Type-ahead: the letters already say where it goes.
    begin(event, event.key)
  }
}
function begin(event: Event, first = ''): void {
  event.preventDefault()
  letters.value = first
  filing.value = true
}

function fileUnder(id: TopicId): void {
  const ids = lines.value.map(line => line.id)
  const next =
    ids.find((one, i) => i > ids.indexOf(chosen.value.at(-1)!) && !chosen.value.includes(one)) ??
    ids.find(one => !chosen.value.includes(one))
  file(desk, chosen.value, id)
  chosen.value = next ? [next] : []
  endFiling()
}
function endFiling(): void {
  filing.value = false
  list.value?.focus()
}

function drag(event: DragEvent, id: TopicId): void {
  if (!chosen.value.includes(id)) choose(id)
  desk.carried = chosen.value
  event.dataTransfer?.setData('text/plain', chosen.value.map(one => topicOf(desk.tree, one).title).join('\n'))
  event.dataTransfer?.setData('text/x-sun-porch-tray', 'lines')
}
</script>

<template>
  <section v-opened="{ manner: 'layer', close: () => emit('closed') }" class="tray" aria-label="Tray">
    <header>
      <h2>Tray</h2>
      <span class="quiet">{{ lines.length || '' }}</span><button
        class="icon-button"
        aria-label="Close the tray"
        data-close
        @click="emit('closed')">
        <Icon name="lucide:x" size="16" />
      </button>
    </header>
    <textarea
      v-if="may"
      ref="writing"
      v-model="draft"
      rows="1"
      placeholder="Write a line, Enter, the next …"
      aria-label="New line for the tray"
      @keydown="write"
      @paste="paste" />
    <p v-if="chips.length" class="chips" role="status">
      <span v-for="chip in chips" :key="chip.kind + chip.text">{{ chip.text }}</span>
    </p>
    <ol
      ref="list"
      tabindex="0"
      role="listbox"
      aria-multiselectable="true"
      aria-label="Lines in the tray"
      @keydown="key">
      <li
        v-for="line in lines"
        :key="line.id"
        role="option"
        :aria-selected="chosen.includes(line.id)"
        draggable="true"
        @click="choose(line.id, { add: $event.ctrlKey || $event.metaKey, range: $event.shiftKey })"
        @dblclick="begin($event)"
        @dragstart="drag($event, line.id)"
        @dragend="desk.carried = []">
        <MarkerSign v-for="marker in line.markers" :id="marker" :key="marker" :size="15" />{{
          line.title || 'untitled'
        }}
      </li>
    </ol>
    <p v-if="lines.length === 0" class="quiet none">
      Whatever comes to mind goes here first. Later, <kbd>Enter</kbd> on a line and a few letters say where it belongs;
      or drag it to the tree.
    </p>
    <TargetPicker
      v-if="filing"
      class="filing"
      label="File under"
      :letters="letters"
      @chosen="fileUnder"
      @closed="endFiling" />
  </section>
</template>

<style scoped>
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 0 12px 8px;
  font-size: 12px;
}
.chips span {
  background: var(--ceiling);
  border-radius: 6px;
  padding: 1px 7px;
  font-weight: 600;
}
.tray {
  position: relative;
  width: 264px;
  height: 100%;
  background: var(--surface);
  border-right: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 10px 8px 6px 14px;
}
header .quiet {
  flex: 1;
}
textarea {
  margin: 0 12px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--page);
  color: inherit;
  font: inherit;
  padding: 7px 9px;
  resize: none;
  field-sizing: content;
  max-height: 120px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0 8px;
  overflow: auto;
  flex: 0 1 auto;
  outline-offset: -2px;
}
li {
  padding: 5px 8px;
  border-radius: 5px;
  cursor: grab;
  font-size: 13.5px;
  line-height: 1.35;
  border-left: 2px solid transparent;
  display: flex;
  gap: 5px;
  overflow-wrap: anywhere;
}
li:hover {
  background: var(--hover);
}
li[aria-selected='true'] {
  background: var(--ceiling);
  border-left-color: var(--porch);
}
.none {
  padding: 4px 16px;
  font-size: 13px;
  line-height: 1.6;
}
.filing {
  position: absolute;
  left: 10px;
  right: -90px;
  bottom: 12px;
}
</style>
