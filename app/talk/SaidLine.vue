<script setup lang="ts">
import type { Body } from '#core/talk/body'
import type { Comment } from '#core/talk/thread'
import { isLive, shorten, type TopicId, topicOf } from '#core/tree'
import { makeOf } from './making'
import SaidBody from './SaidBody.vue'
import SayBox from './SayBox.vue'
import { useTalking } from './useTalking'

/** One comment, or one line of the talk: who said it when, what, and what became of it. */
const { comment, topic } = defineProps<{
  comment: Comment
  /** What it hangs on; for the talk of the tree, what is selected. */
  topic: TopicId
}>()
const { desk, mayMake, mayWith, nameOf } = useTalking()
const talk = desk.talking.talk.value!
const rewording = ref(false)
const sure = ref(false)

const mayReword = computed(
  () => comment.body && mayWith({ id: '', op: 'reword', comment: comment.id, body: comment.body }, comment),
)
const mayWithdraw = computed(() => mayWith({ id: '', op: 'withdraw', comment: comment.id }, comment))
const pending = computed(() => {
  void desk.talking.tick.value
  return talk.pendingOf(comment.id)
})
const when = computed(() => agoInWords(comment.at))
const full = computed(() => new Date(comment.at).toLocaleString(ownLocale(), { dateStyle: 'full', timeStyle: 'short' }))
/** What it was made into, as that is called now. */
const became = computed(() => {
  void desk.lateTick.value
  if (!comment.became) return null
  const there = desk.tree.topics.has(comment.became.topic) && isLive(desk.tree, comment.became.topic)
  const name = there ? shorten(topicOf(desk.tree, comment.became.topic).title || 'untitled', 60) : ''
  return { ...comment.became, there, name }
})

function make(as: 'task' | 'decision' | 'topic'): void {
  const id = makeOf(desk, comment, as, { under: topic })
  if (id) desk.visit(id)
}
function reword(body: Body): void {
  rewording.value = false
  talk.reword(comment.id, body)
}
function withdraw(): void {
  sure.value = false
  talk.withdraw(comment.id)
}
</script>

<template>
  <article
    class="line"
    :class="{ waits: pending && pending.why === null }"
    :aria-label="`${nameOf(comment.by)}, ${when}`">
    <PersonFace :id="comment.by" :name="nameOf(comment.by)" :size="24" />
    <div class="what">
      <header>
        <b>{{ nameOf(comment.by) }}</b>
        <time :datetime="comment.at" :title="full">{{ when }}</time>
        <span v-if="comment.edited && comment.body" class="quiet">reworded</span>
        <span v-if="pending && pending.why === null" class="quiet">waits</span>
      </header>
      <p v-if="!comment.body" class="quiet gone">Withdrawn.</p>
      <SayBox
        v-else-if="rewording"
        label="Reword the comment"
        placeholder=""
        :draft="`reword ${comment.id}`"
        :initial="comment.body"
        verb="Keep"
        @said="reword"
        @left="rewording = false" />
      <SaidBody v-else :body="comment.body" />
      <p v-if="pending?.why" class="wrong" role="alert">
        Not said: {{ pending.why }}
        <button class="plain" @click="talk.again(pending)">Try again</button>
        <button class="plain" @click="talk.letGo(pending)">Let it go</button>
      </p>
      <button v-if="became?.there" class="became" @click="desk.visit(became.topic)">
        <Icon
          :name="
            became.as === 'decision'
              ? 'lucide:gavel'
              : became.as === 'task'
                ? 'lucide:square-check'
                : 'lucide:corner-down-right'
          "
          size="13" />
        {{ became.as }}: {{ became.name }}
      </button>
      <p v-else-if="became" class="quiet gone">It was made into a {{ became.as }} that isn’t there any more.</p>
      <p v-if="sure" class="sure">
        It goes for good, with its words.
        <button class="plain" @click="withdraw">Withdraw it</button>
        <button class="plain" @click="sure = false">Keep it</button>
      </p>
      <div v-if="$slots.default && !rewording" class="lead"><slot /></div>
      <div v-if="comment.body && !rewording && !pending && (mayReword || mayWithdraw || mayMake)" class="acts">
        <template v-if="mayMake && !became?.there">
          <button class="plain" title="Make a task of it" @click="make('task')">Task</button>
          <button class="plain" title="Make a decision of it" @click="make('decision')">Decision</button>
        </template>
        <button v-if="mayReword" class="plain" @click="rewording = true">Reword</button>
        <button v-if="mayWithdraw" class="plain" @click="sure = true">Withdraw</button>
      </div>
    </div>
  </article>
</template>

<style scoped>
.line {
  position: relative;
  display: flex;
  gap: 8px;
  padding: 6px 0;
}
.waits {
  opacity: 0.75;
}
.what {
  flex: 1;
  min-width: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 7px;
  align-items: baseline;
  font-size: 12.5px;
}
time {
  color: var(--quiet);
  font-size: 12px;
}
.gone {
  margin: 2px 0;
  font-size: 13px;
  font-style: italic;
}
.wrong {
  margin: 3px 0;
  font-size: 12.5px;
}
.became {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  max-width: 100%;
  margin: 2px 0;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--ceiling);
  color: inherit;
  font: 600 12px var(--text);
  padding: 3px 8px;
  cursor: pointer;
  text-align: left;
}
.lead,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: 12.5px;
}
.lead {
  margin-top: 2px;
}
.sure {
  margin: 3px 0;
  font-size: 12.5px;
}
/* Where there's a pointer, what can be done with a line comes with it, over the line's upper edge. */
@media (hover: hover) {
  .acts {
    position: absolute;
    top: -9px;
    right: 0;
    padding: 3px 9px;
    border: 1px solid var(--line);
    border-radius: 6px;
    background: var(--surface);
    box-shadow: var(--shadow);
    opacity: 0;
    pointer-events: none;
  }
  .line:hover > .what > .acts,
  .acts:focus-within {
    opacity: 1;
    pointer-events: auto;
  }
}
</style>
