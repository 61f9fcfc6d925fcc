<script setup lang="ts">
import { until, useIntersectionObserver } from '@vueuse/core'
import type { Body } from '#core/talk/body'
import type { TopicId } from '#core/tree'
import CommentThread from './CommentThread.vue'
import { placesOf } from './places'
import SayBox from './SayBox.vue'
import { useTalking } from './useTalking'

/** What is said on one topic, in the side sheet. */
const { topic, first = false } = defineProps<{
  topic: TopicId
  /** Whether its field is where the keys go when it opens. */
  first?: boolean
}>()
const emit = defineEmits<{ left: [] }>()
const { desk, talk, maySay: may } = useTalking()
const threads = computed(() => {
  void desk.talking.tick.value
  return talk.value?.threadsAt(topic) ?? []
})
const more = computed(() => {
  void desk.talking.tick.value
  return talk.value?.hasMore(topic) ?? false
})
const wrong = ref('')
async function read(): Promise<void> {
  wrong.value = ''
  try {
    await talk.value?.readTopic(topic)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
let begun = false
watch(
  more,
  now => {
    // The first page by itself; more when it's asked for.
    if (now && !begun) void read()
    begun ||= now
  },
  { immediate: true },
)
// What one sees here one has been told.
const told = useTold()
const part = useTemplateRef('part')
useIntersectionObserver(part, ([seen]) => {
  if (seen?.isIntersecting && told.count > 0 && threads.value.length > 0)
    void told.read({ tree: desk.session.treeId, topic }).catch(() => {})
})
/** Words of the note that the next comment hangs on. */
const words = computed(() => {
  const quoting = desk.talking.quoting.value
  return quoting?.topic === topic ? quoting.words : ''
})
const box = ref<InstanceType<typeof SayBox>>()
watch(words, now => now && box.value?.focus())
watch(box, now => {
  if (first) now?.focus()
})
function unquote(): void {
  desk.talking.quoting.value = null
}

// — What of the topic it's about: what the view points at, or what is chosen

const places = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.has(topic) ? placesOf(desk, topic) : []
})
const chosen = ref('topic')
/** Whether it was chosen here: then what the view points at says nothing, until something was said. */
let byHand = false
function point(): void {
  if (byHand) return
  const at = desk.focus.value === topic ? desk.talking.pointsAt?.() : null
  chosen.value = at ? (at.on === 'figure' ? `figure ${at.measure}` : at.on) : 'topic'
}
function choose(key: string): void {
  chosen.value = key
  byHand = true
}
function entered({ relatedTarget }: FocusEvent): void {
  if (!part.value?.contains(relatedTarget as Node | null)) point()
}
watch(
  () => topic,
  () => {
    byHand = false
    point()
  },
  { immediate: true },
)
/** What was chosen may have gone meanwhile. */
const place = computed(() => places.value.find(({ key }) => key === chosen.value) ?? places.value[0])
async function say(body: Body): Promise<void> {
  const said = talk.value ?? (await until(talk).toBeTruthy())
  said!.begins(
    words.value ? { on: 'words', topic, words: words.value } : (place.value?.place ?? { on: 'topic', topic }),
    body,
  )
  byHand = false
  unquote()
}
</script>

<template>
  <div ref="part" class="comments">
    <p v-if="words" class="quote">
      <span dir="auto">“{{ words }}”</span>
      <button class="plain" @click="unquote">On the whole topic</button>
    </p>
    <label v-else-if="may && places.length > 1" class="about"
      >About
      <Select
        :model-value="place?.key"
        :options="places"
        option-label="name"
        option-value="key"
        size="small"
        aria-label="What of it the comment is about"
        @update:model-value="choose"
    /></label>
    <SayBox
      v-if="may"
      ref="box"
      label="Comment"
      placeholder="Say something about this topic"
      :draft="`topic ${topic}`"
      verb="Comment"
      :first="first"
      @focusin="entered"
      @said="say"
      @left="emit('left')" />
    <CommentThread v-for="thread in threads" :key="thread.id" :thread="thread" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }} <button class="plain" @click="read">Try again</button></p>
    <button v-else-if="more" class="plain" @click="read">Show more</button>
    <p v-if="!may && threads.length === 0" class="quiet">Nothing was said about this topic.</p>
  </div>
</template>

<style scoped>
.comments {
  display: flex;
  flex-direction: column;
}
.quote {
  margin: 0 0 5px;
  padding-left: 8px;
  border-left: 3px solid var(--sun);
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.about {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 6px;
  font-size: 12.5px;
  color: var(--quiet);
}
.about :deep(.p-select) {
  flex: 1;
  min-width: 0;
}
.quiet {
  margin: 0;
  font-size: 13px;
}
</style>
