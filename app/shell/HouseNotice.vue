<template>
  <div class="house-notice" role="status"><slot /></div>
</template>

<style scoped>
.house-notice:empty {
  display: none;
}
.house-notice {
  position: fixed;
  /* Between both edges, so that it's as wide as its words: from the middle on it has but half the page. */
  inset-inline: 0;
  margin-inline: auto;
  width: fit-content;
  bottom: calc(64px + env(safe-area-inset-bottom));
  z-index: 900;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  max-width: 94vw;
  padding: 8px 10px 8px 14px;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 8px;
  box-shadow: var(--shadow);
}
</style>
