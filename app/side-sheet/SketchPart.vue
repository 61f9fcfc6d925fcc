<script setup lang="ts">
import type { Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** The sketch of a topic, and the pad it is drawn on. */
defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const open = ref(false)
defineExpose({
  draw: () => {
    open.value = true
  },
})
</script>

<template>
  <div class="sketch">
    <button v-if="topic.sketch" class="look" :disabled="!may" aria-label="Draw on the sketch" @click="open = true">
      <img :src="`data:image/svg+xml;utf8,${encodeURIComponent(topic.sketch)}`" :alt="`Sketch for ${topic.title}`" />
    </button>
    <div v-if="may" class="row">
      <button class="plain" @click="open = true">{{ topic.sketch ? 'Draw on' : 'Draw a sketch …' }}</button>
      <button v-if="topic.sketch" class="plain" @click="desk.set('sketch', null, [topic.id])">Take it out</button>
    </div>
    <LazySketchPad v-if="open" :topic="topic" @closed="open = false" />
  </div>
</template>

<style scoped>
.sketch {
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.look {
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 0;
  background: #fdfdfb;
  overflow: hidden;
  cursor: pointer;
}
.look img {
  display: block;
  width: 100%;
}
.row {
  display: flex;
  gap: 14px;
}
.plain {
  padding: 3px 0;
  min-height: 24px;
}
</style>
