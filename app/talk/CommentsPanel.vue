<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { topicOfPlace } from '#core/talk/saying'
import type { Thread } from '#core/talk/thread'
import { pathTo, shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import CommentThread from './CommentThread.vue'

/** Every thread of the tree, those that aren't settled first asked for; by whom, whom they name, and by words. */
const desk = useDesk()
const talk = computed(() => desk.talking.talk.value)
const WHICH = ['open', 'settled', 'all'] as const
const which = ref<(typeof WHICH)[number]>('open')
const by = ref<string | null>(null)
const mine = ref(false)
const words = ref('')
const ids = ref<string[]>([])
const next = ref<number | null>(null)
const state = ref<'reading' | 'read' | 'wrong'>('reading')
const wrong = ref('')
let asked = 0

/** Reads the first page, the next one, or what came since over what is shown. */
async function read(how: 'anew' | 'onwards' | 'news' = 'anew'): Promise<void> {
  if (!talk.value) return
  const ask = ++asked
  const query = new URLSearchParams({
    ...(which.value === 'all' ? {} : { settled: String(which.value === 'settled') }),
    ...(by.value ? { by: by.value } : {}),
    ...(mine.value ? { mentions: desk.userId } : {}),
    ...(words.value.trim() ? { text: words.value.trim() } : {}),
    ...(how === 'onwards' && next.value !== null ? { before: String(next.value) } : {}),
  })
  try {
    const found = await talk.value.search(query.toString())
    if (ask !== asked) return
    if (how === 'anew') ids.value = found.ids
    else ids.value = [...new Set(how === 'onwards' ? [...ids.value, ...found.ids] : [...found.ids, ...ids.value])]
    if (how !== 'news') next.value = found.next
    state.value = 'read'
  } catch (error) {
    // What came since is asked for again with the next word.
    if (ask !== asked || how === 'news') return
    wrong.value = (error as Error).message
    state.value = 'wrong'
  }
}
const later = useDebounceFn(() => void read(), 200)
const news = useDebounceFn(() => state.value === 'read' && void read('news'), 500, { maxWait: 2000 })
watch(
  () => {
    void desk.talking.tick.value
    return talk.value?.heard
  },
  (now, before) => now !== before && void news(),
)
watch([talk, which, by, mine], () => void read(), { immediate: true })
onBeforeUnmount(() => {
  asked++
})

/** What was found, and what has come since. One that is settled meanwhile stays until one looks anew. */
const threads = computed((): Thread[] => {
  void desk.talking.tick.value
  return ids.value.flatMap(id => talk.value?.thread(id) ?? [])
})
const where = (thread: Thread): string => {
  void desk.lateTick.value
  const topic = topicOfPlace(thread.place)
  if (topic === null || !desk.tree.topics.has(topic)) return 'a topic that is gone'
  return shorten(topicOf(desk.tree, topic).title || 'untitled', 60)
}
const path = (thread: Thread): string => {
  const topic = topicOfPlace(thread.place)
  return topic !== null && desk.tree.topics.has(topic)
    ? pathTo(desk.tree, topic)
        .slice(0, -1)
        .map(one => shorten(one.title || 'untitled', 24))
        .join(' › ')
    : ''
}
function visit(thread: Thread): void {
  const topic = topicOfPlace(thread.place)
  if (topic !== null && desk.tree.topics.has(topic)) desk.visit(topic)
}
</script>

<template>
  <div class="all">
    <InputText
      v-model="words"
      data-first
      class="find"
      aria-label="Find in comments"
      placeholder="A few letters"
      @input="later" />
    <span class="segments" role="group" aria-label="Which"
      ><button v-for="one in WHICH" :key="one" :aria-pressed="which === one" @click="which = one">
        {{ { open: 'Not settled', settled: 'Settled', all: 'All' }[one] }}
      </button></span
    >
    <div class="narrow">
      <label><input v-model="mine" type="checkbox" /> that name me</label>
      <select v-model="by" aria-label="By whom">
        <option :value="null">by anybody</option>
        <option v-for="person in desk.status.people" :key="person.id" :value="person.id">by {{ person.name }}</option>
      </select>
    </div>
    <p v-if="state === 'wrong'" class="wrong" role="alert">
      {{ wrong }} <button class="plain" @click="read()">Try again</button>
    </p>
    <p v-else-if="state === 'reading'" class="quiet" role="status">Reading …</p>
    <p v-else-if="threads.length === 0" class="quiet" role="status">
      {{
        which === 'open' && !words && !by && !mine
          ? 'Nothing waits for an answer in this tree.'
          : 'No comment is like that.'
      }}
    </p>
    <section v-for="thread in threads" :key="thread.id" class="one">
      <button class="place" @click="visit(thread)">
        <b dir="auto">{{ where(thread) }}</b><small dir="auto">{{ path(thread) }}</small>
      </button>
      <CommentThread :thread="thread" />
    </section>
    <button v-if="next !== null" class="plain" @click="read('onwards')">Show more</button>
  </div>
</template>

<style scoped>
.all {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.narrow {
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 13px;
}
.narrow select {
  margin-left: auto;
  max-width: 170px;
  font: inherit;
  color: inherit;
  background: var(--page);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 6px;
}
.one {
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 6px 10px 2px;
}
.place {
  display: block;
  width: 100%;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  padding: 2px 0 4px;
  cursor: pointer;
  font-size: 13px;
}
.place:hover b {
  text-decoration: underline;
}
.place small {
  display: block;
  color: var(--quiet);
}
p {
  margin: 0;
}
</style>
