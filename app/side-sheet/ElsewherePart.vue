<script setup lang="ts">
import { shorten, topicOf, type Topic, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { referencesTo, stateInWords } from '#core/derive/guises'
import { openOriginal } from '~/files/opening'

/** What ties a topic to other places: the original it shows, where it is shown itself, and its annex. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const guise = computed(() => {
  void desk.lateTick.value
  return desk.guises.of(props.topic)
})
const shownAt = computed(() => {
  void desk.lateTick.value
  return referencesTo(desk.tree, props.topic.id)
})
const pathOf = (id: TopicId): string => {
  const { parent } = topicOf(desk.tree, id)
  return parent === null ? 'on its own' : `under ${shorten(topicOf(desk.tree, parent).title, 40)}`
}
const from = computed(() =>
  guise.value.original?.tree ? desk.guises.treeTitle(guise.value.original.tree) : 'this tree',
)
/** Keeps what is shown as the topic's own words, and lets go of the original. */
function makeOwn(): void {
  if (!desk.guard()) return
  const { topic } = guise.value
  desk.run({
    changes: [
      { op: 'set', topic: topic.id, field: 'reference', value: null },
      {
        op: 'set',
        topic: topic.id,
        field: 'title',
        value: guise.value.reference === 'shown' ? topic.title : props.topic.title,
      },
    ],
  })
}
</script>

<template>
  <div class="elsewhere">
    <template v-if="topic.reference">
      <p v-if="guise.reference !== 'shown'" class="quiet">
        {{ stateInWords(guise.reference) }} Here stays what it was called: “{{ shorten(topic.title, 60) }}”.
      </p>
      <p v-else>
        Shown live from {{ from }}. <button class="plain" @click="openOriginal(desk, topic.id)">To the original</button>
      </p>
      <button v-if="may" class="plain" @click="makeOwn">Make it a topic of its own</button>
    </template>
    <template v-if="shownAt.length">
      <p class="quiet">Also shown</p>
      <button v-for="id in shownAt" :key="id" class="plain" @click="desk.journey.to(id)">{{ pathOf(id) }}</button>
    </template>
    <p v-if="topic.annex">
      <button class="plain" @click="desk.showOnly(topic.id)">Into its annex</button
      ><button v-if="may" class="plain second" @click="desk.set('annex', false, [topic.id])">
        Put it back in the tree
      </button>
    </p>
  </div>
</template>

<style scoped>
.elsewhere {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  font-size: 13px;
}
p {
  margin: 2px 0;
}
.plain {
  min-height: 24px;
}
.second {
  margin-left: 14px;
}
</style>
