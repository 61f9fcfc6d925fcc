<script setup lang="ts">
import { readAddresses } from '#core/capture/addresses'
import { BARE, type CopyChoice } from '#core/capture/copy'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { GIVEN_ROLES } from '~/share/roles'

/**
 * A copy of the tree for people who aren't in it. Nothing private goes along that wasn't chosen, and what would travel is seen
 * before anybody is asked in.
 */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const to = ref('')
const name = ref(topicOf(desk.tree, desk.tree.centre).title)
const role = ref<'viewer' | 'commenter' | 'editor'>('viewer')
const choice = ref<CopyChoice>({ ...BARE })
/** What was chosen for some isn't chosen for the next. */
watch(visible, now => {
  if (!now) return
  to.value = ''
  name.value = topicOf(desk.tree, desk.tree.centre).title
  role.value = 'viewer'
  choice.value = { ...BARE }
})
const read = computed(() => readAddresses(to.value))
const { busy, wrong, attempt } = useAttempt()
/** The copy that is made already, when its letters didn't go out: asked again, no second one is made. */
let made: { id: string; as: string } | null = null
const send = (): Promise<void> =>
  attempt(async () => {
    const { good, wrong: unread } = read.value
    if (good.length === 0 || unread.length > 0) {
      wrong.value = good.length === 0 ? 'Say who gets it: at least one mail address.' : 'Mend these addresses first.'
      return
    }
    const title = name.value.trim()
    const as = JSON.stringify([choice.value, title])
    if (made?.as !== as) {
      const { id } = await callApi<{ id: string }>(`/api/trees/${desk.session.treeId}/duplicate`, {
        method: 'POST',
        body: { ...choice.value, title },
      })
      made = { id, as }
    }
    const { invited } = await callApi<{ invited: number }>(`/api/trees/${made.id}/invitations`, {
      method: 'POST',
      body: { emails: good.map(({ mail }) => mail), role: role.value },
    })
    made = null
    visible.value = false
    desk.say(
      `“${title}” is among your trees, and ${invited === 1 ? 'one letter is' : `${invited} letters are`} on the way.`,
    )
  })
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    header="A copy for others"
    :style="{ width: 'min(480px, 94vw)' }">
    <form class="form" @submit.prevent="send">
      <div class="who">
        <InputText v-model="to" placeholder="Mail addresses: one, or a list" aria-label="Who gets the copy" />
        <Select
          v-model="role"
          :options="GIVEN_ROLES"
          option-label="label"
          option-value="value"
          aria-label="What they may do" />
      </div>
      <p v-if="read.wrong.length && to.trim()" class="wrong" role="status">
        Can’t be mail addresses: {{ read.wrong.join(', ') }}
      </p>
      <InputText v-model="name" maxlength="200" aria-label="Name of the copy" />
      <CopyChoices v-model="choice" />
      <CopyTravels :choice="choice" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <Button type="submit" label="Make it and ask them in" :loading="busy" :disabled="!name.trim()" />
    </form>
  </PorchDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.who {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
}
.wrong {
  color: var(--clay);
  margin: 0;
}
</style>
