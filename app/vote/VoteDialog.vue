<script setup lang="ts">
import { nanoid } from 'nanoid'
import { childrenOf, MOST_CHOICES, shorten, topicOf, type VoteKind } from '#core/tree'
import { itemThatIsOn } from '#core/meeting/brief'
import { YES_NO } from '#core/vote/tally'
import { useDesk } from '~/desk/desk'
import VoteBallot from './VoteBallot.vue'

/** What is asked just now, to be answered; and asking something oneself. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const { busy, wrong, attempt } = useAttempt()

const about = ref(desk.focus.value)
const question = ref('')
const kind = ref<VoteKind>('yes-no')
const lines = ref('')
const points = ref(3)
const secret = ref(false)
/** The same while one tries again. */
let id = nanoid(16)
/** Whether one asks something, though something is asked already. */
const asking = ref(false)

const KINDS = [
  { value: 'yes-no', label: 'Yes or no' },
  { value: 'points', label: 'Points' },
  { value: 'order', label: 'Order' },
] as const

watch(
  visible,
  now => {
    if (!now) return
    void desk.voting.refresh()
    const { tree } = desk
    // In a meeting that runs it's about the item that is on.
    about.value = (desk.view.value === 'meeting' ? itemThatIsOn(tree) : null) ?? desk.focus.value
    question.value = ''
    const { wanted } = desk.voting
    desk.voting.wanted = null
    if (wanted && tree.topics.has(wanted.topic)) {
      about.value = wanted.topic
      question.value = wanted.question
    }
    const below = childrenOf(tree, about.value)
      .map(child => topicOf(tree, child).title.trim())
      .filter(Boolean)
    lines.value = [...new Set(below)].slice(0, MOST_CHOICES).join('\n')
    kind.value = 'yes-no'
    secret.value = false
    asking.value = wanted !== null || desk.voting.running.value.length === 0
    wrong.value = ''
    id = nanoid(16)
  },
  { immediate: true },
)
// With nothing asked any more one may ask.
watch(
  () => desk.voting.running.value.length,
  count => {
    asking.value ||= count === 0
  },
)
const title = computed(() => shorten(desk.tree.topics.get(about.value)?.title || 'untitled', 60))
const choices = computed(() =>
  kind.value === 'yes-no'
    ? YES_NO
    : [
        ...new Set(
          lines.value
            .split('\n')
            .map(line => line.trim().slice(0, 200).toWellFormed())
            .filter(Boolean),
        ),
      ],
)
const unfit = computed(() => {
  if (choices.value.length < 2) return 'Give two choices or more, a line each.'
  return choices.value.length > MOST_CHOICES ? `${MOST_CHOICES} choices at most.` : ''
})
async function ask(): Promise<void> {
  if (unfit.value) {
    wrong.value = unfit.value
    return
  }
  await attempt(() =>
    desk.voting.begin(
      {
        topic: about.value,
        question: question.value.trim().toWellFormed(),
        kind: kind.value,
        choices: choices.value,
        points: Math.min(100, Math.max(1, Math.round(points.value) || 3)),
        secret: secret.value,
      },
      id,
    ),
  )
  if (!wrong.value) asking.value = false
}
</script>

<template>
  <PorchDialog v-model:visible="visible" header="Vote" :style="{ width: 'min(560px, 94vw)' }">
    <VoteBallot v-for="vote in desk.voting.running.value" :key="vote.id" :vote="vote" />
    <p v-if="!desk.session.canEdit && desk.voting.running.value.length === 0" class="quiet">
      Nothing is asked just now. Whoever may edit this tree can ask.
    </p>
    <template v-if="desk.session.canEdit">
      <Button v-if="!asking" text label="Ask something else" @click="asking = true" />
      <form v-else @submit.prevent="ask">
        <p class="about">
          About <b dir="auto">{{ title }}</b>
        </p>
        <label
          >Question<InputText
            v-model="question"
            data-first
            maxlength="500"
            placeholder="The topic itself, if you leave it empty"
        /></label>
        <span class="segments" role="group" aria-label="How it is answered"
          ><button
            v-for="one in KINDS"
            :key="one.value"
            type="button"
            :aria-pressed="kind === one.value"
            @click="kind = one.value">
            {{ one.label }}
          </button></span
        >
        <template v-if="kind !== 'yes-no'">
          <label>Choices, a line each<Textarea v-model="lines" rows="5" /></label>
          <label v-if="kind === 'points'" class="row"
            >Points that each gives away<input v-model.number="points" type="number" min="1" max="100"
          /></label>
        </template>
        <label class="row"
          ><input v-model="secret" type="checkbox" />In secret: who voted is known, what they said is kept
          nowhere</label
        >
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <Button type="submit" label="Ask everybody" :loading="busy" />
      </form>
    </template>
  </PorchDialog>
</template>

<style scoped>
.segments {
  width: 100%;
}
form {
  display: grid;
  gap: 12px;
  margin-top: 8px;
  justify-items: start;
}
label:not(.row) {
  display: grid;
  gap: 4px;
  width: 100%;
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
}
.row input[type='number'] {
  width: 72px;
  font: inherit;
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 8px;
}
.about {
  margin: 0;
  overflow-wrap: anywhere;
}
.quiet {
  color: var(--quiet);
}
.wrong {
  margin: 0;
  color: var(--clay);
}
</style>
