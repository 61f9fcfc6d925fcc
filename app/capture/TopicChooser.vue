<script setup lang="ts">
import { fold, foldedTitle } from '#core/find/text'
import { allTopics, fromSnapshot, pathTo, shorten, type Snapshot, type TopicId, type Tree } from '#core/tree'
import { useDesk } from '~/desk/desk'

/**
 * Chooses a topic by a few letters, of this tree or of another one that one may see. `abroad`: only of another.
 */
const props = defineProps<{ header: string; abroad?: boolean }>()
const desk = useDesk()
const emit = defineEmits<{ chosen: [of: { tree: string | null; topic: TopicId; title: string }]; closed: [] }>()
const words = ref('')
const at = ref(0)
const where = ref<string>('')
const trees = ref<readonly { id: string; title: string }[]>([])
const other = shallowRef<Tree | null>(null)
const trouble = ref('')
const MOST = 12

onMounted(() =>
  callApi<{ id: string; title: string }[]>('/api/trees').then(
    list => {
      trees.value = list.filter(tree => tree.id !== desk.session.treeId)
      if (props.abroad) where.value = trees.value[0]?.id ?? ''
      if (props.abroad && !where.value) trouble.value = 'There is no other tree that you may look at.'
    },
    () => {
      trouble.value = props.abroad
        ? 'Other trees can’t be read just now.'
        : 'Other trees can’t be read just now; topics of this one can be chosen.'
    },
  ),
)
watch(where, async id => {
  other.value = null
  at.value = 0
  trouble.value = ''
  if (!id) return
  try {
    other.value = fromSnapshot((await callApi<{ snapshot: Snapshot }>(`/api/trees/${id}`)).snapshot)
  } catch (error) {
    trouble.value = (error as Error).message
  }
})

const targets = computed(() => {
  const tree = where.value ? other.value : props.abroad ? null : desk.tree
  if (!tree) return []
  const wanted = fold(words.value.trim()).split(/\s+/).filter(Boolean)
  const found: { id: string; title: string; path: string }[] = []
  for (const topic of allTopics(tree)) {
    if (!wanted.every(word => foldedTitle(topic).includes(word))) continue
    found.push({
      id: topic.id,
      title: topic.title || 'untitled',
      path: pathTo(tree, topic.id)
        .slice(0, -1)
        .map(above => shorten(above.title, 20))
        .join(' › '),
    })
    if (found.length >= MOST) break
  }
  return found
})
function choose(i: number): void {
  const target = targets.value[i]
  if (!target) return
  emit('chosen', { tree: where.value || null, topic: target.id, title: target.title })
}
function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    at.value = Math.max(0, Math.min(targets.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    choose(at.value)
  }
}
</script>

<template>
  <PorchDialog :header="header" :style="{ width: 'min(560px, 96vw)' }" @closed="emit('closed')">
    <p class="quiet"><slot /></p>
    <div class="row">
      <select v-model="where" aria-label="From which tree">
        <option v-if="!abroad" value="">This tree</option>
        <option v-for="tree in trees" :key="tree.id" :value="tree.id">{{ shorten(tree.title, 60) }}</option>
      </select>
      <InputText
        v-model="words"
        fluid
        placeholder="A few letters of its title"
        :aria-label="abroad ? 'Topic to wait for' : 'Topic to show'"
        role="combobox"
        aria-expanded="true"
        aria-controls="topics-to-choose"
        :aria-activedescendant="targets[at] ? `to-choose-${at}` : undefined"
        @input="at = 0"
        @keydown="key" />
    </div>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <div id="topics-to-choose" class="targets" role="listbox" aria-label="Topics">
      <div
        v-for="(one, i) in targets"
        :id="`to-choose-${i}`"
        :key="one.id"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @click="choose(i)">
        <b>{{ shorten(one.title, 60) }}</b><span class="quiet">{{ one.path }}</span>
      </div>
      <p v-if="!targets.length" class="quiet">
        {{ where && !other && !trouble ? 'Opening …' : trouble ? '' : 'No topic has these words.' }}
      </p>
    </div>
  </PorchDialog>
</template>

<style scoped>
.row {
  display: flex;
  gap: 8px;
}
select {
  font: inherit;
  color: inherit;
  background: var(--page);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 5px 8px;
  max-width: 45%;
}
.targets {
  margin-top: 10px;
  min-height: 200px;
}
[role='option'] {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 6px 9px;
  border-radius: 6px;
  cursor: pointer;
  font-size: 13.5px;
}
[role='option'] b {
  font-weight: 600;
}
[role='option'] .quiet {
  font-size: 12px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.on {
  background: var(--ceiling);
}
p {
  margin: 0 0 10px;
}
.trouble {
  color: var(--clay);
  margin-top: 8px;
}
</style>
