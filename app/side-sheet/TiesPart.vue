<script setup lang="ts">
import { shorten, topicOf, type Topic, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { tieTo } from '~/canvas/ties'

/** The cross-links that begin or end at a topic. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const choosing = ref(false)
const ties = computed(() => {
  void desk.lateTick.value
  return desk.crossLinks.at(props.topic.id)
})
const nameOf = (id: TopicId): string => shorten(topicOf(desk.tree, id).title || 'untitled', 50)
function chosen(id: TopicId): void {
  choosing.value = false
  tieTo(desk, [props.topic.id], id)
}
defineExpose({
  begin: () => {
    choosing.value = true
  },
})
</script>

<template>
  <div class="ties">
    <div v-for="{ from, tie } in ties" :key="tie.id" class="line">
      <Icon
        :name="
          tie.ends === 'both' || tie.ends === 'none'
            ? 'lucide:move-horizontal'
            : (from === topic.id) === (tie.ends === 'to')
              ? 'lucide:arrow-right'
              : 'lucide:arrow-left'
        "
        size="15"
        class="quiet" />
      <button class="open" @click="desk.journey.to(from === topic.id ? tie.to : from)">
        {{ nameOf(from === topic.id ? tie.to : from) }}<span v-if="tie.label" class="quiet"> · {{ tie.label }}</span>
      </button>
      <button
        v-if="may"
        class="icon-button"
        aria-label="Change the cross-link"
        @click="desk.tie.value = { topic: from, id: tie.id }">
        <Icon name="lucide:pencil" size="13" />
      </button>
      <button
        v-if="may"
        class="icon-button"
        :aria-label="`Untie from ${nameOf(from === topic.id ? tie.to : from)}`"
        @click="desk.put(from, { op: 'take', topic: from, set: 'ties', member: tie.id })">
        <Icon name="lucide:x" size="14" />
      </button>
    </div>
    <button v-if="may && !choosing" class="plain" @click="choosing = true">Tie to another topic …</button>
    <TargetPicker v-if="choosing" label="Tie to" :without="[]" @chosen="chosen" @closed="choosing = false" />
  </div>
</template>

<style scoped>
.ties {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.line {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.open {
  flex: 1;
  min-width: 0;
  text-align: left;
  border: 0;
  background: none;
  padding: 3px 0;
  min-height: 24px;
  color: var(--porch);
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
}
.open:hover {
  text-decoration: underline;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.plain {
  padding: 3px 0;
  min-height: 24px;
}
</style>
