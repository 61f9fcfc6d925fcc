<script setup lang="ts">
import type { Slips } from '#core/schedule/baseline'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { useBaseline } from './useBaseline'

/** What was agreed: baselines of the plan, the one that it's held against, and what has slipped since. */
const { baseline, slips } = defineProps<{ baseline: ReturnType<typeof useBaseline>; slips: Slips | null }>()
const emit = defineEmits<{ gone: [] }>()
const desk = useDesk()
const { all, against, wrong, hold, keep, letGo } = baseline
const name = ref('')
const may = computed(() => desk.status.ready && desk.session.canEdit)
const day = (iso: string): string => dayInWords(isoDay(new Date(iso)))
async function keepNow(): Promise<void> {
  await keep(name.value.trim())
  if (!wrong.value) name.value = ''
}
function go(id: TopicId): void {
  emit('gone')
  desk.visit(id)
}
</script>

<template>
  <div class="baselines">
    <form v-if="may" @submit.prevent="keepNow">
      <InputText
        v-model="name"
        data-first
        maxlength="200"
        placeholder="What was agreed, when"
        aria-label="Name of the baseline" />
      <Button type="submit" size="small" label="Keep the plan" />
    </form>
    <p v-if="wrong" class="late" role="alert">{{ wrong }}</p>
    <p v-if="all.length === 0" class="quiet">
      None yet. Keep the plan as it is, and later it says what has slipped since.
    </p>
    <ul aria-label="Baselines">
      <li v-for="one in all" :key="one.number" :class="{ on: against?.number === one.number }">
        <button
          class="plain"
          :aria-pressed="against?.number === one.number"
          @click="hold(against?.number === one.number ? null : one.number)">
          {{ one.name || 'As agreed' }}
        </button>
        <small class="quiet">{{ day(one.at) }}{{ one.by ? `, ${desk.nameOf(one.by)}` : '' }}</small>
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`Let “${one.name || 'As agreed'}” go`"
          @click="letGo(one.number)">
          <Icon name="lucide:x" size="13" />
        </button>
      </li>
    </ul>
    <SlipList v-if="slips" :slips="slips" :most="30" @go="go" />
  </div>
</template>

<style scoped>
.baselines {
  width: min(380px, 84vw);
  max-height: 60vh;
  overflow: auto;
  font-size: 13px;
}
form {
  display: flex;
  gap: 8px;
}
form :deep(input) {
  flex: 1;
  min-width: 0;
}
ul,
ol {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  border-left: 3px solid transparent;
  padding-left: 8px;
}
li.on {
  border-color: var(--sun);
}
li .plain {
  flex: 1;
  text-align: left;
}
.plain {
  min-height: 28px;
}
.late {
  color: var(--clay);
  font-weight: 650;
}
</style>
