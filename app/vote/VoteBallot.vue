<script setup lang="ts">
import type { RunningVote } from '#core/contract'
import { shorten } from '#core/tree'
import { wrongWith } from '#core/vote/tally'
import { useDesk } from '~/desk/desk'
import VoteBars from './VoteBars.vue'

/** One vote that runs: to be answered, and closed by whoever may edit. */
const { vote } = defineProps<{ vote: RunningVote }>()
const desk = useDesk()
const { busy, wrong, attempt } = useAttempt()
const voted = computed(() => desk.voting.hasVoted(vote))
/** In an open vote one may say it anew. */
const again = ref(false)
const answering = computed(() => desk.session.canComment && (!voted.value || again.value))

const chosen = ref<number | null>(null)
const given = ref<number[]>([])
const order = ref<number[]>([])
watch(
  () => vote.id,
  () => {
    const { mine, choices, kind } = vote
    chosen.value = mine && kind === 'yes-no' ? mine.indexOf(1) : null
    given.value = mine && kind === 'points' ? [...mine] : choices.map(() => 0)
    order.value = choices.map((_, i) => i)
    if (mine && kind === 'order') order.value.sort((a, b) => mine[a]! - mine[b]!)
  },
  { immediate: true },
)
const left = computed(() => vote.points - given.value.reduce((sum, one) => sum + one, 0))
function give(choice: number, more: number): void {
  const now = [...given.value]
  now[choice] = Math.max(0, Math.min(now[choice]! + more, now[choice]! + left.value))
  given.value = now
}
const list = ref<HTMLElement>()
function move(place: number, by: number): void {
  const to = place + by
  if (to < 0 || to >= order.value.length) return
  const now = [...order.value]
  ;[now[place], now[to]] = [now[to]!, now[place]!]
  order.value = now
  void nextTick(() => list.value?.querySelectorAll<HTMLElement>('[data-place]')[to]?.focus())
}
const cast = computed(() => {
  const { kind, choices } = vote
  if (kind === 'yes-no') return choices.map((_, i) => (i === chosen.value ? 1 : 0))
  return kind === 'points' ? given.value : choices.map((_, i) => order.value.indexOf(i) + 1)
})
async function send(): Promise<void> {
  const unfit = wrongWith(cast.value, vote)
  if (unfit) {
    wrong.value = unfit
    return
  }
  await attempt(() => desk.voting.cast(vote.id, cast.value))
  if (!wrong.value) again.value = false
}
const topic = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(vote.topic)?.title || 'untitled'
})
const who = computed(() => {
  const names = vote.voters.map(desk.nameOf)
  const count = `${names.length} ${names.length === 1 ? 'has' : 'have'} voted`
  return names.length === 0 ? 'Nobody has voted yet' : names.length > 6 ? count : `${count}: ${names.join(', ')}`
})
</script>

<template>
  <section class="vote" :aria-label="vote.question || topic">
    <h3 dir="auto">{{ vote.question || topic }}</h3>
    <p class="quiet">
      {{ desk.nameOf(vote.by) }} asks{{ vote.question ? ` about “${shorten(topic, 60)}”` : '' }},
      {{ vote.secret ? 'in secret' : 'openly' }}
    </p>
    <form v-if="answering" @submit.prevent="send">
      <div v-if="vote.kind === 'yes-no'" role="radiogroup" :aria-label="vote.question || topic">
        <label v-for="(choice, i) in vote.choices" :key="choice" class="row"
          ><input v-model="chosen" type="radio" :name="vote.id" :value="i" :data-first="i === 0 || undefined" />{{
            choice
          }}</label
        >
      </div>
      <template v-else-if="vote.kind === 'points'">
        <div v-for="(choice, i) in vote.choices" :key="choice" class="row" role="group" :aria-label="choice">
          <button
            type="button"
            class="step"
            :disabled="given[i] === 0"
            :aria-label="`${choice}: one less`"
            @click="give(i, -1)">
            –
          </button>
          <output>{{ given[i] }}</output>
          <button
            type="button"
            class="step"
            :disabled="left === 0"
            :aria-label="`${choice}: one more`"
            @click="give(i, 1)">
            +
          </button>
          <span dir="auto">{{ choice }}</span>
        </div>
        <p class="quiet" role="status">{{ left }} of {{ vote.points }} points left</p>
      </template>
      <ol v-else ref="list">
        <li v-for="(choice, place) in order" :key="choice">
          <button
            type="button"
            class="place"
            data-place
            :aria-label="`${vote.choices[choice]}, place ${place + 1}; the arrow keys move it`"
            @keydown.up.prevent="move(place, -1)"
            @keydown.down.prevent="move(place, 1)">
            <b>{{ place + 1 }}</b><span dir="auto">{{ vote.choices[choice] }}</span>
          </button>
          <button
            type="button"
            class="step"
            :disabled="place === 0"
            :aria-label="`${vote.choices[choice]}: up`"
            @click="move(place, -1)">
            <Icon name="lucide:chevron-up" size="15" />
          </button>
          <button
            type="button"
            class="step"
            :disabled="place === order.length - 1"
            :aria-label="`${vote.choices[choice]}: down`"
            @click="move(place, 1)">
            <Icon name="lucide:chevron-down" size="15" />
          </button>
        </li>
      </ol>
      <Button type="submit" size="small" label="Vote" :loading="busy" />
    </form>
    <VoteBars v-else-if="vote.counts" :choices="vote.choices" :counts="vote.counts" />
    <p v-else-if="voted" class="quiet">You have voted. What it comes to is seen when it is closed.</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p class="foot">
      <span class="quiet">{{ who }}</span>
      <button v-if="voted && !vote.secret && !again" class="plain" @click="again = true">Say it anew</button>
      <template v-if="desk.session.canEdit">
        <button v-if="vote.voters.length" class="plain" @click="attempt(() => desk.voting.close(vote.id))">
          Close and keep it
        </button>
        <button class="plain" @click="attempt(() => desk.voting.drop(vote.id))">Let it go</button>
      </template>
    </p>
  </section>
</template>

<style scoped>
.vote {
  border-bottom: 1px solid var(--line);
  padding-bottom: 10px;
  margin-bottom: 12px;
}
h3 {
  margin: 0;
  overflow-wrap: anywhere;
}
p {
  margin: 4px 0;
}
form {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 8px 0;
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  display: flex;
  gap: 4px;
  margin-bottom: 4px;
}
.place {
  flex: 1;
  display: flex;
  gap: 10px;
  text-align: start;
  padding: 6px 10px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  color: var(--ink);
  font: inherit;
  overflow-wrap: anywhere;
}
.step {
  width: 34px;
  min-height: 32px;
  display: grid;
  place-items: center;
  background: none;
  border: 1px solid var(--line);
  border-radius: 6px;
  color: var(--ink);
  font: inherit;
}
.step:disabled {
  opacity: 0.4;
}
output {
  min-width: 22px;
  text-align: center;
  font-weight: 700;
}
.quiet {
  color: var(--quiet);
}
.wrong {
  color: var(--clay);
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
}
</style>
