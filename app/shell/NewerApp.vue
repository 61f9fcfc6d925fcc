<script setup lang="ts">
/** Says that a newer version of the app waits; it comes when one takes it up, never by itself. */
const newer = useNewerApp()
</script>

<template>
  <HouseNotice>
    <template v-if="newer">
      <span>A newer Sun Porch is ready. What you are doing stays.</span>
      <Button size="small" label="Take it up now" @click="newer.take()" />
      <Button size="small" text label="Later" @click="newer = null" />
    </template>
  </HouseNotice>
</template>
