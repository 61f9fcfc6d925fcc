<script setup lang="ts">
import type { Slide } from '#core/formats/contents'

/** Slides as cards one below the other: what stands on each, its pictures, and what its speaker says. */
const { slides } = defineProps<{ slides: readonly Slide[] }>()
</script>

<template>
  <section v-for="(slide, i) in slides" :key="i" class="slide" :aria-label="`Slide ${i + 1}`">
    <span class="number">{{ i + 1 }}</span>
    <h2 v-if="slide.title">{{ slide.title }}</h2>
    <p v-for="(line, n) in slide.lines" :key="n" :style="{ '--level': line.level }">{{ line.text }}</p>
    <div v-if="slide.pictures.length > 0" class="pictures">
      <img v-for="(picture, n) in slide.pictures" :key="n" :src="picture.src" :alt="picture.words" />
    </div>
    <p v-if="slide.notes" class="notes"><b>Notes</b> {{ slide.notes }}</p>
  </section>
</template>

<style scoped>
.slide {
  position: relative;
  box-sizing: border-box;
  width: min(820px, 100%);
  flex: none;
  background: var(--surface);
  border: 1px solid var(--line);
  padding: 24px 24px 20px 64px;
  overflow-wrap: anywhere;
}
.number {
  position: absolute;
  left: 20px;
  top: 26px;
  color: var(--quiet);
  font-variant-numeric: tabular-nums;
}
h2 {
  margin: 0 0 12px;
  font-size: 21px;
  line-height: 1.25;
}
p {
  margin: 0 0 6px;
  padding-left: calc(var(--level, 0) * 20px);
  white-space: pre-line;
  line-height: 1.5;
}
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 12px;
}
img {
  max-width: min(100%, 460px);
  max-height: 340px;
  object-fit: contain;
}
.notes {
  margin: 14px 0 0;
  padding: 10px 0 0;
  border-top: 1px dashed var(--line);
  color: var(--quiet);
  font-size: 14px;
}
@media (max-width: 600px) {
  .slide {
    padding: 20px 16px 16px 44px;
  }
  .number {
    left: 14px;
    top: 22px;
  }
}
</style>
