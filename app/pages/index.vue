<script setup lang="ts">
import type { ListedMeeting, Section, TidingsPage } from '#core/contract'
import { grouped, type TidingsGroup } from '#core/telling/grouped'

interface Task {
  treeId: string
  tree: string
  id: string
  title: string
  due: string | null
  time: string | null
  done: number | null
}
interface Listed {
  id: string
  title: string
  changedAt: string
  changedBy: string | null
  topicCount: number
}
const account = useAccount()
const home = ref<{
  invited: { link: string; tree: string; by: string; role: string }[]
  tasks: Task[]
  sections: Section[]
  meetings: ListedMeeting[]
  changed: Listed[]
  recent: Listed[]
} | null>(null)
const wrong = ref('')
async function load(): Promise<void> {
  wrong.value = ''
  try {
    home.value = await callApi('/api/home')
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
const told = useTold()
/** The newest that one hasn't read; all of it has a page of its own. */
const news = shallowRef<readonly TidingsGroup[]>([])
async function loadNews(): Promise<void> {
  const page = await callApi<TidingsPage>('/api/told').catch(() => null)
  // Invitations and sections to fill in have lists of their own here.
  const wanted = page?.all.filter(({ read, kind }) => !read && kind !== 'invited' && kind !== 'section')
  if (wanted) news.value = grouped(wanted).slice(0, 5)
}
watch(() => told.count, loadNews, { immediate: true })
function readGroup(group: TidingsGroup): void {
  news.value = news.value.filter(one => one !== group)
  void told.read({ ids: group.all.map(({ id }) => id) }).catch(() => {})
}
const late = computed(() => home.value?.tasks.filter(task => task.due && dueInWords(task.due).late) ?? [])
const coming = computed(() => home.value?.tasks.filter(task => !late.value.includes(task)).slice(0, 12) ?? [])
const trees = computed(() =>
  home.value ? (home.value.changed.length > 0 ? home.value.changed : home.value.recent) : [],
)
const clashes = computed(() => clashesIn(home.value?.meetings ?? []))
const greeting = computed(() => {
  const hour = hourNow()
  return hour < 11 ? 'Good morning' : hour < 18 ? 'Good day' : 'Good evening'
})
const groups = computed(() =>
  [
    { name: 'Late', tasks: late.value, late: true },
    { name: 'Coming', tasks: coming.value, late: false },
  ].filter(group => group.tasks.length > 0),
)
useHead({ title: 'Home · Sun Porch' })
</script>

<template>
  <main class="page">
    <div class="ceiling" aria-hidden="true" />
    <h1>{{ greeting }}, {{ account.me?.name.split(' ')[0] }}</h1>
    <Message v-if="wrong" severity="error" role="alert"
      >{{ wrong }} <button class="plain" @click="load">Try again</button></Message
    >
    <KeptTrees v-if="wrong && !home" />
    <div v-if="home" class="columns">
      <section>
        <template v-if="home.invited.length">
          <h2>Invitations</h2>
          <ul class="gap">
            <li v-for="one in home.invited" :key="one.link">
              <NuxtLink :to="one.link" class="row"
                ><span class="edge tree" /><span class="name"
                  >{{ one.tree || 'untitled' }}<small>{{ one.by }} asks you to take part</small></span
                ><span class="due">Open</span></NuxtLink
              >
            </li>
          </ul>
        </template>
        <template v-if="news.length">
          <h2>
            News
            <NuxtLink to="/news" class="all">{{ told.count > news.length ? `All ${told.count}` : 'All' }}</NuxtLink>
          </h2>
          <ul class="gap">
            <li v-for="group in news" :key="group.all[0]!.id">
              <TidingsRow :group="group" @read="readGroup(group)" />
            </li>
          </ul>
        </template>
        <template v-if="home.meetings.length">
          <h2>Next meetings</h2>
          <ul class="gap">
            <li v-for="meeting in home.meetings" :key="keyOfMeeting(meeting)">
              <MeetingRow :meeting="meeting" :clash="clashes.get(keyOfMeeting(meeting))" />
            </li>
          </ul>
        </template>
        <template v-if="home.sections.length">
          <h2>To fill in</h2>
          <ul class="gap">
            <li v-for="section in home.sections" :key="section.treeId + section.id">
              <SectionRow :section="section" />
            </li>
          </ul>
        </template>
        <h2>Mine to do</h2>
        <p v-if="home.tasks.length === 0" class="quiet">
          Nothing is waiting for you. Tasks that carry your name in any tree show here.
        </p>
        <div v-for="group in groups" :key="group.name">
          <h3>
            {{ group.name }} <span>{{ group.tasks.length }}</span>
          </h3>
          <ul>
            <li v-for="task in group.tasks" :key="task.treeId + task.id">
              <NuxtLink :to="`/trees/${task.treeId}?topic=${task.id}`" class="row">
                <span class="edge" :class="{ late: group.late }" />
                <span class="name"
                  >{{ task.title || 'untitled' }}<small>{{ task.tree }}</small></span
                >
                <span class="due" :class="{ late: group.late }">{{
                  task.due ? dueInWords(task.due, undefined, task.time).text : ''
                }}</span>
              </NuxtLink>
            </li>
          </ul>
        </div>
      </section>
      <section>
        <h2>{{ home.changed.length > 0 ? 'Changed since you looked' : 'Lately' }}</h2>
        <p v-if="trees.length === 0" class="quiet">
          No trees yet. <NuxtLink to="/trees">Make the first one.</NuxtLink>
        </p>
        <ul>
          <li v-for="tree in trees" :key="tree.id">
            <NuxtLink :to="`/trees/${tree.id}`" class="row">
              <span class="edge tree" />
              <span class="name"
                >{{ tree.title || 'untitled'
                }}<small
                  >{{ tree.topicCount }} topics, {{ agoInWords(tree.changedAt)
                  }}{{ tree.changedBy ? ` by ${tree.changedBy}` : '' }}</small
                ></span
              >
            </NuxtLink>
          </li>
        </ul>
      </section>
    </div>
  </main>
</template>

<style scoped src="../shell/row.css"></style>

<style scoped>
.all {
  font: 400 13px var(--text);
  margin-left: 8px;
}
.page {
  height: 100%;
  overflow: auto;
  padding: 0 clamp(16px, 4vw, 56px) 40px;
  position: relative;
}
.ceiling {
  height: 64px;
  margin: 0 calc(-1 * clamp(16px, 4vw, 56px)) 26px;
  background: repeating-linear-gradient(
    90deg,
    color-mix(in srgb, var(--ceiling) 90%, var(--porch)) 0 1px,
    var(--ceiling) 1px 48px
  );
  border-bottom: 6px solid var(--surface);
  box-shadow: 0 1px 0 var(--line);
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 40px;
  margin-top: 24px;
  max-width: 1100px;
}
h3 {
  font: 600 12.5px var(--text);
  color: var(--quiet);
  margin: 14px 0 6px;
}
h3 span {
  background: var(--ceiling);
  color: var(--ink);
  border-radius: 8px;
  padding: 0 7px;
  margin-left: 4px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.edge.late {
  background: var(--clay);
}
.edge.tree {
  background: var(--sun);
}
ul.gap {
  margin-bottom: 26px;
}
.plain {
  text-decoration: underline;
}
@media (max-width: 800px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
