<script setup lang="ts">
import { type AccountView, useAccountPart } from './useAccountPart'

/** Where one is signed in, each of which can be ended. */
const { account } = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const { said, wrong, attempt } = useAccountPart()

/** The browser and the machine, as far as the browser says. */
function inWords(agent: string): string {
  const browser = /(Firefox|Edg|OPR|Chrome|Safari)\//.exec(agent)?.[1]
  const machine = /(Windows|Android|iPhone|iPad|Macintosh|Linux)/.exec(agent)?.[1]
  const names: Record<string, string> = { Edg: 'Edge', OPR: 'Opera', Macintosh: 'Mac' }
  const named = (word: string | undefined): string | undefined => word && (names[word] ?? word)
  return [named(browser), named(machine)].filter(Boolean).join(' on ') || 'A program'
}
const end = (id: string): Promise<boolean> =>
  attempt(async () => {
    await callApi(`/api/account/sessions/${id}`, { method: 'DELETE' })
    emit('changed')
  }, 'Ended. Whatever was open there is cut off.')
</script>

<template>
  <AccountPart name="Sessions" about="Where you are signed in. End what isn’t you." :said="said" :wrong="wrong">
    <ul>
      <li v-for="session in account.sessions" :key="session.id">
        <Icon name="lucide:monitor" size="18" />
        <span
          >{{ inWords(session.agent)
          }}<small>{{
            session.own ? 'this one' : `used ${agoInWords(session.seen)}, begun ${agoInWords(session.since)}`
          }}</small></span
        >
        <Button v-if="!session.own" text size="small" label="End" @click="end(session.id)" />
      </li>
    </ul>
  </AccountPart>
</template>
