<script setup lang="ts">
import { sayOutcome, STANDING_WORDS, tallyInWords, tallyOf } from '#core/meeting/delivered'
import { type Standing, STANDINGS } from '#core/tree'
import { STANDING_ICONS } from './delivered-icons'
import { useMeeting } from './useMeeting'

/** What must be settled and how far it is, in sight while the meeting runs: said by hand, or by a decision that settles it. */
const meeting = useMeeting()
const { delivered, may } = meeting
const tally = computed(() => tallyInWords(tallyOf(delivered.value)))
function say(must: string, is: Standing | null, why = ''): void {
  if (meeting.id.value !== null) meeting.run([sayOutcome(meeting.id.value, must, is, why)])
}
/** A press on what stands by hand leaves it to the decisions again. */
function turn(one: (typeof delivered.value)[number], is: Standing): void {
  say(one.id, one.byHand && one.is === is ? null : is, one.why)
}
</script>

<template>
  <section v-if="delivered.length" aria-label="What must be settled">
    <h2>
      To be settled <span class="tally" role="status">{{ tally }}</span>
    </h2>
    <ul>
      <li v-for="one in delivered" :key="one.id" :class="one.is ?? 'open'">
        <span class="text">{{ one.text }}</span>
        <span class="ways" role="group" :aria-label="one.text">
          <button
            v-for="is in STANDINGS"
            :key="is"
            :aria-label="STANDING_WORDS[is]"
            :data-tip="STANDING_WORDS[is]"
            :aria-pressed="one.is === is"
            :disabled="!may"
            @click="turn(one, is)">
            <Icon :name="STANDING_ICONS[is]" size="16" />
          </button>
        </span>
        <input
          v-if="one.byHand"
          v-kept="one.why"
          type="text"
          maxlength="500"
          placeholder="Why, in a word"
          :aria-label="`Why “${one.text}” is ${STANDING_WORDS[one.is!]}`"
          :disabled="!may"
          @change="say(one.id, one.is, ($event.target as HTMLInputElement).value)" />
        <small v-else-if="one.decisions.length" class="quiet">by “{{ one.decisions.join('”, “') }}”</small>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 16px;
}
h2 {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  margin-bottom: 4px;
}
.tally {
  font: 600 12.5px var(--text);
  color: var(--quiet);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
  align-items: center;
  padding: 4px 0 4px 10px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--line);
}
li.reached {
  border-left-color: var(--fern);
}
li.partly {
  border-left-color: var(--sun);
}
li.not {
  border-left-color: var(--clay);
}
.text {
  font-weight: 600;
}
.ways {
  display: flex;
}
.ways button {
  width: 32px;
  height: 30px;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--quiet);
  display: grid;
  place-items: center;
  cursor: pointer;
}
.ways button:hover:not(:disabled) {
  background: var(--hover);
}
.ways [aria-pressed='true'] {
  background: var(--ceiling);
  color: var(--ink);
}
input,
small {
  grid-column: 1 / -1;
}
input {
  font: inherit;
  font-size: 13px;
  padding: 3px 7px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
}
@media (pointer: coarse) {
  .ways button {
    width: 44px;
    height: 44px;
  }
}
</style>
