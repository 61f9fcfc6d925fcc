<script setup lang="ts">
definePageMeta({ layout: false })
const account = useAccount()
const route = useRoute()
type Way = 'in' | 'up' | 'forgot'
const way = ref<Way>('in')
const email = ref('')
const name = ref('')
const password = ref('')
const code = ref('')
const asksCode = ref(false)
const wrong = ref('')
const said = ref('')
const busy = ref(false)
const house = ref<{ signUp: 'open' | 'invited' | 'closed'; confirm: boolean; demo: boolean } | null>(null)
onMounted(async () => {
  house.value = await callApi<NonNullable<typeof house.value>>('/api/about').catch(() => null)
})
const ABOUT: Record<Way, string> = {
  in: 'Where the team keeps the shape of its work.',
  up: 'Make an account, and start a tree in a minute.',
  forgot: 'We write to your address; its link sets a new password.',
}
const DO: Record<Way, string> = { in: 'Sign in', up: 'Make the account', forgot: 'Write to me' }
function turn(to: Way): void {
  way.value = to
  wrong.value = said.value = code.value = ''
  asksCode.value = false
}

async function go(): Promise<void> {
  wrong.value = said.value = ''
  busy.value = true
  try {
    if (way.value === 'forgot') {
      await callApi('/api/account/reset', { method: 'POST', body: { email: email.value } })
      said.value = `If there is an account for ${email.value}, a letter is on its way. Its link holds for two hours.`
      return
    }
    if (way.value === 'up') {
      const { confirm } = await account.signUp(email.value, name.value, password.value)
      if (confirm) {
        said.value = `A letter is on its way to ${email.value}. Open its link to come in; it holds for three days.`
        return
      }
    } else await account.signIn(email.value, password.value, asksCode.value ? code.value : undefined)
    const then = typeof route.query.then === 'string' && /^\/(?!\/)/.test(route.query.then) ? route.query.then : '/'
    await navigateTo(then)
  } catch (error) {
    if (error instanceof ApiError && error.code === 'code' && !asksCode.value) {
      asksCode.value = true
      await nextTick()
      document.querySelector<HTMLInputElement>('#sign-in-code')?.focus()
    } else wrong.value = error instanceof Error ? error.message.replace(/^body\.\w+: /, '') : 'Something went wrong.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <PorchCard :about="ABOUT[way]">
    <form @submit.prevent="go">
      <label v-if="way === 'up'"
        >Your name<InputText v-model="name" autocomplete="name" required maxlength="120"
      /></label>
      <label>Mail address<InputText v-model="email" type="email" autocomplete="username" required autofocus /></label>
      <label v-if="way !== 'forgot'"
        >Password<InputText
          v-model="password"
          type="password"
          :autocomplete="way === 'up' ? 'new-password' : 'current-password'"
          required
          :minlength="way === 'up' ? 10 : undefined"
      /></label>
      <label v-if="asksCode"
        >Code from your authenticator<InputText
          id="sign-in-code"
          v-model="code"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
      /></label>
      <Message v-if="said" severity="success" role="status">{{ said }}</Message>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <Button type="submit" :label="DO[way]" :loading="busy" />
      <Button
        v-if="way === 'in' && house?.signUp !== 'closed'"
        type="button"
        text
        label="I’m new here"
        @click="turn('up')" />
      <Button v-if="way === 'in'" type="button" text size="small" label="I can’t get in" @click="turn('forgot')" />
      <Button v-if="way !== 'in'" type="button" text label="I have an account" @click="turn('in')" />
    </form>
  </PorchCard>
</template>
