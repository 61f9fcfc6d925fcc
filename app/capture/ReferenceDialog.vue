<script setup lang="ts">
import { addAt, lastChild, shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/** Chooses a topic, of this tree or of another one that one may see, and shows it under the focus by reference. */
const desk = useDesk()
const emit = defineEmits<{ closed: [] }>()
function show({ tree, topic, title }: { tree: string | null; topic: TopicId; title: string }): void {
  const step = addAt(desk.tree, lastChild(desk.tree, desk.focus.value), newId, { title, reference: { tree, topic } })
  if (desk.run(step)) desk.visit(step.made[0]!)
  emit('closed')
}
</script>

<template>
  <TopicChooser header="Show another topic here" @chosen="show" @closed="emit('closed')">
    It stands under “{{ shorten(desk.tree.topics.get(desk.focus.value)?.title ?? '', 40) }}” and changes as the original
    does.
  </TopicChooser>
</template>
