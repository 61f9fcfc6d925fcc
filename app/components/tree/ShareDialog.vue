<script setup lang="ts">
import { useDesk } from '~/tree/desk'

const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const account = useAccount()
const email = ref('')
const role = ref<'viewer' | 'commenter' | 'editor'>('editor')
const said = ref('')
const wrong = ref('')
const ROLES = [{ value: 'viewer', label: 'may read' }, { value: 'commenter', label: 'may comment' }, { value: 'editor', label: 'may edit' }, { value: 'owner', label: 'owns it' }]
const owner = computed(() => desk.status.role === 'owner')
watch(visible, (now) => { if (now) void attempt(() => desk.session.refreshPeople()) }, { immediate: true })

async function attempt(what: () => Promise<unknown>, done = ''): Promise<void> {
  wrong.value = said.value = ''
  try {
    await what()
    said.value = done
  }
  catch (error) {
    wrong.value = (error as Error).message.replace(/^body\.email: .*/, 'That isn’t a mail address.')
  }
}
const path = (user: string): string => `/api/trees/${desk.session.treeId}/members/${user}`
const invite = (): Promise<void> => attempt(async () => {
  await callApi(`/api/trees/${desk.session.treeId}/invitations`, { method: 'POST', body: { email: email.value, role: role.value } })
  email.value = ''
}, 'The invitation is on its way.')
const change = (user: string, to: string): Promise<void> => attempt(async () => {
  await callApi(path(user), { method: 'PUT', body: { role: to } })
  await desk.session.refreshPeople()
})
const remove = (user: string): Promise<void> => attempt(async () => {
  await callApi(path(user), { method: 'DELETE' })
  if (user === account.me?.id) await navigateTo('/trees')
  else await desk.session.refreshPeople()
})
const FORMATS = [['markdown', 'Markdown'], ['opml', 'OPML'], ['text', 'Plain list'], ['json', 'Sun Porch JSON, everything']] as const
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="Share" :style="{ width: 'min(520px, 94vw)' }">
    <form v-if="owner" class="invite" @submit.prevent="invite">
      <InputText v-model="email" type="email" required placeholder="Mail address" aria-label="Mail address" />
      <Select v-model="role" :options="ROLES.slice(0, 3)" option-label="label" option-value="value" aria-label="Role" />
      <Button type="submit" label="Invite" />
    </form>
    <p v-else class="quiet">Only owners invite people. You are {{ desk.status.role }} here.</p>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <p v-if="said" class="quiet" role="status">{{ said }}</p>
    <ul class="people">
      <li v-for="person in desk.status.people" :key="person.id">
        <span class="initials" :style="{ background: hueOf(person.id) }">{{ initialsOf(person.name) }}</span>
        <span class="who">{{ person.name }}<small class="quiet">{{ person.email }}</small></span>
        <Select v-if="owner" :model-value="person.role" :options="ROLES" option-label="label" option-value="value" size="small" :aria-label="`Role of ${person.name}`" @update:model-value="change(person.id, $event)" />
        <span v-else class="quiet">{{ ROLES.find(one => one.value === person.role)?.label }}</span>
        <button v-if="owner || person.id === account.me?.id" class="icon-button" :aria-label="person.id === account.me?.id ? 'Leave this tree' : `Remove ${person.name}`" @click="remove(person.id)"><Icon name="lucide:x" size="15" /></button>
      </li>
    </ul>
    <h3>Take it along</h3>
    <p class="formats"><a v-for="[format, name] in FORMATS" :key="format" :href="`/api/trees/${desk.session.treeId}/export/${format}`" download>{{ name }}</a></p>
  </PorchDialog>
</template>

<style scoped>
.invite { display: grid; grid-template-columns: 1fr auto auto; gap: 8px; }
.people { list-style: none; padding: 0; margin: 16px 0; }
.people li { display: flex; gap: 10px; align-items: center; padding: 5px 0; }
.who { flex: 1; display: flex; flex-direction: column; line-height: 1.25; }
h3 { font: 600 13px var(--text); color: var(--quiet); margin: 0 0 6px; }
.formats { display: flex; flex-wrap: wrap; gap: 14px; margin: 0; }
</style>
