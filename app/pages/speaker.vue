<script setup lang="ts">
import { useEventListener, useNow } from '@vueuse/core'
import { actionFor } from '~/keys/keys'
import { type Move, moveOf, type Told, useCues } from '~/presenting/cues'

/** The speaker’s own window beside a tree that is presented: the notes of the step, what comes next, the clock. */
definePageMeta({ path: '/trees/:id/speaker', layout: false })
useHead({ title: 'Speaker · Sun Porch' })

const route = useRoute()
const told = shallowRef<Told | null>(null)
const isOver = ref(false)
const tell = useCues(String(route.params.id), word => {
  if (word.kind === 'told') {
    told.value = word.told
    isOver.value = false
  } else if (word.kind === 'over') isOver.value = true
})
const now = useNow({ interval: 1000 })
const time = computed(() => now.value.toLocaleTimeString(ownLocale(), { hour: '2-digit', minute: '2-digit' }))
const spent = computed(() => (told.value ? clockInWords(now.value.getTime() - told.value.began) : ''))
const move = (to: Move): void => tell({ kind: 'move', to })

onMounted(() => tell({ kind: 'ask' }))
useEventListener(window, 'keydown', event => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return
  if (event.target instanceof HTMLElement && event.target.closest('button') && [' ', 'Enter'].includes(event.key))
    return
  const way = moveOf[actionFor('present', event) ?? '']
  if (!way) return
  event.preventDefault()
  move(way)
})
</script>

<template>
  <main class="speaker">
    <p v-if="!told || isOver" class="idle" role="status">
      {{ isOver ? 'Presenting is over.' : 'Nothing is presented in this browser just now.' }}
      <small>This window shows your notes as soon as the tree is presented.</small>
    </p>
    <template v-else>
      <header>
        <b>{{ told.cue.place }} of {{ told.cue.of }}</b>
        <time aria-label="Since it began">{{ spent }}</time>
        <time aria-label="Time of day">{{ time }}</time>
      </header>
      <section class="now" aria-label="Now">
        <h1 dir="auto">{{ told.cue.title }}</h1>
        <div v-if="told.cue.note.length" class="note" dir="auto">
          <p v-for="(line, i) in told.cue.note" :key="i">{{ line }}</p>
        </div>
        <p v-else class="quiet">Its note would stand here.</p>
        <ul v-if="told.cue.parts.length">
          <li v-for="(part, i) in told.cue.parts" :key="i" dir="auto">{{ part }}</li>
        </ul>
      </section>
      <aside aria-label="Next">
        <template v-if="told.cue.next">
          <h2>Then</h2>
          <h3 dir="auto">{{ told.cue.next.title }}</h3>
          <ul>
            <li v-for="(part, i) in told.cue.next.parts.slice(0, 12)" :key="i" dir="auto">{{ part }}</li>
          </ul>
        </template>
        <h2 v-else>That is the last step.</h2>
      </aside>
      <footer>
        <button :disabled="told.cue.place === 1" @click="move('back')">
          <Icon name="lucide:chevron-left" size="22" /> Back
        </button>
        <button class="on" :disabled="told.cue.place === told.cue.of" @click="move('next')">
          Next <Icon name="lucide:chevron-right" size="22" />
        </button>
      </footer>
    </template>
  </main>
</template>

<style scoped>
.speaker {
  height: 100dvh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 2fr) minmax(0, 1fr);
  background: var(--page);
}
.idle {
  grid-area: 1 / 1 / -1 / -1;
  margin: auto;
  text-align: center;
}
.idle small {
  display: block;
  color: var(--quiet);
}
header,
footer {
  grid-column: 1 / -1;
  display: flex;
  gap: 28px;
  align-items: baseline;
  padding: 12px 24px;
  background: var(--surface);
  font-size: 24px;
  font-variant-numeric: tabular-nums;
}
header time:last-child {
  margin-left: auto;
  color: var(--quiet);
}
.now,
aside {
  overflow: auto;
  padding: 20px 24px;
}
aside {
  border-left: 1px solid var(--line);
  color: var(--quiet);
}
h1 {
  margin: 0 0 12px;
  font-size: 28px;
}
h2 {
  margin: 0;
  font-size: 14px;
}
h3 {
  margin: 2px 0 8px;
  font-size: 20px;
  color: var(--ink);
}
.note {
  font-size: 21px;
  line-height: 1.45;
  max-width: 60ch;
}
.note p {
  margin: 0 0 10px;
}
ul {
  margin: 10px 0 0;
  padding-left: 20px;
}
footer {
  gap: 10px;
  align-items: stretch;
}
footer button {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: center;
  padding: 12px;
  font: inherit;
  font-size: 18px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--surface);
  color: var(--ink);
  cursor: pointer;
}
footer .on {
  background: var(--porch);
  color: var(--on-porch);
}
footer button:disabled {
  opacity: 0.5;
  cursor: default;
}
@media (max-width: 700px) {
  .speaker {
    grid-template: auto minmax(0, 2fr) minmax(0, 1fr) auto / minmax(0, 1fr);
  }
  aside {
    border-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
