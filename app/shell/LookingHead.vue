<script setup lang="ts" generic="V extends string">
/** The head of a page on which a tree is looked at: the way back, what is shown, the ways to read it, and what can be done. */
const { back, title, views } = defineProps<{ back: string; title: string; views: Readonly<Record<V, string>> | null }>()
const view = defineModel<V>('view', { required: true })
const emit = defineEmits<{ back: [] }>()
</script>

<template>
  <header class="looking">
    <Button size="small" outlined :label="back" @click="emit('back')"
      ><template #icon><Icon name="lucide:arrow-left" size="15" /></template
    ></Button>
    <div class="what">
      <h1 :title="title">{{ title }}</h1>
      <slot name="about" />
    </div>
    <div v-if="views" class="views" role="tablist" aria-label="Views">
      <button
        v-for="(name, key) in views"
        :key="key"
        role="tab"
        :aria-selected="view === key"
        :class="{ on: view === key }"
        @click="view = key as V">
        {{ name }}
      </button>
    </div>
    <slot />
  </header>
</template>

<style scoped>
.looking {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  min-height: 52px;
  padding: 6px 16px;
  background: var(--surface);
  border-bottom: 3px solid var(--sun);
}
.what {
  flex: 1 1 200px;
  min-width: 0;
  color: var(--quiet);
  font-size: 13px;
}
h1 {
  margin: 0;
  color: var(--ink);
  font: 600 18px/1.3 var(--display);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 34ch;
}
.views button {
  border: 0;
  background: none;
  color: var(--quiet);
  padding: 5px 10px;
  border-radius: 6px;
  cursor: pointer;
  font: inherit;
}
.views .on {
  background: var(--ceiling);
  color: var(--ink);
  font-weight: 600;
}
</style>
