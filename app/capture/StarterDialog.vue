<script setup lang="ts">
import { BARE, carriedBy, type CopyChoice, copyTree } from '#core/capture/copy'
import { allTopics, childrenOf, shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** Keeps a copy of this tree as a starter, for new trees that begin like it. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const name = ref(topicOf(desk.tree, desk.tree.centre).title)
/** Nothing private goes along that wasn't chosen. */
const choice = ref<CopyChoice>({ ...BARE })
const MOST_SHOWN = 60
/** What would travel, as a starter's reader finds it. */
const copy = computed(() => {
  void desk.lateTick.value
  return copyTree(desk.tree, choice.value)
})
const shown = computed(() => {
  const rows: { id: string; title: string; level: number; carries: string }[] = []
  const walk = (id: string, level: number): void => {
    const topic = topicOf(copy.value, id)
    rows.push({ id, title: shorten(topic.title, 60), level, carries: carriedBy(topic).join(', ') })
    for (const child of rows.length < MOST_SHOWN ? childrenOf(copy.value, id) : []) walk(child, level + 1)
  }
  walk(copy.value.centre, 0)
  return rows.slice(0, MOST_SHOWN)
})
const count = computed(() => [...allTopics(copy.value)].length)
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
      <div class="travels">
        <h3>{{ count.toLocaleString('en') }} {{ count === 1 ? 'topic' : 'topics' }} as they would travel</h3>
        <ol aria-label="What would travel" tabindex="0">
          <li v-for="row in shown" :key="row.id" :style="{ paddingLeft: `${row.level * 14}px` }" dir="auto">
            {{ row.title }} <span v-if="row.carries" class="quiet">{{ row.carries }}</span>
          </li>
          <li v-if="count > shown.length" class="quiet">and {{ (count - shown.length).toLocaleString('en') }} more</li>
        </ol>
      </div>
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
h3 {
  font: 600 13px var(--text);
  margin: 0 0 4px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 8px 10px;
  height: 170px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 8px;
  font-size: 13px;
}
.wrong {
  color: var(--clay);
  margin: 0;
}
</style>
