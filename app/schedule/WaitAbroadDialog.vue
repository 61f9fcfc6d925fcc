<script setup lang="ts">
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { waitAbroad } from './abroad'

/** Lets the selection wait for a topic of another tree that one may see. */
const desk = useDesk()
const emit = defineEmits<{ closed: [] }>()
/** What waits is what was selected when it was asked for. */
const who = [...desk.selected()]
const named =
  who.length === 1 ? `“${shorten(desk.tree.topics.get(who[0]!)?.title || 'untitled', 40)}”` : `${who.length} topics`
function chosen({ tree, topic }: { tree: string | null; topic: TopicId }): void {
  emit('closed')
  if (tree) void waitAbroad(desk, who, tree, topic)
}
</script>

<template>
  <TopicChooser header="Waits for a topic of another tree" abroad @chosen="chosen" @closed="emit('closed')">
    {{ named }} won’t begin before it has ended. Its date is kept here as it’s known today, for everybody who sees this
    tree; you can look again whenever you like.
  </TopicChooser>
</template>
