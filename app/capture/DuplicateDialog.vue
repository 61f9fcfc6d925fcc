<script setup lang="ts">
import { type CopyChoice, copyItems, WHOLE } from '#core/capture/copy'
import { besideSlot, plantAt, shorten, topicOf, topmost, toOutline } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** Duplicates the selected branches beside themselves, or the whole tree as a new one. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const choice = ref<CopyChoice>({ ...WHOLE })
const { busy, wrong, attempt } = useAttempt()
const branches = computed(() => {
  void desk.lateTick.value
  return visible.value
    ? topmost(
        desk.tree,
        desk.selected().filter(id => id !== desk.tree.centre),
      )
    : []
})
const name = computed(() =>
  branches.value.length === 1
    ? `“${shorten(topicOf(desk.tree, branches.value[0]!).title, 40)}”`
    : `${branches.value.length} branches`,
)

function branch(): void {
  if (!desk.guard()) return
  const items = copyItems(
    branches.value.map(id => toOutline(desk.tree, id)),
    choice.value,
  )
  const step = plantAt(desk.tree, items, besideSlot(desk.tree, branches.value.at(-1)!, 'after'), newId)
  visible.value = false
  if (desk.run(step)) {
    desk.selectAll(step.made)
    desk.say(`Duplicated ${name.value}.`, true)
  }
}
const tree = (): Promise<void> =>
  attempt(async () => {
    const { id } = await callApi<{ id: string }>(`/api/trees/${desk.session.treeId}/duplicate`, {
      method: 'POST',
      body: choice.value,
    })
    visible.value = false
    await navigateTo(`/trees/${id}`)
  })
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="Duplicate" :style="{ width: 'min(440px, 94vw)' }">
    <CopyChoices v-model="choice" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button outlined label="The whole tree as a new one" :loading="busy" @click="tree" />
      <Button
        :label="branches.length ? `Duplicate ${name}` : 'Select a branch'"
        :disabled="branches.length === 0 || !desk.session.canEdit"
        @click="branch" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.wrong {
  color: var(--clay);
}
</style>
