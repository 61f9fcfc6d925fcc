<script setup lang="ts">
import { type Baseline, slipsSince } from '#core/schedule/baseline'
import { wholeSlipInWords } from '#core/schedule/plan-words'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { planningOf } from './planning'
import { planThen } from './useBaseline'

/** What of the plan ends on another day than it did after an edit, in words. Nothing where there is no plan, or was none. */
const { since, head } = defineProps<{ since: number; head: string }>()
const desk = useDesk()
const planning = planningOf(desk)
const then = shallowRef<Baseline | null>(null)
let asked = 0
// How it was then is asked for once; what it is now is this tree's.
watch(
  () => since,
  async number => {
    const mine = ++asked
    const told = await planThen(desk, number).catch(() => null)
    if (mine === asked) then.value = told
  },
  { immediate: true },
)
const found = computed(() => {
  void desk.tick.value
  const plan = planning.get()
  return typeof plan === 'string' || !then.value ? null : { finish: plan.finish, slips: slipsSince(plan, then.value) }
})
function go(id: TopicId): void {
  desk.view.value = 'schedule'
  desk.visit(id)
}
</script>

<template>
  <section v-if="found" class="slips" :aria-label="head">
    <h2>{{ head }}</h2>
    <p :class="{ late: found.slips.whole > 0 }">{{ wholeSlipInWords(found.slips.whole, found.finish, dayInWords) }}.</p>
    <SlipList :slips="found.slips" :most="8" @go="go" />
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
.late {
  color: var(--clay);
  font-weight: 650;
}
</style>
