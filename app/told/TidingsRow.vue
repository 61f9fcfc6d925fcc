<script setup lang="ts">
import { NuxtLink } from '#components'
import { type TidingsGroup, tidingsInWords, tidingsLink } from '#core/telling/grouped'
import type { ToldKind } from '#core/telling/kinds'

/** What belongs together, told in one sentence, with the words that were said. */
const { group } = defineProps<{ group: TidingsGroup }>()
const emit = defineEmits<{ read: [] }>()
const ICONS: Record<ToldKind, string> = {
  mention: 'lucide:at-sign',
  reply: 'lucide:message-square',
  task: 'lucide:square-check',
  date: 'lucide:calendar',
  section: 'lucide:pencil-line',
  invited: 'lucide:user-plus',
  watched: 'lucide:eye',
}
const words = computed(() => group.all.map(({ said }) => said?.words ?? '').filter(Boolean))
const first = computed(() => group.all[0]!)
</script>

<template>
  <div class="row" :class="{ fresh: !group.read }">
    <NuxtLink :to="tidingsLink(group)" class="told" @click="emit('read')">
      <Icon :name="ICONS[group.kind]" size="17" />
      <span class="what"
        ><span dir="auto">{{ tidingsInWords(group) }}</span>
        <q v-for="(one, i) in words.slice(0, 2)" :key="i" dir="auto">{{ one }}</q>
        <small>{{ first.tree.title || 'untitled' }} · {{ agoInWords(first.at) }}</small></span
      >
    </NuxtLink>
    <button
      v-if="!group.read"
      class="plain"
      :aria-label="`${tidingsInWords(group)}: mark as read`"
      data-tip="Mark as read"
      @click="emit('read')">
      <Icon name="lucide:check" size="16" />
    </button>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: stretch;
  margin-bottom: 4px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-left: 3px solid var(--ceiling);
}
.fresh {
  border-left-color: var(--porch);
}
.row:hover {
  background: color-mix(in srgb, var(--ceiling) 30%, var(--surface));
}
.told {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 12px;
  padding: 10px 12px;
  color: var(--ink);
  text-decoration: none;
}
.told > :deep(svg),
.told > :deep(.iconify) {
  flex: none;
  margin-top: 2px;
  color: var(--quiet);
}
.fresh .told {
  font-weight: 600;
}
.fresh .told > :deep(.iconify) {
  color: var(--porch);
}
.what {
  min-width: 0;
  display: grid;
  gap: 2px;
  overflow-wrap: anywhere;
}
q {
  font-weight: 400;
  color: var(--quiet);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  quotes: none;
  border-left: 3px solid var(--ceiling);
  padding-left: 8px;
}
small {
  font-weight: 400;
  color: var(--quiet);
}
.plain {
  width: 44px;
  color: var(--quiet);
  border-radius: 8px;
}
.plain:hover {
  color: var(--porch);
}
</style>
