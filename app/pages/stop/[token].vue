<script setup lang="ts">
/** Where the foot of every letter leads. Nothing is done by opening it: mail programs open links by themselves. */
definePageMeta({ layout: false })
const route = useRoute()
const wrong = ref('')
const done = ref(false)
async function stop(): Promise<void> {
  wrong.value = ''
  try {
    await callApi(`/api/stop/${String(route.params.token)}`, { method: 'POST', body: {} })
    done.value = true
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
useHead({ title: 'Letters · Sun Porch' })
</script>

<template>
  <PorchCard title="No more letters?">
    <p v-if="done" role="status">No more letters come to this address, but those about its own account.</p>
    <template v-else>
      <p class="quiet">Invitations, requests, minutes and reminders then stand in the Letterbox alone.</p>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <Button label="No more letters" autofocus @click="stop" />
    </template>
  </PorchCard>
</template>
