<script setup lang="ts">
import { NuxtLink } from '#components'

interface Listed { id: string, title: string, role: string, topicCount: number, version: number, seenVersion: number, changedAt: string, changedBy: string | null }
const scope = ref<'all' | 'mine' | 'shared' | 'trash'>('all')
const SCOPES = [{ value: 'all', label: 'All' }, { value: 'mine', label: 'Mine' }, { value: 'shared', label: 'Shared with me' }, { value: 'trash', label: 'Trash' }] as const
const trees = ref<Listed[] | null>(null)
const wrong = ref('')
const search = ref('')
const busy = ref('')
const file = ref<HTMLInputElement>()

async function load(): Promise<void> {
  wrong.value = ''
  try {
    trees.value = await callApi<Listed[]>('/api/trees', { query: { scope: scope.value } })
  }
  catch (error) {
    wrong.value = (error as Error).message
  }
}
watch(scope, load, { immediate: true })
const listed = computed(() => (trees.value ?? []).filter(tree => tree.title.toLocaleLowerCase().includes(search.value.toLocaleLowerCase())))

async function attempt(what: () => Promise<unknown>): Promise<void> {
  wrong.value = ''
  try {
    await what()
  }
  catch (error) {
    wrong.value = (error as Error).message
  }
}
const make = (): Promise<void> => attempt(async () => {
  const { id } = await callApi<{ id: string }>('/api/trees', { method: 'POST', body: { title: 'New tree' } })
  await navigateTo(`/trees/${id}`)
})
const FORMATS: Record<string, string> = { json: 'json', md: 'markdown', markdown: 'markdown', opml: 'opml', xml: 'opml', txt: 'text', html: 'html', htm: 'html' }
const bring = (event: Event): Promise<void> => attempt(async () => {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (!chosen) return
  const format = FORMATS[chosen.name.split('.').at(-1)?.toLowerCase() ?? '']
  if (!format) throw new Error('Sun Porch reads Markdown, OPML, plain text, HTML lists and its own JSON. Nothing was changed.')
  if (chosen.size > 15 * 1024 * 1024) throw new Error('This file is larger than 15 MB. Nothing was changed.')
  busy.value = `Reading ${chosen.name} …`
  try {
    const { id } = await callApi<{ id: string }>('/api/trees/import', { method: 'POST', body: { format, name: chosen.name, text: await chosen.text() } })
    await navigateTo(`/trees/${id}`)
  }
  finally {
    busy.value = ''
  }
})
const said = ref<{ text: string, id: string } | null>(null)
const trash = (tree: Listed): Promise<void> => attempt(async () => {
  await callApi(`/api/trees/${tree.id}`, { method: 'DELETE' })
  said.value = { text: `“${tree.title}” is in the trash.`, id: tree.id }
  await load()
})
const restore = (id: string): Promise<void> => attempt(async () => {
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
      <input ref="file" type="file" class="visually-hidden" accept=".json,.md,.markdown,.opml,.xml,.txt,.html,.htm" aria-label="File to import" tabindex="-1" @change="bring">
      <Button outlined label="Import" @click="file?.click()"><template #icon><Icon name="lucide:file-up" size="16" /></template></Button>
      <Button label="New tree" @click="make"><template #icon><Icon name="lucide:plus" size="16" /></template></Button>
    </header>
    <div class="bar">
      <div class="scopes" role="tablist" aria-label="Which trees">
        <button v-for="one in SCOPES" :key="one.value" role="tab" :aria-selected="scope === one.value" :class="{ on: scope === one.value }" @click="scope = one.value">{{ one.label }}</button>
      </div>
      <InputText v-model="search" placeholder="Search titles" aria-label="Search titles" />
    </div>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }} <button class="plain" @click="load">Try again</button></Message>
    <p v-if="busy" class="quiet" role="status">{{ busy }}</p>
    <p v-if="said" role="status">{{ said.text }} <button class="plain" @click="restore(said.id)">Bring it back</button></p>
    <p v-if="trees && listed.length === 0" class="quiet none">{{ scope === 'trash' ? 'The trash is empty.' : search ? 'No tree has these words in its title.' : 'No trees here yet. Make one, or bring an outline you have.' }}</p>
    <ul class="list">
      <li v-for="tree in listed" :key="tree.id">
        <component :is="scope === 'trash' ? 'span' : NuxtLink" :to="`/trees/${tree.id}`" class="tree">
          <span class="name">{{ tree.title || 'untitled' }}<i v-if="tree.version > tree.seenVersion" class="new" title="changed since you last looked"><span class="visually-hidden">changed since you last looked</span></i></span>
          <span class="quiet">{{ tree.topicCount.toLocaleString('en') }} topics</span>
          <span class="quiet">{{ tree.role === 'owner' ? 'mine' : tree.role }}</span>
          <span class="quiet">{{ agoInWords(tree.changedAt) }}{{ tree.changedBy ? `, ${tree.changedBy}` : '' }}</span>
        </component>
        <button v-if="scope === 'trash'" class="plain" @click="restore(tree.id)">Bring back</button>
        <button v-else-if="tree.role === 'owner'" title="To the trash" class="icon-button" :aria-label="`Move ${tree.title} to the trash`" @click="trash(tree)"><Icon name="lucide:trash-2" size="16" /></button>
      </li>
    </ul>
  </main>
</template>

<style scoped>
.page { height: 100%; overflow: auto; padding: 28px clamp(16px, 4vw, 48px); max-width: 1100px; }
header { display: flex; gap: 10px; align-items: center; margin-bottom: 18px; }
.grow { flex: 1; }
.bar { display: flex; justify-content: space-between; gap: 12px; flex-wrap: wrap; margin-bottom: 10px; }
.scopes { display: flex; gap: 2px; }
.scopes button { border: 0; background: none; padding: 6px 11px; border-radius: 7px; color: var(--quiet); cursor: pointer; }
.scopes .on { background: var(--ceiling); color: var(--ink); font-weight: 600; }
.list { list-style: none; margin: 0; padding: 0; background: var(--surface); border: 1px solid var(--line); border-radius: 9px; overflow: hidden; }
.list:empty { display: none; }
.list li { display: flex; align-items: center; gap: 6px; padding-right: 10px; border-bottom: 1px solid var(--line); }
.list li:last-child { border: 0; }
.list li:hover { background: var(--hover); }
.tree { flex: 1; min-width: 0; display: grid; grid-template-columns: minmax(0, 1fr) 100px 90px 240px; gap: 12px; align-items: center; padding: 12px 16px; color: inherit; text-decoration: none; }
.name { font: 600 15.5px var(--display); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.new { display: inline-block; width: 8px; height: 8px; background: var(--sun); border-radius: 50%; margin-left: 8px; vertical-align: 1px; }
.plain { border: 0; background: none; color: var(--porch); font-weight: 600; cursor: pointer; padding: 4px; text-decoration: underline; }
.none { padding: 32px 0; }
@media (max-width: 700px) { .tree { grid-template-columns: minmax(0, 1fr) auto; } .tree .quiet:nth-child(n + 3) { display: none; } }
</style>
