<script setup lang="ts">
import { type Arrangement, ARRANGEMENTS } from '#core/tree'
import { ARRANGEMENT_NAMES } from '~/canvas/arranging'

/** A new tree: blank in a chosen arrangement, or from a starter. */
interface Offered {
  readonly id: string
  readonly name: string
  readonly purpose: string
  readonly arrangement: Arrangement
  readonly topics: number
}
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ file: [] }>()
const title = ref('')
const arrangement = ref<Arrangement>('both')
const shipped = ref<readonly Offered[]>([])
const own = ref<readonly { id: string; title: string; description: string; topicCount: number }[]>([])
const search = ref('')
const { busy, wrong, attempt } = useAttempt()
/** Starters arrive while a title is typed already; whoever wants a blank tree doesn't wait for them. */
const starters = useAttempt()

watch(
  visible,
  now => {
    if (now)
      void starters.attempt(async () => {
        ;[shipped.value, own.value] = await Promise.all([
          callApi<Offered[]>('/api/starters'),
          callApi<typeof own.value>('/api/trees', { query: { scope: 'starters' } }),
        ])
      })
  },
  { immediate: true },
)

const fits = (...texts: string[]): boolean =>
  texts.some(text => text.toLocaleLowerCase().includes(search.value.trim().toLocaleLowerCase()))
const offered = computed(() =>
  [
    ...own.value.map(tree => ({
      id: tree.id,
      name: tree.title,
      purpose: tree.description || 'One of yours.',
      topics: tree.topicCount,
      ours: true,
    })),
    ...shipped.value.map(starter => ({ ...starter, ours: false })),
  ].filter(one => fits(one.name, one.purpose)),
)

const begin = (starter?: string): Promise<void> =>
  attempt(async () => {
    const named = title.value.trim()
    const { id } = await callApi<{ id: string }>('/api/trees', {
      method: 'POST',
      body: starter
        ? { starter, ...(named ? { title: named } : {}) }
        : { title: named || 'New tree', arrangement: arrangement.value },
    })
    visible.value = false
    await navigateTo(`/trees/${id}`)
  })
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="New tree" :style="{ width: 'min(860px, 95vw)' }">
    <form class="blank" @submit.prevent="begin()">
      <InputText v-model="title" placeholder="What is it called?" aria-label="Title of the new tree" maxlength="500" />
      <select v-model="arrangement" aria-label="Arrangement">
        <option v-for="name in ARRANGEMENTS" :key="name" :value="name">{{ ARRANGEMENT_NAMES[name] }}</option>
      </select>
      <Button type="submit" label="Begin blank" :loading="busy" />
      <Button
        text
        label="From a file …"
        @click="
          () => {
            visible = false
            emit('file')
          }
        " />
    </form>
    <p v-if="wrong || starters.wrong.value" class="wrong" role="alert">{{ wrong || starters.wrong.value }}</p>
    <div class="or">
      <h2>Or from a starter</h2>
      <InputText
        v-model="search"
        size="small"
        placeholder="Search starters"
        aria-label="Search starters"
        @keydown.enter="offered.length === 1 && begin(offered[0]!.id)" />
    </div>
    <ul>
      <li v-for="one in offered" :key="one.id">
        <button :disabled="busy" @click="begin(one.id)">
          <b>{{ one.name }}</b><span class="quiet">{{ one.purpose }}</span
          ><small class="quiet">{{ one.topics }} topics{{ one.ours ? ' · yours' : '' }}</small>
        </button>
      </li>
    </ul>
    <p v-if="offered.length === 0 && !starters.busy.value" class="quiet">No starter has these words.</p>
  </PorchDialog>
</template>

<style scoped>
.blank {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.blank :deep(.p-inputtext) {
  flex: 1;
  min-width: 200px;
}
select {
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 6px 8px;
}
.or {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 20px 0 10px;
  gap: 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(235px, 1fr));
  gap: 8px;
  max-height: 46vh;
  overflow: auto;
}
li button {
  width: 100%;
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 3px;
  text-align: left;
  border: 1px solid var(--line);
  border-left: 3px solid var(--porch);
  background: var(--surface);
  padding: 10px 12px;
  cursor: pointer;
}
li button:hover {
  background: var(--hover);
}
li b {
  font: 600 15px var(--display);
}
li span {
  font-size: 13px;
  flex: 1;
}
.wrong {
  color: var(--clay);
}
</style>
