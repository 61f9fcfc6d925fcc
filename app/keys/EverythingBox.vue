<script setup lang="ts">
import { allTopics, markersOf, pathTo, shorten, type Topic, topicOf } from '#core/tree'
import { fold, foldedTitle } from '#core/find/text'
import { chordInWords, keys } from './keys'
import { HAND_OUT_KINDS, KIND_NAMES } from '#core/tree/hand-out'
import { wantedKind } from '~/handing/making'
import { COMMANDS, type Command, commandOf } from './commands'
import { useDesk } from '~/desk/desk'
import { FORMATS } from '~/share/formats'

/** One search over topics, commands, markers, people, what can be taken along, and trees. */
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ run: [command: Command] }>()
const desk = useDesk()
const query = ref('')
const at = ref(0)
const trees = ref<readonly { id: string; title: string }[]>([])
const list = ref<HTMLElement>()

watch(
  visible,
  async now => {
    if (!now) return
    query.value = ''
    at.value = 0
    trees.value = await callApi<{ id: string; title: string }[]>('/api/trees').catch(() => [])
  },
  { immediate: true },
)

interface Hit {
  readonly key: string
  readonly kind: string
  readonly name: string
  readonly more: string
  readonly run: () => void
}
const MOST = 40
/** 0 for what is called exactly so, 1 for what begins so, 2 for the rest. */
const nearness = (name: string, wanted: string): number => (name === wanted ? 0 : name.startsWith(wanted) ? 1 : 2)

const hits = computed<Hit[]>(() => {
  if (!visible.value) return []
  const wanted = fold(query.value.trim())
  const words = wanted.split(/\s+/)
  const fits = (text: string): boolean => words.every(word => fold(text).includes(word))
  const found: Hit[] = []
  if (wanted) {
    const near: Topic[][] = [[], [], []]
    for (const topic of allTopics(desk.tree)) {
      const title = foldedTitle(topic)
      if (words.every(word => title.includes(word))) near[nearness(title, wanted)]!.push(topic)
    }
    for (const topic of near.flat().slice(0, MOST)) {
      const path = pathTo(desk.tree, topic.id).slice(0, -1)
      found.push({
        key: topic.id,
        kind: 'topic',
        name: shorten(topic.title, 80),
        more: path.map(above => shorten(above.title, 24)).join(' › '),
        run: () => desk.visit(topic.id),
      })
    }
    for (const person of desk.status.people) {
      if (fits(person.name))
        found.push({
          key: person.id,
          kind: 'person',
          name: person.name,
          more: 'select what is theirs',
          run: () => selectOf(person.id),
        })
    }
    for (const marker of desk.session.canEdit ? markersOf(desk.tree.fields) : []) {
      const worn = desk.selected().every(id => topicOf(desk.tree, id).markers.includes(marker.id))
      if (fits(marker.name))
        found.push({
          key: `marker ${marker.id}`,
          kind: 'marker',
          name: marker.name,
          more: worn ? 'take it off the selection' : 'put it on the selection',
          run: () => desk.toggle('markers', marker.id),
        })
    }
    for (const [format, name] of FORMATS) {
      if (fits(`${name} ${format} save export`))
        found.push({
          key: `take ${format}`,
          kind: 'file',
          name: `Take along: ${name}`,
          more: 'saves a file of the whole tree',
          run: () => takeAlong(format),
        })
    }
    // What is done at once stands before what asks first.
    for (const kind of KIND_NAMES) {
      const { name, extension } = HAND_OUT_KINDS[kind]
      if (fits(`${name} ${extension} hand out save export print`))
        found.push({
          key: `hand out ${kind}`,
          kind: 'file',
          name: `Hand out: ${name}`,
          more: `.${extension}, all of it or a part`,
          run() {
            wantedKind.value = kind
            emit('run', commandOf('hand-out')!)
          },
        })
    }
  }
  for (const command of COMMANDS) {
    if (!wanted || fits(command.name))
      found.push({
        key: command.id,
        kind: 'command',
        name: command.name,
        more: (keys.value[command.id] ?? []).map(chordInWords).join('   '),
        run: () => emit('run', command),
      })
  }
  for (const tree of trees.value) {
    if (tree.id !== desk.session.treeId && (wanted ? fits(tree.title) : false))
      found.push({
        key: tree.id,
        kind: 'tree',
        name: shorten(tree.title, 80),
        more: '',
        run: () => void navigateTo(`/trees/${tree.id}`),
      })
  }
  // Among what is equally near: topics, people, commands and trees in turn.
  return wanted ? found.sort((a, b) => nearness(fold(a.name), wanted) - nearness(fold(b.name), wanted)) : found
})
watch(query, () => {
  at.value = 0
})

function takeAlong(format: string): void {
  const link = document.createElement('a')
  link.href = `/api/trees/${desk.session.treeId}/export/${format}`
  link.download = ''
  link.click()
}
function selectOf(person: string): void {
  const ids = [...allTopics(desk.tree)].filter(topic => topic.people.includes(person)).map(topic => topic.id)
  if (ids.length === 0) return
  desk.visit(ids[0]!)
  desk.selection.value = new Set(ids)
}

function choose(hit: Hit | undefined): void {
  if (!hit) return
  // Asked for from itself, it begins anew.
  if (hit.kind === 'command' && hit.key === 'everything') {
    query.value = ''
    return
  }
  visible.value = false
  nextTick(() => hit.run())
}

function key(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    at.value = Math.max(0, Math.min(hits.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)))
    nextTick(() => list.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest' }))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    choose(hits.value[at.value])
  }
}
const KINDS: Record<string, string> = {
  topic: 'lucide:corner-down-right',
  person: 'lucide:user',
  command: 'lucide:terminal',
  tree: 'lucide:shapes',
}
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    position="top"
    :show-header="false"
    :style="{ width: 'min(620px, 94vw)' }"
    :pt="{ root: { 'aria-label': 'Everything box' } }">
    <div class="box" @keydown="key">
      <InputText
        v-model="query"
        fluid
        placeholder="Topics, commands, people, trees"
        aria-label="Search everything"
        role="combobox"
        aria-expanded="true"
        aria-controls="everything-list"
        :aria-activedescendant="hits[at] ? `hit-${at}` : undefined" />
      <div id="everything-list" ref="list" class="list" role="listbox" aria-label="Found">
        <div
          v-for="(hit, i) in hits"
          :id="`hit-${i}`"
          :key="hit.kind + hit.key"
          role="option"
          class="hit"
          :class="{ on: i === at }"
          :aria-selected="i === at"
          @click="choose(hit)"
          @pointermove="at = i">
          <Icon :name="KINDS[hit.kind]!" size="15" :aria-label="hit.kind" /><span class="name">{{ hit.name }}</span
          ><span class="quiet">{{ hit.more }}</span>
        </div>
        <p v-if="hits.length === 0" class="quiet none">Nothing has these words.</p>
      </div>
    </div>
  </PorchDialog>
</template>

<style scoped>
.box {
  padding-top: 18px;
}
.list {
  max-height: 52vh;
  overflow: auto;
  margin: 10px -8px 0;
}
.hit {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 6px 10px;
  border-radius: 6px;
  cursor: pointer;
}
.hit.on {
  background: var(--ceiling);
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.quiet {
  font-size: 12px;
  white-space: nowrap;
  max-width: 45%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.none {
  padding: 8px 12px;
}
</style>
