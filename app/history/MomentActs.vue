<script setup lang="ts">
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { History } from './useHistory'

/** What can be done from a moment: bring back the whole, a branch or a topic, each as one edit that can be undone; or copy it. */
const { history, mayEdit } = defineProps<{ history: History; mayEdit: boolean }>()
const emit = defineEmits<{ back: [topic: string | null, words: string, number: number] }>()
const desk = useDesk()
const menu = ref<{ toggle(event: Event): void }>()
const { busy, wrong, attempt } = useAttempt()
const focus = computed(() => {
  void desk.tick.value
  const id = desk.focus.value
  return desk.tree.topics.has(id) && id !== desk.tree.centre ? id : null
})
const titled = (id: string): string => `“${shorten(topicOf(desk.tree, id).title || 'untitled', 34)}”`

async function bring(body: object, what: string, topic: string | null): Promise<void> {
  await attempt(async () => {
    const { under, number } = await callApi<{ under: string[] | null; number: number }>(
      `/api/trees/${desk.session.treeId}/moments/${history.at.value}/return`,
      { method: 'POST', body },
    )
    const where = under === null ? '' : ` What it hung under is gone: it hangs under “${under.at(-1) ?? ''}” now.`
    emit('back', topic, `${what} is as it was.${where}`, number)
  })
}
const items = computed(() => [
  { label: 'The whole tree', command: () => bring({}, 'The tree', null) },
  ...(focus.value
    ? [
        {
          label: `The branch ${titled(focus.value)}`,
          command: () => bring({ branch: focus.value }, `The branch ${titled(focus.value!)}`, focus.value),
        },
        {
          label: `${titled(focus.value)} alone`,
          command: () => bring({ topic: focus.value }, titled(focus.value!), focus.value),
        },
        {
          label: `The title of ${titled(focus.value)}`,
          command: () => bring({ topic: focus.value, part: 'title' }, 'The title', focus.value),
        },
        {
          label: `The note of ${titled(focus.value)}`,
          command: () => bring({ topic: focus.value, part: 'note' }, 'The note', focus.value),
        },
      ]
    : []),
])
const copy = (): Promise<void> =>
  attempt(async () => {
    const { id } = await callApi<{ id: string }>(`/api/trees/${desk.session.treeId}/moments/${history.at.value}/copy`, {
      method: 'POST',
      body: {},
    })
    await navigateTo(`/trees/${id}`)
  })
</script>

<template>
  <span class="acts">
    <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
    <Button
      v-if="mayEdit"
      size="small"
      label="Bring back …"
      aria-haspopup="menu"
      :disabled="history.isNow.value || busy"
      @click="menu?.toggle($event)" />
    <Menu ref="menu" :model="items" popup />
    <Button
      size="small"
      outlined
      label="Side by side with now"
      :disabled="history.isNow.value"
      @click="navigateTo({ path: `/trees/${desk.session.treeId}/compare`, query: { moment: history.at.value } })" />
    <Button size="small" outlined label="Copy as a new tree" :disabled="busy" @click="copy" />
  </span>
</template>

<style scoped>
.acts {
  display: flex;
  align-items: center;
  gap: 8px;
}
.wrong {
  color: var(--clay);
  font-size: 12.5px;
  max-width: 260px;
}
</style>
