<script setup lang="ts">
import type { Notice } from './notice'
import { useDesk } from '~/desk/desk'
import type { Offer } from '~/desk/offer'

/** What there is to say, and what can be done about it, as long as it can. */
const props = defineProps<{ notice: Notice }>()
const emit = defineEmits<{ taken: [] }>()
const desk = useDesk()
const offered = computed(() => {
  void desk.lateTick.value
  const { offer } = props.notice
  return [offer, offer?.also].filter((one): one is Offer => one != null && one.holds?.() !== false)
})
function take(offer: Offer): void {
  emit('taken')
  offer.run()
}
</script>

<template>
  <div data-over-tree class="offer" :class="{ high: desk.view.value === 'meeting' }" role="status">
    {{ notice.words }}<button v-for="offer in offered" :key="offer.name" @click="take(offer)">{{ offer.name }}</button>
  </div>
</template>

<style scoped>
.offer {
  position: absolute;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  background: var(--ink);
  color: var(--surface);
  border-radius: 8px;
  padding: 8px 14px;
  display: flex;
  gap: 12px;
  box-shadow: var(--shadow);
  z-index: 6;
  max-width: 90%;
}
/* Below stand the keys of the meeting. */
.offer.high {
  top: 58px;
  bottom: auto;
}
.offer button {
  border: 0;
  background: none;
  color: var(--offer);
  font-weight: 700;
  cursor: pointer;
  padding: 0;
}
</style>
