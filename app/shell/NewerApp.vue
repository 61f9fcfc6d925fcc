<script setup lang="ts">
/** Says that a newer version of the app waits; it comes when one takes it up, never by itself. */
const newer = useNewerApp()
</script>

<template>
  <div class="newer" role="status">
    <template v-if="newer">
      <span>A newer Sun Porch is ready. What you are doing stays.</span>
      <Button size="small" label="Take it up now" @click="newer.take()" />
      <Button size="small" text label="Later" @click="newer = null" />
    </template>
  </div>
</template>

<style scoped>
.newer:empty {
  display: none;
}
.newer {
  position: fixed;
  left: 50%;
  bottom: calc(64px + env(safe-area-inset-bottom));
  translate: -50%;
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
