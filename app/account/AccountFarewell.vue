<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** Taking one's data along, and deleting the account: each tree that nobody else owns is asked about. */
const { account } = defineProps<{ account: AccountView }>()
interface Sole {
  readonly id: string
  readonly title: string
  readonly people: readonly { readonly id: string; readonly name: string }[]
}
const store = useAccount()
const { wrong, busy, attempt } = useAccountPart()
const open = ref(false)
const sole = ref<readonly Sole[]>([])
const heirs = reactive<Record<string, string>>({})
const password = ref('')
const code = ref('')
const TRASH = 'trash'

async function begin(): Promise<void> {
  await attempt(async () => {
    sole.value = (await callApi<{ trees: Sole[] }>('/api/account/farewell')).trees
    for (const tree of sole.value) heirs[tree.id] ??= tree.people[0]?.id ?? TRASH
    open.value = true
  })
}
const choices = (tree: Sole) => [
  ...tree.people.map(({ id, name }) => ({ value: id, label: `goes to ${name}` })),
  { value: TRASH, label: 'goes to the trash' },
]
async function go(): Promise<void> {
  await attempt(async () => {
    await callApi('/api/account/farewell', {
      method: 'POST',
      body: {
        password: password.value,
        ...(account.secondFactor ? { code: code.value } : {}),
        trees: Object.fromEntries(sole.value.map(({ id }) => [id, heirs[id] === TRASH ? null : heirs[id]])),
      },
    })
    await store.forget()
  })
}
</script>

<template>
  <AccountPart name="Your data" about="Your account, letters, views, and every tree you own, as one JSON file.">
    <div>
      <a href="/api/account/data" download class="take"><Icon name="lucide:download" size="16" /> Take it along</a>
    </div>
  </AccountPart>
  <AccountPart
    name="Delete the account"
    about="What you shared stays with the others, under “A former member”. There is no way back."
    :wrong="open ? '' : wrong">
    <div><Button outlined class="grave" label="Delete my account …" :loading="busy && !open" @click="begin" /></div>
    <PorchDialog v-model:visible="open" header="Delete the account" :style="{ width: 'min(560px, 94vw)' }">
      <form id="farewell" class="farewell" @submit.prevent="go">
        <p v-if="sole.length">Only you own these trees. Who has them from now on?</p>
        <label v-for="tree in sole" :key="tree.id"
          >{{ tree.title || 'untitled'
          }}<Select v-model="heirs[tree.id]" :options="choices(tree)" option-value="value" option-label="label"
        /></label>
        <label
          >Your password<InputText
            v-model="password"
            data-first
            type="password"
            autocomplete="current-password"
            required
        /></label>
        <label v-if="account.secondFactor"
          >Code<InputText v-model="code" inputmode="numeric" autocomplete="one-time-code" required
        /></label>
        <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
      </form>
      <template #footer>
        <Button text label="Keep it" @click="open = false" />
        <Button type="submit" form="farewell" class="grave" label="Delete for good" :loading="busy" />
      </template>
    </PorchDialog>
  </AccountPart>
</template>

<style scoped>
.take {
  display: inline-flex;
  gap: 7px;
  align-items: center;
  font-weight: 600;
  min-height: 28px;
}
.farewell {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.farewell label {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-weight: 600;
  font-size: 13px;
}
.farewell p {
  margin: 0;
}
</style>
