<script setup lang="ts">
/** Somebody's picture, or their initials on their own colour. */
const {
  id,
  name,
  picture: given = undefined,
  square: cut = undefined,
  size = 34,
} = defineProps<{
  id: string
  name: string
  /** Whether they have one; where it isn't said, as the people of the trees that were open here have it. */
  picture?: boolean | undefined
  /** Whether it's cut square instead of round; the same. */
  square?: boolean | undefined
  size?: number
}>()
const faces = useFaces()
const picture = computed(() => given ?? faces.pictured.has(id))
const isSquare = computed(() => picture.value && (cut ?? faces.square.has(id)))
const failed = ref(false)
watch(
  () => [id, picture.value],
  () => {
    failed.value = false
  },
)
/** Asked for anew when one has just changed one's own. */
const address = computed(() => `/api/people/${id}/picture?${useAccount().pictureAt}`)
</script>

<template>
  <span
    class="face"
    :class="{ square: isSquare }"
    aria-hidden="true"
    :style="{ width: `${size}px`, height: `${size}px`, background: hueOf(id), fontSize: `${size * 0.36}px` }">
    <img v-if="picture && !failed" :src="address" alt="" @error="failed = true" />
    <template v-else>{{ initialsOf(name) }}</template>
  </span>
</template>

<style scoped>
.face {
  display: inline-grid;
  place-content: center;
  border-radius: 50%;
  color: #fff;
  font-weight: 700;
  overflow: hidden;
  flex: none;
}
/* A picture that is cut square keeps the corners of a plank. */
.square {
  border-radius: 14%;
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
</style>
