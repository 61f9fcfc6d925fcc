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

<style scoped src="./row.css"></style>

<style scoped>
.edge {
  background: var(--sun);
}
.edge.late {
  background: var(--clay);
}
</style>
