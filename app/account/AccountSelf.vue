<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** Who one is to others: a name, a picture, the zone that one's days are told in. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const store = useAccount()
const { said, wrong, attempt } = useAccountPart()
const name = ref(account.name)
/** A choice of its own: a list takes an empty one for none. */
const AS_BROWSER = 'browser'
const zone = ref(account.zone ?? AS_BROWSER)
const zones = Intl.supportedValuesOf('timeZone').map(value => ({ value, label: value.replaceAll('_', ' ') }))
const own = Intl.DateTimeFormat().resolvedOptions().timeZone
const choices = [{ value: AS_BROWSER, label: `The browser’s: ${own.replaceAll('_', ' ')}` }, ...zones]

async function keep(): Promise<void> {
  await attempt(async () => {
    await callApi('/api/account', {
      method: 'PATCH',
      body: { name: name.value.trim().toWellFormed(), zone: zone.value === AS_BROWSER ? null : zone.value },
    })
    await store.load()
    emit('changed')
  }, 'Kept.')
}
async function choose(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement
  const [file] = field.files ?? []
  field.value = ''
  if (!file) return
  await attempt(async () => {
    await callApi('/api/account/picture', {
      method: 'PUT',
      body: file,
      headers: { 'content-type': 'application/octet-stream' },
    })
    await store.load()
    emit('changed')
  }, 'That’s you from now on.')
}
async function shape(square: boolean): Promise<void> {
  await attempt(async () => {
    await callApi('/api/account', { method: 'PATCH', body: { square } })
    await store.load()
    emit('changed')
  }, 'Kept.')
}
async function remove(): Promise<void> {
  await attempt(async () => {
    await callApi('/api/account/picture', { method: 'DELETE' })
    await store.load()
    emit('changed')
  }, 'Taken away.')
}
</script>

<template>
  <AccountPart
    name="You"
    about="How others see you, and the zone your meetings are told in."
    :said="said"
    :wrong="wrong">
    <div class="face">
      <PersonFace
        :id="account.id"
        :name="account.name"
        :picture="account.picture"
        :square="account.square"
        :size="56" />
      <label class="file">
        <span>{{ account.picture ? 'Another picture' : 'Add a picture' }}</span>
        <input type="file" accept="image/*" class="hidden" @change="choose" />
      </label>
      <span v-if="account.picture" class="segments" role="group" aria-label="How your picture is cut">
        <button :aria-pressed="!account.square" @click="shape(false)">Round</button>
        <button :aria-pressed="account.square" @click="shape(true)">Square</button>
      </span>
      <button v-if="account.picture" class="plain" @click="remove">Take it away</button>
    </div>
    <form @submit.prevent="keep">
      <label>Name<InputText v-model="name" autocomplete="name" required maxlength="120" /></label>
      <label
        >Zone<Select
          v-model="zone"
          :options="choices"
          option-value="value"
          option-label="label"
          filter
          aria-label="Zone"
      /></label>
      <Button type="submit" label="Keep" />
    </form>
  </AccountPart>
</template>

<style scoped>
.face {
  display: flex;
  align-items: center;
  gap: 14px;
}
.file {
  flex: none !important;
  color: var(--porch);
  cursor: pointer;
  min-height: 28px;
  justify-content: center;
}
.file:focus-within {
  outline: 2px solid var(--sun);
  outline-offset: 2px;
}
.hidden {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.plain {
  color: var(--quiet);
  font: inherit;
  min-height: 28px;
}
</style>
