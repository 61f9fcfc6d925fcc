<script setup lang="ts">
import { collator } from '#core/tree'
import { expectField } from '~/focus/typeahead'
import { NuxtLink } from '#components'

interface Listed {
  id: string
  title: string
  description: string
  tags: readonly string[]
  role: string
  topicCount: number
  version: number
  news: boolean
  changedAt: string
  createdAt: string
  changedBy: string | null
}
type Scope = 'all' | 'mine' | 'shared' | 'starters' | 'trash'
const theme = useTheme()
const scope = ref<Scope>('all')
const SCOPES = [
  { value: 'all', label: 'All' },
  { value: 'mine', label: 'Mine' },
  { value: 'shared', label: 'From others' },
  { value: 'starters', label: 'Starters' },
  { value: 'trash', label: 'Trash' },
] as const
const trees = ref<Listed[] | null>(null)
const wrong = ref('')
const search = ref('')
const tag = ref('')
const order = ref<'changed' | 'title' | 'created' | 'size'>('changed')
const file = ref<HTMLInputElement>()
const making = ref(false)
const made = ref(false)
watch(making, now => {
  made.value ||= now
})

let asked = 0
async function load(): Promise<void> {
  wrong.value = ''
  const mine = ++asked
  try {
    const found = await callApi<Listed[]>('/api/trees', {
      query: {
        scope: scope.value,
        ...(search.value.trim() ? { text: search.value.trim() } : {}),
        ...(tag.value ? { tag: tag.value } : {}),
      },
    })
    // An answer that was overtaken by a later question is nobody's.
    if (mine === asked) trees.value = found
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
watch([scope, tag], load, { immediate: true })
let timer = 0
watch(search, () => {
  clearTimeout(timer)
  timer = window.setTimeout(load, 180)
})
const words = collator(ownLocale())
const ORDERS: Record<typeof order.value, (a: Listed, b: Listed) => number> = {
  changed: (a, b) => (a.changedAt < b.changedAt ? 1 : -1),
  created: (a, b) => (a.createdAt < b.createdAt ? 1 : -1),
  title: (a, b) => words.compare(a.title, b.title),
  size: (a, b) => b.topicCount - a.topicCount,
}
const listed = computed(() => [...(trees.value ?? [])].sort(ORDERS[order.value]))

async function attempt(what: () => Promise<unknown>): Promise<void> {
  wrong.value = ''
  try {
    await what()
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
const { busy, doubt, foreseen, takeIn, bring: bringFile, go, stop } = useImport()
const bring = (event: Event): Promise<void> =>
  attempt(async () => {
    const input = event.target as HTMLInputElement
    const chosen = input.files?.[0]
    input.value = ''
    if (chosen) await bringFile(chosen)
  })
const said = ref<{ text: string; id: string } | null>(null)
const trash = (tree: Listed): Promise<void> =>
  attempt(async () => {
    await callApi(`/api/trees/${tree.id}`, { method: 'DELETE' })
    said.value = { text: `“${tree.title}” is in the trash.`, id: tree.id }
    await load()
  })
const restore = (id: string): Promise<void> =>
  attempt(async () => {
    await callApi(`/api/trees/${id}/restore`, { method: 'POST' })
    said.value = null
    await load()
  })
useHead({ title: 'Trees · Sun Porch' })
</script>

<template>
  <main class="page">
    <header>
      <h1>Trees</h1>
      <span class="grow" />
      <input
        ref="file"
        type="file"
        class="visually-hidden"
        accept=".json,.md,.markdown,.opml,.xml,.csv,.tsv,.txt,.html,.htm,.ics,.docx,.docm,.xlsx,.xlsm"
        aria-label="File to import"
        tabindex="-1"
        @change="bring" />
      <Button outlined label="Import" @click="file?.click()"
        ><template #icon><Icon name="lucide:file-up" size="16" /></template
      ></Button>
      <Button
        label="New tree"
        @click="
          () => {
            expectField()
            making = true
          }
        "
        ><template #icon><Icon name="lucide:plus" size="16" /></template
      ></Button>
    </header>
    <div class="bar">
      <div class="scopes" role="tablist" aria-label="Which trees">
        <button
          v-for="one in SCOPES"
          :key="one.value"
          role="tab"
          :aria-selected="scope === one.value"
          :class="{ on: scope === one.value }"
          @click="scope = one.value">
          {{ one.label }}
        </button>
      </div>
      <div class="finders">
        <button v-if="tag" class="tag on" :aria-label="`Only trees tagged ${tag}: show all`" @click="tag = ''">
          {{ tag }} <Icon name="lucide:x" size="12" />
        </button>
        <select v-model="order" aria-label="Sort by">
          <option value="changed">changed last</option>
          <option value="title">by title</option>
          <option value="created">newest</option>
          <option value="size">largest</option>
        </select>
        <InputText v-model="search" placeholder="Title, tag or text" aria-label="Search trees" />
      </div>
    </div>
    <Message v-if="wrong" severity="error" role="alert"
      >{{ wrong }} <button class="plain" @click="load">Try again</button></Message
    >
    <KeptTrees v-if="wrong && !trees" />
    <p v-if="busy" class="quiet" role="status">{{ busy }} <button class="plain" @click="stop">Stop</button></p>
    <p v-if="said" role="status">
      {{ said.text }} <button class="plain" @click="restore(said.id)">Bring it back</button>
    </p>
    <p v-if="trees && listed.length === 0" class="quiet none">
      {{
        scope === 'trash'
          ? 'The trash is empty.'
          : search || tag
            ? 'No tree has these words, nor a topic in one.'
            : scope === 'starters'
              ? 'No starters of your own yet. Open a tree and save it as a starter; twelve more are offered under New tree.'
              : 'No trees here yet. Make one, or bring an outline you have.'
      }}
    </p>
    <FirstStepsOffer v-if="trees && scope === 'all' && !search && !tag" :trees="trees" />
    <ul class="list">
      <li v-for="tree in listed" :key="tree.id">
        <component :is="scope === 'trash' ? 'span' : NuxtLink" :to="`/trees/${tree.id}`" class="tree">
          <img
            class="picture"
            :src="`/api/trees/${tree.id}/picture.svg?v=${tree.version}&theme=${theme.shown.value}`"
            width="100"
            height="60"
            alt=""
            loading="lazy" />
          <span class="what">
            <span class="name"
              >{{ tree.title || 'untitled'
              }}<i v-if="tree.news" class="new" title="changed since you last looked"
                ><span class="visually-hidden">changed since you last looked</span></i
              ></span
            >
            <span v-if="tree.description" class="quiet about">{{ tree.description }}</span>
          </span>
          <span class="quiet">{{ tree.topicCount.toLocaleString('en') }} topics</span>
          <span class="quiet">{{ tree.role === 'owner' ? 'mine' : tree.role }}</span>
          <span class="quiet">{{ agoInWords(tree.changedAt) }}{{ tree.changedBy ? `, ${tree.changedBy}` : '' }}</span>
        </component>
        <span class="tags"
          ><button
            v-for="one in tree.tags.slice(0, 4)"
            :key="one"
            class="tag"
            :aria-label="`Only trees tagged ${one}`"
            @click="tag = one">
            {{ one }}
          </button></span
        >
        <button v-if="scope === 'trash'" class="plain" @click="restore(tree.id)">Bring back</button>
        <button
          v-else-if="tree.role === 'owner'"
          title="To the trash"
          class="icon-button"
          :aria-label="`Move ${tree.title} to the trash`"
          @click="trash(tree)">
          <Icon name="lucide:trash-2" size="16" />
        </button>
        <span v-else class="no-button" />
      </li>
    </ul>
    <LazyImportDialog
      v-if="doubt"
      :key="`${doubt.name} ${doubt.unsure}`"
      :doubt="doubt"
      @go="(...given) => attempt(() => go(...given))"
      @closed="doubt = null" />
    <LazyImportPreview
      v-if="foreseen"
      :file="foreseen"
      :busy="busy !== ''"
      @take="attempt(takeIn)"
      @closed="foreseen = null" />
    <LazyNewTreeDialog v-if="made" v-model:visible="making" @file="file?.click()" />
  </main>
</template>

<style scoped src="../trees.css"></style>
