<script setup lang="ts">
import type { Section } from '#core/contract'

/** A section of an agenda that one was asked to fill in; the link leads straight there. */
const { section } = defineProps<{ section: Section }>()
const due = computed(() => dueInWords(section.by))
</script>

<template>
  <NuxtLink :to="`/trees/${section.treeId}?topic=${section.id}`" class="row">
    <span class="edge" :class="{ late: due.late }" />
    <Icon name="lucide:file-pen-line" size="17" />
    <span class="name"
      >{{ section.title || 'untitled' }}<small>for {{ section.meeting }}, {{ section.tree }}</small></span
    >
    <span class="due" :class="{ late: due.late }">{{ due.text }}</span>
  </NuxtLink>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 11px;
  background: var(--surface);
  box-shadow:
    0 1px 0 var(--line),
    0 0 0 0.5px var(--line);
  color: inherit;
  text-decoration: none;
  padding: 7px 14px 7px 0;
}
.row:hover {
  background: var(--hover);
}
.edge {
  width: 3px;
  align-self: stretch;
  margin: -7px 0;
  background: var(--sun);
}
.edge.late {
  background: var(--clay);
}
.name {
  flex: 1;
  min-width: 0;
  font-weight: 550;
  overflow-wrap: anywhere;
}
small {
  display: block;
  color: var(--quiet);
  font-weight: 400;
  font-size: 12px;
}
.due {
  color: var(--quiet);
  font-size: 12.5px;
  white-space: nowrap;
}
.due.late {
  color: var(--clay);
  font-weight: 650;
}
</style>
