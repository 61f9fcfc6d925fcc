<script setup lang="ts">
import { keptTrees } from '~/session/offline'

/** Without a line: the trees that this browser keeps, which open, and take edits, all the same. */
const account = useAccount()
const kept = ref<readonly { readonly id: string; readonly title: string; readonly at: number }[]>([])
const when = new Intl.DateTimeFormat(ownLocale(), { dateStyle: 'medium', timeStyle: 'short' })
onMounted(async () => {
  if (account.me) kept.value = await keptTrees(account.me.id).catch(() => [])
})
</script>

<template>
  <section v-if="kept.length > 0" aria-label="Kept in this browser">
    <h2>Kept in this browser</h2>
    <p>These open without a line. What you change waits here, and goes out by itself when the line is back.</p>
    <ul>
      <li v-for="tree in kept" :key="tree.id">
        <NuxtLink :to="`/trees/${tree.id}`">{{ tree.title || 'Untitled' }}</NuxtLink>
        <small v-if="tree.at">as of {{ when.format(tree.at) }}</small>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 14px 18px;
  margin: 14px 0;
}
h2 {
  margin: 0;
  font: 600 17px var(--display);
}
p,
small {
  color: var(--quiet);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-height: 36px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
a {
  color: var(--porch);
  font-weight: 600;
}
</style>
