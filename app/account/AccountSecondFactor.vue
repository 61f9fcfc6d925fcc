<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** A second factor: turned on by one's password and a code, off by both. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const { said, wrong, busy, attempt } = useAccountPart()
const password = ref('')
const code = ref('')
const begun = ref<{ secret: string; address: string; picture: string } | null>(null)
const codes = ref<readonly string[]>([])
/** The code's square is a drawing of our own server, shown as a picture so that it's nothing but that. */
const square = computed(() => begun.value && `data:image/svg+xml;utf8,${encodeURIComponent(begun.value.picture)}`)

const begin = (): Promise<boolean> =>
  attempt(async () => {
    begun.value = await callApi('/api/account/second-factor', { method: 'POST', body: { password: password.value } })
    password.value = ''
  })
const turnOn = (): Promise<boolean> =>
  attempt(async () => {
    const answer = await callApi<{ codes: string[] }>('/api/account/second-factor', {
      method: 'PUT',
      body: { secret: begun.value!.secret, code: code.value },
    })
    codes.value = answer.codes
    begun.value = null
    code.value = ''
    emit('changed')
  }, 'On. From now on a code is asked for when you sign in.')
const turnOff = (): Promise<boolean> =>
  attempt(async () => {
    await callApi('/api/account/second-factor/end', {
      method: 'POST',
      body: { password: password.value, code: code.value },
    })
    password.value = code.value = ''
    codes.value = []
    emit('changed')
  }, 'Off.')
</script>

<template>
  <AccountPart
    name="Second factor"
    :about="
      account.secondFactor
        ? `On. ${account.recoveryLeft} recovery codes are left.`
        : 'A code from a phone besides the password, so that a password alone opens nothing.'
    "
    :said="said"
    :wrong="wrong">
    <template v-if="codes.length">
      <p>
        Write these recovery codes down. Each opens the account once when the phone is gone; they aren’t shown again.
      </p>
      <ol class="codes">
        <li v-for="one in codes" :key="one">
          <code>{{ one }}</code>
        </li>
      </ol>
    </template>
    <form v-if="account.secondFactor" @submit.prevent="turnOff">
      <label
        >Your password<InputText v-model="password" type="password" autocomplete="current-password" required
      /></label>
      <label>Code<InputText v-model="code" inputmode="numeric" autocomplete="one-time-code" required /></label>
      <Button type="submit" severity="secondary" label="Turn off" :loading="busy" />
    </form>
    <form v-else-if="!begun" @submit.prevent="begin">
      <label
        >Your password<InputText v-model="password" type="password" autocomplete="current-password" required
      /></label>
      <Button type="submit" label="Begin" :loading="busy" />
    </form>
    <template v-else>
      <div class="square">
        <img v-if="square" :src="square" alt="The secret as a square for an authenticator" width="168" height="168" />
        <p>
          Let an authenticator read the square, or type the secret into it:<br /><code class="secret">{{
            begun.secret
          }}</code>
        </p>
      </div>
      <form @submit.prevent="turnOn">
        <label
          >The code that it shows<InputText v-model="code" inputmode="numeric" autocomplete="one-time-code" required
        /></label>
        <Button type="submit" label="Turn on" :loading="busy" />
        <Button type="button" text label="Not now" @click="begun = null" />
      </form>
    </template>
  </AccountPart>
</template>

<style scoped>
.codes {
  columns: 2;
  margin: 0;
  padding: 12px 16px 12px 34px;
  background: var(--hover);
  border-radius: 8px;
}
.codes li {
  display: list-item;
  border: 0;
  padding: 2px 0;
}
.square {
  display: flex;
  gap: 16px;
  align-items: center;
  flex-wrap: wrap;
}
.square p {
  flex: 1 1 200px;
  margin: 0;
}
.square img {
  border-radius: 8px;
  background: #fff;
}
.secret {
  overflow-wrap: anywhere;
}
</style>
