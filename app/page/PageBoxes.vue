<script setup lang="ts">
import type { MarkerSet } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pressedMarker } from '~/dress/marker-pick'
import { usePage } from './page'

/** Dialogs and boxes over the tree; each is loaded when it's first opened. */
const markers = defineModel<MarkerSet | 'new' | null>('markers', { required: true })
const desk = useDesk()
const page = usePage()
const { boxes, met } = page
</script>

<template>
  <LazyEverythingBox v-if="met.everything" v-model:visible="boxes.everything" @run="page.run($event)" />
  <LazyKeyList v-if="met.keys" v-model:visible="boxes.keys" />
  <LazyShareDialog v-if="met.share" v-model:visible="boxes.share" />
  <LazyHandOutDialog v-if="met.handout" v-model:visible="boxes.handout" />
  <LazyMarkerSetDialog v-if="markers" :set="markers" @closed="markers = null" />
  <LazyDuplicateDialog v-if="met.duplicate" v-model:visible="boxes.duplicate" />
  <LazyStarterDialog v-if="met.starter" v-model:visible="boxes.starter" />
  <LazyForOthersDialog v-if="met.forOthers" v-model:visible="boxes.forOthers" />
  <LazyAboutDialog v-if="met.about" v-model:visible="boxes.about" />
  <LazyVoteDialog v-if="met.vote" v-model:visible="boxes.vote" />
  <LazyHelpBox v-if="met.help" v-model:visible="boxes.help" />
  <LazyReferenceDialog v-if="page.referring.value === 'reference'" @closed="page.referring.value = null" />
  <LazyWaitAbroadDialog v-if="page.referring.value === 'wait-abroad'" @closed="page.referring.value = null" />
  <LazyMarkerPick v-if="pressedMarker" :key="pressedMarker.topic + pressedMarker.marker" />
  <LazyFileViewer v-if="desk.viewing.value" />
</template>
