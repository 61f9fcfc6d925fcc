<script setup lang="ts">
import type { Column } from '#core/board/board'
import { useDesk } from '~/desk/desk'

/** The head of a column: its name, how many cards stand in it, and how many it is to hold. */
const { column } = defineProps<{ column: Column }>()
const desk = useDesk()
const over = computed(() => (column.most === null ? 0 : column.count - column.most))
const limit = ref()
function setMost(text: string): void {
  const said = text.trim()
  const most = Number(said)
  if (said === '') {
    if (column.most !== null && desk.guard())
      desk.run({ changes: [{ op: 'tree-take', set: 'columnLimits', member: column.id }] })
  } else if (!Number.isInteger(most) || most < 1 || most > 999) desk.say('A column holds from 1 to 999 cards.')
  else if (desk.guard())
    desk.run({ changes: [{ op: 'tree-put', set: 'columnLimits', member: { id: column.id, most } }] })
}
</script>

<template>
  <MarkerSign v-if="column.value.kind === 'marker' && column.value.id" :id="column.value.id" />
  <span class="name">{{ column.name }}</span>
  <button
    class="count"
    :class="{ over: over > 0 }"
    :aria-label="`${column.name}: ${column.count}${column.most === null ? '' : ` of at most ${column.most}`}. How many it is to hold`"
    @click="limit.toggle($event)">
    {{ column.count }}<template v-if="column.most !== null"> of {{ column.most }}</template
    ><template v-if="over > 0">: {{ over }} too many</template>
  </button>
  <PorchPopover ref="limit">
    <label class="limit"
      >At most
      <InputText
        v-kept="column.most === null ? '' : `${column.most}`"
        data-first
        inputmode="numeric"
        placeholder="any number"
        :disabled="!desk.session.canEdit"
        :aria-label="`Most cards in ${column.name}`"
        @change="setMost(($event.target as HTMLInputElement).value)"
        @keydown.enter="limit.hide()" />
      cards</label
    >
    <p class="quiet">More is never refused. The head says so.</p>
  </PorchPopover>
</template>

<style scoped>
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  border: 0;
  background: none;
  color: var(--quiet);
  font: 500 12px/1 var(--text);
  cursor: pointer;
  min-height: 28px;
  white-space: nowrap;
  margin-left: auto;
}
.count.over {
  color: var(--clay);
  font-weight: 650;
}
.limit {
  display: flex;
  align-items: center;
  gap: 8px;
}
.limit :deep(input) {
  width: 110px;
}
.quiet {
  margin: 8px 0 0;
  color: var(--quiet);
  font-size: 12.5px;
}
</style>
