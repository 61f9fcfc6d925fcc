<script setup lang="ts">
/**
 * Who does it: initials, and over them the pictures of those who have one. Initials keep the place, so that a plank is as wide
 * whoever has a picture, and a picture of the tree, in which nobody's face is, looks the same.
 */
const { who, text } = defineProps<{ who: readonly string[]; text: string }>()
const faces = useFaces()
/** Accounts come first; names that only a formula or a reference knows follow. */
const people = computed(() => text.split(' ').map((initials, i) => ({ initials, id: who[i] ?? '' })))
</script>

<template>
  <span
    ><template v-for="({ initials, id }, i) in people" :key="i"
      ><span class="one"
        >{{ initials }}<PersonFace v-if="faces.pictured.has(id)" :id="id" name="" class="over" :size="16" /></span
      >{{ ' ' }}</template
    ></span
  >
</template>

<style scoped>
.one {
  position: relative;
}
.over {
  position: absolute;
  left: 50%;
  top: 50%;
  transform: translate(-50%, -50%);
}
</style>
