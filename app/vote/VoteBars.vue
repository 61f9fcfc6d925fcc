<script setup lang="ts">
/** How much each choice got, as bars with their numbers. */
const { choices, counts } = defineProps<{ choices: readonly string[]; counts: readonly number[] }>()
const most = computed(() => Math.max(1, ...counts))
</script>

<template>
  <ul class="bars">
    <li v-for="(choice, i) in choices" :key="choice">
      <span dir="auto">{{ choice }}</span><b>{{ counts[i] }}</b>
      <span class="bar" aria-hidden="true"><i :style="{ width: `${(counts[i]! / most) * 100}%` }" /></span>
    </li>
  </ul>
</template>

<style scoped>
.bars {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  display: grid;
  gap: 5px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1px 10px;
  overflow-wrap: anywhere;
}
.bar {
  grid-column: 1 / -1;
  height: 5px;
  background: color-mix(in srgb, var(--ceiling) 60%, transparent);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--porch);
}
</style>
