<script setup lang="ts">
import { nanoid } from 'nanoid'
import { allows, type ListedMeeting, type Role } from '#core/contract'
import { addAt, fromSnapshot, lastChild, type Snapshot } from '#core/tree'
import { firstParts } from '~/meeting/doing'

/** Every meeting in the trees open to one: to come, and held; and a way to begin one. */
const account = useAccount()
const meetings = ref<readonly ListedMeeting[] | null>(null)
const wrong = ref('')
const side = ref<'coming' | 'held'>('coming')
async function load(): Promise<void> {
  wrong.value = ''
  try {
    meetings.value = await callApi<ListedMeeting[]>('/api/meetings')
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
useHead({ title: 'Meetings · Sun Porch' })
const coming = computed(() =>
  (meetings.value ?? []).filter(
    ({ stage, day }) => stage === 'running' || (stage === 'planned' && (day === '' || day >= today())),
  ),
)
const past = computed(() =>
  (meetings.value ?? []).filter(one => !coming.value.includes(one)).sort((a, b) => (a.day < b.day ? 1 : -1)),
)
const shown = computed(() => (side.value === 'coming' ? coming.value : past.value))

const clashes = computed(() => clashesIn(coming.value))

// — A new one
const open = ref(false)
const title = ref('')
const where = ref('')
const busy = ref(false)
const trees = shallowRef<readonly { id: string; title: string; role: Role }[]>([])
async function begin(): Promise<void> {
  open.value = true
  try {
    trees.value = (await callApi<{ id: string; title: string; role: Role }[]>('/api/trees')).filter(({ role }) =>
      allows(role, 'editor'),
    )
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
const options = computed(() => [
  { id: '', title: 'A tree of its own' },
  ...trees.value.map(({ id, title: name }) => ({ id, title: name || 'untitled' })),
])
/** Makes the meeting where it's wanted: as the last branch under the centre, or as the centre of a new tree. */
async function make(): Promise<void> {
  if (busy.value) return
  busy.value = true
  try {
    const parts = firstParts(account.me!.id)
    const name = title.value.trim() || 'Meeting'
    const treeId =
      where.value || (await callApi<{ id: string }>('/api/trees', { method: 'POST', body: { title: name } })).id
    const tree = fromSnapshot((await callApi<{ snapshot: Snapshot }>(`/api/trees/${treeId}`)).snapshot)
    const added = where.value
      ? addAt(tree, lastChild(tree, tree.centre), () => nanoid(12), { title: name, meeting: parts })
      : null
    const topic = added?.made[0] ?? tree.centre
    const changes = added?.changes ?? parts.map(member => ({ op: 'put', topic, set: 'meeting', member }))
    await callApi(`/api/trees/${treeId}/edits`, { method: 'POST', body: { id: nanoid(16), changes } })
    await navigateTo(`/trees/${treeId}?topic=${topic}&view=meeting`)
  } catch (error) {
    wrong.value = (error as Error).message
    open.value = false
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="page">
    <header>
      <h1>Meetings</h1>
      <span class="segments" role="group" aria-label="Which">
        <button :aria-pressed="side === 'coming'" @click="side = 'coming'">
          To come {{ meetings ? coming.length : '' }}
        </button>
        <button :aria-pressed="side === 'held'" @click="side = 'held'">Held {{ meetings ? past.length : '' }}</button>
      </span>
      <span class="grow" />
      <Button label="New meeting" size="small" @click="begin" />
    </header>
    <Message v-if="wrong" severity="error" role="alert"
      >{{ wrong }} <button class="plain" @click="load">Try again</button></Message
    >
    <p v-if="meetings && shown.length === 0" class="quiet empty">
      {{
        side === 'coming'
          ? 'No meeting is planned. New meeting begins one; any topic of a tree can be made one too.'
          : 'None has been held yet.'
      }}
    </p>
    <ul>
      <li v-for="one in shown" :key="keyOfMeeting(one)">
        <MeetingRow :meeting="one" :clash="clashes.get(keyOfMeeting(one))" />
      </li>
    </ul>
    <PorchDialog v-model:visible="open" header="New meeting" :style="{ width: '440px' }">
      <form class="form" @submit.prevent="make">
        <label for="new-meeting-title">What it’s called</label>
        <InputText id="new-meeting-title" v-model="title" placeholder="Coordination meeting 4" />
        <label for="new-meeting-tree">Where it stands</label>
        <Select
          v-model="where"
          input-id="new-meeting-tree"
          :options="options"
          option-label="title"
          option-value="id"
          aria-label="Where it stands" />
        <Button type="submit" label="Write its brief" :disabled="busy" />
      </form>
    </PorchDialog>
  </main>
</template>

<style scoped>
.page {
  height: 100%;
  overflow: auto;
  padding: 26px clamp(16px, 4vw, 56px) 60px;
}
header {
  display: flex;
  align-items: center;
  gap: 18px;
  flex-wrap: wrap;
  max-width: 980px;
  margin-bottom: 14px;
}
.grow {
  flex: 1;
}
.segments {
  flex: none;
}
.segments button {
  flex: none;
  padding: 4px 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 5px;
  max-width: 980px;
}
.empty {
  margin-top: 28px;
}
.plain {
  text-decoration: underline;
}
.form {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.form label {
  color: var(--quiet);
  font-size: 13px;
}
.form :last-child {
  margin-top: 8px;
}
</style>
