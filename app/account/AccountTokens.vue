<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** Access tokens for scripts: made with a name and a scope, told once, withdrawn at any time. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const { said, wrong, busy, attempt } = useAccountPart()
const name = ref('')
const scope = ref<'read' | 'write'>('read')
const days = ref<number | null>(90)
const made = ref('')
const SCOPES = [
  { value: 'read', label: 'may read' },
  { value: 'write', label: 'may read and write' },
]
const TIMES = [
  { value: 30, label: 'for 30 days' },
  { value: 90, label: 'for 90 days' },
  { value: 365, label: 'for a year' },
  { value: null, label: 'until withdrawn' },
]
async function make(): Promise<void> {
  made.value = ''
  const done = await attempt(async () => {
    const { token } = await callApi<{ token: string }>('/api/account/tokens', {
      method: 'POST',
      body: { name: name.value.trim().toWellFormed(), scope: scope.value, days: days.value },
    })
    made.value = token
    emit('changed')
  })
  if (done) name.value = ''
}
const withdraw = (id: string): Promise<boolean> =>
  attempt(async () => {
    await callApi(`/api/account/tokens/${id}`, { method: 'DELETE' })
    made.value = ''
    emit('changed')
  }, 'Withdrawn. It opens nothing any more.')
</script>

<template>
  <AccountPart
    name="Access tokens"
    about="For scripts of yours, as “Authorization: Bearer …”. A token does what you may do, and never reaches this page."
    :said="said"
    :wrong="wrong">
    <form @submit.prevent="make">
      <label>What it’s for<InputText v-model="name" required maxlength="120" placeholder="Budget report" /></label>
      <Select v-model="scope" :options="SCOPES" option-value="value" option-label="label" aria-label="What it may do" />
      <Select
        v-model="days"
        :options="TIMES"
        option-value="value"
        option-label="label"
        aria-label="How long it holds" />
      <Button type="submit" label="Make" :loading="busy" />
    </form>
    <p v-if="made" class="made" role="status">
      Copy it now; it isn’t shown again.<br /><code>{{ made }}</code>
    </p>
    <ul>
      <li v-for="token in account.tokens" :key="token.id">
        <Icon name="lucide:key-round" size="17" />
        <span
          >{{ token.name
          }}<small
            >{{ token.scope === 'read' ? 'may read' : 'may read and write' }},
            {{ token.until ? `until ${dayInWords(token.until.slice(0, 10))}` : 'until withdrawn' }},
            {{ token.used ? `used ${agoInWords(token.used)}` : 'never used' }}</small
          ></span
        >
        <Button text size="small" label="Withdraw" @click="withdraw(token.id)" />
      </li>
    </ul>
  </AccountPart>
</template>

<style scoped>
.made {
  background: var(--hover);
  border-radius: 8px;
  padding: 10px 14px;
  margin: 0;
}
.made code {
  overflow-wrap: anywhere;
  font-weight: 650;
}
</style>
