<script setup lang="ts">
import type { Planned } from '#core/schedule/planned'
import type { TopicSign } from '#core/talk/thread'
import { commentsInWords } from '~/talk/count'

/** What stands after a bar: who is on it, how late it is, how it stands to what was agreed, and what was said about it. */
defineProps<{
  people: string
  planned: Planned | null
  /** Working days that it ends later than agreed. */
  slip: number
  talked: TopicSign | null
}>()
defineEmits<{ talk: [] }>()
</script>

<template>
  <span class="said"
    ><b v-if="planned">{{ people }}</b
    ><em v-if="planned?.late" class="late">{{ planned.late }} d late</em
    ><em v-if="slip" :class="slip > 0 ? 'late' : 'sooner'">{{ slip > 0 ? '+' : '−' }}{{ Math.abs(slip) }} d</em
    ><span v-if="planned?.critical" class="must">must not slip</span
    ><button
      v-if="talked"
      class="talked"
      :class="{ open: talked.open }"
      tabindex="-1"
      :data-tip="commentsInWords(talked.comments)"
      @pointerdown.stop
      @click.stop="$emit('talk')">
      <Icon name="lucide:message-square" size="13" />{{ talked.comments }}
    </button></span
  >
</template>

<style scoped>
.said b {
  color: var(--ink);
  font-weight: 700;
}
.late {
  color: var(--clay);
  font-style: normal;
  font-weight: 650;
}
.sooner {
  color: var(--fern);
  font-style: normal;
  font-weight: 650;
}
.must {
  color: var(--ink);
  font-weight: 650;
}
.talked {
  display: inline-flex;
  align-items: center;
  gap: 3px;
  padding: 0 4px;
  border: 0;
  background: none;
  color: var(--quiet);
  font: inherit;
  pointer-events: auto;
  cursor: pointer;
}
.talked.open {
  color: var(--ink);
  font-weight: 700;
}
</style>
