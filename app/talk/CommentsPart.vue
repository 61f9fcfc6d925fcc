<script setup lang="ts">
import { until } from '@vueuse/core'
import type { Body } from '#core/talk/body'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import CommentThread from './CommentThread.vue'
import SayBox from './SayBox.vue'

/** What is said on one topic, in the side sheet. */
const { topic } = defineProps<{ topic: TopicId }>()
const desk = useDesk()
const talk = computed(() => desk.talking.talk.value)
const may = computed(() => desk.status.ready && desk.session.canComment && desk.status.role !== 'viewer')
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
async function say(body: Body): Promise<void> {
  const said = talk.value ?? (await until(talk).toBeTruthy())
  said!.begins({ on: 'topic', topic }, body)
}
</script>

<template>
  <div class="comments">
    <SayBox
      v-if="may"
      label="Comment"
      placeholder="Say something about this topic"
      :draft="`topic ${topic}`"
      verb="Comment"
      @said="say" />
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
.quiet {
  margin: 0;
  font-size: 13px;
}
</style>
