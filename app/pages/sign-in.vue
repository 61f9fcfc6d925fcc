<script setup lang="ts">
import { pathHere } from '#core/contract/path-here'

definePageMeta({ layout: false })
const account = useAccount()
const route = useRoute()
type Way = 'in' | 'up' | 'forgot' | 'code'
/** An organisation has said who somebody is, and their account asks for a code beside that. */
const way = ref<Way>(route.query.ask === 'code' ? 'code' : 'in')
const email = ref('')
const name = ref('')
const password = ref('')
const code = ref('')
const asksCode = ref(false)
const wrong = ref('')
const said = ref('')
const busy = ref(false)
const house = ref<{ signUp: 'open' | 'invited' | 'closed'; organisation: string | null } | null>(null)
onMounted(async () => {
  house.value = await callApi<NonNullable<typeof house.value>>('/api/about').catch(() => null)
})
const then = computed(() => pathHere(route.query.then))
const organisationHref = computed(
  () =>
    `/api/sign-in/organisation?${new URLSearchParams({ then: then.value, ...(route.query.trouble ? { again: 'yes' } : {}) })}`,
)
/** What went wrong on the way back from the organisation. */
const TROUBLE: Record<string, string> = {
  'organisation-away': 'The organisation’s sign-in doesn’t answer. Try again in a moment, or sign in with a password.',
  'organisation-refused': 'That sign-in was left, or took too long. Begin it once more.',
  'organisation-unconfirmed':
    'The organisation doesn’t vouch for a mail address of yours. Ask whoever looks after your account there.',
  joined: 'Somebody else of the organisation has the account with your address. Ask whoever runs this Sun Porch.',
  closed: 'New accounts aren’t made here. Ask whoever runs this Sun Porch.',
  locked: 'This account has been locked. Ask whoever runs this Sun Porch.',
  slowed: 'That was tried too often. Wait a while, then try again.',
  unforeseen: 'Something went wrong here. Try again in a moment.',
}
const { trouble } = route.query
if (typeof trouble === 'string') wrong.value = TROUBLE[trouble] ?? TROUBLE.unforeseen!
const ABOUT: Record<Way, string> = {
  in: 'Where the team keeps the shape of its work.',
  up: 'Make an account, and start a tree in a minute.',
  forgot: 'We write to your address; its link sets a new password.',
  code: 'Your account asks for a code as well.',
}
const DO: Record<Way, string> = { in: 'Sign in', up: 'Make the account', forgot: 'Write to me', code: 'Sign in' }
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
    if (way.value === 'code') {
      await callApi('/api/sign-in/organisation/code', { method: 'POST', body: { code: code.value } })
      await account.load()
    } else if (way.value === 'up') {
      const { confirm } = await account.signUp(email.value, name.value, password.value)
      if (confirm) {
        said.value = `A letter is on its way to ${email.value}. Open its link to come in; it holds for three days.`
        return
      }
    } else await account.signIn(email.value, password.value, asksCode.value ? code.value : undefined)
    await navigateTo(then.value)
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
      <label v-if="way !== 'code'"
        >Mail address<InputText v-model="email" type="email" autocomplete="username" required autofocus
      /></label>
      <label v-if="way === 'in' || way === 'up'"
        >Password<InputText
          v-model="password"
          type="password"
          :autocomplete="way === 'up' ? 'new-password' : 'current-password'"
          required
          :minlength="way === 'up' ? 10 : undefined"
      /></label>
      <label v-if="asksCode || way === 'code'"
        >Code from your authenticator<InputText
          id="sign-in-code"
          v-model="code"
          inputmode="numeric"
          autocomplete="one-time-code"
          required
          :autofocus="way === 'code'"
      /></label>
      <Message v-if="said" severity="success" role="status">{{ said }}</Message>
      <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      <Button type="submit" :label="DO[way]" :loading="busy" />
      <Button
        v-if="way === 'in' && house?.organisation"
        as="a"
        :href="organisationHref"
        severity="secondary"
        class="organisation"
        :label="`Sign in with ${house.organisation}`" />
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

<style scoped>
.organisation {
  text-decoration: none;
}
</style>
