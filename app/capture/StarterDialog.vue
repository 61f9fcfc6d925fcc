<script setup lang="ts">
import { BARE, type CopyChoice } from '#core/capture/copy'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** Keeps a copy of this tree as a starter, for new trees that begin like it. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const name = ref(topicOf(desk.tree, desk.tree.centre).title)
/** Nothing private goes along that wasn't chosen. */
const choice = ref<CopyChoice>({ ...BARE })
const { busy, wrong, attempt } = useAttempt()
const save = (): Promise<void> =>
  attempt(async () => {
    await callApi(`/api/trees/${desk.session.treeId}/duplicate`, {
      method: 'POST',
      body: { ...choice.value, starter: true, title: name.value.trim() },
    })
    visible.value = false
    desk.say(`“${name.value.trim()}” is among your starters now.`)
  })
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    header="Save as a starter"
    :style="{ width: 'min(440px, 94vw)' }">
    <form class="form" @submit.prevent="save">
      <InputText v-model="name" maxlength="200" aria-label="Name of the starter" />
      <CopyChoices v-model="choice" />
      <CopyTravels :choice="choice" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <Button type="submit" label="Save the starter" :loading="busy" :disabled="!name.trim()" />
    </form>
  </PorchDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.wrong {
  color: var(--clay);
  margin: 0;
}
</style>
