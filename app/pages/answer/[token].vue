<script setup lang="ts">
import type { GuestMeeting } from '#core/contract'

/** What a guest sees by the link in their invitation: the meeting, and three answers. No account is needed. */
definePageMeta({ layout: false })
const route = useRoute()
const token = String(route.params.token)
const meeting = ref<GuestMeeting | null>(null)
const wrong = ref('')
const comment = ref('')
const said = ref('')
const busy = ref(false)
async function load(): Promise<void> {
  try {
    meeting.value = await callApi<GuestMeeting>(`/api/answers/${token}`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
useHead({ title: computed(() => `${meeting.value?.title ?? 'Invitation'} · Sun Porch`) })
const ANSWERS = { accepted: 'I come', tentative: 'Perhaps', declined: 'I don’t come' } as const
async function answer(given: keyof typeof ANSWERS): Promise<void> {
  busy.value = true
  wrong.value = ''
  try {
    await callApi(`/api/answers/${token}`, { method: 'POST', body: { answer: given, comment: comment.value } })
    said.value = `Thank you. ${meeting.value?.organizer || 'Whoever invited you'} sees your answer; you can change it here until the meeting.`
    await load()
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
const lines = computed(() => (meeting.value?.text ?? '').split('\n').slice(1).join('\n').trim())
</script>

<template>
  <main class="porch">
    <article v-if="meeting">
      <p class="quiet">{{ meeting.organizer ? `${meeting.organizer} invites you, ${meeting.name}` : meeting.name }}</p>
      <h1>{{ meeting.title }}</h1>
      <p class="when">{{ meeting.when }}</p>
      <p v-if="meeting.stage === 'cancelled'" class="over" role="status">This meeting was cancelled.</p>
      <p v-else-if="meeting.stage === 'ended'" class="over" role="status">This meeting is over.</p>
      <template v-else>
        <div class="answers" role="group" aria-label="Your answer">
          <button
            v-for="(words, given) in ANSWERS"
            :key="given"
            :aria-pressed="meeting.answer === given"
            :disabled="busy"
            @click="answer(given)">
            {{ words }}
          </button>
        </div>
        <label for="comment" class="quiet">A word with it, if you like</label>
        <InputText id="comment" v-model="comment" fluid maxlength="1000" />
      </template>
      <p v-if="said" role="status">{{ said }}</p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <pre>{{ lines }}</pre>
    </article>
    <article v-else-if="wrong">
      <h1>This link doesn’t open</h1>
      <p>{{ wrong }}</p>
    </article>
    <p v-else role="status">Opening …</p>
  </main>
</template>

<style scoped>
.porch {
  height: 100%;
  overflow: auto;
  padding: 8vh 20px 60px;
  display: grid;
  justify-items: center;
  align-content: start;
  background: repeating-linear-gradient(
    90deg,
    color-mix(in srgb, var(--ceiling) 90%, var(--porch)) 0 1px,
    var(--ceiling) 1px 48px
  );
}
article {
  width: min(620px, 100%);
  background: var(--surface);
  border-top: 4px solid var(--sun);
  box-shadow: var(--shadow);
  padding: 28px 32px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
p {
  margin: 0;
}
.when {
  font-weight: 600;
  font-size: 16px;
}
.answers {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin: 8px 0;
}
.answers button {
  border: 1px solid var(--porch);
  background: none;
  border-radius: 7px;
  padding: 9px 18px;
  font-weight: 600;
  cursor: pointer;
  min-height: 40px;
}
.answers [aria-pressed='true'] {
  background: var(--porch);
  color: var(--on-porch);
}
.over {
  color: var(--clay);
  font-weight: 600;
}
.wrong {
  color: var(--clay);
}
pre {
  white-space: pre-wrap;
  font: inherit;
  margin: 10px 0 0;
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
</style>
