<script setup lang="ts">
/** Where the links of letters about an account lead: to confirm an address, to take a new one, to set a new password. */
definePageMeta({
  layout: false,
  validate: route => ['confirm', 'address', 'reset'].includes(String(route.params.kind)),
})
const route = useRoute()
const account = useAccount()
const kind = String(route.params.kind) as 'confirm' | 'address' | 'reset'
const path = `/api/account/${kind}/${String(route.params.token)}`
const password = ref('')
const wrong = ref('')
const done = ref('')
const busy = ref(false)
const WORDS = {
  confirm: {
    title: 'Is this you?',
    about: 'Enter the password that you chose when you made the account. Then the address is confirmed.',
    act: 'Come in',
  },
  reset: {
    title: 'A new password',
    about: 'Ten characters or more. All sessions end, and you sign in with it.',
    act: 'Set it',
  },
  address: { title: 'Your new address', about: 'Use this mail address for your account from now on.', act: 'Use it' },
}[kind]

async function go(): Promise<void> {
  wrong.value = ''
  busy.value = true
  try {
    await callApi(path, { method: 'POST', body: kind === 'address' ? {} : { password: password.value } })
    if (kind === 'confirm') {
      await account.load()
      await navigateTo('/', { replace: true })
    } else
      done.value =
        kind === 'reset'
          ? 'The new password counts from now on. Tokens for scripts were withdrawn.'
          : 'The new address counts from now on.'
  } catch (error) {
    wrong.value = (error as Error).message.replace(/^body\.\w+: /, '')
  } finally {
    busy.value = false
  }
}
useHead({ title: `${WORDS.title} · Sun Porch` })
</script>

<template>
  <PorchCard :title="WORDS.title" :about="done ? '' : WORDS.about">
    <template v-if="done">
      <p role="status">{{ done }}</p>
      <NuxtLink to="/sign-in"><Button label="Sign in" /></NuxtLink>
    </template>
    <form v-else @submit.prevent="go">
      <label v-if="kind !== 'address'"
        >Password<InputText
          v-model="password"
          type="password"
          :autocomplete="kind === 'reset' ? 'new-password' : 'current-password'"
          :minlength="kind === 'reset' ? 10 : undefined"
          required
          autofocus
      /></label>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <Button type="submit" :label="WORDS.act" :loading="busy" />
    </form>
  </PorchCard>
</template>
