<script setup lang="ts">
import { FORMATS } from './formats'
import GroupsPart from './GroupsPart.vue'
import { inviteTo } from './inviting'
import { GIVEN_ROLES, ROLES } from './roles'
import { readAddresses } from '#core/capture/addresses'
import { useDesk } from '~/desk/desk'

/** Who may do what in the tree: those who are in, those who are asked, and many addresses at once for new ones. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const account = useAccount()
const text = ref('')
const role = ref<'viewer' | 'commenter' | 'editor'>('editor')
const said = ref('')
const wrong = ref('')
const roleWords = (role: string | undefined): string => ROLES.find(one => one.value === role)?.label ?? ''
const owner = computed(() => desk.status.role === 'owner')
interface Pending {
  readonly id: string
  readonly email: string
  readonly role: string
  readonly by: string
  readonly at: string
}
const pending = ref<readonly Pending[]>([])
async function look(): Promise<void> {
  await desk.session.refreshPeople()
  if (owner.value) pending.value = await callApi<Pending[]>(`${base}/invitations`)
}
const base = `/api/trees/${desk.session.treeId}`
watch(
  visible,
  now => {
    if (now) void attempt(look)
  },
  { immediate: true },
)
// Whoever joins while this is open isn't asked any more.
watch(
  () => desk.status.people,
  () => {
    if (visible.value)
      void attempt(async () => {
        if (owner.value) pending.value = await callApi<Pending[]>(`${base}/invitations`)
      })
  },
)

const read = computed(() => readAddresses(text.value))
async function attempt(what: () => Promise<unknown>, done: () => string = () => ''): Promise<void> {
  wrong.value = said.value = ''
  try {
    await what()
    said.value = done()
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
const path = (user: string): string => `${base}/members/${user}`
async function invite(): Promise<void> {
  const { good, wrong: unread } = read.value
  if (good.length === 0) {
    wrong.value = unread.length > 0 ? 'None of these can be a mail address. Nobody was invited.' : ''
    return
  }
  // What couldn't be an address stays, to be mended.
  if (
    await inviteAll(
      good.map(({ mail }) => mail),
      role.value,
    )
  )
    text.value = unread.join(', ')
}
/** Resolves to whether the invitations went out. */
async function inviteAll(emails: readonly string[], as: typeof role.value): Promise<boolean> {
  let invited = 0
  await attempt(
    async () => {
      invited = await inviteTo(desk.session.treeId, emails, as)
      pending.value = await callApi<Pending[]>(`${base}/invitations`)
    },
    () =>
      invited === 0
        ? 'All of them are in, or asked already.'
        : invited === 1
          ? 'The invitation is on its way.'
          : `${invited} invitations are on their way.`,
  )
  return wrong.value === ''
}
const withdraw = (id: string): Promise<void> =>
  attempt(
    async () => {
      await callApi(`${base}/invitations/${id}`, { method: 'DELETE' })
      pending.value = await callApi<Pending[]>(`${base}/invitations`)
    },
    () => 'Withdrawn. The letter leads nowhere any more.',
  )
const change = (user: string, to: string): Promise<void> =>
  attempt(async () => {
    await callApi(path(user), { method: 'PUT', body: { role: to } })
    await desk.session.refreshPeople()
  })
/** Resolves to whether they have no role any more. */
async function remove(user: string): Promise<boolean> {
  await attempt(async () => {
    await callApi(path(user), { method: 'DELETE' })
    if (user === account.me?.id) await navigateTo('/trees')
    else await desk.session.refreshPeople()
  })
  return wrong.value === ''
}
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="Share" :style="{ width: 'min(560px, 94vw)' }">
    <form v-if="owner" class="invite" @submit.prevent="invite">
      <Textarea
        v-model="text"
        rows="1"
        auto-resize
        placeholder="Mail addresses: one, or a list"
        aria-label="Mail addresses"
        @keydown.enter.exact.prevent="invite" />
      <Select v-model="role" :options="GIVEN_ROLES" option-label="label" option-value="value" aria-label="Role" />
      <Button type="submit" :label="read.good.length > 1 ? `Invite ${read.good.length}` : 'Invite'" />
    </form>
    <p v-else class="quiet">Only owners invite people. You are {{ desk.status.role }} here.</p>
    <p v-if="read.wrong.length && text.trim()" class="unread" role="status">
      Can’t be mail addresses: <mark v-for="one in read.wrong" :key="one">{{ one }}</mark>
    </p>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <p v-if="said" class="quiet" role="status">{{ said }}</p>
    <ul class="people">
      <li v-for="person in desk.status.people" :key="person.id">
        <PersonFace :id="person.id" :name="person.name" :size="26" />
        <span class="who"
          >{{ person.name }}<small class="quiet">{{ person.email }}</small></span
        >
        <Select
          v-if="owner"
          :model-value="person.role"
          :options="ROLES"
          option-label="label"
          option-value="value"
          size="small"
          :aria-label="`Role of ${person.name}`"
          @update:model-value="change(person.id, $event)" />
        <span v-else class="quiet">{{ roleWords(person.role) }}</span>
        <button
          v-if="owner || person.id === account.me?.id"
          class="icon-button"
          :aria-label="person.id === account.me?.id ? 'Leave this tree' : `Remove ${person.name}`"
          @click="remove(person.id)">
          <Icon name="lucide:x" size="15" />
        </button>
      </li>
    </ul>
    <template v-if="owner && pending.length">
      <h3>Asked, not in yet</h3>
      <ul class="people" aria-label="Pending invitations">
        <li v-for="one in pending" :key="one.id">
          <span class="who"
            >{{ one.email
            }}<small class="quiet"
              >{{ roleWords(one.role) }} · asked by {{ one.by }}, {{ agoInWords(one.at) }}</small
            ></span
          >
          <button class="plain" :aria-label="`Withdraw the invitation to ${one.email}`" @click="withdraw(one.id)">
            Withdraw
          </button>
        </li>
      </ul>
    </template>
    <GroupsPart
      v-if="visible"
      :owner="owner"
      :role="role"
      :asked="pending.map(({ email }) => email)"
      :invite="inviteAll"
      :send-away="remove" />
    <h3>Take it along</h3>
    <p class="formats">
      <a v-for="[format, name] in FORMATS" :key="format" :href="`${base}/export/${format}`" download>{{ name }}</a>
    </p>
    <AccessPart v-if="owner" :base="base" />
  </PorchDialog>
</template>

<style scoped>
.unread {
  margin: 6px 0;
  font-size: 13px;
  color: var(--clay);
}
.unread mark {
  background: none;
  color: inherit;
  text-decoration: underline wavy;
  margin-right: 8px;
}
.plain {
  min-height: 30px;
}
.invite {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 8px;
}
.people {
  list-style: none;
  padding: 0;
  margin: 16px 0;
}
.people li {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 5px 0;
}
.who {
  flex: 1;
  display: flex;
  flex-direction: column;
  line-height: 1.25;
}
h3 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 0 0 6px;
}
.formats {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  margin: 0;
}
</style>
