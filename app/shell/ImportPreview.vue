<script setup lang="ts">
import type { ForeseenFile } from '~/composables/useImport'

/** What would come out of a file, seen before it's taken in. */
const { file } = defineProps<{ file: ForeseenFile; busy: boolean }>()
const emit = defineEmits<{ take: []; closed: [] }>()
const more = computed(() => file.count - 1 - file.lines.length)
</script>

<template>
  <PorchDialog
    :header="`“${file.name}” would be this tree`"
    :style="{ width: 'min(640px, 94vw)' }"
    @closed="emit('closed')">
    <p class="about">
      <b dir="auto">{{ file.title || 'untitled' }}</b>
      <span class="quiet">{{ file.count === 1 ? 'one topic' : `${file.count.toLocaleString()} topics` }}</span>
    </p>
    <ul class="lines" aria-label="What comes out" tabindex="0">
      <li
        v-for="(line, i) in file.lines"
        :key="i"
        :style="{ '--level': Math.min(line.level, 12) }"
        :class="{ main: line.level === 1 }">
        <span dir="auto">{{ line.title || '—' }}</span><Icon
          v-if="line.noted"
          name="lucide:notebook-text"
          size="13"
          label="has a note" />
      </li>
      <li v-if="more > 0" class="quiet">and {{ more.toLocaleString() }} more</li>
    </ul>
    <p v-if="file.stays.length" role="note" class="stays">{{ file.stays.join(', ') }}.</p>
    <template #footer>
      <Button text label="Leave it" @click="emit('closed')" />
      <Button data-first label="Take it in" :loading="busy" @click="emit('take')" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.about {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin: 0 0 8px;
}
.lines {
  list-style: none;
  margin: 0;
  padding: 8px 0;
  max-height: 46vh;
  overflow: auto;
  background: var(--page);
  border-left: 3px solid var(--porch);
}
.lines li {
  padding: 2px 12px 2px calc(12px + (var(--level, 1) - 1) * 20px);
  display: flex;
  gap: 6px;
  align-items: center;
  overflow-wrap: anywhere;
}
.main {
  font-weight: 600;
}
.stays {
  margin: 10px 0 0;
  padding-left: 10px;
  border-left: 3px solid var(--sun);
}
</style>
