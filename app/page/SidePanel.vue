<script setup lang="ts">
import type { MarkerSet } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { Panel } from '~/keys/commands'
import { SHOWING, usePage } from './page'

/** The panel beside the canvas, in the place of the side sheet. */
defineProps<{ what: Panel }>()
const emit = defineEmits<{ markers: [set: MarkerSet | 'new'] }>()
const desk = useDesk()
const page = usePage()
const NAMES: Record<Panel, string> = {
  markers: 'Markers',
  dress: 'Colour and style',
  arrange: 'Arrangement',
  key: 'Key',
  filter: 'Filter and views',
  annexes: 'Annexes and numbers',
  since: 'What is new',
  bench: 'Talk of the tree',
  comments: 'Comments',
  steps: 'Steps of presenting',
  reading: 'Beside the tree',
}
const close = (): void => {
  page.side.value = null
}
</script>

<template>
  <aside v-opened="{ manner: SHOWING.has(what) ? 'pane' : 'panel', close }" class="panel" :aria-label="NAMES[what]">
    <slot name="grip" />
    <div class="panel-head">
      <h2>{{ NAMES[what] }}</h2>
      <button class="icon-button" aria-label="Close" data-close @click="close">
        <Icon name="lucide:x" size="16" />
      </button>
    </div>
    <MarkerSheet
      v-if="what === 'markers'"
      :ids="[...desk.selection.value]"
      :editable="desk.session.canEdit"
      @change="emit('markers', $event ?? 'new')" />
    <LazyDressPanel v-else-if="what === 'dress'" />
    <LazyArrangePanel v-else-if="what === 'arrange'" />
    <LazyFilterPanel v-else-if="what === 'filter'" />
    <LazySincePanel v-else-if="what === 'since'" />
    <LazyBenchPanel v-else-if="what === 'bench'" />
    <LazyCommentsPanel v-else-if="what === 'comments'" />
    <LazyAnnexPanel v-else-if="what === 'annexes'" />
    <LazyStepsPanel v-else-if="what === 'steps'" />
    <LazyReadingPanel v-else-if="what === 'reading'" />
    <LazyKeyPanel v-else />
  </aside>
</template>

<style scoped>
.panel {
  overflow: auto;
  background: var(--surface);
  border-left: 1px solid var(--line);
  padding: 10px 16px 16px;
}
@media (max-width: 700px) {
  .panel {
    padding-top: 0;
    border-left: 0;
  }
}
.panel-head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 6px;
}
</style>
