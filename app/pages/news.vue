<script setup lang="ts">
import type { TidingsPage } from '#core/contract'
import { grouped, type Tidings, type TidingsGroup } from '#core/telling/grouped'

/** What one was told, what belongs together as one, and how one wants to be told. */
const told = useTold()
const all = shallowRef<readonly Tidings[] | null>(null)
const next = ref<number | null>(null)
const { busy, wrong, attempt } = useAttempt()
let asked = 0
const load = (): Promise<void> =>
  attempt(async () => {
    const mine = ++asked
    const page = await callApi<TidingsPage>('/api/told')
    if (mine !== asked) return
    // Older ones that were asked for stay.
    const last = page.all.at(-1)?.id ?? 0
    const older = (all.value ?? []).filter(({ id }) => id < last)
    all.value = [...page.all, ...older]
    if (older.length === 0) next.value = page.next
  })
const more = (): Promise<void> =>
  attempt(async () => {
    const mine = ++asked
    const page = await callApi<TidingsPage>('/api/told', { query: { before: String(next.value) } })
    if (mine !== asked) return
    all.value = [...(all.value ?? []), ...page.all]
    next.value = page.next
  })
onMounted(load)
// What comes while one reads stands there too.
watch(() => told.count, load)

const groups = computed(() => grouped(all.value ?? []))
const fresh = computed(() => groups.value.filter(({ read }) => !read))
const before = computed(() => groups.value.filter(({ read }) => read))
function mark(ids: ReadonlySet<number>): void {
  all.value = (all.value ?? []).map(one => (ids.has(one.id) ? { ...one, read: true } : one))
}
function read(group: TidingsGroup): void {
  if (group.read) return
  const ids = group.all.map(({ id }) => id)
  mark(new Set(ids))
  void attempt(() => told.read({ ids }))
}
function readAll(): void {
  const newest = all.value?.[0]?.id
  if (newest === undefined) return
  mark(new Set(all.value!.map(({ id }) => id)))
  void attempt(() => told.read({ upTo: newest }))
}
useHead({ title: 'News · Sun Porch' })
</script>

<template>
  <main class="page">
    <header>
      <h1>News</h1>
      <span class="grow" />
      <Button v-if="fresh.length" text label="I have read all of it" @click="readAll" />
    </header>
    <div class="columns">
      <section aria-label="What I was told">
        <Message v-if="wrong" severity="error" role="alert"
          >{{ wrong }} <button @click="load">Try again</button></Message
        >
        <p v-if="all?.length === 0" class="quiet">
          Nothing yet. Whoever mentions you, replies to you, gives you a task or moves its date is told here.
        </p>
        <p v-else-if="all && fresh.length === 0" class="quiet">You have read all of it.</p>
        <ul>
          <li v-for="group in fresh" :key="group.all[0]!.id"><TidingsRow :group="group" @read="read(group)" /></li>
        </ul>
        <template v-if="before.length">
          <h2>Read before</h2>
          <ul>
            <li v-for="group in before" :key="group.all[0]!.id"><TidingsRow :group="group" /></li>
          </ul>
        </template>
        <Button v-if="next !== null" text label="Show older ones" :loading="busy" @click="more" />
      </section>
      <ToldWays />
    </div>
  </main>
</template>

<style scoped>
.page {
  height: 100%;
  overflow: auto;
  padding: 28px clamp(16px, 4vw, 48px) 60px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 10px;
}
h1 {
  margin: 0;
}
h2 {
  margin: 22px 0 6px;
}
.grow {
  flex: 1;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(300px, 420px);
  gap: 40px;
  align-items: start;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.quiet {
  color: var(--quiet);
}
</style>
