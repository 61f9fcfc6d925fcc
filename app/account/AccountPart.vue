<script setup lang="ts">
/** One part of the account: a board with its name at the left and what can be done at the right. */
defineProps<{ name: string; about?: string; said?: string; wrong?: string }>()
</script>

<template>
  <section class="part" :aria-label="name">
    <div class="what">
      <h2>{{ name }}</h2>
      <p v-if="about" class="quiet">{{ about }}</p>
    </div>
    <div class="do">
      <slot />
      <p v-if="said" class="said" role="status"><Icon name="lucide:check" size="15" /> {{ said }}</p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </div>
  </section>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: minmax(0, 240px) minmax(0, 1fr);
  gap: 10px 36px;
  padding: 20px 0 22px;
  border-top: 1px solid var(--line);
}
h2 {
  font: 650 15px var(--text);
  margin: 0;
}
p {
  margin: 4px 0 0;
}
.do {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-width: 0;
  max-width: 560px;
}
.do :deep(form) {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: flex-end;
}
.do :deep(label) {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-weight: 600;
  font-size: 13px;
  flex: 1 1 200px;
  min-width: 0;
}
.do :deep(label .p-select) {
  font-weight: 400;
}
.do :deep(ul) {
  list-style: none;
  margin: 0;
  padding: 0;
}
.do :deep(li) {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}
.do :deep(li:last-child) {
  border: 0;
}
.do :deep(li > span:not(.iconify)) {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.do :deep(li small) {
  display: block;
  color: var(--quiet);
}
.said {
  color: var(--fern);
  display: flex;
  align-items: center;
  gap: 6px;
  font-weight: 600;
}
.wrong {
  color: var(--clay);
  font-weight: 600;
}
@media (max-width: 760px) {
  .part {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
