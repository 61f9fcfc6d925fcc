<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** The mail address and the password that one signs in with. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const organisation = useAccountPart()
async function leave(): Promise<void> {
  const left = await organisation.attempt(
    () => callApi('/api/account/organisation', { method: 'DELETE' }),
    'Your password opens it from now on, and nothing else.',
  )
  if (left) emit('changed')
}
async function askForPassword(): Promise<void> {
  await password.attempt(
    () => callApi('/api/account/reset', { method: 'POST', body: { email: account.email } }),
    `A letter is on its way to ${account.email}. Its link sets a password.`,
  )
}
const address = useAccountPart()
const password = useAccountPart()
const email = ref('')
const asked = ref('')
const current = ref('')
const fresh = ref('')

async function askAddress(): Promise<void> {
  const to = email.value
  const done = await address.attempt(
    () => callApi('/api/account/address', { method: 'POST', body: { email: to, password: asked.value } }),
    `A letter is on its way to ${to}. Open its link, and it’s yours.`,
  )
  if (done) email.value = asked.value = ''
}
async function change(): Promise<void> {
  const done = await password.attempt(
    () => callApi('/api/account/password', { method: 'POST', body: { password: current.value, fresh: fresh.value } }),
    'Changed. Every other session has ended.',
  )
  if (done) {
    current.value = fresh.value = ''
    emit('changed')
  }
}
</script>

<template>
  <AccountPart
    v-if="account.organisation || organisation.said.value"
    name="Organisation"
    :about="account.organisation ? `The sign-in of ${account.organisation} opens this account.` : ''"
    :said="organisation.said.value"
    :wrong="organisation.wrong.value">
    <div v-if="account.organisation">
      <Button
        outlined
        size="small"
        label="Don’t open it that way any more"
        :disabled="!account.hasPassword"
        :loading="organisation.busy.value"
        @click="leave" />
      <p v-if="!account.hasPassword" class="quiet">Set a password first: else nothing would open it.</p>
    </div>
  </AccountPart>
  <AccountPart
    name="Mail address"
    :about="`${account.email}. A new one counts once its letter is opened.`"
    :said="address.said.value"
    :wrong="address.wrong.value">
    <form @submit.prevent="askAddress">
      <label>New address<InputText v-model="email" type="email" autocomplete="email" required /></label>
      <label>Your password<InputText v-model="asked" type="password" autocomplete="current-password" required /></label>
      <Button type="submit" label="Write to it" :loading="address.busy.value" />
    </form>
  </AccountPart>
  <AccountPart
    name="Password"
    :about="
      account.hasPassword
        ? 'Ten characters or more. Changing it ends all other sessions.'
        : 'You have none: the organisation’s sign-in opens your account. To change the address, to have a second factor or to delete the account, one is needed.'
    "
    :said="password.said.value"
    :wrong="password.wrong.value">
    <div v-if="!account.hasPassword">
      <Button
        outlined
        size="small"
        label="Write me a letter that sets one"
        :loading="password.busy.value"
        @click="askForPassword" />
    </div>
    <form v-else @submit.prevent="change">
      <input type="text" autocomplete="username" :value="account.email" hidden readonly />
      <label>Now<InputText v-model="current" type="password" autocomplete="current-password" required /></label>
      <label
        >New<InputText v-model="fresh" type="password" autocomplete="new-password" required minlength="10"
      /></label>
      <Button type="submit" label="Change" :loading="password.busy.value" />
    </form>
  </AccountPart>
</template>
