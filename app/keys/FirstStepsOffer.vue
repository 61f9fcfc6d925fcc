<script setup lang="ts">
import { FIRST_STEPS } from '#core/guide/first-steps'
import { keptSteps } from './guide'

/** A way into the first steps for whoever has no tree yet, and back to them for whoever left them. */
const props = defineProps<{ trees: readonly { readonly id: string }[] }>()
const kept = keptSteps()
const open = computed(() =>
  kept && kept.done < FIRST_STEPS.length && props.trees.some(({ id }) => id === kept.tree) ? kept : null,
)
const { busy, wrong, attempt } = useAttempt()
const begin = (): Promise<void> =>
  attempt(async () => {
    const { id } = await callApi<{ id: string }>('/api/trees', { method: 'POST', body: { title: 'My first tree' } })
    await navigateTo(`/trees/${id}?steps`)
  })
</script>

<template>
  <p v-if="open" class="offer">
    <NuxtLink :to="`/trees/${open.tree}?steps`">Go on with the first steps</NuxtLink>
    <span class="quiet">{{ open.done }} of {{ FIRST_STEPS.length }} done</span>
  </p>
  <p v-else-if="trees.length === 0" class="offer">
    <Button outlined size="small" label="First steps" :loading="busy" @click="begin" />
    <span class="quiet">Seven small acts on a tree of your own, each with its keys: about two minutes.</span>
  </p>
  <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.offer {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
</style>
