<script setup lang="ts">
import { expectField } from '~/focus/typeahead'
import type { Body } from '#core/talk/body'
import type { Thread } from '#core/talk/thread'
import { textOf } from '#core/talk/body'
import { topicOfPlace } from '#core/talk/saying'
import { cut } from '#core/tree'
import { usePage } from '~/page/page'
import { placeInWords } from './places'
import SaidLine from './SaidLine.vue'
import SayBox from './SayBox.vue'
import { useTalking } from './useTalking'

/** A thread: its comments, answers to it, and whether it's settled. */
const { thread } = defineProps<{ thread: Thread }>()
const { desk, maySay: may, nameOf } = useTalking()
const talk = desk.talking.talk.value!
const open = ref(thread.settled === null)
const answering = ref(false)
const box = ref<InstanceType<typeof SayBox>>()
const topic = computed(() => topicOfPlace(thread.place) ?? desk.tree.centre)
watch(
  () => thread.settled === null,
  now => {
    open.value = now
  },
)
async function answer(): Promise<void> {
  expectField()
  answering.value = true
  await nextTick()
  box.value?.focus()
}
function said(body: Body): void {
  answering.value = false
  talk.goesOn(thread.id, body)
}
const page = usePage()
/** What is talked about becomes a question to all. */
function vote(): void {
  const [first] = thread.comments
  desk.voting.wanted = { topic: topic.value, question: cut(first?.body ? textOf(first.body).split('\n')[0]! : '', 500) }
  page.open('vote')
}
const where = computed(() => {
  void desk.lateTick.value
  return placeInWords(desk, thread.place)
})
const count = computed(() => thread.comments.filter(({ body }) => body !== null).length)
</script>

<template>
  <section class="thread" :class="{ settled: thread.settled }">
    <p v-if="thread.place.on === 'words'" class="words" dir="auto">“{{ thread.place.words }}”</p>
    <p v-else-if="where" class="words">{{ where }}</p>
    <button v-if="thread.settled" class="plain head" :aria-expanded="open" @click="open = !open">
      <Icon name="lucide:check" size="13" /> Settled by {{ nameOf(thread.settled.by) }},
      {{ agoInWords(thread.settled.at) }} · {{ count }} {{ count === 1 ? 'comment' : 'comments' }}
    </button>
    <template v-if="open || !thread.settled">
      <SaidLine v-for="(comment, i) in thread.comments" :key="comment.id" :comment="comment" :topic="topic">
        <template v-if="i === thread.comments.length - 1 && may">
          <button class="plain" @click="answer">Answer</button>
          <button v-if="desk.session.canEdit && !thread.settled" class="plain" @click="vote">Vote</button>
          <button class="plain" @click="talk.settle(thread.id, thread.settled === null)">
            {{ thread.settled ? 'Open again' : 'Settle' }}
          </button>
        </template>
      </SaidLine>
      <SayBox
        v-if="answering"
        ref="box"
        label="Answer"
        placeholder="Answer"
        :draft="`answer ${thread.id}`"
        verb="Answer"
        @said="said"
        @left="answering = false" />
    </template>
  </section>
</template>

<style scoped>
.thread {
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
.thread:first-child {
  border-top: 0;
}
.words {
  margin: 4px 0 2px;
  padding-left: 8px;
  border-left: 3px solid var(--sun);
  font-size: 12.5px;
  color: var(--quiet);
  overflow-wrap: anywhere;
}
.head {
  display: flex;
  align-items: center;
  gap: 5px;
  padding: 5px 0;
  font-size: 12.5px;
  color: var(--quiet);
  text-align: left;
}
.settled > :deep(.line) {
  opacity: 0.8;
}
</style>
