<script setup lang="ts">
defineProps<{ size?: number }>()
</script>

<template>
  <svg :width="size ?? 34" :height="size ?? 34" viewBox="0 0 34 34" aria-hidden="true">
    <circle cx="17" cy="17" r="6.5" fill="var(--sun)" />
    <path d="M4 24h26M4 29h26M7 24V9M27 24V9M3 9 17 3l14 6" fill="none" stroke="var(--porch)" stroke-width="2.4" />
  </svg>
</template>
