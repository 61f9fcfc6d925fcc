<script setup lang="ts">
const route = useRoute()
const wrong = ref('')
onMounted(async () => {
  try {
    const { treeId } = await callApi<{ treeId: string }>(`/api/invitations/${String(route.params.token)}`, {
      method: 'POST',
    })
    await navigateTo(`/trees/${treeId}`, { replace: true })
  } catch (error) {
    wrong.value = (error as Error).message
  }
})
</script>

<template>
  <main class="page">
    <p v-if="!wrong" role="status">Opening the invitation …</p>
    <template v-else>
      <h1>This invitation doesn’t open</h1>
      <p>{{ wrong }}</p>
      <NuxtLink to="/">Home</NuxtLink>
    </template>
  </main>
</template>

<style scoped>
.page {
  padding: 48px;
}
</style>
