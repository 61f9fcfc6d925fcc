<script setup lang="ts">
import type { Slips } from '#core/schedule/baseline'
import { daysInWords, wholeSlipInWords } from '#core/schedule/plan-words'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** What of the plan ends on another day than it did after an edit, in words. Nothing where there is no plan. */
const { since, head } = defineProps<{ since: number; head: string }>()
const desk = useDesk()
const SHOWN = 8
const found = shallowRef<{ readonly finish: string | null; readonly slips: Slips } | null>(null)
const all = ref(false)
let asked = 0
/** Asked of the server, which knows the tree of then; once what was done here is stored there. */
async function ask(): Promise<void> {
  const mine = ++asked
  await desk.stored(5000)
  const told = await callApi<{ finish: string | null; slips?: Slips }>(`/api/trees/${desk.session.treeId}/schedule`, {
    query: { baseline: String(since), status: desk.today },
  }).catch(() => null)
  if (mine === asked) found.value = told?.slips ? { finish: told.finish, slips: told.slips } : null
}
watch(() => since, ask, { immediate: true })
const moved = computed(() => (found.value ? [...found.value.slips.later, ...found.value.slips.sooner] : []))
const titled = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 40)
function go(id: TopicId): void {
  desk.view.value = 'schedule'
  desk.visit(id)
}
</script>

<template>
  <section v-if="found" class="slips" :aria-label="head">
    <h2>{{ head }}</h2>
    <p :class="{ late: found.slips.whole > 0 }">{{ wholeSlipInWords(found.slips.whole, found.finish, dayInWords) }}.</p>
    <p v-if="moved.length === 0" class="quiet">Nothing ends on another day.</p>
    <ul v-else>
      <li v-for="one in all ? moved.slice(0, 200) : moved.slice(0, SHOWN)" :key="one.topic">
        <button class="plain" @click="go(one.topic)">{{ titled(one.topic) }}</button>
        <span :class="{ late: one.days > 0 }"
          >{{ daysInWords(Math.abs(one.days)) }} {{ one.days > 0 ? 'later' : 'sooner' }}</span
        >
      </li>
    </ul>
    <button v-if="moved.length > SHOWN && !all" class="plain" @click="all = true">
      and {{ moved.length - SHOWN }} more
    </button>
    <p v-if="found.slips.come.length || found.slips.gone.length" class="quiet">
      {{ found.slips.come.length }} have come since, {{ found.slips.gone.length }} gone.
    </p>
  </section>
</template>

<style scoped>
.slips {
  margin-top: 22px;
}
h2 {
  margin: 0 0 6px;
  font: 650 16px/1.3 var(--display);
}
p {
  margin: 4px 0;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  align-items: baseline;
}
.plain {
  border: 0;
  background: none;
  padding: 2px 0;
  color: var(--porch);
  font: 550 13.5px/1.3 var(--text);
  text-align: left;
  cursor: pointer;
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.quiet {
  color: var(--quiet);
}
li span {
  white-space: nowrap;
  font-size: 12.5px;
}
</style>
