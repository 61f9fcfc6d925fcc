<script setup lang="ts">
import { sayOutcome, STANDING_WORDS } from '#core/meeting/delivered'
import { STANDINGS, type Standing } from '#core/tree'
import { STANDING_ICONS } from './delivered-icons'
import { useMeeting } from './useMeeting'

/** Before a meeting ends: what was to be settled and is open still, one key for each. */
const meeting = useMeeting()
const visible = defineModel<boolean>('visible', { required: true })
/** What was open when it was asked, so that nothing goes away under a key. */
const asked = meeting.delivered.value.filter(({ is }) => is === null).map(({ id }) => id)
const open = computed(() => meeting.delivered.value.filter(({ id }) => asked.includes(id)))
const at = computed(() => open.value.find(({ is }) => is === null)?.id ?? null)
/** The same, this moment: a fast hand says the next before a frame has passed. */
const atNow = (): string | null =>
  meeting.deliveredNow().find(({ id, is }) => is === null && asked.includes(id))?.id ?? null
function say(must: string | null, is: Standing): void {
  if (must !== null && meeting.id.value !== null) meeting.run([sayOutcome(meeting.id.value, must, is)])
}
function end(): void {
  visible.value = false
  void meeting.move({ to: 'end' })
}
function key(event: KeyboardEvent): void {
  const is = STANDINGS[Number(event.key) - 1]
  if (is && !event.ctrlKey && !event.metaKey && !event.altKey) say(atNow(), is)
  else if (event.key === 'Enter' && !(event.target as HTMLElement).closest?.('.ways, .p-dialog-header')) end()
  else return
  event.preventDefault()
  event.stopImmediatePropagation()
}
// The keys are its own from the moment on at which it's there, wherever the focus is on its way to.
onMounted(() => window.addEventListener('keydown', key, true))
onBeforeUnmount(() => window.removeEventListener('keydown', key, true))
</script>

<template>
  <PorchDialog v-model:visible="visible" header="Before it ends" :style="{ width: 'min(560px, 94vw)' }">
    <div>
      <p id="ending" class="quiet">
        {{ open.length === 1 ? 'One thing that was to be settled is open' : 'What was to be settled and is open' }}:
        <kbd>1</kbd> reached, <kbd>2</kbd> partly, <kbd>3</kbd> not.
      </p>
      <ul>
        <li v-for="one in open" :key="one.id" :class="{ now: one.id === at }">
          <span>{{ one.text }}</span>
          <span class="ways" role="group" :aria-label="one.text">
            <button
              v-for="(is, i) in STANDINGS"
              :key="is"
              :aria-label="STANDING_WORDS[is]"
              :aria-pressed="one.is === is"
              @click="say(one.id, is)">
              <Icon :name="STANDING_ICONS[is]" size="16" /><kbd>{{ i + 1 }}</kbd>
            </button>
          </span>
        </li>
      </ul>
      <footer>
        <span class="quiet">{{ at === null ? 'All of it is said.' : 'What stays open stays so in the minutes.' }}</span>
        <Button data-first label="End the meeting" @click="end" />
      </footer>
    </div>
  </PorchDialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 10px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  padding: 6px 10px;
  border-left: 3px solid var(--line);
}
li.now {
  border-left-color: var(--sun);
  background: var(--hover);
  font-weight: 600;
}
.ways {
  display: flex;
  gap: 4px;
}
.ways button {
  display: flex;
  gap: 4px;
  align-items: center;
  min-height: 36px;
  padding: 0 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
  cursor: pointer;
}
.ways [aria-pressed='true'] {
  background: var(--ceiling);
  border-color: var(--porch);
}
footer {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
@media (max-width: 560px) {
  li {
    flex-direction: column;
    align-items: stretch;
  }
  .ways button {
    min-height: 44px;
    flex: 1;
    justify-content: center;
  }
}
</style>
