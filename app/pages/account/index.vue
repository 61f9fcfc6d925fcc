<script setup lang="ts">
import type { AccountView } from '~/account/useAccountPart'

const view = ref<AccountView | null>(null)
const wrong = ref('')
async function load(): Promise<void> {
  wrong.value = ''
  try {
    view.value = await callApi<AccountView>('/api/account')
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
useHead({ title: 'Account · Sun Porch' })
</script>

<template>
  <main class="page">
    <h1>Your account</h1>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }} <button @click="load">Try again</button></Message>
    <template v-if="view">
      <AccountSelf :account="view" @changed="load" />
      <AccountAddress :account="view" @changed="load" />
      <AccountSecondFactor :account="view" @changed="load" />
      <AccountSessions :account="view" @changed="load" />
      <AccountTokens :account="view" @changed="load" />
      <AccountFarewell :account="view" />
    </template>
  </main>
</template>

<style scoped>
.page {
  height: 100%;
  overflow: auto;
  padding: 28px clamp(16px, 4vw, 48px) 60px;
}
.page > :deep(*) {
  max-width: 900px;
}
h1 {
  margin: 0 0 14px;
}
</style>
