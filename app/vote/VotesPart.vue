<script setup lang="ts">
import type { Topic, Vote } from '#core/tree'
import { beatsInWords, votersInWords, whoChose } from '#core/vote/words'
import { useDesk } from '~/desk/desk'
import VoteBars from './VoteBars.vue'

/** What was voted on a topic, the newest first. */
const { topic } = defineProps<{ topic: Topic }>()
const desk = useDesk()
const votes = computed(() => [...topic.votes].sort((a, b) => b.at - a.at))
const labelled = (vote: Vote): string[] =>
  vote.choices.map((choice, i) => [choice, whoChose(vote, i, desk.nameOf)].filter(Boolean).join(' – '))
</script>

<template>
  <h3>Votes</h3>
  <section v-for="vote in votes" :key="vote.id" :aria-label="vote.question || 'Vote'">
    <h4 v-if="vote.question" dir="auto">{{ vote.question }}</h4>
    <VoteBars :choices="labelled(vote)" :counts="vote.counts" />
    <p>
      {{ beatsInWords(vote) }}{{ votersInWords(vote, desk.nameOf) }} · {{ agoInWords(new Date(vote.at).toISOString()) }}
    </p>
  </section>
</template>

<style scoped>
h4 {
  margin: 4px 0 0;
  font: 600 13.5px var(--text);
}
p {
  margin: 0 0 8px;
  color: var(--quiet);
  font-size: 12.5px;
}
</style>
