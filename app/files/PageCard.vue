<script setup lang="ts">
import { useDesk } from '~/desk/desk'
import { addressOf } from './opening'
import { pagesOf } from './pages'

/** What the page behind a link says of itself. Nothing where pages aren't asked here, or have nothing to say. */
const { address } = defineProps<{ address: string }>()
const desk = useDesk()
const pages = pagesOf(desk)
const page = computed(() => pages.known.get(address) ?? null)
const waits = ref(false)
let there = true
onMounted(async () => {
  try {
    await pages.load()
    if (!pages.on.value || page.value) return
    waits.value = true
    await pages.look(address, () => there)
  } catch {
    // Without a line there is the address, as before.
  } finally {
    waits.value = false
  }
})
onBeforeUnmount(() => {
  there = false
})
const host = computed(() => new URL(address).host)
</script>

<template>
  <div v-if="waits && !page" class="card quiet" role="status">Asking {{ host }} …</div>
  <figure v-else-if="page && (page.title || page.summary || page.picture)" class="card">
    <img v-if="page.picture" :src="addressOf(desk, page.picture)" alt="" />
    <figcaption>
      <b v-if="page.title">{{ page.title }}</b>
      <span v-if="page.summary">{{ page.summary }}</span>
      <small class="quiet">{{ host }}</small>
    </figcaption>
  </figure>
</template>

<style scoped>
.card {
  margin: 0;
  padding: 8px 10px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--surface);
  display: flex;
  gap: 10px;
  align-items: flex-start;
  font-size: 13px;
  line-height: 1.35;
}
img {
  width: 84px;
  max-height: 84px;
  object-fit: cover;
  border-radius: 5px;
  flex: none;
}
figcaption {
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-width: 0;
  overflow-wrap: anywhere;
}
figcaption span {
  display: -webkit-box;
  -webkit-line-clamp: 4;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
</style>
