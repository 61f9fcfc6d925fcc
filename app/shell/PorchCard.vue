<script setup lang="ts">
/** A card on the porch's boards, for whoever isn't inside yet. */
defineProps<{ title?: string; about?: string }>()
</script>

<template>
  <main class="porch">
    <div class="boards" aria-hidden="true" />
    <div class="card">
      <div class="mark">
        <PorchMark :size="44" />
        <h1>{{ title ?? 'Sun Porch' }}</h1>
      </div>
      <p v-if="about" class="quiet">{{ about }}</p>
      <slot />
    </div>
  </main>
</template>

<style scoped>
.porch {
  height: 100%;
  display: grid;
  place-items: center;
  background: var(--page);
  overflow: auto;
  padding: 16px;
  position: relative;
}
.boards {
  position: absolute;
  inset: 0 0 auto;
  height: 34%;
  background: repeating-linear-gradient(
    90deg,
    color-mix(in srgb, var(--ceiling) 96%, #000) 0 1px,
    var(--ceiling) 1px 64px
  );
  border-bottom: 10px solid var(--surface);
  box-shadow: 0 1px 0 var(--line);
}
.card {
  position: relative;
  width: min(380px, 100%);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 10px;
  padding: 28px 28px 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  box-shadow: var(--shadow);
}
.mark {
  display: flex;
  align-items: center;
  gap: 12px;
}
.card :deep(p) {
  margin: 0;
}
.card :deep(form) {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.card :deep(label) {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-weight: 600;
  font-size: 13px;
}
</style>
